#' Cases of a class are alike
#' @noRd
caution_clustered_cases <- function() {
  new_caution("clustered_cases",
    place = 14, check = check_clusters, meaning = "Clustered data.",
    evidence = function(f, pair) {
      joined(
        if (isTRUE(f$by_values)) shared_values_evidence(f, pair) else classes_evidence(f),
        if (is_uninformative(f$low, f$high)) {
          template(" The classes are too few for an interval.")
        } else {
          template(
            " By the jackknife (leaving out one class at a time) the interval is %s and %s.",
            shown(c(f$low, f$high), "interval"), shown(f$p, "p")
          )
        }
      )
    },
    advice = function(f, pair) {
      if (is_uninformative(f$low, f$high)) return(template("p and the textbook interval are too small."))
      template("Report these; the textbook's p and interval are too small.")
    },
    clause = function(f, digits) {
      if (is_uninformative(f$low, f$high)) return(template(
        "The cases are clustered in %d classes (%s), too few for an interval that allows for it.", f$classes,
        shown(f$group, "label")
      ))
      template(
        "The cases are clustered in %d classes (%s); the jackknife interval (leaving out one class at a time) was %s.",
        f$classes, shown(f$group, "label"), shown(c(f$low, f$high), "interval")
      )
    },
    clause_from = "warning"
  )
}

classes_evidence <- function(f) {
  template(
    paste(
      "Clustered data: the cases come in %d classes (%s; intraclass correlations %s and %s); %s have an",
      "effective sample size of %s."
    ),
    f$classes, shown(f$group, "label"), shown(f$icc_x, "r"), shown(f$icc_y, "r"), shown(f$n, "cases"),
    format(max(2, round(f$n / f$effect)))
  )
}

# A measure is wholly alike within its own values: of the pair's other variable only, how much it is.
shared_values_evidence <- function(f, pair) {
  others <- c(pair$x, pair$y) != f$group
  likeness <- c(f$icc_x, f$icc_y)[others]
  joined(
    template(
      paste(
        "Clustered data: %s has only %d distinct values, each shared by several cases, as if it had been measured once",
        "per class or day."
      ),
      shown(f$group, "label"), f$classes
    ),
    " ",
    if (length(likeness) == 1L) {
      template(
        "Cases with the same value are alike in %s (intraclass correlation %s);",
        shown(c(pair$x, pair$y)[others], "label"), shown(likeness, "r")
      )
    } else {
      template(
        "Cases with the same value are alike in both variables (intraclass correlations %s and %s);",
        shown(likeness[1], "r"), shown(likeness[2], "r")
      )
    },
    " ",
    template("%s have an effective sample size of %s.", shown(f$n, "cases"), format(max(2, round(f$n / f$effect))))
  )
}

#' Cases that come in classes and are alike in them, in both variables: they tell less than as many independent
#' @noRd
check_clusters <- function(sample, evidence) {
  if (!evidence$record$moments || evidence$estimate$unexplained == 0) return(NULL)
  x <- evidence$estimate$x / fitting_unit(evidence$estimate$x)
  y <- evidence$estimate$y / fitting_unit(evidence$estimate$y)
  for (classes in sample_classes(sample)) {
    evidence_found <- clusters_of_sums(group_sums(x - mean(x), y - mean(y), classes$group), classes$name, evidence)
    if (is.null(evidence_found)) next
    if (!classes$by_values && !is_made_of(sample, classes$name)) return(list(evidence_found))
    if (classes$by_values && are_alike_beyond(list(x, y)[sample$names != classes$name], classes, sample)) {
      evidence_found$figures$by_values <- TRUE
      return(list(evidence_found))
    }
  }
  NULL
}

# Whether columns are alike within the classes that a measure's values mark, beyond what a straight line on it explains.
are_alike_beyond <- function(columns, classes, sample) {
  marks <- as.double(sample$more$column(classes$name)[sample$row])
  marks <- marks - mean(marks)
  beyond <- function(v) v - sum(marks * v) / sum(marks^2) * marks
  all(vapply(columns, function(v) group_likeness(beyond(v), classes$group)$p < .01, NA))
}

#' The same from the sums of the classes, as a database gives them too
#' @param sums As for [r_without_sums()].
#' @noRd
clusters_of_sums <- function(sums, name, evidence) {
  like <- list(likeness_of_sums(sums[, c(1, 2, 4)]), likeness_of_sums(sums[, c(1, 3, 5)]))
  effect <- 1 + (like[[1]]$size - 1) * like[[1]]$icc * like[[2]]$icc
  if (!isTRUE(effect >= 1.1) || like[[1]]$p > 0.01 || like[[2]]$p > 0.01) return(NULL)
  m <- nrow(sums)
  around <- interval_jackknife(r_without_sums(sums), evidence$r, evidence$estimate$unexplained, 1 - evidence$alpha, m - 1)
  if (is.na(around$ci_low)) return(NULL)
  doubtful <- is_clear_by_textbook(evidence, sum(sums[, 1])) && around$ci_low < 0 && around$ci_high > 0
  ends <- atanh(c(around$ci_low, around$ci_high))
  value <- 2 * mean(ends) / diff(ends) * stats::qt(1 - evidence$alpha / 2, m - 1)
  new_finding("clustered_cases", if (doubtful) "serious" else "warning", list(
    group = name, classes = m, effect = effect, icc_x = round(like[[1]]$icc, 9), icc_y = round(like[[2]]$icc, 9),
    n = sum(sums[, 1]), low = around$ci_low, high = around$ci_high, p = p_two_sided(value, m - 1), df = m - 1, value = value
  ))
}
