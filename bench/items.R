# What a scale of many items takes beside the matrix of the same size, and a plan beside R with nothing in it.
#   Rscript bench/items.R [persons] [items]
library(unsere)
given <- as.integer(commandArgs(TRUE))
persons <- c(given, 100000L)[1]
items <- if (length(given) > 1) given[2] else 500L
set.seed(20)
ability <- rnorm(persons)
answers <- lapply(seq_len(items), function(j) pmin(5, pmax(1, round(3 + ability + rnorm(persons)))))
study <- as_study(list2DF(stats::setNames(answers, paste0("item", seq_len(items)))))
least <- function(work, runs = 3) min(vapply(seq_len(runs), function(k) system.time(work())[["elapsed"]], 0))
matrix <- least(function() correlation_matrix(study, tidyselect::everything()))
scale <- least(function() check_items(study, tidyselect::everything()))
said <- "%d items of %d persons: %.1f s; their matrix: %.1f s; ratio %.2f (limit 2)\n"
cat(sprintf(said, items, persons, scale, matrix, scale / matrix))

command <- function(program, words) least(function() system2(program, words, stdout = FALSE, stderr = FALSE), 7)
bare <- command(file.path(R.home("bin"), "Rscript"), c("-e", "1"))
plan <- command(system.file("exec", "unsere", package = "unsere"), c("plan", "--r", "0.3", "--power", "0.8"))
cat(sprintf("`unsere plan`: %.2f s; R with nothing in it: %.2f s; ratio %.2f (limit 1.5)\n", plan, bare, plan / bare))
