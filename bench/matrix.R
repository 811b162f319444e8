# The matrix against R's crossprod with a tuned BLAS, as ratios; the least of several runs each.
# The BLAS is fetched as a Debian package and unpacked beside, for the yardstick only; it is never installed.
library(unsere)
rows <- as.integer(Sys.getenv("ROWS", "100000"))
columns <- as.integer(Sys.getenv("COLUMNS", "200"))
runs <- as.integer(Sys.getenv("RUNS", "5"))

unpack_blas <- function() {
  folder <- file.path(".build", "openblas")
  found <- function() list.files(folder, "^libblas[.]so[.]3$", recursive = TRUE, full.names = TRUE)
  if (!length(found())) {
    dir.create(folder, recursive = TRUE, showWarnings = FALSE)
    system(sprintf("cd %s && apt-get download -qq libopenblas0-pthread >/dev/null 2>&1 && dpkg -x libopenblas0-pthread_*.deb .", folder))
  }
  if (length(found())) normalizePath(dirname(found()[1]))
}

yardstick <- function(threads) {
  blas <- unpack_blas()
  code <- sprintf(paste(
    "set.seed(1); x <- matrix(rnorm(%d * %d), %d);",
    "cat(min(vapply(1:%d, function(i) system.time(crossprod(x))[[3]], 0)), if (nzchar(Sys.getenv('LD_PRELOAD'))) 'OpenBLAS' else 'the_BLAS_of_R')"
  ), rows, columns, rows, runs)
  said <- system2(file.path(R.home("bin"), "Rscript"), c("-e", shQuote(code)), stdout = TRUE, env = c(
    if (!is.null(blas)) paste0("LD_PRELOAD=", file.path(blas, "libblas.so.3")), paste0("OPENBLAS_NUM_THREADS=", threads),
    "OPENBLAS_CORETYPE=", "OPENBLAS_L2_SIZE="
  ))
  parts <- strsplit(said[length(said)], " ")[[1]]
  list(seconds = as.numeric(parts[1]), blas = parts[2])
}

least <- function(work) min(vapply(seq_len(runs), function(i) system.time(work())[["elapsed"]], 0))

set.seed(1)
complete <- as.data.frame(matrix(rnorm(rows * columns), rows))
holed <- as.data.frame(lapply(complete, function(v) replace(v, sample(rows, rows / 20), NA)))
moments <- function(data, ranked, threads) .Call(unsere:::unsere_matrix, as.list(data), ranked, threads, 0L)

table <- NULL
for (threads in 1:2) {
  base <- yardstick(threads)
  ours <- c(
    "Pearson, complete" = least(function() moments(complete, FALSE, threads)),
    "Pearson, 5 % missing, pairwise" = least(function() moments(holed, FALSE, threads)),
    "Spearman, complete" = least(function() moments(complete, TRUE, threads))
  )
  table <- rbind(table, data.frame(work = names(ours), threads, seconds = round(ours, 3), yardstick = base$seconds,
    ratio = round(ours / base$seconds, 2), row.names = NULL
  ))
}
order_all <- least(function() for (v in complete) order(v, method = "radix"))
cat(sprintf("%d cases by %d variables; kernel %s; yardstick: crossprod with %s\n\n", rows, columns,
  .Call(unsere:::unsere_kernel_name, 0L), base$blas
))
print(table, row.names = FALSE)
cat(sprintf("\nSpearman, complete, 2 threads, against R's radix order of the same columns: %.2f\n",
  table$seconds[table$work == "Spearman, complete" & table$threads == 2] / order_all
))
