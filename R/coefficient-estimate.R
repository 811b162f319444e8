# From a sample to an estimate, from estimates to tests and intervals: what all coefficients share.

#' An estimate: what tests, intervals and cautions take
#'
#' @return A list: `coefficient`, `x`, `y` (the scores correlated), `r`, `unexplained` (1 - r squared), `n`, `n_effective`.
#' @noRd
new_estimate <- function(coefficient, x, y, r, unexplained, n = length(x), n_effective = n, ...) {
  estimate <- list(
    coefficient = coefficient, x = x, y = y, r = r, unexplained = unexplained, n = n, n_effective = n_effective, ...
  )
  structure(estimate, class = "unsere_estimate")
}

#' Pearson's r of the scores of a sample's two columns
#' @section Errors: `unsere_error_undefined` if either column is constant or n < 3.
#' @noRd
estimate_products <- function(sample, coefficient, scores = as.double) {
  check_pair(sample$x, sample$y, sample$names)
  x <- scores(sample$x)
  y <- scores(sample$y)
  estimate <- measure_pearson(x, y, sample$names)
  # Nothing but what rounding leaves is nothing.
  if (abs(estimate$r) < 1e-16) estimate$r <- 0
  new_estimate(coefficient, x, y, estimate$r, estimate$unexplained)
}

estimate_sample <- function(sample, coefficient) coefficient_record(coefficient)$estimate(sample)

test_estimate <- function(estimate, test, expect, draws) {
  ask_record(estimate$coefficient, "tests", test, "test")(estimate, expect, draws)
}

interval_estimate <- function(estimate, interval, confidence, draws) {
  ask_record(estimate$coefficient, "intervals", interval, "interval")(estimate, confidence, draws)
}

ask_record <- function(coefficient, field, kind, argument) {
  offered <- coefficient_record(coefficient)[[field]]
  if (!is.null(offered[[kind]])) return(offered[[kind]])
  abort_usage(
    problem("There is no `%s` \"%s\" for %s.", argument, kind, coefficient),
    problem("Allowed: %s.", paste0("\"", names(offered), "\"", collapse = ", "))
  )
}

#' r of every pair of many columns, each by its coefficient, with tests and intervals
#'
#' @param columns A list of double vectors of one length, missing values as `NA`.
#' @param kinds From [pair_kinds()].
#' @param pair_at From a row of the pairs to its sample of two columns.
#' @param interval `"auto"`, or `"analytic"` for the textbook's whatever the data say.
#' @return A data frame, a row a pair in the order of the columns: `i`, `j` (their places), `coefficient`, `r`,
#'   `unexplained`, `n`, `ci_low`, `ci_high`, `p`, `log10_p`, `ci_method`, and where the data chose for some pair
#'   `statistic`, `value`, `df` and `z_variance`; its attribute `spreads` holds the columns' `mean`, `sd` and
#'   `n` where they were worked out on the way.
#' @noRd
estimate_pairs <- function(columns, kinds, expect, confidence, threads, pair_at, tick = function(share) NULL,
                           interval = "auto") {
  pairs <- pair_places(kinds)
  p <- length(columns)
  empty <- rep(NA_real_, length(pairs$i))
  pairs[c("r", "unexplained", "n")] <- list(empty, empty, empty)
  shapes <- list()
  spreads <- NULL
  records <- coefficient_records()[unique(pairs$coefficient)]
  for (alike in same_kernel(records)) {
    names <- vapply(alike, `[[`, "", "name")
    mine <- which(pairs$coefficient %in% names)
    table <- alike[[1]]$matrix$kernel(unname(columns), as.vector(kinds %in% names), threads, tick)
    if (!is.null(table$spreads)) spreads <- table$spreads
    table$spreads <- NULL
    read <- read_pairs(table, pairs, mine, p)
    for (field in c("r", "unexplained", "n")) pairs[[field]][mine] <- read[[field]]
    for (name in names) shapes[[name]] <- list(at = mine, x = read$x, y = read$y)
    rm(table, read)
  }
  clear_away(length(empty))
  estimates <- finish_pairs(pairs, shapes, expect, confidence, pair_at, tick)
  methods <- vapply(records, `[[`, "", "interval_method")
  estimates$ci_method <- unname(methods[estimates$coefficient])
  if (interval == "auto") estimates <- with_robust_pairs(estimates, unname(columns), expect, confidence, threads, pair_at)
  structure(estimates, spreads = spreads)
}

#' The estimate of a pair of a matrix, whose r is known
#' @param pair A row of the pairs; `sample` of its two columns.
#' @noRd
estimate_of_pair <- function(sample, pair) {
  scores <- coefficient_record(pair$coefficient)$scores
  unexplained <- or_default(pair$unexplained, (1 - pair$r) * (1 + pair$r))
  new_estimate(pair$coefficient, scores(sample$x), scores(sample$y), pair$r, unexplained)
}

#' Pairs whose data speak against the textbook's, with the jackknife's interval and test
#' @noRd
with_robust_pairs <- function(pairs, columns, expect, confidence, threads, pair_at) {
  spread <- list(variance = rep(NA_real_, nrow(pairs)), df = rep(NA_real_, nrow(pairs)))
  for (name in unique(pairs$coefficient)) {
    record <- coefficient_record(name)
    if (is.null(record$robust)) next
    mine <- which(pairs$coefficient == name & pairs$unexplained > 0 & pairs$n >= least_for_route)
    each <- if (record$moments) {
      spread_where_against(columns, pairs[mine, ], threads)
    } else {
      spread_one_by_one(record, pairs[mine, ], function(k) pair_at(pairs, mine[k]))
    }
    for (field in names(spread)) spread[[field]][mine] <- each[[field]]
  }
  at <- which(!is.na(spread$variance))
  if (!length(at)) return(pairs)
  of <- function(field) pairs[[field]][at]
  variance <- spread$variance[at]
  limits <- interval_from_z(of("r"), of("unexplained"), variance, confidence, spread$df[at])
  test <- test_from_z(of("r"), of("unexplained"), variance, spread$df[at], expect, "jackknife")
  pairs <- with_usual_statistics(pairs)
  new <- c(limits, test[c("p", "log10_p", "statistic", "value", "df")], list(z_variance = variance, ci_method = "jackknife"))
  for (field in names(new)) pairs[[field]][at] <- new[[field]]
  pairs
}

# The spreads of pairs of products whose data speak against the textbook's; `NA` of the others.
spread_where_against <- function(columns, pairs, threads) {
  each <- spread_of_pairs(columns, pairs$i, pairs$j, pairs$r, pairs$n, threads)
  lapply(each, replace, !speaks_against(each, pairs$n), NA)
}

# The same of pairs that are looked at singly, each as it would be alone.
spread_one_by_one <- function(record, pairs, sample_at) {
  none <- list(variance = NA_real_, df = NA_real_)
  each <- lapply(seq_len(nrow(pairs)), function(k) {
    sample <- sample_at(k)
    estimate <- new_estimate(record$name, sample$x, sample$y, pairs$r[k], pairs$unexplained[k])
    route <- settle_route(record, estimate, list(test = "auto", interval = "auto"))
    if (route$interval == "jackknife") route$estimate$spread else none
  })
  lapply(list(variance = "variance", df = "df"), function(field) vapply(each, `[[`, 0, field))
}

# With what a relation reports of each pair by the textbook: statistic, value, df and the variance of z.
with_usual_statistics <- function(pairs) {
  unexplained <- or_default(pairs$unexplained, (1 - abs(pairs$r)) * (1 + abs(pairs$r)))
  pairs$statistic <- NA_character_
  pairs[c("value", "df", "z_variance")] <- NA_real_
  for (name in unique(pairs$coefficient)) {
    record <- coefficient_record(name)
    mine <- which(pairs$coefficient == name & !is.na(pairs$r))
    statistics <- c(
      record$statistic(pairs$r[mine], unexplained[mine], pairs$n[mine]),
      list(z_variance = record$z_variance(pairs$r[mine], pairs$n[mine]))
    )
    for (field in names(statistics)) pairs[[field]][mine] <- statistics[[field]]
  }
  pairs
}

#' A pair with another interval and test than the textbook's
#' @param told Fields of a relation.
#' @noRd
with_own_interval <- function(pairs, k, told) {
  if (is.null(pairs$df)) pairs <- with_usual_statistics(pairs)
  told <- told[names(told) != "p_method"] # a matrix tells one method of both
  for (field in names(told)) pairs[[field]][k] <- told[[field]]
  pairs
}

#' Records whose kernels are one and the same, so that each table is made once
#' @noRd
same_kernel <- function(records) {
  kernels <- unique(lapply(records, function(record) record$matrix$kernel))
  lapply(kernels, function(kernel) Filter(function(record) identical(record$matrix$kernel, kernel), records))
}

#' A table of columns by columns read at some pairs; what is of one column among a pair's cases stands under `x` and `y`
#' @noRd
read_pairs <- function(table, pairs, which, p) {
  i <- pairs$i[which]
  j <- pairs$j[which]
  further <- table[setdiff(names(table), c("r", "unexplained", "n"))]
  at <- i + (j - 1) * p
  read <- lapply(table[c("r", "unexplained", "n")], `[`, at)
  c(read, list(x = lapply(further, `[`, at), y = lapply(further, function(column) column[j + (i - 1) * p])))
}

#' Tests and intervals of pairs whose r are known
#' @noRd
finish_pairs <- function(pairs, shapes, expect, confidence, pair_at, tick) {
  none <- is.na(pairs$r) | pairs$n < 3
  pairs$r[none] <- NA # a variable that does not vary among a pair's cases, or fewer than three of them
  pairs$unexplained[none] <- NA
  size <- length(pairs$r)
  pairs[c("ci_low", "ci_high", "p", "log10_p")] <- lapply(1:4, function(k) rep(NA_real_, size))
  for (name in unique(pairs$coefficient)) {
    mine <- which(pairs$coefficient == name & !none)
    place <- shape_places(shapes[[name]], size)
    # Millions of pairs a part at a time, so that what is worked out on the way stays small.
    for (from in seq(1, by = 1e6, length.out = ceiling(length(mine) / 1e6))) {
      part_of <- mine[from:min(length(mine), from + 1e6 - 1)]
      part <- pairs_part(pairs, shapes[[name]], part_of, place[part_of])
      pair <- function(k) pair_at(pairs, part_of[k])
      done <- finish_alike(coefficient_record(name), part, expect, confidence, pair, tick)
      for (field in names(done)) pairs[[field]][part_of] <- done[[field]]
    }
  }
  list2DF(pairs[c("i", "j", "coefficient", "r", "unexplained", "n", "ci_low", "ci_high", "p", "log10_p")])
}

# R lets what is no longer needed pile up to the size of what is; of millions of pairs that is gigabytes.
clear_away <- function(pairs) if (pairs > 1e6) gc(verbose = FALSE)

# Where each pair's ranks stand among those of its coefficient; nothing where no more than moments is needed.
shape_places <- function(shape, size) {
  if (!length(shape$x)) return(NULL)
  place <- integer(size)
  place[shape$at] <- seq_along(shape$at)
  place
}

pairs_part <- function(pairs, shape, mine, place) {
  list(
    r = pairs$r[mine], unexplained = pairs$unexplained[mine], n = pairs$n[mine],
    x = lapply(shape$x, `[`, place), y = lapply(shape$y, `[`, place)
  )
}

finish_alike <- function(record, part, expect, confidence, sample_at, tick) {
  log_p <- if (is.null(record$matrix$log_p)) rep(NA_real_, length(part$r)) else record$matrix$log_p(part, expect)
  limits <- if (!is.null(record$matrix$limits)) record$matrix$limits(part, confidence)
  untested <- if (is.null(record$matrix$log_p)) rep(TRUE, length(part$r)) else is.nan(log_p)
  singly <- which(untested | is.null(limits))
  if (is.null(limits)) limits <- list(ci_low = rep(NA_real_, length(part$r)), ci_high = rep(NA_real_, length(part$r)))
  for (k in singly) {
    tick(match(k, singly) / length(singly))
    estimate <- record$estimate(sample_at(k))
    if (untested[k]) log_p[k] <- record$tests[[1]](estimate, expect, NULL)$log10_p * log(10)
    if (!is.null(record$matrix$limits)) next
    around <- record$intervals[[1]](estimate, confidence, NULL)
    limits$ci_low[k] <- around$ci_low
    limits$ci_high[k] <- around$ci_high
  }
  c(limits[c("ci_low", "ci_high")], list(p = exp(log_p), log10_p = log_p / log(10)))
}
