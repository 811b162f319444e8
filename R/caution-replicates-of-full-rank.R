#' Replicate weights that do not show from how many units they were made
#' @noRd
caution_replicates_of_full_rank <- function() {
  new_caution("replicates_of_full_rank",
    place = 30, check = check_full_rank, schemes = c("design", "plausible"), always = TRUE, of_groups = NA,
    meaning = "The degrees of freedom of the replicate weights are not known.",
    evidence = function(f, pair) {
      template(
        paste(
          "The %d replicate weights have full rank, as calibrated ones do, so they do not show how many units were sampled.",
          "%s degrees of freedom were assumed; with few units the interval is too narrow."
        ), f$replicates, shown(f$df, "df")
      )
    },
    advice = function(f, pair) template("Give the degrees of freedom of the design (df): sampled units less strata.")
  )
}

#' Replicates whose deviations from the weights go in as many directions as there are replicates
#'
#' A delete-one jackknife without strata has as many by its nature.
#' @noRd
check_full_rank <- function(sample, evidence) {
  drawn <- sample_design(sample)
  declared <- !is.null(drawn$names$df) || !is.null(drawn$names$cluster)
  if (is.null(drawn$replicates) || declared || drawn$method == "jackknife-1") return(NULL)
  k <- ncol(drawn$replicates)
  if (drawn$df < k - 1) return(NULL)
  list(new_finding("replicates_of_full_rank", "warning", list(replicates = k, df = drawn$df)))
}
