# Two weeks of the same people: cases are matched by name, so that who answered twice counts as one person.

#' The cases of two runs, matched by name
#'
#' @param old,new Studies; `named` whether their cases have names.
#' @return A list: `before` and `now`, the places of each person in either study (`NA` where absent), and the studies; or
#'   `NULL` where fewer than four people are in both.
#' @noRd
match_waves <- function(old, new, named) {
  if (is.null(old) || !named) return(NULL)
  names <- list(case_names(old), case_names(new))
  if (any(vapply(names, anyDuplicated, 0L) > 0L)) return(NULL)
  people <- unique(unlist(names))
  before <- match(people, names[[1]])
  now <- match(people, names[[2]])
  if (sum(!is.na(before) & !is.na(now)) < 4L) return(NULL)
  list(before = before, now = now, old = old, new = new)
}

wave_values <- function(waves, side, name) {
  study <- waves[[if (side == "before") "old" else "new"]]
  if (!name %in% study_names(study)) return(NULL)
  numbers <- tryCatch(study_numbers(study, name)$values, unsere_error = function(e) NULL)
  if (!is.null(numbers)) numbers[waves[[side]]]
}

#' A change of a figure between two waves, tested by leaving out one person at a time from both
#'
#' @param whole The change; `replicates` it without each person of either wave; `both` how many are in both.
#' @return A list: `value` (t), `df`, `p`.
#' @noRd
test_over_people <- function(whole, replicates, both, lost) {
  replicates <- replicates[!is.na(replicates)]
  n <- length(replicates)
  spread <- sqrt((n - 1) / n * sum((replicates - whole)^2))
  df <- both - lost
  if (!isTRUE(spread > 0) || df < 1) return(list(value = NA_real_, df = NA_real_, p = NA_real_))
  list(value = whole / spread, df = df, p = p_two_sided(whole / spread, df))
}

#' The change of a mean: of who is in both the paired test; new and gone people count as different cases
#' @noRd
mean_over_people <- function(waves, name) {
  before <- wave_values(waves, "before", name)
  now <- wave_values(waves, "now", name)
  if (is.null(before) || is.null(now)) return(NULL)
  both <- sum(!is.na(before) & !is.na(now))
  if (both < 4L) return(NULL)
  without <- function(v) (sum(v, na.rm = TRUE) - ifelse(is.na(v), 0, v)) / (sum(!is.na(v)) - !is.na(v))
  either <- !is.na(before) | !is.na(now)
  differences <- (without(now) - without(before))[either]
  c(test_over_people(mean(now, na.rm = TRUE) - mean(before, na.rm = TRUE), differences, both, 1), list(both = both))
}

#' The change of r, on Fisher's z scale
#' @param coefficient Its name, the same in both waves.
#' @noRd
relation_over_people <- function(waves, x, y, coefficient) {
  record <- coefficient_record(coefficient)
  if (!record$products) return(NULL)
  sides <- lapply(c("before", "now"), function(side) {
    values <- lapply(c(x, y), function(name) wave_values(waves, side, name))
    if (any(vapply(values, is.null, NA))) return(NULL)
    there <- !is.na(values[[1]]) & !is.na(values[[2]])
    a <- values[[1]][there]
    b <- values[[2]][there]
    if (length(a) < 5L || min(a) == max(a) || min(b) == max(b)) return(NULL)
    r <- r_plain(record$scores(a), record$scores(b))
    if (abs(r) == 1) return(NULL)
    z <- rep(atanh(r), length(there))
    z[there] <- atanh(clip(leave_one_out(a, b, record$resistant, 2L)))
    list(r = r, z = z, there = there)
  })
  if (any(vapply(sides, is.null, NA))) return(NULL)
  both <- sum(sides[[1]]$there & sides[[2]]$there)
  if (both < 5L) return(NULL)
  either <- sides[[1]]$there | sides[[2]]$there
  c(test_over_people(
    atanh(sides[[2]]$r) - atanh(sides[[1]]$r), (sides[[2]]$z - sides[[1]]$z)[either], both, 2
  ), list(both = both))
}
