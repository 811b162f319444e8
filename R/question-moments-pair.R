# One pair whose moments alone are at hand: its relation and its line.

#' @param names Of the pair; `options$given` further ones, controlled for; `facts` what a database said beside the moments:
#'   `dropped` (cases left out, by why), `coding`, `groups`, `decisions`, `findings`, `ends` (of the pair, where moments
#'   are of ranks), `given_labels`, `more` (of the sample: `cells` counts the cases of a figure).
#' @noRd
relation_of_moments <- function(moments, names, options, record, facts = list()) {
  check_moments_pair(moments, c(names, options$given), options)
  pair <- pair_of_moments(moments, names[1], names[2])
  plain <- pair
  n <- pair$n
  if (length(options$given)) pair <- measure_partial_products(products_of_moments(
    moments,
    c(names, options$given)
  ), n, names)
  # The sums of a database are of fifteen digits: what they leave beyond is theirs, not the data's.
  if (length(facts) && pair$unexplained < 1e-14) pair[c("r", "unexplained")] <- list(sign(pair$r), 0)
  free <- n - or_default(pair$controls, 0)
  variance <- record$z_variance(pair$r, free)
  evidence <- new_evidence(
    "moments", pair_sample(moments, plain, names, facts),
    list(coefficient = record$name, r = pair$r, unexplained = pair$unexplained, n = n), pair$r, pair$unexplained, n,
    z_variance = variance, test = test_student(pair$r, pair$unexplained, free, options$expect),
    interval = if (is.null(facts$groups)) {
      interval_by_z(pair$r, pair$unexplained, variance, options$confidence, record$z_method)
    } else {
      interval_tate(pair$r, pair$unexplained, n, facts$groups$n[2] / n, options$confidence)
    },
    groups = facts$groups, given = options$given, given_labels = if (length(options$given)) facts$given_labels,
    unheld = if (length(options$given)) plain$r
  )
  finish_relation(evidence, options, new_cautions(facts$findings, names[1], names[2]))
}

check_moments_pair <- function(moments, names, options) {
  stray <- setdiff(names, moments$variables)
  if (length(stray)) abort_input(
    problem("These moments have no variable \"%s\".", stray[1]), suggest_names(stray[1], moments$variables, "variables")
  )
  if (anyDuplicated(names)) abort_usage(
    problem("%s is given twice.", names[duplicated(names)][1]), "A relation takes different variables."
  )
  requested <- c(options$test, options$interval)
  if (!all(requested %in% textbook_kinds) || length(options$correct_for) || length(options$part)) {
    abort_usage("Moments allow only the textbook test and interval.", "Leave the others out.")
  }
}

# A sample of a pair whose rows are not at hand: of its columns the ends alone.
pair_sample <- function(moments, pair, names, facts) {
  at <- match(names, moments$variables)
  ends <- if (is.null(facts$ends)) moments$ends[, at] else facts$ends
  n <- pair$n
  dropped <- facts$dropped[1:4]
  if (length(facts$given_labels)) dropped <- c(dropped, given = facts$dropped[["used"]] - n)
  if (is.null(dropped)) {
    dropped <- c(
      x = pair$alone[2] - n, y = pair$alone[1] - n, both = moments$n - sum(pair$alone) + n, aside = 0
    )
  }
  none <- stats::setNames(rep(list(numeric()), 2L), names)
  new_sample(
    columns = none, variables = moments$codebook[at, ], coding = or_default(facts$coding, list(x = list(), y = list())),
    origin = list(decisions = or_default(facts$decisions, character())),
    more = or_default(facts$more, new.env(parent = emptyenv())), row = integer(),
    x = ends[, 1], y = ends[, 2], dropped = dropped
  )
}

#' The straight line of two variables whose moments alone are at hand
#' @noRd
line_of_moments <- function(moments, x, y, options, facts = list()) {
  check_moments_pair(moments, c(x, y), list())
  if (!identical(options$shape, "linear")) abort_usage("Moments allow only a straight line.", "Leave out `shape`.")
  pair <- pair_of_moments(moments, x, y)
  slope <- pair$product / pair$squares[1]
  n <- pair$n
  exact <- pair$unexplained < 1e-14
  unexplained <- if (exact) 0 else pair$unexplained
  fit <- list(
    estimates = c(pair$mean[2] - slope * pair$mean[1], slope), residual_squares = unexplained * pair$squares[2],
    total_squares = pair$squares[2], unit = c(x = 1, y = 1), centre = pair$mean[1], centred = c(pair$mean[2], slope),
    centred_covariance = diag(c(1 / n, 1 / pair$squares[1])),
    covariance = matrix(c(
      1 / n + pair$mean[1]^2 / pair$squares[1], rep(-pair$mean[1] / pair$squares[1], 2),
      1 / pair$squares[1]
    ), 2L)
  )
  spread <- sqrt(fit$residual_squares / (n - 2))
  sample <- pair_sample(moments, pair, c(x, y), facts)
  line <- new_line(
    x = x, y = y, shape = "linear", n = n, n_dropped = sum(sample$dropped), confidence = options$confidence, r = pair$r,
    r_squared = 1 - unexplained, adj_r_squared = 1 - unexplained * (n - 1) / (n - 2), residual_sd = spread,
    terms = line_terms(fit, n, options$confidence, exact), variance = line_variance(fit, n, exact),
    predictions = no_predictions(), solutions = no_solutions(), cautions = new_cautions(
      facts$findings, x,
      y
    ), sample = sample,
    basis = c(fit[c("centre", "centred", "centred_covariance", "unit")], list(residual_sd = spread, df = n - 2))
  )
  with_predictions(line, options)
}

#' A sample whose rows are not at hand, only their moments
#' @noRd
moments_sample <- function(moments, spreads, facts = list()) {
  none <- stats::setNames(rep(list(numeric()), length(moments$variables)), moments$variables)
  new_sample(
    columns = none, variables = moments$codebook, coding = or_default(facts$codings, lapply(none, function(column) list())),
    origin = list(decisions = or_default(facts$decisions, character())),
    more = new.env(parent = emptyenv()), row = integer(), spreads = spreads
  )
}
