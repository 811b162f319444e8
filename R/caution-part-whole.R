#' Whole and part: one variable a sum, mean or ratio that contains the other, a difference that was taken from it, or both
#' shares of one whole
#' @noRd
doubt_part <- function(sample, found) {
  columns <- found$once$columns
  if (length(columns) > 2L) {
    shares <- find_whole(columns)
    if (!is.null(shares)) {
      figures <- list(whole = sample$names[1], part = sample$names[2], with = shares$with, sum = shares$sum, shares = TRUE)
      return(list(new_doubt("part_whole", "warning", figures)))
    }
    for (side in 1:2) {
      doubt <- or_default(part_of(columns, side, sample), ratio_of(columns, side))
      if (!is.null(doubt)) return(list(doubt))
    }
  }
  named <- named_difference(sample)
  if (!is.null(named)) list(named)
}

#' The pair and the study's other measures over cases that have them all; those with most blanks give way
#' @noRd
columns_at_hand <- function(sample, others) {
  if (!length(others)) return(NULL)
  others <- others[order(vapply(others, function(column) sum(is.na(column)), 0L))]
  whole <- rep(TRUE, length(others[[1]]))
  rows <- vapply(others, function(column) sum(whole <<- whole & !is.na(column)), 0L)
  others <- others[rows >= seq_along(others) + 10L]
  if (!length(others)) return(NULL)
  kept <- which(rowSums(is.na(do.call(cbind, others))) == 0)
  kept <- utils::head(kept, length(others) + 100L)
  # The others are of the first cases.
  lapply(c(stats::setNames(list(sample$x, sample$y), sample$names), others), function(column) column[kept])
}

part_of <- function(columns, side, sample) {
  whole <- columns[side]
  part <- columns[3L - side]
  if (count_distinct(whole[[1]]) < 3L || count_distinct(part[[1]]) < 2L) return(NULL)
  found <- find_sum(whole[[1]], part[[1]], columns[-(1:2)])
  if (is.null(found)) return(NULL)
  weights <- found$weights
  names(weights)[1] <- names(part)
  involved <- columns[c(names(whole), names(weights))]
  difference <- if (length(weights) == 2L) find_difference(involved)
  if (is.null(difference)) {
    if (!is_sum_of(involved, weights)) return(NULL)
    figures <- list(whole = names(whole), part = names(part), rounded = !found$exact)
    return(new_doubt("part_whole", "serious", figures))
  }
  # Of two measurements and their difference, the measurements may well be related.
  if (!difference %in% sample$names) return(NULL)
  start <- setdiff(sample$names, difference)
  against <- r_plain(columns[[difference]], columns[[start]]) < 0
  figures <- list(
    whole = difference, part = start, other = setdiff(names(involved), sample$names), difference = TRUE, named = FALSE,
    against = against
  )
  new_doubt("part_whole", "serious", figures)
}

#' One of two as a ratio or product that the other is in
#' @noRd
ratio_of <- function(columns, side) {
  part <- columns[3L - side]
  others <- columns[-(1:2)]
  ratio <- function(values) or_default(find_ratio(values, part, others), find_ratio(values, others, part))
  whole <- columns[[side]]
  found <- ratio(whole)
  # A change as a share, or in per cent, of what it began with.
  if (is.null(found) && min(whole) < 0) {
    found <- or_default(ratio(whole + 1), ratio(whole / 100 + 1))
    if (!is.null(found)) found$change <- TRUE
  }
  if (is.null(found)) return(NULL)
  figures <- c(list(whole = names(columns)[side], part = names(part), ratio = TRUE), found)
  new_doubt("part_whole", "serious", figures)
}

#' The one of three that is the difference of the other two: by its name, or as it alone goes below 0
#' @noRd
find_difference <- function(columns) {
  named <- grepl(gain_names, tolower(names(columns)), perl = TRUE)
  if (sum(named) == 1L) return(names(columns)[named])
  below <- vapply(columns, min, 0) < 0
  if (sum(below) == 1L) names(columns)[below]
}

gain_names <- paste0(
  "(^|[_ .-])(gains?|change|diff|difference|delta|improvement|growth|increase|progress|zuwachs|differenz|",
  "ver\u00e4nderung|gain|progr\u00e8s|diff\u00e9rence|cambio|diferencia|differenza|diferen\u00e7a|verschil)([_ .-]|[0-9]|$)"
)

start_names <- paste0(
  "(^|[_ .-])(pre|pretest|before|baseline|initial|start|first|t1|w1|wave1|time1|vorher|avant|antes|prima|voor)",
  "([_ .-]|$)"
)

#' A gain beside what it was taken from where the later measurement is not in the study
#' @noRd
named_difference <- function(sample) {
  texts <- tolower(sample$names)
  gain <- grepl(gain_names, texts, perl = TRUE)
  start <- grepl(start_names, texts, perl = TRUE)
  if (!(gain[1] && start[2]) && !(gain[2] && start[1])) return(NULL)
  figures <- list(
    whole = sample$names[gain & !start], part = sample$names[start & !gain], other = NA_character_, difference = TRUE,
    named = TRUE, against = TRUE
  )
  if (length(figures$whole) == 1L && length(figures$part) == 1L) new_doubt("part_whole", "warning", figures)
}
