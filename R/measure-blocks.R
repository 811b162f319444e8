# Values that come in blocks: a measure of classes, schools or days that was added to each of the persons in them. Their
# number, their spacing and how many cases have each tell it from a measure of the persons.

#' The groups that a column's own values mark, where it is a measure of groups that was added to their cases
#'
#' The values are far fewer than a measure as fine as this one takes, they are spaced without order, and those at both ends
#' are as frequent as those between, which scores of persons are not.
#' @param v Numbers.
#' @return The place of each case's value among the values, from 1 on, or `NULL`.
#' @noRd
blocks_of_values <- function(v) {
  there <- v[!is.na(v)]
  if (length(there) < 40L) return(NULL)
  values <- sort(unique(there))
  kinds <- length(values)
  counts <- tabulate(match(there, values))
  if (kinds < 5L || length(there) < 5 * kinds || min(counts) < 2L) return(NULL)
  if (min(counts[c(1L, kinds)]) < .4 * mean(counts) || stats::sd(counts) > .75 * mean(counts)) return(NULL)
  if (!is_fine_for(values) || !is_spaced_freely(values)) return(NULL)
  match(v, values)
}

# Whether values could have been many more, as fine as they are: at most one in five of the steps between the ends is taken.
is_fine_for <- function(values) {
  step <- step_of(values)
  diff(range(values)) / step >= 5 * length(values)
}

#' The largest step of which all differences are multiples, to six decimals; a millionth of the range where there is none
#' @noRd
step_of <- function(values) {
  for (digits in 0:6) {
    whole <- round((values - values[1]) * 10^digits)
    if (max(abs(whole / 10^digits - (values - values[1]))) < 1e-9 * max(abs(values), 1)) {
      return(Reduce(common_divisor, whole[whole > 0]) / 10^digits)
    }
  }
  diff(range(values)) / 1e6
}

common_divisor <- function(a, b) {
  while (b > 0) {
    rest <- a %% b
    a <- b
    b <- rest
  }
  a
}

# Neither steps of one scale, also rounded ones, nor steps that grow or shrink from one end to the other, as prices, doses
# and scores made from sums do.
is_spaced_freely <- function(values) {
  gaps <- diff(values)
  if (stats::sd(gaps) < .4 * mean(gaps)) return(FALSE)
  turns <- diff(sign(diff(gaps)))
  sum(turns != 0) >= max(1, floor(length(gaps) / 4))
}
