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
    fetch <- "cd %s && apt-get download -qq libopenblas0-pthread >/dev/null 2>&1 && dpkg -x libopenblas0-pthread_*.deb ."
    system(sprintf(fetch, folder))
  }
  if (length(found())) normalizePath(dirname(found()[1]))
}

yardstick <- function(threads) {
  blas <- unpack_blas()
  code <- sprintf(paste(
    "set.seed(1); x <- matrix(rnorm(%d * %d), %d);",
    "cat(min(vapply(1:%d, function(i) system.time(crossprod(x))[[3]], 0)),",
    "if (nzchar(Sys.getenv('LD_PRELOAD'))) 'OpenBLAS' else 'the_BLAS_of_R')"
  ), rows, columns, rows, runs)
  said <- system2(file.path(R.home("bin"), "Rscript"), c("-e", shQuote(code)), stdout = TRUE, env = c(
    if (!is.null(blas)) paste0("LD_PRELOAD=", file.path(blas, "libblas.so.3")), paste0("OPENBLAS_NUM_THREADS=", threads),
    "OPENBLAS_CORETYPE=", "OPENBLAS_L2_SIZE="
  ))
  parts <- strsplit(said[length(said)], " ")[[1]]
  list(seconds = as.numeric(parts[1]), blas = parts[2])
}

least <- function(work) min(vapply(seq_len(runs), function(i) system.time(work())[["elapsed"]], 0))

# Beside what users call, the work within: r, n, p, p adjusted and the interval of every pair.
matrix_of <- function(data, kind, threads) {
  p <- length(data)
  found <- unsere:::estimate_pairs(as.list(data), matrix(kind, p, p), "either", 0.95, threads, function(pairs, k) {
    list(x = data[[pairs$i[k]]], y = data[[pairs$j[k]]], names = names(data)[c(pairs$i[k], pairs$j[k])])
  })
  found$log10_p_adjusted <- unsere:::adjust_log10_p(found$log10_p, "holm")
  found
}

make_data <- function(rows, columns, missing = 0) {
  lapply(seq_len(columns), function(j) {
    values <- rnorm(rows)
    if (missing > 0) values[sample.int(rows, rows * missing)] <- NA
    values
  })
}

# The peak of this process's memory since it was last set back, in MB; Linux only.
peak_memory <- function() {
  line <- grep("^VmHWM", readLines("/proc/self/status"), value = TRUE)
  as.numeric(gsub("[^0-9]", "", line)) / 1024
}
reset_peak <- function() {
  invisible(gc())
  try(cat("5", file = "/proc/self/clear_refs"), silent = TRUE)
}

set.seed(1)
complete <- make_data(rows, columns)
holed <- make_data(rows, columns, 0.05)
as_frame <- function(columns) list2DF(stats::setNames(columns, paste0("v", seq_along(columns))))
frame <- as_frame(complete)
study <- as_study(frame)
table <- NULL
for (threads in 1:2) {
  base <- yardstick(threads)
  order_all <- least(function() for (v in complete) order(v, method = "radix"))
  public <- function(data, ...) least(function() correlation_matrix(data, ..., threads = threads))
  ours <- c(
    "as called, from a study" = public(study),
    "as called, from a data frame" = public(frame),
    "as called, from a study, 5 % missing" = public(as_study(as_frame(holed))),
    "as called, from a data frame, 5 % missing" = public(as_frame(holed)),
    "as called, from a study, Spearman" = public(study, coefficient = "spearman"),
    "as called, from a data frame, Spearman" = public(frame, coefficient = "spearman"),
    "within, Pearson, complete" = least(function() matrix_of(complete, "pearson", threads)),
    "within, Pearson, 5 % missing, pairwise" = least(function() matrix_of(holed, "pearson", threads)),
    "within, Spearman, complete" = least(function() matrix_of(complete, "spearman", threads))
  )
  table <- rbind(table, data.frame(
    work = names(ours), threads, seconds = round(ours, 3), yardstick = base$seconds,
    ratio = round(ours / base$seconds, 2), to_radix_order = round(ours / order_all, 2), row.names = NULL
  ))
}
cat(sprintf(
  "%d cases by %d variables; kernel %s; yardstick: crossprod with %s\n\n", rows, columns,
  unsere:::core_kernel_name(0L), base$blas
))
print(table, row.names = FALSE)

cat("\nGrowth, 2 threads, seconds (least of three runs):\n")
runs <- 3
growth <- rbind(
  expand.grid(cases = c(25000, 50000, 100000), variables = 100), expand.grid(cases = 20000, variables = c(100, 200, 400))
)
for (kind in c("pearson", "spearman")) {
  growth[[kind]] <- mapply(function(cases, variables) {
    data <- make_data(cases, variables)
    round(least(function() matrix_of(data, kind, 2L)), 3)
  }, growth$cases, growth$variables)
}
growth$spearman_pairwise <- mapply(function(cases, variables) {
  data <- make_data(cases / 10, variables, 0.05)
  round(system.time(matrix_of(data, "spearman", 2L))[["elapsed"]], 2)
}, growth$cases, growth$variables)
print(growth, row.names = FALSE)
cat("(the last column: 5 % missing, ranks among each pair's own cases, a tenth of the cases)\n")

input <- rows * columns * 8 / 2^20
reset_peak()
before <- peak_memory()
for (kind in c("pearson", "spearman")) {
  reset_peak()
  before <- peak_memory()
  invisible(matrix_of(complete, kind, 2L))
  beyond <- (peak_memory() - before) / input
  cat(sprintf("Memory beyond the input, %s: %.2f times the input of %.0f MB\n", kind, beyond, input))
}

wide <- make_data(5000, 2000)
cat(sprintf("2,000 variables by 5,000 cases, 2 threads: %.1f s\n", system.time(matrix_of(wide, "pearson", 2L))[["elapsed"]]))

# 10 million cases by 10 variables, a million at a time, against all at once.
set.seed(2)
whole <- make_data(as.integer(Sys.getenv("LONG", "10000000")), 10)
starts <- seq(1, length(whole[[1]]), by = 1e6)
k <- 0
chunks <- function() {
  k <<- k + 1
  if (k > length(starts)) return(NULL)
  rows <- starts[k]:min(starts[k] + 1e6 - 1, length(whole[[1]]))
  list2DF(lapply(stats::setNames(whole, paste0("v", 1:10)), `[`, rows))
}
reset_peak()
before <- peak_memory()
seconds <- system.time(gathered <- correlation_matrix(gather_moments(chunks)))[["elapsed"]]
cat(sprintf(
  "%d cases by 10 in chunks: %.1f s, %.0f MB beyond the source; largest difference of r from all at once: %.1e\n",
  length(whole[[1]]), seconds, peak_memory() - before,
  max(abs(gathered$pairs$r - matrix_of(whole, "pearson", 2L)$r))
))
