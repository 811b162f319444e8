# A look at the code's form within a minute: lines that are too long, blanks at their ends, tabs; and, where the formatter is
# installed, what it would change in the files of the last commits. `make lint` looks at everything.
longest <- 125L
files <- list.files(c("R", "tests/testthat", "bench", "tools", "data-raw"), "[.]R$", full.names = TRUE)
files <- setdiff(files, c("R/RcppExports.R", "data-raw/make-templates.R"))
faults <- unlist(lapply(files, function(file) {
  lines <- readLines(file, encoding = "UTF-8")
  long <- which(nchar(lines) > longest & !grepl("https?://", lines))
  loose <- which(grepl("[ \t]+$|\t", lines) & !grepl("[\"']", lines))
  c(sprintf("%s:%d: %d letters", file, long, nchar(lines[long])), sprintf("%s:%d: a tab, or blanks at its end", file, loose))
}))
changed <- character()
if (requireNamespace("styler", quietly = TRUE)) {
  told <- suppressWarnings(tryCatch(
    system2("git", c("log", "-n", "3", "--name-only", "--format="), stdout = TRUE, stderr = FALSE),
    error = function(e) character()
  ))
  changed <- utils::head(intersect(files, told), 20L)
  utils::capture.output(done <- suppressMessages(styler::style_file(
    changed,
    scope = I(c("spaces", "indention", "line_breaks")), dry = "on"
  )))
  faults <- c(faults, sprintf("%s: the formatter would change it", done$file[done$changed]))
}
if (length(faults)) cat(faults, sep = "\n")
cat(sprintf("quick lint: %d files, %d by the formatter too, %d faults\n", length(files), length(changed), length(faults)))
quit("no", if (length(faults)) 1L else 0L)
