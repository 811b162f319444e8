#' Declare the sampling design
#'
#' Declares weights, strata, clusters or replicate weights. [relate()], [correlation_matrix()], [fit_line()],
#' [rank_predictors()], [compare_relations()] and [overview()] then use the design: r is weighted, and its test
#' and interval come from a jackknife over the sampling units (classes, schools) within strata, or from replicate
#' weights. Codebooks declare the same by the roles `weight`, `stratum`, `cluster` and `replicate`, briefs under
#' `design`, the command by `--weight`, `--stratum`, `--cluster` and `--replicates`. If a codebook names both
#' clusters and replicate weights, the clusters are used unless `replicates` are given here with their `method`.
#'
#' @param study A study, or a data frame.
#' @param weight The variable with the case weights: a bare name or a string. Default: none.
#' @param stratum,cluster The variables with the stratum and the sampling unit of each case. Default: none.
#' @param replicates Replicate weights: names, or a tidyselect expression such as `starts_with("rw")`. Default:
#'   none.
#' @param method How the replicate weights were made: `"jackknife-1"`, `"jackknife-n"`, `"brr"`, `"fay"` or
#'   `"bootstrap"`.
#' @param factor Fay's factor, between 0 and 1; for `"jackknife-n"` one factor per replicate.
#' @param df Degrees of freedom of tests and intervals, a number of 1 or more. Default: units minus strata; for
#'   replicate weights without `cluster`, the rank described under "Degrees of freedom".
#' @return The study, with the design.
#' @section Degrees of freedom: Replicate weights carry no more information than the sampling units from which they
#'   were made: 200 bootstrap replicates of 8 schools have 7 degrees of freedom. If `cluster` (and `stratum`) are
#'   also given, the degrees of freedom are units minus strata. Otherwise they are the rank of the matrix of
#'   replicate weights minus the full-sample weights, which equals units minus strata for jackknife, balanced,
#'   Fay's and rescaled bootstrap replicates (and one less than the number of units for an unstratified
#'   jackknife). A singular value counts if it exceeds 1e-6 of the largest and what the rounding of the weights
#'   explains. Calibrated replicates often have full rank, which is uninformative; a caution then asks for `df`.
#' @section Errors: `unsere_error_input` for weights that are missing, negative or text, a cluster in two strata, a
#'   stratum with one unit, a single unit, or replicates without variables; `unsere_error_usage` for an invalid
#'   argument.
#' @references Wolter, K. M. (2007). *Introduction to variance estimation* (2nd ed.). Springer.
#' @examples
#' learners <- set_design(demo_study("learners"), cluster = centre)
#' relate(learners, practice_hours, speaking_score)
#' @export
set_design <- function(
  study, weight = NULL, stratum = NULL, cluster = NULL, replicates = NULL, method = NULL,
  factor = NULL, df = NULL
) {
  study <- check_study(study)
  quosure <- rlang::enquo(replicates)
  # A pattern such as "rw*" stands for itself.
  expression <- rlang::quo_get_expr(quosure)
  names <- if (is.character(expression)) expression else if (!rlang::quo_is_null(quosure)) pick_several(study, list(quosure))
  with_design(study, list(
    weight = pick_optional(study, rlang::enquo(weight), "weight"),
    stratum = pick_optional(study, rlang::enquo(stratum), "stratum"),
    cluster = pick_optional(study, rlang::enquo(cluster), "cluster"),
    replicates = names, method = method, factor = factor, df = df
  ))
}

replicate_methods <- c("jackknife-1", "jackknife-n", "brr", "fay", "bootstrap")

#' A study with a design, checked
#' @param design A list of names: `weight`, `stratum`, `cluster`, `replicates`; `method`, `factor`.
#' @noRd
with_design <- function(study, design) {
  design <- Filter(Negate(is.null), design)
  if (!length(design)) return(study)
  for (name in c("weight", "stratum", "cluster")) if (!is.null(design[[name]])) check_variable(study, design[[name]])
  if (length(design$replicates)) design$replicates <- check_variables(study, design$replicates)
  if (length(design$replicates)) {
    design$method <- one_of(or_default(design$method, "jackknife-1"), replicate_methods, "method")
  } else if (!is.null(design$method)) {
    abort_usage("`method` states how replicate weights were made, but there are none.", "Name them as `replicates`.")
  }
  if (is.null(design$weight) && is.null(design$cluster) && is.null(design$stratum) && !length(design$replicates)) {
    abort_usage("A design needs a weight, a stratum, a cluster or replicates.", "Name the variable.")
  }
  if (!is.null(design$df)) {
    if (!is.numeric(design$df) || length(design$df) != 1L || !isTRUE(design$df >= 1)) {
      abort_usage("`df` must be one number of 1 or more.", "Units minus strata, for example 7.")
    }
  }
  study$design <- design
  design_vectors(study)
  roles <- c(weight = "weight", stratum = "stratum", cluster = "cluster")
  for (name in intersect(names(roles), names(design))) {
    study <- with_entry(study, design[[name]], list(role = if (name == "weight") "weight" else roles[[name]]))
  }
  for (name in design$replicates) study <- with_entry(study, name, list(role = "replicate"))
  study$converted <- new.env(parent = emptyenv())
  study
}

#' The design of a study: as set, or as the roles in its codebook say
#' @noRd
design_of <- function(study) {
  if (!is.null(study$design)) return(study$design)
  book <- study$codebook
  of <- function(role) {
    names <- book$variable[book$role %in% role]
    if (length(names)) names
  }
  design <- list(
    weight = of("weight")[1], stratum = of("stratum")[1], cluster = of("cluster")[1],
    # How replicates were made is nothing a codebook says: where it names units, these tell.
    replicates = if (is.null(of("cluster"))) of("replicate")
  )
  design <- Filter(function(one) length(one) && !anyNA(one), design)
  if (length(design$replicates)) design$method <- "jackknife-1"
  if (length(design)) design
}

#' The weights of all cases, or `NULL` where they have none
#' @noRd
design_weight <- function(study) {
  weight <- design_of(study)$weight
  if (!is.null(weight)) check_weights(study, weight)
}

#' The design as vectors over all cases, checked
#' @return A list: `weight`, `unit`, `stratum` (whole numbers from 1 on), `replicates` (a matrix), `names`; or `NULL`.
#' @noRd
design_vectors <- function(study) {
  design <- design_of(study)
  if (is.null(design)) return(NULL)
  n <- study_size(study)
  weight <- if (is.null(design$weight)) rep(1, n) else check_weights(study, design$weight)
  code <- function(name) {
    if (is.null(name)) return(NULL)
    values <- study_column(study, name)
    if (!is.numeric(values)) values <- as.character(values)
    if (anyNA(values)) {
      at <- file_rows(study, which(is.na(values)))
      abort_input(problem("%s is missing in row %d.", name, as.integer(at[1])), "Every case needs its unit and its stratum.")
    }
    match(values, unique(values))
  }
  stratum <- or_default(code(design$stratum), rep(1L, n))
  unit <- code(design$cluster)
  if (is.null(unit)) unit <- seq_len(n)
  home <- stratum[match(seq_len(max(unit)), unit)]
  astray <- which(home[unit] != stratum)
  if (length(astray)) {
    abort_input(
      problem("A unit of %s lies in two strata (row %d).", design$cluster, as.integer(file_rows(study, astray[1]))),
      "Units of different strata need names of their own."
    )
  }
  by_replicates <- length(design$replicates) > 0L
  if (!by_replicates) check_units(home, design)
  replicates <- if (by_replicates) vapply(design$replicates, function(name) check_weights(study, name), numeric(n))
  list(
    weight = weight, unit = unit, stratum = stratum, design = design, replicates = replicates,
    df = if (!is.null(design$df)) design$df else if (by_replicates) replicates_df(study, replicates, weight, design, home)
  )
}

# Of replicate weights, once a design: it takes their singular values.
replicates_df <- function(study, replicates, weight, design, home) {
  if (!is.null(design$cluster)) return(max(1, length(home) - length(unique(home))))
  kept_with_study(study, "replicates", design[c("weight", "replicates")], function() rank_of_replicates(replicates, weight))
}

check_units <- function(home, design) {
  if (length(home) < 2L) abort_input(
    "There is only one unit; differences between units cannot be estimated.",
    "Give a cluster with several units."
  )
  counts <- table(home)
  if (any(counts < 2L)) {
    abort_input(
      problem("A stratum of %s has a single unit.", or_default(design$stratum, "the design")),
      "Merge it with a similar stratum, in a copy of the data."
    )
  }
}

check_weights <- function(study, name) {
  values <- study_column(study, name)
  if (!is.numeric(values)) abort_input(problem("The weights %s contain text.", name), "Weights are numbers.")
  if (!isTRUE(min(values) >= 0)) {
    wrong <- which(is.na(values) | values < 0)
    abort_input(
      problem(
        "The weight %s is %s in row %d.", name, if (is.na(values[wrong[1]])) "missing" else format(values[wrong[1]]),
        as.integer(file_rows(study, wrong[1]))
      ),
      "Every case needs a weight of 0 or more."
    )
  }
  if (max(values) == 0) abort_input(problem("The weights %s are all 0.", name), "Name the right variable.")
  as.double(values)
}

has_design <- function(source) !is.null(design_of(source))
