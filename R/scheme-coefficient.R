# What every relation is settled by: its coefficient, its groups, its direction.

#' The record of the coefficient asked for, or of the one that suits
#' @noRd
settle_coefficient <- function(coefficient, sample) {
  suiting <- choose_coefficient(sample$variables$level)
  if (coefficient == "auto") return(suiting)
  record <- coefficient_record(coefficient)
  check_categories(record, sample, suiting)
  if (record$categories) return(record)
  needed <- record$two_valued
  if (is.na(needed) || sum(vapply(sample$columns, two_valued, NA)) == needed) return(record)
  abort_levels(record, c("one binary variable and one that is not", "two binary variables")[needed], sample, suiting)
}

#' @param takes What the coefficient is of, in words; `suiting` the record that this pair asks for.
#' @noRd
abort_levels <- function(record, takes, sample, suiting) {
  levels <- sample$variables$level
  abort_usage(
    problem(
      "%s takes %s; %s is %s and %s is %s.", capital(record$name), takes, sample$names[1], levels[1], sample$names[2],
      levels[2]
    ),
    problem("For this pair: %s.", suiting$name)
  )
}

#' Whether as many of the two variables are groups as the coefficient takes for such
#' @noRd
check_categories <- function(record, sample, suiting) {
  levels <- sample$variables$level
  nominal <- levels == "nominal"
  if (!record$categories && any(nominal)) abort_no_order(sample$names[nominal][1])
  possible <- nominal | levels == "binary"
  if (sum(possible) >= record$categories && sum(nominal) <= record$categories) return(invisible())
  takes <- c("one nominal or binary variable and another", "two nominal or binary variables")[record$categories]
  abort_levels(record, takes, sample, suiting)
}

#' The two groups of a sample with one binary side: value, code, n, mean and sd of the other side
#' @noRd
groups_of <- function(sample, record) {
  if (!identical(record$two_valued, 1L)) return(NULL)
  sides <- if (is.null(sample$coding$x$one) || !two_valued(sample$x)) c("y", "x") else c("x", "y")
  coding <- sample$coding[[sides[1]]]
  data.frame(value = c(coding$zero, coding$one), measure_groups(sample[[sides[1]]], sample[[sides[2]]]))
}

#' The largest r of this sign that the values allow, where groups limit it
#' @noRd
largest_of <- function(sample, record, r) {
  if (is.na(record$two_valued) || r == 0) return(NULL)
  counts <- vapply(list(sample$x, sample$y), function(v) if (two_valued(v)) min(table(v)) else NA_integer_, 0L)
  if (record$two_valued == 1L && !isTRUE(min(counts, na.rm = TRUE) < sample_size(sample) / 10)) return(NULL)
  largest_attainable(sample$x, sample$y, sign(r))
}
