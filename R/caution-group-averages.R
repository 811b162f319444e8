#' Averages of groups in place of cases
#' @noRd
caution_group_averages <- function() {
  new_caution("group_averages",
    place = 8, check = check_averages, meaning = "The cases are averages.",
    evidence = function(f, pair) {
      label <- if (!is.null(f$name)) shown(f$name, "heading")
      template("%s; averages of groups correlate more tightly than the people in them.", if (!is.null(f$group)) {
        template("Each case is a %s of its own", shown(f$group, "heading"))
      } else if (!is.null(f$counts)) {
        template("By its decimals \"%s\" is an average of %s values", label, shown(f$counts, "heading"))
      } else if (isTRUE(f$decimals)) {
        template("By its decimals \"%s\" is an average of changing numbers of values", label)
      } else {
        template("\"%s\" is an average by its label", label)
      })
    },
    advice = function(f, pair) template(
      "Speak of the groups, not of the people. Next: relate the single cases, where they can be had."
    )
  )
}

#' Averages of groups instead of cases: each case a group of its own, a label that says so, or decimals that do
#' @noRd
check_averages <- function(sample, evidence) {
  groups <- sample$more$groups
  labels <- sample$variables$label
  named <- grepl(average_words, labels, ignore.case = TRUE, perl = TRUE) |
    grepl(average_words, gsub("[_.]", " ", sample$names), ignore.case = TRUE, perl = TRUE)
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

average_words <- paste0(
  "^(average|mean|avg|durchschnittlich|mittler|moyenne|promedio|media|m\u00e9dia|gemiddeld)\\w*\\b|",
  "\\b(average|mean|avg|mittelwert|durchschnitt|moyenne|promedio|gemiddelde)\\b|",
  "\\((class|school|group|team|district) (mean|average|median)s?\\)"
)
