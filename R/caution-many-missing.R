#' Many cases left out because a value is missing
#' @noRd
caution_many_missing <- function() {
  new_caution("many_missing",
    place = 25, check = check_missing, of_groups = NA, schemes = all_kinds_of_cases, always = TRUE,
    meaning = "Many values are missing.",
    evidence = function(f, pair) {
      template(
        "Missing values: %s of %s cases are excluded.", shown(f$dropped, "count"), shown(f$all, "count")
      )
    },
    advice = function(f, pair) template("Check whether they differ from the others.")
  )
}

#' Many cases left out because a value is missing
#' @noRd
check_missing <- function(sample, evidence) {
  dropped <- sum(sample$dropped[c("x", "y", "both")])
  missing_finding(dropped, dropped + sample_size(sample))
}

missing_finding <- function(dropped, all) {
  share <- dropped / all
  if (is.na(share) || share < 0.2) return(NULL)
  step <- next_step("look", pair = FALSE)
  list(new_finding("many_missing", if (share >= 0.4) "warning" else "note", list(dropped = dropped, all = all), step))
}
