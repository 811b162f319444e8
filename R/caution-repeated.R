#' Rows that repeat an earlier one, all but the case's name: counted twice
#' @noRd
doubt_repeated <- function(sample, found) {
  again <- sample$more$repeated
  here <- which(again$rows %in% sample$row & again$of %in% sample$row)
  if (!length(here)) return(NULL)
  names <- sample$more$cases
  figures <- list(
    count = length(here), case = names[again$rows[here[1]]], of = names[again$of[here[1]]], rows = again$rows[here]
  )
  list(new_doubt("repeated_rows", "warning", figures, next_step("look", pair = FALSE)))
}
