# Which share of the lines of R the tests reach, by room and by file. The command's tests count too where they run it in
# their own process; what only a process of its own does is not seen: the command is there the one that is installed, as one
# that counts its lines takes ten times as long to start.
# It builds in place, so it is given a copy.
copy <- file.path(tempfile("coverage-"), "unsere")
dir.create(copy, recursive = TRUE)
invisible(file.copy(c("DESCRIPTION", "NAMESPACE", "R", "src", "inst", "exec", "man"), copy, recursive = TRUE))
unlink(Sys.glob(file.path(copy, "src", "*.[os]*")))
command <- file.path(getwd(), ".build", "library", "unsere", "exec", "unsere")
# The core is built as ever: counting its lines, which `make sanitize` does, would make it twenty times slower.
options(covr.flags = c(CXXFLAGS = "-O2"), covr.gcov = "")
covered <- covr::package_coverage(copy, type = "none", quiet = TRUE, code = paste(
  "Sys.setenv(NOT_CRAN = 'true', UNSERE_ROOT = ", shQuote(getwd()), ", UNSERE_COMMAND = ", shQuote(command), ");",
  "library(testthat); library(unsere);",
  "test_dir(", shQuote(file.path(getwd(), "tests", "testthat")),
  ", package = 'unsere', load_package = 'installed', reporter = 'silent', stop_on_failure = FALSE)"
))
lines <- covr::tally_coverage(covered, by = "line")
r <- lines[grepl("^R/", lines$filename), ]
share <- function(part) 100 * mean(part$value > 0)
for (room in unique(sub("-.*$", "", basename(r$filename)))) {
  part <- r[startsWith(basename(r$filename), room), ]
  cat(sprintf("%-8s %5.1f %% of %d lines\n", room, share(part), nrow(part)))
}
files <- vapply(split(r, r$filename), share, 0)
least <- sort(files)[1:6]
cat("least: ", paste(sprintf("%s %.0f %%", basename(names(least)), least), collapse = ", "), "\n", sep = "")
cat(sprintf("coverage: %.1f %% of %d lines of R\n", share(r), nrow(r)))
