# r corrected for unreliability: what it would be were both measured without error; beside r, never instead of it.

#' A relation with its r corrected, where that is asked
#'
#' @param options Settled arguments; `correct_for` names scores whose items tell how reliable they are, or gives
#'   reliabilities as `name=0.8`.
#' @references Spearman (1904), American Journal of Psychology 15, 72-101.
#' @noRd
with_correction <- function(study, relation, options) {
  if (is.null(options$correct_for)) return(relation)
  plain <- is.null(relation$given) && is.null(relation$design) && is.null(relation$plausible)
  if (!plain) abort_usage(
    "With control variables, a design or plausible values, r is not corrected for attenuation.",
    "Do without them."
  )
  if (!coefficient_record(relation$coefficient)$products) {
    abort_usage(problem("%s is not corrected for attenuation.", capital(relation$coefficient)), "Use pearson or spearman.")
  }
  reliabilities <- parse_reliabilities(options$correct_for, c(relation$x, relation$y))
  sides <- lapply(names(reliabilities), function(name) reliability_of(study, name, reliabilities[[name]], relation$sample))
  names(sides) <- names(reliabilities)
  share <- prod(vapply(sides, `[[`, 0, "value"))
  corrected <- relation$r / sqrt(share)
  relation$reliability <- vapply(sides, `[[`, 0, "value")
  relation$corrected <- corrected
  around <- interval_corrected(relation, sides, share)
  relation[c("corrected_low", "corrected_high")] <- list(around[1], around[2])
  relation
}

#' @return A list by name: `NULL` where the items tell, else the reliability.
#' @noRd
parse_reliabilities <- function(reliabilities, names) {
  named <- if (is.null(names(reliabilities))) rep(FALSE, length(reliabilities)) else nzchar(names(reliabilities))
  reliabilities <- ifelse(named, sprintf("%s=%s", names(reliabilities), unlist(reliabilities)), unlist(reliabilities))
  parts <- strsplit(as.character(unlist(reliabilities)), "=", fixed = TRUE)
  names_given <- trimws(vapply(parts, `[[`, "", 1L))
  stray <- setdiff(names_given, names)
  if (length(stray)) abort_usage(
    problem("%s is not one of the two variables.", stray[1]),
    problem("Allowed: %s.", toString(names))
  )
  values <- lapply(parts, function(part) if (length(part) > 1L) suppressWarnings(as.numeric(trimws(part[2]))) else NULL)
  wrong <- vapply(values, function(v) !is.null(v) && !isTRUE(v > 0 && v <= 1), NA)
  if (any(wrong)) abort_usage(
    "A reliability lies above 0 and is at most 1.",
    problem("For example %s=0.8.", names_given[wrong][1])
  )
  stats::setNames(values, names_given)
}

#' How reliable one side is: as told, or alpha of its items among the cases of the pair
#' @return A list: `value`, and `replicates`, it without each case (`NULL` where it is told).
#' @noRd
reliability_of <- function(study, name, declared, sample) {
  if (!is.null(declared)) return(list(value = declared))
  parts <- study_scores(study)[[name]]
  if (is.null(parts)) {
    abort_usage(
      problem("The reliability of %s is not known.", name),
      problem("Give it, as %s=0.8, or compute the score from its items with score().", name)
    )
  }
  items <- do.call(cbind, turned_items(study, parts$items, parts$key, parts$reverse))[sample$row, , drop = FALSE]
  whole <- rowSums(is.na(items)) == 0
  known <- items[whole, , drop = FALSE]
  value <- if (sum(whole) >= 5L) alpha_of_items(item_moments(asplit(known, 2))$covariance) else NA_real_
  if (!isTRUE(value > 0)) {
    abort_undefined(problem(
      "The items of %s have no reliability to correct for (alpha %s).", name,
      format(signif(value, 2))
    ))
  }
  replicates <- rep(value, length(whole))
  replicates[whole] <- alpha_without_persons(known)
  list(value = value, replicates = replicates)
}

# Where the items tell, by leaving out each case from r and from the reliabilities; else the ends of r's own interval.
interval_corrected <- function(relation, sides, share) {
  replicates <- lapply(sides, `[[`, "replicates")
  if (all(vapply(replicates, is.null, NA))) return(c(relation$ci_low, relation$ci_high) / sqrt(share))
  record <- coefficient_record(relation$coefficient)
  shares <- Reduce(`*`, lapply(sides, function(side) if (is.null(side$replicates)) side$value else side$replicates))
  without <- leave_one_out(relation$estimate$x, relation$estimate$y, record$resistant, 2L) / sqrt(pmax(shares, 1e-12))
  half <- stats::qt((1 + relation$confidence) / 2, relation$n - 2) * sqrt(jackknife_variance(without))
  relation$corrected + c(-half, half)
}
