#' Averages of groups instead of cases: each case a group of its own, or a label that says so
#' @noRd
doubt_averages <- function(sample, found) {
  groups <- sample$more$groups
  labels <- sample$variables$label
  named <- grepl(average_words, labels, ignore.case = TRUE, perl = TRUE) |
    grepl(average_words, gsub("[_.]", " ", sample$names), ignore.case = TRUE, perl = TRUE)
  one_each <- length(groups) >= 3L && !anyNA(groups) && !anyDuplicated(groups)
  if (one_each) return(list(new_doubt("group_averages", "warning", list(group = sample$more$group_name))))
  if (any(named)) list(new_doubt("group_averages", "warning", list(name = sample$names[named][1])))
}

average_words <- paste0(
  "^(average|mean|avg|durchschnittlich|mittler|moyenne|promedio|media|m\u00e9dia|gemiddeld)\\w*\\b|",
  "\\b(average|mean|avg|mittelwert|durchschnitt|moyenne|promedio|gemiddelde)\\b|",
  "\\((class|school|group|team|district) (mean|average|median)s?\\)"
)
