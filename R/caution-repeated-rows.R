#' Duplicate rows
#' @noRd
caution_repeated_rows <- function() {
  new_caution("repeated_rows",
    place = 17, check = check_repeated, of_groups = NA, meaning = "Rows come twice.",
    evidence = function(f, pair) template(
      "%s an earlier one in every variable (%s that of %s); each counts as a case of its own.",
      shown(f$count, "counted", c("row repeats", "rows repeat")), f$case, f$of
    ),
    advice = function(f, pair) template("Look whether they were entered twice; if so, leave them out in a copy.")
  )
}

#' Rows that repeat an earlier one, all but the case's name: counted twice
#' @noRd
check_repeated <- function(sample, evidence) {
  again <- sample$more$repeated
  here <- which(again$rows %in% sample$row & again$of %in% sample$row)
  if (!length(here)) return(NULL)
  names <- sample$more$name_cases(c(again$rows[here[1]], again$of[here[1]]))
  figures <- list(count = length(here), case = names[1], of = names[2], rows = again$rows[here])
  list(new_finding("repeated_rows", "warning", figures, next_step("look", pair = FALSE)))
}
