# Data that live elsewhere, as ratios in one run (SQLite in a file; PostgreSQL and MariaDB are asked the same by
# tools/test-databases.sh): a pair summed up there against the same sums by hand, counts and a streamed matrix against
# fetching
# the columns alone, four files by two workers against one, and memory and growth with a simulated source.
library(unsere)
set.seed(7)
runs <- 3
least <- function(code) {
  code <- substitute(code)
  frame <- parent.frame()
  min(vapply(seq_len(runs), function(k) system.time(eval(code, frame))[["elapsed"]], 0))
}
folder <- tempfile("elsewhere-")
dir.create(folder)
n <- 5e5
cases <- as.data.frame(matrix(rnorm(n * 50), n))
cases$V2 <- cases$V2 + 0.3 * cases$V1
cases$scale <- sample(5L, n, TRUE)
cases$answer <- sample(5L, n, TRUE)
con <- DBI::dbConnect(RSQLite::SQLite(), file.path(folder, "one.sqlite"))
DBI::dbWriteTable(con, "cases", cases)

fetch <- function(names) DBI::dbGetQuery(con, sprintf("SELECT %s FROM cases", paste(names, collapse = ", ")))
by_hand <- function() {
  means <- DBI::dbGetQuery(con, "SELECT COUNT(*), AVG(V1), AVG(V2) FROM cases")
  x <- sprintf("(V1 - (%.17g))", means[[2]])
  y <- sprintf("(V2 - (%.17g))", means[[3]])
  DBI::dbGetQuery(con, sprintf(
    "SELECT COUNT(*), SUM(%1$s), SUM(%2$s), SUM(%1$s * %1$s), SUM(%1$s * %2$s), SUM(%2$s * %2$s) FROM cases", x, y
  ))
}
twenty <- paste0("V", 1:20)
rows <- list(
  "a pair, against the same sums by hand" = c(least(gather_moments(con, "V1", "V2", table = "cases")), least(by_hand())),
  "a pair, against fetching it" = c(least(gather_moments(con, "V1", "V2", table = "cases")), least(fetch(c("V1", "V2")))),
  "counts of two scales, against fetching" = c(
    least(gather_counts(con, "scale", "answer", table = "cases")), least(fetch(c("scale", "answer")))
  ),
  "a matrix of 20, against fetching" = c(
    least(gather_moments(con, twenty, table = "cases", chunk_rows = 1e5)),
    least(fetch(twenty))
  )
)
DBI::dbDisconnect(con)

for (k in 1:4) data.table::fwrite(cases[seq(k, n, 4), 1:20], file.path(folder, sprintf("part%d.csv", k)))
files <- file.path(folder, "part*.csv")
one <- least(gather_moments(files))
if (requireNamespace("future", quietly = TRUE)) {
  future::plan(future::multisession, workers = 2)
  invisible(gather_moments(files)) # the workers start once
  rows[["four files by two workers, against one"]] <- c(least(gather_moments(files)), one)
  future::plan(future::sequential)
}
table <- do.call(rbind, rows)
cat(sprintf("%s cases\n\n", format(n, big.mark = ",", scientific = FALSE)))
print(data.frame(
  what = rownames(table), seconds = round(table[, 1], 2), yardstick = round(table[, 2], 2),
  times = round(table[, 1] / table[, 2], 2), row.names = NULL
), row.names = FALSE)

cat("\nA simulated source of 10 columns, chunks of 100,000 cases:\n")
simulated <- function(chunks) {
  given <- 0
  block <- as.data.frame(matrix(rnorm(1e6), 1e5))
  function() {
    if (given == chunks) return(NULL)
    given <<- given + 1
    block
  }
}
for (chunks in c(50, 100, 200)) {
  gc(reset = TRUE)
  took <- system.time(gather_moments(simulated(chunks)))[["elapsed"]]
  cat(sprintf(
    "%11s cases: %.1f s, at most %.0f MB held\n", format(chunks * 1e5, big.mark = ",", scientific = FALSE),
    took, sum(gc()[, 6])
  ))
}
unlink(folder, recursive = TRUE)
