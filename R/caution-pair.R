# The doubts about one pair: each check looks at the figures and says nothing when they give no reason.
#
# The limits are set so that all warnings together touch clean data in fewer than one run of twenty (bench/cautions.R).

#' A reason to doubt: its code, how grave it is, and the figures that earned it
#' @noRd
new_doubt <- function(code, severity, ...) list(code = code, severity = severity, figures = list(...))

#' All doubts about a pair
#'
#' @param d What is known of the pair: `x`, `y` (numbers), `a`, `b` (the scores correlated: numbers or ranks), `r`, `p`,
#'   `coefficient`, `levels`, `names`, `case`, `n_dropped`, `group` (values or `NULL`), `others` (columns of the study's
#'   other numeric measures among these cases), `units`, `time` (a grid from [time_grid()] or `NULL`), `strength` (a
#'   function from r to its word), `codes` (values that look like missing codes), `alpha`.
#' @return A list of doubts, the gravest first.
#' @noRd
pair_doubts <- function(d) {
  same <- doubt_same(d)
  found <- if (length(same)) same else c(
    doubt_codes(d), doubt_trend(d), doubt_part(d), doubt_groups(d), doubt_averages(d), doubt_denominator(d),
      doubt_one_case(d),
    doubt_curve(d), doubt_spread(d)
  )
  found <- c(found, doubt_ends(d), doubt_coarse(d), doubt_rare(d), doubt_few(d), doubt_missing(d))
  found[gravest_first(vapply(found, `[[`, "", "severity"))]
}

doubt_same <- function(d) {
  if (d$coefficient == "phi" || abs(d$r) < 1 - 1e-12) return(NULL)
  equal <- isTRUE(all.equal(d$x, d$y, tolerance = 1e-12))
  if (d$coefficient == "spearman" && abs(r_plain(d$x, d$y)) < 1 - 1e-12) return(NULL)
  list(new_doubt("same_measure", "serious", equal = equal))
}

r_plain <- function(x, y) .Call(unsere_pearson, as.double(x), as.double(y))$r

doubt_codes <- function(d) {
  lapply(names(d$codes), function(name) new_doubt("codes_not_numbers", "serious", name = name, codes = d$codes[[name]]))
}

doubt_trend <- function(d) {
  if (is.null(d$time)) return(NULL)
  grid <- d$time
  found <- check_trend(grid$place(d$x), grid$place(d$y), grid$times, grid$season, d$alpha)
  grave <- c("trend only" = "serious", weakened = "warning")[found$verdict]
  few <- found$levels$n < 8L
  c(
    if (!is.na(grave)) list(new_doubt("shared_trend", unname(grave), verdict = found$verdict, changes = found$changes,
      detrended = found$detrended)),
    if (!few && is.na(grave) && isTRUE(found$durbin_watson < 1)) {
      list(new_doubt("serial_dependence", "warning", durbin_watson = found$durbin_watson))
    }
  )
}

#' Whole and part: one variable an exact sum or mean that contains the other
#'
#' Freed of the study's other variables the two are one and the same; without each other they are not given by those.
#' @noRd
doubt_part <- function(d) {
  others <- d$others
  if (!length(others) || d$coefficient %in% c("point-biserial", "phi")) return(NULL)
  columns <- do.call(cbind, others)
  kept <- which(rowSums(is.na(columns)) == 0)
  if (length(kept) < ncol(columns) + 8L) return(NULL)
  kept <- kept[seq_len(min(length(kept), 4L * ncol(columns) + 60L))]
  columns <- cbind(1, columns[kept, , drop = FALSE])
  left <- freed(cbind(d$x[kept], d$y[kept]), columns)
  squares <- colSums(left^2)
  sizes <- c(sum((d$x[kept] - mean(d$x[kept]))^2), sum((d$y[kept] - mean(d$y[kept]))^2))
  if (!all(squares > 1e-12 * sizes)) return(NULL)
  if (sum(freed(left[, 1, drop = FALSE], left[, 2, drop = FALSE])^2) >= 1e-18 * sizes[1]) return(NULL)
  # A mean holds its part with a weight below 1; of a sum, where both weights are 1, the whole varies more.
  weight <- abs(sum(left[, 1] * left[, 2]) / squares[2])
  x_is_whole <- if (abs(weight - 1) < 1e-6) sizes[1] > sizes[2] else weight < 1
  names <- if (x_is_whole) d$names else rev(d$names)
  list(new_doubt("part_whole", "serious", whole = names[1], part = names[2]))
}

#' The relation within groups against that of all cases
#' @noRd
doubt_groups <- function(d) {
  if (is.null(d$group)) return(NULL)
  found <- relate_within(d$a, d$b, d$group)
  if (is.null(found)) return(NULL)
  r <- found$r
  apart <- abs(atanh(clip(d$r)) - atanh(clip(r)))
  by_group <- found$by_group
  turned <- names(by_group)[!is.na(by_group) & sign(by_group) == -sign(d$r)]
  figures <- list(within = r, groups = length(by_group), turned = turned, by_group = by_group)
  clear_turn <- sign(r) == -sign(d$r) && found$p < 0.01 && d$p < 0.05
  # The groups' means carry the difference: more than chance would, and enough to matter.
  between <- group_share(d$a[found$kept], found$group) * group_share(d$b[found$kept], found$group)
  severity <- if (clear_turn) "serious" else if (apart > 0.2 && apart * sqrt(sum(found$kept) - 3) > 3 &&
    between < 1e-4) "warning"
  if (is.null(severity)) return(NULL)
  list(do.call(new_doubt, c(list("mixed_groups", severity), figures)))
}

#' r of a pair within groups: what is left when each group's means are taken out
#'
#' @param a,b Numbers (or ranks), `group` as long; groups of fewer than five cases are left out.
#' @return A list: `r`, `df`, `p`, `by_group` (named), `kept`, `group` (of those kept), or `NULL` where fewer than two
#'   groups are large enough or nothing varies within them.
#' @noRd
relate_within <- function(a, b, group) {
  sizes <- table(group)
  large <- names(sizes)[sizes >= 5L]
  if (length(large) < 2L) return(NULL)
  kept <- group %in% large
  group <- factor(group[kept], large)
  a <- a[kept]
  b <- b[kept]
  left_a <- a - stats::ave(a, group)
  left_b <- b - stats::ave(b, group)
  nothing <- function(left, all) sum(left^2) <= 1e-12 * sum((all - mean(all))^2)
  if (nothing(left_a, a) || nothing(left_b, b)) return(NULL)
  r <- clip(sum(left_a * left_b) / sqrt(sum(left_a^2) * sum(left_b^2)))
  df <- sum(kept) - length(large) - 1
  list(r = r, df = df, p = p_two_sided(r * sqrt(df / ((1 - r) * (1 + r))), df), kept = kept, group = group,
    by_group = vapply(large, function(kind) r_or_na(a[group == kind], b[group == kind]), 0))
}

#' The p of groups' means differing no more than chance
#' @noRd
group_share <- function(v, group) {
  left <- sum((v - stats::ave(v, group))^2)
  total <- sum((v - mean(v))^2)
  k <- nlevels(group)
  stats::pbeta(left / total, (length(v) - k) / 2, (k - 1) / 2)
}

clip <- function(r) pmax(-1 + 1e-12, pmin(1 - 1e-12, r))

r_or_na <- function(a, b) if (min(a) == max(a) || min(b) == max(b)) NA_real_ else r_plain(a, b)

doubt_averages <- function(d) {
  if (!length(d$averages)) return(NULL)
  list(new_doubt("group_averages", "warning", why = d$averages))
}

#' Two rates per the same base, when their units say so
#' @noRd
doubt_denominator <- function(d) {
  base <- ifelse(grepl("\\bper\\b", d$units), trimws(tolower(sub("^.*\\bper\\b", "", d$units))), NA)
  if (anyNA(base) || base[1] != base[2]) return(NULL)
  list(new_doubt("shared_denominator", "warning", base = base[1]))
}

#' One case that changes what is said: the sign, whether it is clear of chance, or the word for its size
#' @noRd
doubt_one_case <- function(d) {
  n <- length(d$a)
  if (n < 6L || d$coefficient == "phi") return(NULL)
  without <- r_without_each(d$a, d$b)
  moved <- (atanh(clip(d$r)) - atanh(clip(without))) * sqrt(n - 3)
  at <- which.max(abs(moved))
  # In clean data the most any case moves r grows slowly with n; beyond this it is the case that speaks.
  if (!length(at) || abs(moved[at]) < one_case_limit(n)) return(NULL)
  r <- without[at]
  p <- p_two_sided(r * sqrt((n - 3) / ((1 - r) * (1 + r))), n - 3)
  sign_turns <- sign(r) != sign(d$r)
  clear_turns <- (p < d$alpha) != (d$p < d$alpha)
  word_turns <- d$strength(r) != d$strength(d$r)
  if (!(sign_turns || clear_turns || word_turns)) return(NULL)
  list(new_doubt("one_case", if (sign_turns || clear_turns) "serious" else "warning", case = d$case[at], x = d$x[at],
    y = d$y[at],
    r = r, p = p))
}

one_case_limit <- function(n) 0.9 + 4 / sqrt(n)

doubt_curve <- function(d) {
  if (d$coefficient != "pearson" || length(d$x) < 12L || length(unique(d$x)) < 4L) return(NULL)
  left <- as.vector(freed(cbind(d$y), cbind(1, d$x - mean(d$x))))
  test <- bend_test(d$x, left, 2L)
  if (is.na(test$p) || test$p >= 0.002) return(NULL)
  list(new_doubt("curved", "warning", t = test$value, df = test$df, p = test$p, direction = test$direction,
    positive = all(d$x > 0)))
}

doubt_spread <- function(d) {
  if (d$coefficient != "pearson" || length(d$x) < 20L) return(NULL)
  left <- as.vector(freed(cbind(d$y), cbind(1, d$x - mean(d$x))))
  if (min(left^2) == max(left^2) || sum(left^2) < 1e-20 * sum(d$y^2)) return(NULL)
  test <- spread_test(d$x, left)
  if (test$p >= 0.004 || max(test$ratio, 1 / test$ratio) < 1.3) return(NULL)
  list(new_doubt("uneven_spread", "warning", value = test$value, p = test$p, ratio = test$ratio))
}

#' Many cases heaped at the end of a variable that is no short scale
#' @noRd
doubt_ends <- function(d) {
  found <- lapply(1:2, function(side) {
    v <- list(d$x, d$y)[[side]]
    if (d$levels[side] != "numeric" || length(v) < 20L || length(unique(v)) < 8L) return(NULL)
    ends <- range(v)
    share <- c(mean(v == ends[1]), mean(v == ends[2]))
    if (max(share) < 0.15) return(NULL)
    new_doubt("floor_or_ceiling", "warning", name = d$names[side], value = ends[which.max(share)], share = max(share),
      end = c("lowest", "highest")[which.max(share)])
  })
  Filter(Negate(is.null), found)
}

doubt_coarse <- function(d) {
  if (d$coefficient != "pearson") return(NULL)
  few <- vapply(list(d$x, d$y), function(v) length(unique(v)), 0L)
  lapply(which(few <= 5L), function(side) new_doubt("coarse_scale", "note", name = d$names[side], values = few[side]))
}

doubt_rare <- function(d) {
  found <- lapply(1:2, function(side) {
    v <- list(d$x, d$y)[[side]]
    if (d$levels[side] != "binary") return(NULL)
    small <- min(table(v))
    if (small >= 5L && small >= 0.1 * length(v)) return(NULL)
    new_doubt("rare_category", if (small < 5L) "warning" else "note", name = d$names[side], count = as.integer(small))
  })
  Filter(Negate(is.null), found)
}

doubt_few <- function(d) {
  n <- length(d$x)
  if (n >= 25L) return(NULL)
  list(new_doubt("few_cases", if (n < 10L) "warning" else "note", n = n))
}

doubt_missing <- function(d) {
  all <- length(d$x) + d$n_dropped
  share <- d$n_dropped / all
  if (share < 0.2) return(NULL)
  list(new_doubt("many_missing", if (share >= 0.4) "warning" else "note", dropped = d$n_dropped, all = all))
}
