#' The pair of two variables: the cases where both are present, and how many are left out and why
#'
#' @return A list: `x`, `y` (double, complete), `x_name`, `y_name`, `variables` (their entries in the codebook), `case`
#'   (names), `row` (in the data), `origin` (file and digest), `dropped` (counts: `x`, `y`, `both`), `coding` (for
#'   binary variables, what is 1), `group` (values of the group, where one is given).
#' @noRd
pair_of <- function(study, x, y, group = NULL) {
  x <- check_variable(study, x)
  y <- check_variable(study, y)
  if (identical(x, y)) {
    abort_usage(sprintf("%s is given twice.", x), "A relation takes two different variables.")
  }
  numbers <- list(x = numbers_of(study, x), y = numbers_of(study, y))
  no_x <- is.na(numbers$x$values)
  no_y <- is.na(numbers$y$values)
  for (k in 1:2) {
    if (all(list(no_x, no_y)[[k]])) {
      abort_undefined(sprintf("%s has no value at all.", c(x, y)[k]), "Choose a variable that has some.")
    }
  }
  kept <- which(!no_x & !no_y)
  for (k in 1:2) check_both_groups(numbers[[k]], c(x, y)[k], kept)
  list(
    x = numbers$x$values[kept], y = numbers$y$values[kept], x_name = x, y_name = y,
    variables = study$codebook[match(c(x, y), study$codebook$variable), ],
    case = case_names(study)[kept], row = kept, origin = study$provenance[c("file", "digest")],
    dropped = c(x = sum(no_x & !no_y), y = sum(no_y & !no_x), both = sum(no_x & no_y)),
    coding = list(x = numbers$x[c("zero", "one")], y = numbers$y[c("zero", "one")]),
    group = if (!is.null(group)) as.character(study$data[[group]])[kept]
  )
}

check_both_groups <- function(numbers, name, kept) {
  if (is.null(numbers$one) || length(kept) < 3L) return(invisible())
  left <- unique(numbers$values[kept])
  if (length(left) == 1L) {
    abort_undefined(
      sprintf("%s is \"%s\" in all %d complete pairs: the other group is empty.", name,
        if (left == 1) numbers$one else numbers$zero, length(kept)
      ),
      "Look for missing values that take a whole group away."
    )
  }
}

case_names <- function(study) {
  naming <- study$codebook$variable[study$codebook$role == "case"]
  if (length(naming)) return(as.character(study$data[[naming[1]]]))
  sprintf("row %d", row_in_file(study, seq_len(nrow(study$data))))
}
