#' Advise on a coefficient
#'
#' States which coefficient suits one or two variables and why, and what else to check. Nothing is computed.
#'
#' @param study A study, or a data frame.
#' @param x A variable: a bare name or a string.
#' @param y A second variable. Default: none.
#' @return Advice (class `unsere_advice`), a list of `x`, `y`, `levels`, `coefficient` (a name; `NA` for one
#'   variable), `reason` (one string), `also` (a character vector of further checks).
#' @section Errors: `unsere_error_input` for an unknown variable.
#' @references Stevens, S. S. (1946). On the theory of scales of measurement. *Science*, 103, 677-680. Bland, J. M., &
#'   Altman, D. G. (1986). Statistical methods for assessing agreement between two methods of clinical measurement.
#'   *Lancet*, 327, 307-310.
#' @examples
#' learners <- demo_study("learners")
#' advise(learners, practice_hours, speaking_score)
#' advise(learners, study_partner, speaking_score)
#' advise(learners, centre)
#' @export
advise <- function(study, x, y = NULL) {
  study <- check_study(study)
  x <- pick_one(study, rlang::enquo(x), "x")
  y <- pick_optional(study, rlang::enquo(y), "y")
  entries <- book_entries(study, c(x, y))
  advice <- if (is.null(y)) advice_for_one(entries$level) else advice_for_two(entries)
  structure(
    c(list(x = x, y = y, levels = entries$level, variables = study_book(study)), advice),
    class = c("unsere_advice", "unsere_result")
  )
}

advice_for_one <- function(level) {
  also <- switch(level,
    numeric = c(
      "Check its distribution, mean and standard deviation, and outliers.",
      "Pair it with a numeric, an ordinal or a binary variable: each has its coefficient."
    ),
    ordinal = c(
      "Check the number of cases with each value; the median is more informative than the mean.",
      "Pair it with a numeric or another ordinal variable, by ranks."
    ),
    binary = c(
      "Check the size of both groups; a group under 10% limits the maximum correlation.",
      "Pair it with a numeric variable or another binary one."
    ),
    nominal = c(
      "Check the number of cases in each group.",
      "Pair it with a numeric or ordinal variable by eta, or with another of groups by Cramer's V.",
      "Use it to colour or split the relation of two others."
    )
  )
  reason <- c(
    numeric = "one numeric variable has no correlation by itself",
    ordinal = "one ordinal variable has no correlation by itself",
    binary = "one binary variable has no correlation by itself",
    nominal = "one variable has no correlation by itself"
  )[[level]]
  list(coefficient = NA_character_, reason = reason, also = also)
}

advice_for_two <- function(entries) {
  record <- choose_coefficient(entries$level)
  twice <- if (same_measure_twice(entries)) {
    paste(
      "This appears to be one measure taken twice. A correlation shows whether the order of cases is stable, not whether",
      "the two agree: check the differences as well."
    )
  }
  list(coefficient = record$name, reason = record$why, also = c(record$words$look_also, twice))
}

#' Whether two entries differ only by a mark of time, such as _pre and _post, 1 and 2, or week_14 and week_15
#' @noRd
same_measure_twice <- function(entries) {
  marks <- "(pre|post|before|after|first|second|start|end|spring|autumn|wave|week|time|t|w)"
  bare <- gsub(sprintf("(^|[_ .])%s([_ .]?[0-9]+)?($|(?=[_ .]))|[0-9]+", marks), "", tolower(entries$variable),
    perl = TRUE
  )
  bare <- gsub("[_ .]+", "", bare)
  units <- unique(entries$unit)
  nzchar(bare[1]) && bare[1] == bare[2] && nchar(bare[1]) > 2 && length(units) == 1L &&
    length(unique(entries$level)) == 1L
}

#' @export
as.data.frame.unsere_advice <- function(x, ...) {
  data.frame(
    x = x$x, y = if (is.null(x$y)) NA_character_ else x$y, coefficient = x$coefficient, reason = x$reason,
    also = paste(x$also, collapse = " ")
  )
}
