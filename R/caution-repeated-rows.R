#' Duplicate rows
#' @noRd
caution_repeated_rows <- function() {
  new_caution("repeated_rows",
    place = 17, check = check_repeated, of_groups = NA, meaning = "Duplicate rows.",
    evidence = function(f, pair) {
      template(
        "Duplicate rows: %s an earlier one in every variable (%s that of %s); each is counted as a case.",
        shown(f$count, "counted", c("row repeats", "rows repeat")), f$case, f$of
      )
    },
    advice = function(f, pair) template("Check whether they were entered twice; if so, remove them in a copy.")
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
