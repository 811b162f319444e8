# How long the demo brief takes to become a page, beside an empty R Markdown page with one ggplot.
#   Rscript bench/report.R [times]
# Each is a process of its own; they take turns, and the least of several runs stands for each.

times <- as.integer(c(commandArgs(TRUE), 6)[1])
folder <- tempfile("bench-report-")
dir.create(folder)
invisible(file.copy(list.files(system.file("extdata", package = "unsere"), full.names = TRUE), folder))
brief <- file.path(folder, "learners.yml")
text <- readLines(brief)
writeLines(sub("formats: \\[.*?\\]", "formats: [html]", text), brief)
empty <- file.path(folder, "empty.Rmd")
writeLines(c(
  "---", "title: Empty", "output: html_document", "---", "", "```{r}", "library(ggplot2)",
  "ggplot(data.frame(x = 1:10, y = 1:10), aes(x, y)) + geom_point()", "```"
), empty)

command <- system.file("exec", "unsere", package = "unsere")
seconds <- function(program, words) {
  begun <- proc.time()[["elapsed"]]
  if (system2(program, words, stdout = FALSE, stderr = FALSE) != 0) stop("a run failed")
  proc.time()[["elapsed"]] - begun
}
run <- function() seconds(command, c("run", shQuote(brief), "--quiet"))
knit <- function() seconds("Rscript", c("-e", shQuote(sprintf("rmarkdown::render('%s', quiet = TRUE)", empty))))
taken <- vapply(seq_len(times), function(k) c(run = run(), knit = knit()), numeric(2))
unlink(folder, recursive = TRUE)

least <- apply(taken, 1, min)
cat(sprintf(
  "the demo brief to a page: %.1f s; an empty page with one ggplot: %.1f s; ratio %.2f (limit 3)\n",
  least["run"], least["knit"], least["run"] / least["knit"]
))
cat(sprintf("the middle of the ratios of neighbouring runs: %.2f\n", stats::median(taken["run", ] / taken["knit", ])))
