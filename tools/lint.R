# Looks for code that departs from the tidyverse's style or from what the formatter would set, and fails on either.
# The formatter changes spaces, indentation and line breaks alone; `Rscript tools/lint.R fix` sets the code by it, and
# `Rscript tools/lint.R quick` takes a look within a minute: lines that are too long, blanks at their ends, tabs, and, where
# the formatter is installed, what it would change in the files of the last commits.
folders <- c("R", "tests/testthat", "bench", "tools", "data-raw")
files <- setdiff(list.files(folders, "[.]R$", full.names = TRUE), c("R/RcppExports.R", "data-raw/make-templates.R"))
fix <- identical(commandArgs(TRUE), "fix")

set_code <- function(files) {
  styler::cache_activate(verbose = FALSE)
  utils::capture.output(done <- suppressMessages(styler::style_file(
    files,
    scope = I(c("spaces", "indention", "line_breaks")), dry = if (fix) "off" else "on"
  )))
  done$file[done$changed]
}

longest <- 125L
look_quickly <- function() {
  faults <- unlist(lapply(files, function(file) {
    lines <- readLines(file, encoding = "UTF-8")
    long <- which(nchar(lines) > longest & !grepl("https?://", lines))
    loose <- which(grepl("[ \t]+$|\t", lines) & !grepl("[\"']", lines))
    c(
      sprintf("%s:%d: %d letters", file, long, nchar(lines[long])),
      sprintf("%s:%d: a tab, or blanks at its end", file, loose)
    )
  }))
  changed <- character()
  if (requireNamespace("styler", quietly = TRUE)) {
    told <- suppressWarnings(tryCatch(
      system2("git", c("log", "-n", "3", "--name-only", "--format="), stdout = TRUE, stderr = FALSE),
      error = function(e) character()
    ))
    changed <- utils::head(intersect(files, told), 20L)
    faults <- c(faults, sprintf("%s: the formatter would change it", set_code(changed)))
  }
  if (length(faults)) cat(faults, sep = "\n")
  cat(sprintf("quick lint: %d files, %d by the formatter too, %d faults\n", length(files), length(changed), length(faults)))
  quit("no", if (length(faults)) 1L else 0L)
}
if (identical(commandArgs(TRUE), "quick")) look_quickly()

# Two at a time, each with half of the files; what was set before is remembered.
halves <- split(files, seq_along(files) %% 2)
unset <- unlist(parallel::mclapply(halves, set_code, mc.cores = 2))
if (length(unset)) cat(sprintf("%s: %s\n", if (fix) "set" else "the formatter would change it", unset), sep = "")

found <- unlist(parallel::mclapply(files, lintr::lint, mc.cores = 2, mc.preschedule = FALSE), recursive = FALSE)
for (one in found) cat(sprintf("%s:%d: %s\n", one$filename, one$line_number, one$message))
cat(sprintf("lint: %d files to be set, %d places\n", if (fix) 0L else length(unset), length(found)))
quit("no", if (length(found) || (length(unset) && !fix)) 1L else 0L)
