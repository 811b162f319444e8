# Speed as a ratio to a yardstick in the same run; the least of several runs each.
library(unsere)
options(width = 120)
least <- function(expression, runs = 7) {
  code <- substitute(expression)
  frame <- parent.frame()
  min(vapply(seq_len(runs), function(i) system.time(eval(code, frame))[["elapsed"]], 0))
}
rows <- list()
add <- function(work, ours, yardstick, against) {
  rows[[length(rows) + 1]] <<- data.frame(work, ratio = sprintf("%.2f", ours / yardstick), against)
}

pair <- practice_pair(1000, 0.4, seed = 1)
draws <- least(sample.int(1000, 1e7, TRUE))
for (threads in 1:2) {
  ours <- least(relate(pair, x, y, interval = "bootstrap", seed = 5, threads = threads))
  add(sprintf("10,000 bootstrap resamples, n = 1,000, %d thread(s)", threads), ours, draws, "R draws the indices")
}
ours <- least(relate(pair, x, y, "spearman", interval = "bootstrap", seed = 5))
add("the same, Spearman, ranks anew in each, 2 threads", ours, draws, "R draws the indices")
ours <- least(relate(pair, x, y, test = "permutation", seed = 5))
add("10,000 permutations, n = 1,000, 2 threads", ours, draws, "R draws the indices")

million <- practice_pair(1e6, 0.4, seed = 1)
ours <- least(unsere:::core_kendall(million$x, million$y), 3)
add("tau-b of a million pairs", ours, least(order(million$x), 3), "R orders one column")

command <- system.file("exec", "unsere", package = "unsere")
rscript <- file.path(R.home("bin"), "Rscript")
file <- demo_file("learners.csv")
empty <- least(system2(rscript, c("-e", shQuote("invisible(1)"))), 9)
ours <- least(system2(command, c("relate", file, "practice_hours", "speaking_score"), stdout = FALSE), 9)
add("unsere relate on the demo file", ours, empty, "Rscript with nothing in it")

ten <- data.frame(x = c(1, 2, 2, 4, 5, 6, 7, 7, 9, 10), y = c(2, 1, 4, 3, 6, 6, 5, 8, 10, 9))
fourteen <- data.frame(x = 1:14, y = c(2, 1, 4, 3, 6, 5, 8, 7, 10, 9, 12, 11, 14, 13))
cat("Speed\n\n")
print(do.call(rbind, rows), row.names = FALSE, right = FALSE)
cat(sprintf(
  "\nExact Spearman: %.3f s for 10 pairs with ties, %.3f s for 14 without\n",
  least(relate(ten, x, y, "spearman")), least(relate(fourteen, x, y, "spearman"))
))
