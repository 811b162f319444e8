#' Cases of a class are alike
#' @noRd
caution_clustered_cases <- function() {
  new_caution("clustered_cases",
    place = 14, check = check_clusters, schemes = c("simple", "controlled"), grouped = TRUE,
    meaning = "Clustered data.",
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
  effective <- format(max(2, round(f$n / f$effect)))
  if (!is.null(f$across)) {
    return(template(
      paste(
        "Clustered data: the cases come in %d classes (%s) and across these in %d classes (%s); %s have an effective",
        "sample size of %s."
      ),
      f$classes, shown(f$group, "label"), f$classes_across, shown(f$across, "label"), shown(f$n, "cases"), effective
    ))
  }
  template(
    paste(
      "Clustered data: the cases come in %d classes (%s; intraclass correlations %s and %s); %s have an",
      "effective sample size of %s."
    ),
    f$classes, shown(f$group, "label"), shown(f$icc_x, "r"), shown(f$icc_y, "r"), shown(f$n, "cases"), effective
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

# Serious where the textbook would call r significant and the interval over the classes holds zero.
check_clusters <- function(sample, evidence) {
  if (!is.null(evidence$once$clusters)) list(clusters_finding(evidence$once$clusters, evidence))
}

#' @param figures From [clusters_of_sample()] or [clusters_of_sums()].
#' @noRd
clusters_finding <- function(figures, evidence) {
  doubtful <- is_clear_by_textbook(evidence, figures$n) && figures$low < 0 && figures$high > 0
  new_finding("clustered_cases", if (doubtful) "serious" else "warning", figures)
}
