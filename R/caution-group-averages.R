#' Averages of groups in place of cases
#' @noRd
caution_group_averages <- function() {
  new_caution("group_averages",
    place = 8, check = check_averages, meaning = "Aggregated data (ecological correlation).",
    evidence = function(f, pair) {
      label <- if (!is.null(f$name)) shown(f$name, "heading")
      template(
        "%s. Averages of groups correlate more strongly than the persons in them (ecological correlation).",
        if (!is.null(f$group)) {
          template("Aggregated data: each case is one %s", shown(f$group, "heading"))
        } else if (!is.null(f$counts)) {
          template("Aggregated data: by its decimals \"%s\" is an average of %s values", label, shown(f$counts, "heading"))
        } else if (isTRUE(f$decimals)) {
          template("Aggregated data: by its decimals \"%s\" is an average of varying numbers of values", label)
        } else {
          template("Aggregated data: by its label \"%s\" is an average", label)
        }
      )
    },
    advice = function(f, pair) {
      template(
        "Draw conclusions about groups, not persons. Relate the single cases if they are available."
      )
    }
  )
}

#' Averages of groups instead of cases: each case a group of its own, a label that says so, or decimals that do
#' @noRd
check_averages <- function(sample, evidence) {
  groups <- sample$more$groups
  labels <- sample$variables$label
  named <- grepl(average_words, labels, ignore.case = TRUE, perl = TRUE) |
    grepl(average_words, gsub("[_.]", " ", sample$names), ignore.case = TRUE, perl = TRUE)
  # An average of a class that was added to each person in it, or of a person's own marks or answers.
  named <- named & !sample$names %in% names(sample$more$blocks)
  if (isTRUE(sample$more$of_persons)) named <- named & grepl(average_of_group, labels, ignore.case = TRUE, perl = TRUE)
  one_each <- length(groups) >= 3L && !anyNA(groups) && !anyDuplicated(groups)
  if (one_each) return(list(new_finding("group_averages", "warning", list(group = sample$more$group_name))))
  if (any(named)) return(list(new_finding("group_averages", "warning", list(name = sample$names[named][1]))))
  for (side in 1:2) {
    average <- average_by_decimals(sample, side, evidence$once$others)
    if (is.null(average)) next
    counts <- if (!is.na(average$counts)) average$counts
    figures <- list(name = sample$names[side], counts = counts, decimals = TRUE)
    return(list(new_finding("group_averages", "warning", Filter(Negate(is.null), figures))))
  }
}

average_by_decimals <- function(sample, side, others) {
  if (sample$variables$level[side] != "numeric") return(NULL)
  values <- utils::head(sample$columns[[side]], 120L)
  if (mean(values == round(values)) > .5) return(NULL)
  further <- c(utils::head(others, 30L), sample$columns[3L - side])
  counts <- Filter(function(v) all(v == round(v), na.rm = TRUE), lapply(further, utils::head, length(values)))
  find_average(values, counts)
}

average_of_group <- "\\((class|school|group|team|district) (mean|average|median)s?\\)"

average_words <- paste0(
  "^(average|mean|avg|durchschnittlich|mittler|moyenne|promedio|media|m\u00e9dia|gemiddeld)\\w*\\b|",
  "\\b(average|mean|avg|mittelwert|durchschnitt|moyenne|promedio|gemiddelde)\\b|",
  average_of_group
)
