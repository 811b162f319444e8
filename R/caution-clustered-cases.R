#' Cases of a class are alike
#' @noRd
caution_clustered_cases <- function() {
  new_caution("clustered_cases",
    place = 14, check = check_clusters, meaning = "Clustered data.",
    evidence = function(f, pair) {
      joined(
        template(
          paste(
            "Clustered data: the cases come in %d classes (%s; intraclass correlations %s and %s); %s have an",
            "effective sample size of %s."
          ),
          f$classes, shown(f$group, "label"), shown(f$icc_x, "r"), shown(f$icc_y, "r"), shown(f$n, "cases"),
          format(max(2, round(f$n / f$effect)))
        ),
        if (is_uninformative(f$low, f$high)) {
          template(" The classes are too few for an interval.")
        } else {
          template(" The jackknife interval (leaving out one class at a time) is %s.", shown(c(f$low, f$high), "interval"))
        }
      )
    },
    advice = function(f, pair) {
      if (is_uninformative(f$low, f$high)) return(template("p and the textbook interval are too small."))
      template("Report this interval; p and the textbook interval are too small.")
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

#' Cases that come in classes and are alike in them, in both variables: they tell less than as many independent
#' @noRd
check_clusters <- function(sample, evidence) {
  if (!evidence$record$moments || evidence$estimate$unexplained == 0) return(NULL)
  x <- evidence$estimate$x / fitting_unit(evidence$estimate$x)
  y <- evidence$estimate$y / fitting_unit(evidence$estimate$y)
  for (classes in sample_classes(sample)) {
    told <- clusters_of_sums(group_sums(x - mean(x), y - mean(y), classes$group), classes$name, evidence)
    if (!is.null(told) && !is_made_of(sample, classes$name)) return(list(told))
  }
  NULL
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
  doubtful <- evidence$p < evidence$alpha && around$ci_low < 0 && around$ci_high > 0
  new_finding("clustered_cases", if (doubtful) "serious" else "warning", list(
    group = name, classes = m, effect = effect, icc_x = like[[1]]$icc, icc_y = like[[2]]$icc, n = sum(sums[, 1]),
    low = around$ci_low, high = around$ci_high
  ))
}
