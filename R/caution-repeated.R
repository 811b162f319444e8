#' Rows that repeat an earlier one, all but the case's name: counted twice
#' @noRd
doubt_repeated <- function(sample, found) {
  again <- sample$more$repeated
  here <- which(again$rows %in% sample$row & again$of %in% sample$row)
  if (!length(here)) return(NULL)
  names <- sample$more$name_cases(c(again$rows[here[1]], again$of[here[1]]))
  figures <- list(count = length(here), case = names[1], of = names[2], rows = again$rows[here])
  list(new_doubt("repeated_rows", "warning", figures, next_step("look", pair = FALSE)))
}
