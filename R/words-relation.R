#' @export
format.unsere_relation <- function(x, ..., door = door_r()) {
  variables <- x$sample$variables
  c(
    set_title(say("%s and %s", heading_of(variables, x$x), heading_of(variables, x$y))),
    "",
    set_heading(estimate_words(x)),
    if (!is.na(x$r)) paste0("  ", format_strip(x$r, x$ci_low, x$ci_high, start = strip_start(x$coefficient))),
    "",
    set_entries(relation_entries(x)),
    groups_lines(x),
    set_cautions(x$cautions, variables, door),
    "",
    say("To report"),
    set_paragraph(in_words(x)),
    lines_of_questions(variables, c(x$x, x$y))
  )
}

#' What a relation says beside its estimate, under the names of its entries; `NULL` where there is nothing to say
#' @noRd
relation_entries <- function(x) {
  list(
    "controlling for" = held_clause(x), design = design_clause(x),
    plausible = if (is.null(x$imputed)) plausible_clause(x), imputed = imputed_clause(x),
    "corrected for attenuation" = corrected_clause(x),
    "unrestricted range" = unrestricted_clause(x), strength = strength_clause(x),
    test = evidence_clause(x), "smallest that matters" = smallest_clause(x),
    textbook = textbook_clause(x), pairs = pairs_clause(x$n, x$sample),
    groups = groups_clause(x), coding = if (!takes_groups(x)) coding_clause(x, x$sample$variables),
    largest = largest_clause(x),
    "R squared" = squared_clause(x), "group means" = means_clause(x), share = if (takes_groups(x)) share_clause(x),
    "without bias" = if (takes_groups(x) && !is_eta(x)) corrected_estimate(x),
    why = sprintf("%s: %s", coefficient_label(x$coefficient), why_words(x)), read = intake_clause(x)
  )
}

estimate_words <- function(x) {
  interval <- format_interval(x$ci_low, x$ci_high, digits_for(x))
  if (is_uninformative(x$ci_low, x$ci_high)) interval <- sprintf("(%s)", interval)
  interval <- if (is.na(x$ci_low)) "" else paste0(" ", interval)
  r <- sprintf("%s = %s%s", coefficient_symbol(x$coefficient), format_r(x$r, digits_for(x)), interval)
  paste0(bold(r), soft(paste0("   ", capital(coefficient_label(x$coefficient)), "; ", interval_words(x))))
}

#' Why this coefficient
#' @noRd
why_words <- function(x) {
  if (x$chosen == "asked") return(say("requested"))
  say(coefficient_record(x$coefficient)$why)
}

interval_words <- function(x) {
  if (is.na(x$ci_low)) {
    ordered <- coefficient_record(x$coefficient)$resistant
    if (takes_groups(x)) return(say("no interval: there is no variance within the groups"))
    without <- if (ordered) say("both orders agree throughout") else say("the points lie on a line")
    return(say("no interval: %s", if (x$n < 4) say("at least four pairs are needed") else without))
  }
  method <- c(
    "fisher z" = "Fisher's z", "bonett-wright z" = "Bonett and Wright's z", "tate z" = "Tate's z",
    "unit jackknife" = "the jackknife over sampled units",
    "replicate weights" = "the replicate weights",
    "plausible values" = "Rubin's rules", "imputed data" = "Rubin's rules",
    likelihood = "the likelihood of the four counts", "bca bootstrap" = "BCa bootstrap",
    jackknife = "the jackknife", clusters = "the jackknife over classes", "effective size" = "the effective sample size",
    "noncentral f" = "the noncentral F distribution",
    "noncentral chi-squared" = "the noncentral chi-squared distribution"
  )[[x$ci_method]]
  say("%s%% interval by %s", percent(x$confidence), say(method))
}

#' r without errors of measurement, beside what it is
#' @noRd
corrected_clause <- function(x) {
  if (is.null(x$corrected)) return(NULL)
  names <- inside_of(x$sample$variables, names(x$reliability))
  beyond <- ""
  if (abs(x$corrected) > 1) {
    beyond <- say("; beyond 1, which can happen when reliabilities are too low for the data")
  }
  say(
    "r would be %s %s without measurement error; reliability %s%s", format_r(x$corrected),
    format_interval(x$corrected_low, x$corrected_high),
    paste(say("%s of %s", format_r(x$reliability), names), collapse = ", "), beyond
  )
}

imputed_clause <- function(x) {
  if (is.null(x$imputed)) return(NULL)
  say(
    "%d completed data sets combined; fraction of missing information %s", as.integer(x$imputed),
    format_r(x$missing_information)
  )
}

plausible_clause <- function(x) {
  if (is.null(x$plausible)) return(NULL)
  say(
    "%d values combined; %s%% of the variance lies between them", x$plausible,
    format_number(100 * x$share_between, 2)
  )
}

#' How the cases were drawn, and what that does to their number
#' @noRd
design_clause <- function(x) {
  if (is.null(x$design)) return(NULL)
  drawn <- drawn_words(x)
  if (is.null(x$design_effect)) return(drawn)
  say(
    "%s; design effect %s, effective n %s", drawn, format_number(x$design_effect, 2), format_count(round(x$n_effective))
  )
}

# "weighted by w_final, 30 units (class) in 6 strata (district)"
drawn_words <- function(x) {
  design <- x$design
  paste(c(
    if (!is.null(design$weight)) say("weighted by %s", design$weight),
    if (length(design$replicates)) {
      say("%d replicate weights (%s, %s df)", length(design$replicates), design$method, format_df(x$design_df))
    } else {
      units <- if (is.null(design$cluster)) "cases" else say("units (%s)", design$cluster)
      sprintf(
        "%s %s%s", format_count(x$units), units,
        if (is.null(design$stratum)) "" else say(" in %d strata (%s)", x$strata, design$stratum)
      )
    }
  ), collapse = ", ")
}

#' What was controlled for, and r without that
#' @noRd
held_clause <- function(x) {
  if (is.null(x$given)) return(NULL)
  from <- if (!is.null(x$part)) say(", removed from %s only (semipartial)", inside_of(x$sample$variables, x$part)) else ""
  say(
    "%s%s; without controls %s = %s in the same cases", paste(x$given_labels, collapse = ", "), from,
    coefficient_symbol(x$coefficient), format_r(x$unheld)
  )
}

strength_clause <- function(x) say("%s by %s", strength_told(x), scale_clause(x$scale))

#' "Cohen (1988): .10 small, .30 medium, .50 large"
#' @noRd
scale_clause <- function(scale) {
  cuts <- paste(format_r(scale$cuts), say(names(scale$cuts)), collapse = between_marks())
  sprintf("%s: %s", scale$source, cuts)
}

evidence_clause <- function(x) {
  if (takes_groups(x)) return(groups_evidence(x))
  if (is.na(x$p)) return(say("no test: the points lie exactly on a line, without scatter"))
  predicted <- if (x$expect == "either") say("two-sided") else say(
    if (is_against(x)) {
      "opposite to the %s direction specified in advance"
    } else {
      "%s direction specified in advance"
    },
    say(x$expect)
  )
  paste(evidence_figures(x), predicted, sep = ", ")
}

evidence_figures <- function(x) {
  p <- format_p_clause(x$p)
  if (x$p_method == "exact") {
    counted <- isTRUE(coefficient_record(x$coefficient)$words$counts)
    return(paste(
      p,
      if (counted) {
        say("exact, over all tables with these margins")
      } else {
        say("exact permutation test, over all pairings")
      }
    ))
  }
  if (x$p_method == "permutation") {
    shuffles <- format(x$resamples, big.mark = ",")
    return(say("%s from %s random permutations (seed %s)", p, shuffles, format(x$seed, digits = 17)))
  }
  if (x$p_method == "bca bootstrap") return(say("%s from the resamples", p))
  switch(x$statistic,
    rs = paste(p, say("from the moments of the permutation distribution")),
    z = sprintf("z = %s, %s", format_statistic(x$value), p),
    sprintf("%s(%s) = %s, %s", statistic_symbol(x$statistic), format_df(x$df), format_statistic(x$value), p)
  )
}

#' What the textbook would say where the data speak against it
#' @noRd
textbook_clause <- function(x) {
  if (is.null(x$textbook)) return(NULL)
  usual <- x$textbook
  say(
    if (x$ci_method == "jackknife") {
      "%s and %s; these data call for the jackknife (leaving out one case at a time)"
    } else {
      "%s and %s, if the cases were independent"
    },
    format_interval(usual$ci_low, usual$ci_high, digits_for(x)), format_p_clause(usual$p)
  )
}

#' Both groups of a point-biserial r
#' @noRd
groups_clause <- function(x) {
  if (is.null(x$groups)) return(NULL)
  paste(say(
    "%s (%d): n = %s, mean %s, sd %s", x$groups$value, x$groups$code, format_count(x$groups$n),
    format_decimals(x$groups$mean, decimals_for(x$groups$sd, 3)),
    format_decimals(x$groups$sd, decimals_for(x$groups$sd, 3))
  ), collapse = "; ")
}

largest_clause <- function(x) {
  if (is.null(x$largest)) return(NULL)
  say("%s is the maximum possible given the group sizes", format_r(x$largest))
}

pairs_clause <- function(n, sample) {
  dropped <- sample$dropped
  if (sum(dropped) == 0) return(say("%s used, none excluded", format_count(n)))
  labels <- label_of(sample$variables, sample$names)
  why <- c(
    if (dropped[["x"]]) say("%s missing %s", labels[1], format_count(dropped[["x"]])),
    if (dropped[["y"]]) say("%s missing %s", labels[2], format_count(dropped[["y"]])),
    if (dropped[["both"]]) say("both missing %s", format_count(dropped[["both"]])),
    if ("given" %in% names(dropped) && dropped[["given"]]) {
      say("control variable missing %s", format_count(dropped[["given"]]))
    },
    if (dropped[["aside"]]) say("excluded %s", format_count(dropped[["aside"]]))
  )
  say("%s used, %s excluded: %s", format_count(n), format_count(sum(dropped)), paste(why, collapse = ", "))
}

squared_clause <- function(x) {
  if (takes_groups(x)) return(NULL)
  what <- coefficient_record(x$coefficient)$words$r_squared
  share <- if (isTRUE(x$r_squared > 0 && x$r_squared < .005)) say("less than .01") else format_r(x$r_squared)
  if (!is.null(what)) say("%s of %s is shared", share, say(what))
}

#' A relation as a reader's cells, for the page and for Markdown
#' @noRd
relation_cells <- function(x) {
  variables <- x$sample$variables
  cells <- list(
    label_of(variables, x$x), label_of(variables, x$y), format(x$n), format_r(x$r, digits_for(x)),
    format_interval(x$ci_low, x$ci_high, digits_for(x)), format_statistic(x$value),
    paste(c(format_df(x$df), if (!is.null(x$df_residual)) format_df(x$df_residual)), collapse = ", "),
    format_p_full(x$p, x$log10_p), format_r(x$r_squared)
  )
  names(cells) <- c(
    "x", "y", "n", coefficient_symbol(x$coefficient), say("%s%% interval", percent(x$confidence)),
    statistic_symbol(x$statistic), "df", "p", paste0(
      if (takes_groups(x)) coefficient_symbol(x$coefficient) else "r",
      glyphs()$squared
    )
  )
  # Where r itself is the statistic, its column would stand twice.
  cells[c(rep(TRUE, 5), !identical(x$value, x$r), !is.na(x$df), TRUE, !is.na(x$r_squared))]
}
