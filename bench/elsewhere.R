# Data that live elsewhere, as ratios in one run (of SQLite in a file; of a server with its driver, host, port, user and
# database as arguments, as tests/databases/run.sh asks): a pair summed up there against the same sums by hand, counts and a
# streamed matrix against fetching the columns alone, and a pair of a study whose columns stay there against fetching what it
# fetches; then four files by two workers against one, and memory and growth with a simulated source.
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
words <- commandArgs(TRUE)
con <- if (length(words)) {
  driver <- getExportedValue(words[1], c(RPostgres = "Postgres", RMariaDB = "MariaDB")[[words[1]]])()
  DBI::dbConnect(driver, host = words[2], port = as.integer(words[3]), user = words[4], dbname = words[5])
} else {
  DBI::dbConnect(RSQLite::SQLite(), file.path(folder, "one.sqlite"))
}
if (DBI::dbExistsTable(con, "cases")) DBI::dbRemoveTable(con, "cases")
DBI::dbWriteTable(con, "cases", cases)
if (DBI::dbExistsTable(con, "scales")) DBI::dbRemoveTable(con, "scales")
DBI::dbWriteTable(con, "scales", data.frame(scale = sample(5L, 1e6, TRUE), answer = sample(5L, 1e6, TRUE)))
quoted <- function(names) vapply(names, function(name) as.character(DBI::dbQuoteIdentifier(con, name)), "")

fetch <- function(names, table = "cases") {
  DBI::dbGetQuery(con, sprintf("SELECT %s FROM %s", paste(quoted(names), collapse = ", "), table))
}
by_hand <- function() {
  two <- quoted(c("V1", "V2"))
  means <- DBI::dbGetQuery(con, sprintf("SELECT COUNT(*), AVG(%s), AVG(%s) FROM cases", two[1], two[2]))
  x <- sprintf("(%s - (%.17g))", two[1], means[[2]])
  y <- sprintf("(%s - (%.17g))", two[2], means[[3]])
  DBI::dbGetQuery(con, sprintf(
    "SELECT COUNT(*), SUM(%1$s), SUM(%2$s), SUM(%1$s * %1$s), SUM(%1$s * %2$s), SUM(%2$s * %2$s) FROM cases", x, y
  ))
}
twenty <- paste0("V", 1:20)
rows <- list(
  "a pair, against the same sums by hand" = c(least(gather_moments(con, "V1", "V2", table = "cases")), least(by_hand())),
  "a pair, against fetching it" = c(least(gather_moments(con, "V1", "V2", table = "cases")), least(fetch(c("V1", "V2")))),
  "counts of two scales (1,000,000), against fetching" = c(
    least(gather_counts(con, "scale", "answer", table = "scales")), least(fetch(c("scale", "answer"), "scales"))
  ),
  "a matrix of 20, against fetching" = c(
    least(gather_moments(con, twenty, table = "cases", chunk_rows = 1e5)),
    least(fetch(twenty))
  ),
  "a matrix of 50, against fetching" = c(
    least(gather_moments(con, paste0("V", 1:50), table = "cases", chunk_rows = 1e5)), least(fetch(paste0("V", 1:50)))
  ),
  "a pair of a study that stays, against fetching it and r here" = c(
    least(relate(read_study(con, table = "cases", collect = FALSE), V1, V2)),
    least({
      two <- fetch(c("V1", "V2", "scale", "answer"))
      relate(two[1:2], V1, V2)
    })
  )
)
options(unsere.most_fetched = 1e5)
stays <- read_study(con, table = "cases", collect = FALSE)
rows[["a pair of a study too large to fetch, against the same sums by hand"]] <- c(
  least(relate(stays, V1, V2)),
  least(by_hand())
)
options(unsere.most_fetched = NULL)
for (table in c("cases", "scales")) DBI::dbRemoveTable(con, table)
DBI::dbDisconnect(con)

told <- function(rows) {
  table <- do.call(rbind, rows)
  print(data.frame(
    what = rownames(table), seconds = round(table[, 1], 2), yardstick = round(table[, 2], 2),
    times = round(table[, 1] / table[, 2], 2), row.names = NULL
  ), row.names = FALSE)
}
if (length(words)) {
  cat(sprintf("%s, %s cases\n", words[1], format(n, big.mark = ",", scientific = FALSE)))
  told(rows)
  quit("no")
}
for (k in 1:4) data.table::fwrite(cases[seq(k, n, 4), 1:20], file.path(folder, sprintf("part%d.csv", k)))
files <- file.path(folder, "part*.csv")
one <- least(gather_moments(files))
if (requireNamespace("future", quietly = TRUE)) {
  future::plan(future::multisession, workers = 2)
  invisible(gather_moments(files)) # the workers start once
  rows[["four files by two workers, against one"]] <- c(least(gather_moments(files)), one)
  future::plan(future::sequential)
}
cat(sprintf("%s cases\n\n", format(n, big.mark = ",", scientific = FALSE)))
told(rows)

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
for (chunks in c(100, 200, 1000)) {
  gc(reset = TRUE)
  took <- system.time(gather_moments(simulated(chunks)))[["elapsed"]]
  cat(sprintf(
    "%11s cases: %.1f s, at most %.0f MB held\n", format(chunks * 1e5, big.mark = ",", scientific = FALSE),
    took, sum(gc()[, 6])
  ))
}
unlink(folder, recursive = TRUE)
