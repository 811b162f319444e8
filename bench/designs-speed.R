# What honouring a design costs, as a ratio to the same call without one, one after the other in the same run; the least of
# several runs each, of the functions that users call.
library(unsere)
set.seed(20)
runs <- as.integer(Sys.getenv("RUNS", "9"))
rows <- as.integer(Sys.getenv("ROWS", "100000"))

least <- function(work) {
  work()
  min(vapply(seq_len(runs), function(i) system.time(work(), gcFirst = FALSE)[["elapsed"]], 0))
}
told <- function(what, work, plain, most) {
  taken <- least(work)
  beside <- least(plain)
  cat(sprintf("%-66s %7.3f s %7.3f s %6.1f %6.0f\n", what, taken, beside, taken / beside, most))
}

matrix_under <- function(missing) {
  data <- as.data.frame(matrix(rnorm(rows * 50), rows))
  for (j in seq_along(data)) data[[j]][sample.int(rows, rows * missing)] <- NA
  names <- names(data)
  data$class <- sprintf("class %d", (seq_len(rows) - 1) %/% (rows / 500))
  for (k in 1:80) data[[sprintf("w%d", k)]] <- rexp(rows)
  data$w <- 1
  found <- as_study(data)
  variables <- rlang::syms(names)
  ask <- function(study) function() correlation_matrix(study, !!!variables)
  # Without the classes, of which plain cases would be cautioned.
  plain <- ask(as_study(data[names]))
  share <- if (missing) sprintf(", %d %% missing", round(100 * missing)) else ""
  told(paste0("matrix of 50, 500 classes", share), ask(set_design(found, cluster = "class")), plain, 3)
  replicates <- set_design(found, weight = "w", replicates = sprintf("w%d", 1:80), method = "brr")
  told(paste0("matrix of 50, 80 replicate weights", share), ask(replicates), plain, 40)
}

heading <- sprintf("%s cases", format(rows, big.mark = ","))
cat(sprintf("%-66s %9s %9s %6s %6s\n", heading, "taken", "plain", "ratio", "wanted"))
matrix_under(0)
matrix_under(0.05)
large <- as_study(data.frame(x = rnorm(1e6), y = rnorm(1e6)))
pair <- function(interval) function() relate(large, x, y, interval = interval)
told("a pair of 1,000,000 cases, jackknife by cases", pair("jackknife"), pair("analytic"), 5)
x <- unsere:::study_column(large, "x")
y <- unsere:::study_column(large, "y")
left <- function() unsere:::leave_one_out(x, y, FALSE, 2L)
told("the same beside r alone", left, function() unsere:::core_pearson(x, y), 5)
