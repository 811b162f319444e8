#' Averages of groups instead of cases: each case a group of its own, or a label that says so
#' @noRd
doubt_averages <- function(sample, found) {
  groups <- sample$more$groups
  labels <- sample$variables$label
  named <- grepl("^(average|mean)\\b|\\baverage of\\b|\\bmean of\\b", labels, ignore.case = TRUE)
  one_each <- length(groups) >= 3L && !anyNA(groups) && !anyDuplicated(groups)
  if (one_each) return(list(new_doubt("group_averages", "warning", list(group = sample$more$group_name))))
  if (any(named)) list(new_doubt("group_averages", "warning", list(name = sample$names[named][1])))
}
