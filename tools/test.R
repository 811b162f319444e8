# Runs every test against the package in .build/library and ends in "N passed, N failed[, N skipped]".
Sys.setenv(NOT_CRAN = "true", UNSERE_ROOT = getwd())
wanted <- commandArgs(trailingOnly = TRUE)
# The quick part leaves out browsers, whole reports, every example and what is tried at random: under two minutes.
if (identical(wanted, "--fast")) {
  slow <- paste0(
    "desk|examples|abuse|hard-use|report|forms|fuzz|faults|stream|schema|rooms|demo|core|study-order|",
    "typeset|project|properties|command|caution|published|spearman|levels|draw$|draw-save|line-shapes|rank|items|doors"
  )
  files <- sub("^test-(.*)[.]R$", "\\1", list.files("tests/testthat", "^test-.*[.]R$"))
  wanted <- sprintf("^(%s)$", paste(grep(slow, files, value = TRUE, invert = TRUE), collapse = "|"))
}
library(testthat)
library(unsere)
files <- list.files("tests/testthat", "^test-.*[.]R$")
beside <- !length(wanted) || sum(grepl(wanted[1], sub("^test-(.*)[.]R$", "\\1", files))) > 3
Sys.setenv(TESTTHAT_PARALLEL = if (beside) "TRUE" else "FALSE")
# One more than there are cores: a test of the desk or of a command waits for another process most of its time.
if (!nzchar(Sys.getenv("TESTTHAT_CPUS"))) Sys.setenv(TESTTHAT_CPUS = max(2L, parallel::detectCores() + 1L))
results <- test_dir("tests/testthat",
  package = "unsere", load_package = "installed", reporter = "check", stop_on_failure = FALSE,
  filter = if (length(wanted)) wanted[1]
)
counts <- as.data.frame(results)
failed <- sum(counts$failed) + sum(counts$error)
skipped <- sum(counts$skipped)
warned <- sum(counts$warning)
passed <- sum(counts$nb) - sum(counts$failed) - skipped - warned
if (warned) cat(sprintf("%d warnings\n", warned))
said <- unlist(lapply(results, function(test) vapply(test$results, function(one) one$message, "")))
partial <- unique(grep("partial(ly)? match", said, value = TRUE))
if (length(partial)) cat(sprintf("partial matching: %s\n", partial), sep = "")
failed <- failed + length(partial)
slow <- counts[order(-counts$real), c("file", "test", "real")][1:3, ]
# Tests that ran beside one another were not timed one by one.
if (!beside) cat(sprintf("slowest: %s\n", paste(sprintf("%s %.1f s", slow$file, slow$real), collapse = ", ")))
cat(sprintf("%d passed, %d failed%s\n", passed, failed, if (skipped) sprintf(", %d skipped", skipped) else ""))
quit("no", if (failed > 0 || passed == 0) 1L else 0L)
