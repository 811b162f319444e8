#' What can be done with variables of this number and kind
#'
#' Says which coefficient suits one or two variables and why, and what else to look at, in plain words. Nothing is
#' computed.
#'
#' @param study A study, or a data frame.
#' @param x A variable: a bare name or a string.
#' @param y A second variable, or nothing.
#' @return Advice (class `unsere_advice`), a list of: `x`, `y`, `levels`, `coefficient` (a name, or `NA` where none
#'   suits), `reason` (one string), `also` (a character vector: what else to look at).
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
  y <- rlang::enquo(y)
  y <- if (!rlang::quo_is_null(y)) pick_one(study, y, "y")
  book <- study$codebook
  levels <- book$level[match(c(x, y), book$variable)]
  said <- if (is.null(y)) advice_for_one(levels) else advice_for_two(levels, book[match(c(x, y), book$variable), ])
  structure(c(list(x = x, y = y, levels = levels, variables = book), said), class = c("unsere_advice", "unsere_result"))
}

advice_for_one <- function(level) {
  also <- switch(level,
    numeric = c("Look at its distribution, its mean and its spread, and for cases far from the others.",
      "Pair it with another variable: numeric (Pearson), ordinal (Spearman) or binary (point-biserial)."
    ),
    ordinal = c("Look at how many cases chose each value; the median says more than the mean.",
      "Pair it with a numeric or another ordinal variable: Spearman."
    ),
    binary = c("Look at how many cases are on each side; a side under 10 % limits how large a correlation can get.",
      "Pair it with a numeric variable (point-biserial) or another binary one (phi)."
    ),
    nominal = c("Look at how many cases each group has.",
      "Use it to colour or split the relation of two others, or compare two of its groups as a binary variable."
    )
  )
  list(coefficient = NA_character_, reason = sprintf("one %s variable has no correlation by itself", level),
    also = also)
}

advice_for_two <- function(levels, entries) {
  if ("nominal" %in% levels) {
    name <- entries$variable[levels == "nominal"][1]
    return(list(
      coefficient = NA_character_, reason = sprintf("%s has groups without an order, and no coefficient fits that",
        name),
      also = c("Make a variable of two of its groups and use point-biserial or phi.",
        "Or use it as the group: relate the other variables within each of its groups."
      )
    ))
  }
  choice <- choose_coefficient(levels)
  also <- switch(choice$coefficient,
    pearson = c("Look at the scatter plot first: r sees only the straight part of a relation.",
      "With a bend that keeps rising or falling, or with cases far from the others, compare Spearman's."
    ),
    spearman = c("Few values mean many ties; look at how the counts fall on each value.",
      "If the steps of the scale can be taken as even, compare Pearson's; say which was used."
    ),
    "point-biserial" = c("It is the same test as the pooled comparison of the two groups' means; report both means.",
      "A group under 10 % limits how large r can get."
    ),
    phi = c("Look at the four counts; unequal margins limit how large phi can get.",
      "With an expected count under 5, use test = \"exact\"."
    )
  )
  if (same_measure_twice(entries)) {
    also <- c(also, paste(
      "This looks like one measure taken twice. A correlation says whether the order of cases held, not whether the two",
      "agree: look at the differences as well."
    ))
  }
  c(choice, list(also = also))
}

#' Whether two entries differ only by a mark of time, such as _pre and _post, 1 and 2, or week_14 and week_15
#' @noRd
same_measure_twice <- function(entries) {
  marks <- "(pre|post|before|after|first|second|start|end|spring|autumn|wave|week|time|t|w)"
  bare <- gsub(sprintf("(^|[_ .])%s([_ .]?[0-9]+)?($|(?=[_ .]))|[0-9]+", marks), "", tolower(entries$variable),
    perl = TRUE)
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
