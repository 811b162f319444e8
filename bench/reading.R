# Reading beside the bare delimited reader underneath, in the same run: a million rows by 20 columns of numbers and by 2, and
# 200,000 rows by 30 columns of words; and the most memory taken, in sizes of the data frame.
library(unsere)
set.seed(3)
runs <- as.integer(Sys.getenv("RUNS", "3"))
words <- c("Never", "Rarely", "Sometimes", "Often", "Always")
kinds <- list(
  "1e6 by 20 numbers" = function() as.data.frame(matrix(round(rnorm(2e7), 3), ncol = 20)),
  "1e6 by 2 numbers" = function() as.data.frame(matrix(round(rnorm(2e6), 3), ncol = 2)),
  "200,000 by 30 words" = function() as.data.frame(matrix(sample(words, 6e6, TRUE), ncol = 30))
)
limits <- c(4, 8, 6)
path <- tempfile(fileext = ".csv")
timed <- function(code) system.time(code)[["elapsed"]]
rows <- lapply(seq_along(kinds), function(k) {
  data <- kinds[[k]]()
  size <- as.numeric(object.size(data)) / 2^20
  data.table::fwrite(data, path)
  rm(data)
  bare <- min(replicate(runs, timed(data.table::fread(path, data.table = FALSE, nThread = 2, showProgress = FALSE))))
  gc(reset = TRUE)
  before <- sum(gc()[, 2])
  ours <- min(replicate(runs, timed(read_study(path))))
  most <- sum(gc()[, 6]) - before
  data.frame(
    file = names(kinds)[k], reader = sprintf("%.2f s", bare), "read_study" = sprintf("%.2f s", ours),
    times = round(ours / bare, 1), limit = limits[k], memory = round(most / size, 1)
  )
})
print(do.call(rbind, rows), row.names = FALSE)
