#' One of the plausible values of a score, taken for the score itself
#' @noRd
caution_one_plausible_value <- function() {
  new_caution("one_plausible_value",
    place = 31, check = check_plausible_value, schemes = c("simple", "controlled", "design"), always = TRUE, grouped = TRUE,
    meaning = "One plausible value stands for the score.",
    evidence = function(f, pair) {
      template(
        "%s appears to be one of %d plausible values of a score. The interval leaves out how much these differ.",
        shown(f$name, "label"), f$values
      )
    },
    advice = function(f, pair) {
      template(
        "Declare them as one score: in a brief, plausible: {%s: [%s, ...]}; in R, set_plausible().", f$score, f$first
      )
    }
  )
}

#' A side of the pair that is called as one of several values of a score, none of them declared
#' @noRd
check_plausible_value <- function(sample, evidence) {
  groups <- plausible_groups(union(sample$more$measured, sample$names))
  lapply(unname(groups[vapply(groups, function(values) any(values %in% sample$names), NA)]), function(values) {
    name <- intersect(sample$names, values)[1]
    new_finding("one_plausible_value", "warning", list(
      name = name, values = length(values), score = score_of_plausible(name), first = values[1]
    ))
  })
}
