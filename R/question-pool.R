#' Pool a correlation over groups, waves or studies
#'
#' One correlation for each group (school, wave, study), their random-effects mean, how much they differ, and
#' the range in which r is expected in a new group. The correlations come from the cases of a study, from a
#' table of published r and n, or from both.
#'
#' @param study A study, or a data frame: cases, or a table with one row per published correlation.
#' @param x,y The two variables, if the rows are cases.
#' @param by The variable that names the groups. Default: the variable with the role cluster or group. With a
#'   table of published correlations, the name of each; default: the variable with the role case.
#' @param r,n The columns of published correlations and numbers of cases, if the rows are published
#'   correlations.
#' @param moderator A variable of the groups (for rows of cases: their mean, or the word that all cases of a
#'   group share): does r depend on it?
#' @param published Published correlations to be pooled with those of the study: a data frame with the columns
#'   `name`, `r` and `n`, and the moderator's column if there is one.
#' @eval help_arguments("pool", except = c("by", "r", "n", "moderator", "published"))
#' @return Pooled correlations (class `unsere_pooled`), a list of:
#'   * `x`, `y`, `by`, `coefficient`, `k` (number of groups), `n` (cases), `n_dropped`, `confidence`
#'   * `r`, `ci_low`, `ci_high`: the random-effects mean of Fisher's z, as r; `value`, `df`, `p`: its test,
#'     Student's t
#'   * `tau`, `tau_low`, `tau_high`: the standard deviation of the groups' true z; `q`, `q_df`, `q_p`,
#'     `i_squared` (proportion of the variance of z that is between groups)
#'   * `prediction_low`, `prediction_high`: where r is expected in a new group; `NA` for two groups;
#'     `textbook`: these limits by Student's t with k - 2 degrees of freedom, tau taken as known (`low`,
#'     `high`, `df`)
#'   * `groups`: a data frame, one row per group, of `name`, `source` (`"cases"` or `"published"`), `n`, `r`,
#'     `ci_low`, `ci_high`, `weight` (proportion), `r_without` and `tau_without` (mean and tau without the
#'     group)
#'   * `excluded`: a data frame of `name`, `n`, `reason`
#'   * `moderator`: `NULL`, or a list of `name`, `kind` (`"slope"`: z per unit; `"kinds"`), `estimate`, `se`,
#'     `statistic`, `value`, `df`, `df2`, `p`, `tau` (that is left), `shown` (r at its ends or kinds)
#'   * `asymmetry`: `NULL`, or from ten groups of unequal size on `estimate`, `value`, `df`, `p` of z on its
#'     standard error
#'   * `variance_factor`: by how much the errors of z are larger than the textbook's; `shared_cases`: whether
#'     the same persons occur in several groups; `reliability`: what r was corrected for
#' @section Method: The between-group variance is estimated by restricted maximum likelihood on Fisher's z,
#'   its interval by the Q profile; the interval of the mean is that of Hartung and Knapp with the factor not
#'   below 1. The prediction interval averages over the values of tau that agree with the data (Nagashima et
#'   al. 2019): the textbook's, which takes tau as known, held .79 to .87 of new groups among 12 or 25 with
#'   moderate tau in `bench/pooled.R`. The variance of each z is the textbook's, multiplied by one factor for
#'   all groups: of the jackknife of all cases, standardised within groups, if the data require it, or the
#'   design's. If the same persons (role case) occur in several groups, the errors' correlations are estimated
#'   from each person's influence. `bench/pooled.R` simulates all this.
#' @section Errors: `unsere_error_undefined` if fewer than two groups have a correlation; `unsere_error_usage`
#'   for an invalid argument; `unsere_error_input` for an unknown variable or an impossible published value.
#' @references Hedges, L. V., & Vevea, J. L. (1998). Fixed- and random-effects models in meta-analysis.
#'   *Psychological Methods*, 3, 486-504. Hartung, J., & Knapp, G. (2001). A refined method for the
#'   meta-analysis of controlled clinical trials with binary outcome. *Statistics in Medicine*, 20, 3875-3889.
#'   Knapp, G., & Hartung, J. (2003). Improved tests for a random effects meta-regression with a single
#'   covariate. *Statistics in Medicine*, 22, 2693-2710. Viechtbauer, W. (2007). Confidence intervals for the
#'   amount of heterogeneity in meta-analysis. *Statistics in Medicine*, 26, 37-52. Nagashima, K., Noma, H., &
#'   Furukawa, T. A. (2019). Prediction intervals for random-effects meta-analysis. *Statistical Methods in
#'   Medical Research*, 28, 1689-1702. Higgins, J. P. T., Thompson, S. G., & Spiegelhalter, D. J. (2009). A
#'   re-evaluation of random-effects meta-analysis. *Journal of the Royal Statistical Society A*, 172,
#'   137-159. Egger, M., Davey Smith, G., Schneider, M., & Minder, C. (1997). Bias in meta-analysis detected
#'   by a simple, graphical test. *British Medical Journal*, 315, 629-634.
#' @examples
#' pooled <- pool_relations(demo_study("learners"), practice_hours, speaking_score, by = centre)
#' pooled
#' draw_pooled(pooled)
#'
#' earlier <- data.frame(name = c("Spring course", "Autumn course", "Summer course"), r = c(.41, .55, .30), n = c(
#'   64,
#'   120, 41
#' ))
#' pool_relations(earlier, r = r, n = n, by = name)
#' @export
pool_relations <- function(study, x = NULL, y = NULL, by = NULL, r = NULL, n = NULL, moderator = NULL, published = NULL,
                           coefficient = "auto", given = NULL, correct_for = NULL, confidence = 0.95) {
  study <- check_study(study)
  one <- function(quo, argument) pick_optional(study, quo, argument)
  answer_pool(study, list(
    x = one(rlang::enquo(x), "x"), y = one(rlang::enquo(y), "y"), by = one(rlang::enquo(by), "by"),
    r = one(rlang::enquo(r), "r"), n = one(rlang::enquo(n), "n"), moderator = one(rlang::enquo(moderator), "moderator"),
    published = published, coefficient = coefficient, given = pick_side(study, rlang::enquo(given)),
    correct_for = correct_for, confidence = confidence
  ))
}

question_pool <- function() {
  variable <- function(help, otherwise = NULL, brief) {
    argument("variable", help, value = "VAR", otherwise = otherwise, brief = brief)
  }
  relation <- question_relate()$arguments
  new_question(
    "pool", "pool_relations", "pool a correlation over groups, waves or studies", "FILE",
    c(
      list(
        by = variable("the grouping variable", "the variable with the role cluster or group", "by"),
        r = variable("the column of published r, if the rows are published correlations", brief = "r"),
        n = variable("the column of their numbers of cases", brief = "n"),
        moderator = variable("a variable of the groups on which r may depend", brief = "moderator"),
        published = argument("table", "a file of published correlations to pool with those of the study: name, r, n",
          value = "FILE"
        )
      ),
      relation[c("coefficient", "given")],
      list(correct_for = argument("texts", "correct each r for attenuation: reliabilities such as NAME=0.8",
        value = "X=R,Y=R", brief = "correct_for"
      )),
      shared_arguments("confidence")
    ),
    answer_pool, "pool DEMO/learners.csv practice_hours speaking_score --by centre",
    open = c("x", "y"), usage = "pool FILE [X Y] --by VAR [--published FILE]", place = 8, designed = TRUE,
    section = section_of_pool()
  )
}

section_of_pool <- function() {
  new_brief_section(
    "pool", 5.5, function() {
      row <- closed(list(
        name = string_key(), r = list(type = "number"), n = list(type = "number"),
        moderator = list(type = list("number", "string"))
      ), c("name", "r", "n"))
      keys <- c(
        list(x = string_key(), y = string_key()), question_keys(question_pool()),
        list(published = list(type = "array", items = row))
      )
      list(type = "array", description = "Correlations pooled over groups, waves or studies.", items = closed(keys))
    },
    entries = identity, names = function(entry) entry[c("x", "y", "by", "r", "n", "moderator", "given")],
    about = function(entry) template("%s and %s, pooled", or_default(entry$x, entry$r), or_default(entry$y, entry$n)),
    answer = function(study, entry, brief, settings, known) {
      published <- if (length(entry$published)) do.call(rbind, lapply(entry$published, as.data.frame))
      arguments <- section_arguments(question_pool(), entry[names(entry) != "published"], settings)
      answer_pool(study, c(arguments, entry[c("x", "y")], list(published = published)))
    },
    title = template("The same everywhere?"), many = TRUE, result = "pooled"
  )
}

answer_pool <- function(study, given) {
  options <- settle_arguments(question_pool(), given)
  of_cases <- !is.null(options$x) && !is.null(options$y)
  if (of_cases && (!is.null(options$r) || !is.null(options$n))) {
    abort_usage("`r` and `n` name columns of published correlations.", "Give either x and y, or r and n.")
  }
  if (!of_cases && (is.null(options$r) || is.null(options$n))) {
    abort_usage("What is to be pooled is not given.", "Give x and y, or the columns r and n of published correlations.")
  }
  gathered <- if (of_cases) pool_groups(study, options) else pool_table(study, options)
  further <- published_groups(options)
  groups <- rbind(gathered$groups, further)
  usable <- !is.na(groups$variance)
  excluded <- data.frame(name = groups$name, n = groups$n, reason = groups$reason)[!usable, ]
  groups <- groups[usable, ]
  if (nrow(groups) < 2L) {
    abort_undefined(
      problem("Two groups or more need a correlation; there are %d.", nrow(groups)),
      "A group needs more than three cases with varying values."
    )
  }
  rownames(groups) <- rownames(excluded) <- NULL
  finish_pooled(groups, excluded, gathered, options)
}
