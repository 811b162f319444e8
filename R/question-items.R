#' Analyse the items of a scale or test
#'
#' Gives for each item the number of answers, its mean or difficulty (proportion correct), its item-rest
#' correlation and alpha without it; for multiple choice the use of each option; and for the whole scale
#' alpha and omega. Missing answers are handled pairwise or listwise.
#'
#' @param study A study, or a data frame.
#' @param ... The items: bare names, strings, or tidyselect expressions; three or more.
#' @param key For multiple choice, the correct answers: `c(q1 = "B", q2 = "D")`, or as one string in the order
#'   of the items (`"BDAC"`). Items with a key are scored 1
#'   if correct and 0 if not; a blank is missing. Or the name of a CSV file with the columns `item` and `key`;
#'   its items are analysed if none are named.
#' @param omitted,not_reached Codes of an omitted answer, which is scored as wrong (0), and of an item that the
#'   person did not reach or was not given, which is treated as missing. Default: none.
#' @param reverse Negatively worded items, which are reverse-scored first. Default: none.
#' @param missing `"pairwise"`: each figure uses the answers that are present; `"listwise"`: all figures use
#'   the persons who answered every item. Default: `"pairwise"`.
#' @param by A grouping variable: alpha in each group, with Feldt's interval. Default: none.
#' @param confidence The confidence level of the intervals. Default: .95.
#' @return Items (class `unsere_items`), a list of:
#'   * `items`: a data frame of `item`, `n` (answers used), `missing`, `mean` (with a key: proportion
#'     correct), `mean_low`, `mean_high` (Wilson's interval of a proportion), `sd`, `item_rest` (r with the sum
#'     of the other items), `ci_low`, `ci_high` (jackknife), `alpha_without`, `flags`
#'   * `options` (with a key): `item`, `option`, `right`, `share`, `rest` (correlation of choosing the option
#'     with the rest score)
#'   * `alpha`, `alpha_low`, `alpha_high` (Feldt), `alpha_jackknife`, `advised` (the interval to report:
#'     `"Feldt"`; `"jackknife"` if it is wider by a tenth or more with 30 persons or more, as with heavy
#'     tails, or if answers are missing; `"design"`)
#'   * `omega`, `omega_low`, `omega_high` (grouped jackknife with 200 groups; 20 groups above 60 items; no
#'     interval above 200 items)
#'   * `mean_r`, `least_r`, `most_r` (between items), `sem` (standard error of measurement, in points of the
#'     sum)
#'   * `n` (persons who answered at least one item), `n_complete` (persons who answered all)
#'   * `groups` (with `by`): `group`, `n`, `alpha`, `alpha_low`, `alpha_high`
#'   * `variables`, `keyed`, `confidence`
#'   * `sets`, `imputed`: how many completed data sets (`TRUE`) or plausible values (`FALSE`) were pooled, where
#'     there are any
#' @section Errors: `unsere_error_usage` for fewer than three items; `unsere_error_input` for a key that does
#'   not occur, or for text items without a key; `unsere_error_undefined` if too few persons answered.
#' @section Flags: `too_easy`, `too_hard` (proportion correct above .95 or below .2; mean in the outer
#'   twentieth of the range), `negative` (item-rest r and its interval below 0), `adds_nothing` (item-rest r
#'   below .1 with an interval that includes 0), `redundant` (r of .9 or more with another item, named in
#'   `redundant_with`), `distractor` (a wrong option correlates positively with the rest score), `constant`.
#'   Several flags are separated by semicolons.
#' @references Cronbach, L. J. (1951). Coefficient alpha and the internal structure of tests. *Psychometrika*, 16, 297-334.
#'   Feldt, L. S. (1965). The approximate sampling distribution of Kuder-Richardson reliability coefficient twenty.
#'   *Psychometrika*, 30, 357-370. McDonald, R. P. (1999). *Test theory*. Erlbaum. Harman, H. H., & Jones, W. H. (1966).
#'   Factor analysis by minimizing residuals (minres). *Psychometrika*, 31, 351-368. Wilson, E. B. (1927). Probable
#'   inference,
#'   the law of succession, and statistical inference. *Journal of the American Statistical Association*, 22, 209-212.
#' @examples
#' learners <- demo_study("learners")
#' check_items(learners, m1, m2, m3, m4, m5, m6, reverse = m4)
#' @export
check_items <- function(study, ..., key = NULL, reverse = NULL, missing = "pairwise", by = NULL, confidence = 0.95,
                        omitted = NULL, not_reached = NULL) {
  study <- check_study(study)
  given <- list(
    names = pick_several(study, rlang::enquos(...)), key = key, reverse = pick_side(study, rlang::enquo(reverse)),
    missing = missing, by = pick_optional(study, rlang::enquo(by), "by"), confidence = confidence,
    omitted = omitted, not_reached = not_reached
  )
  answer_items(study, given)
}

question_items <- function() {
  new_question(
    "items", "check_items", "analyse the items and the reliability of a scale", "FILE", c(
      list(
        key = argument(
          "text",
          "the correct answers of multiple choice: q1=B,q2=D, BDAC in the items' order, or a CSV file of items and keys",
          otherwise = "those in a row of the file labelled as the key",
          value = "Q=A,...", brief = "key"
        ),
        omitted = argument(
          "texts", "codes of omitted answers, which are scored as wrong",
          value = "CODE,...", brief = "omitted"
        ),
        not_reached = argument(
          "texts", "codes of items not reached or not administered, which are treated as missing",
          value = "CODE,...", brief = "not_reached"
        ),
        reverse = argument(
          "variables", "negatively worded items, which are reverse-scored",
          value = "A,B", brief = "reverse"
        ),
        missing = argument(
          "choice", "missing answers: pairwise (all available pairs) or listwise (persons who answered every item)",
          default = "pairwise", value = "HOW", allowed = c("pairwise", "listwise"), brief = "missing"
        ),
        by = argument("variable", "a grouping variable: alpha in each group", value = "VAR", brief = "by")
      ), shared_arguments("confidence")
    ),
    answer_items, "items DEMO/learners.csv m1 m2 m3 m4 m5 m6 --reverse m4",
    open = "names", usage = "items FILE VAR ... [--key V=A,...] [--reverse V]", place = 7, designed = TRUE,
    section = section_of_items()
  )
}

section_of_items <- function() {
  new_brief_section(
    "items", 4, function() {
      keys <- utils::modifyList(question_keys(question_items()), list(key = list(
        type = "object", description = "The right answers of multiple choice, by item.", additionalProperties = string_key()
      )))
      closed(c(list(variables = strings_key()), keys), "variables")
    },
    names = function(entry) entry[c("variables", "reverse", "by")],
    about = function(entry) template("the scale of %s", counted(length(unlist(entry$variables)), "item", "items")),
    answer = function(study, entry, brief, settings, known) {
      arguments <- section_arguments(question_items(), entry[names(entry) != "key"], settings)
      answer_items(study, c(arguments, list(names = as.character(unlist(entry$variables)), key = unlist(entry$key))))
    }
  )
}

answer_items <- function(study, given) {
  key <- parse_key(given$key, given$names)
  given$key <- NULL
  settled <- settle_arguments(question_items(), given)
  if (is.null(key)) key <- key_in_study(study, settled$names)
  if (!length(settled$names)) settled$names <- check_variables(study, names(key))
  if (length(settled$names) < 3L) abort_usage("A scale needs three items or more.", "Name them all.")
  stray <- setdiff(c(names(key), settled$reverse), settled$names)
  if (length(stray)) abort_usage(problem("%s is not one of the items.", stray[1]), "Name it among the items.")
  sets <- completed_studies(study, settled$names)
  results <- combine_items(lapply(sets, items_of_study, key, settled), settled$confidence)
  result <- results$result
  if (length(results$constant)) result$items <- with_constant_items(result$items, results$columns[results$constant])
  result$items <- result$items[match(settled$names, result$items$item), ]
  result$items$missing <- unname(results$unanswered[settled$names])
  rownames(result$items) <- NULL
  book <- book_entries(study, settled$names)
  keyed <- intersect(settled$names, names(key))
  options <- if (length(keyed)) option_table(study, results$columns, key)
  curves <- if (length(keyed)) option_curves(study, results$columns, key)
  result$items[c("flags", "redundant_with")] <- flags_of_items(result, results$columns, options)
  new_items(c(result, list(
    options = options, curves = curves, groups = results$groups,
    variables = book, keyed = keyed, missing = settled$missing, confidence = settled$confidence, reverse = settled$reverse
  ), told_sets(study, sets)))
}

# The right answers that the file itself gives, of items whose answers are words without an order.
key_in_study <- function(study, names) {
  key <- study_provenance(study)$answer_key
  named <- intersect(if (length(names)) names else names(key), names(key))
  key <- key[named[level_of(study, named) %in% c("nominal", "binary")]]
  if (length(key)) key
}

items_of_study <- function(study, key, options) {
  columns <- lapply(stats::setNames(options$names, options$names), function(name) item_scores(study, name, key, options))
  unanswered <- vapply(columns, function(column) sum(is.na(column)), 0L)
  if (options$missing == "listwise") columns <- answers_of_whole(columns)
  constant <- !vapply(columns, differs, NA)
  if (sum(!constant) < 3L) abort_undefined("Fewer than three of these items vary.", "A scale needs three items that do.")
  list(
    columns = columns, unanswered = unanswered, constant = names(columns)[constant],
    result = items_result(columns[!constant], options, design_vectors(study)),
    groups = alpha_by(study, columns[!constant], options$by, options$confidence)
  )
}

# What each completed data set shows as one, where there are several.
combine_items <- function(each, confidence) {
  one <- each[[1]]
  if (length(each) == 1L) return(one)
  results <- lapply(each, `[[`, "result")
  of <- function(name) lapply(results, `[[`, name)
  one$result$items <- combine_tables(
    of("items"), one$result$items$n - 2, confidence,
    columns = c(value = "item_rest", low = "ci_low", high = "ci_high")
  )
  for (name in c("mean", "mean_low", "mean_high", "sd", "alpha_without")) {
    one$result$items[[name]] <- mean_of_sets(lapply(of("items"), `[[`, name))
  }
  for (name in c("mean_r", "least_r", "most_r", "sem", "r")) one$result[[name]] <- mean_of_sets(of(name))
  scale <- function(value, ends) {
    combine_intervals(
      unlist(value), vapply(ends, `[`, 0, 1L), vapply(ends, `[`, 0, 2L), one$result$n - 1, confidence, "reliability"
    )
  }
  ends <- function(low, high) Map(c, of(low), of(high))
  feldt <- scale(of("alpha"), ends("alpha_low", "alpha_high"))
  cases <- scale(of("alpha"), of("alpha_jackknife"))
  omega <- scale(of("omega"), ends("omega_low", "omega_high"))
  one$result[c("alpha", "alpha_low", "alpha_high")] <- feldt[c("value", "low", "high")]
  one$result[c("omega", "omega_low", "omega_high")] <- omega[c("value", "low", "high")]
  one$result$alpha_jackknife <- c(cases$low, cases$high)
  one$groups <- combine_tables(
    lapply(each, `[[`, "groups"), one$groups$n - 1, confidence, "reliability",
    c(value = "alpha", low = "alpha_low", high = "alpha_high")
  )
  one
}

# Who left one of the items out is left out of all.
answers_of_whole <- function(columns) {
  part <- Reduce(`|`, lapply(columns, is.na))
  lapply(columns, function(column) {
    column[part] <- NA
    column
  })
}

new_items <- function(fields) {
  new_result("items", fields, c("items", "alpha", "alpha_low", "alpha_high", "omega", "mean_r", "sem", "n"))
}

items_result <- function(columns, options, design = NULL) {
  moments <- item_moments(columns, design$weight)
  covariance <- moments$covariance
  if (min(moments$n) < 5L) abort_undefined(
    "Too few persons answered the same items.",
    "Five cases in common are needed for each pair."
  )
  k <- length(columns)
  shown <- lapply(columns, function(column) column[!is.na(column)])
  binary <- vapply(shown, is_right_or_wrong, NA)
  n <- lengths(shown)
  mean <- if (is.null(design)) {
    vapply(shown, base::mean, 0)
  } else {
    vapply(columns, function(v) sum(design$weight[!is.na(v)] * v[!is.na(v)]) / sum(design$weight[!is.na(v)]), 0)
  }
  limits <- interval_wilson(pmin(1, pmax(0, mean)), n, options$confidence)
  limits[!binary, ] <- NA
  rest <- item_rest(covariance)
  alpha <- alpha_of_items(covariance)
  omega <- omega_of_items(covariance)
  whole <- nrow(moments$complete)
  used <- persons_used(columns)
  r <- covariance / sqrt(outer(diag(covariance), diag(covariance)))
  between <- r[upper.tri(r)]
  sure <- how_sure_items(columns, moments, used, list(alpha = alpha, omega = omega, rest = rest), options, design)
  if (!is.null(design)) limits[] <- NA
  list(
    items = data.frame(
      item = names(columns), n = n, missing = lengths(columns) - n, mean = mean, mean_low = limits[, 1],
      mean_high = limits[, 2],
      sd = sqrt(diag(covariance)), item_rest = rest, ci_low = sure$rest[, 1], ci_high = sure$rest[, 2],
      alpha_without = alpha_without_each(covariance), row.names = NULL
    ),
    alpha = alpha, alpha_low = sure$feldt[1], alpha_high = sure$feldt[2], alpha_jackknife = sure$jackknife,
    advised = sure$advised,
    omega = omega, omega_low = sure$omega[1], omega_high = sure$omega[2],
    design = design$design, mean_r = base::mean(between), least_r = min(between), most_r = max(between),
    sem = sqrt(sum(covariance) * max(0, 1 - alpha)), n = length(used), n_complete = whole,
    r = r
  )
}

#' The intervals of a scale's figures, over the persons that the figures rest on
#' @return A list: `feldt`, `jackknife`, `omega` (two ends each), `rest` (a matrix), `advised`.
#' @noRd
how_sure_items <- function(columns, moments, used, about, options, design) {
  k <- length(columns)
  whole <- nrow(moments$complete)
  nowhere <- c(NA_real_, NA_real_)
  gaps <- length(used) > whole && is.null(design$replicates)
  units <- if (is.null(design)) {
    persons_as_units(if (gaps) length(used) else whole, k)
  } else {
    design_of_cases(design, if (gaps) used else moments$at)
  }
  # Of hundreds of items omega has no interval, and the rest needs no parts.
  few <- (if (gaps) length(used) else whole) < 10L || (is.null(design) && k > most_in_parts)
  anew <- if (few) NULL else if (gaps) {
    intervals_of_answers(lapply(columns, `[`, used), units, options$confidence, about, k <= most_with_omega)
  } else {
    intervals_of_items(moments$complete, units, options$confidence, about, is.null(design) || k <= most_with_omega)
  }
  unknown <- matrix(NA_real_, k, 2L)
  if (!is.null(design)) {
    ends <- or_default(anew$alpha, nowhere)
    return(list(
      feldt = ends, jackknife = ends, omega = or_default(anew$omega, nowhere), rest = or_default(anew$rest, unknown),
      advised = "design"
    ))
  }
  feldt <- interval_feldt(about$alpha, persons_of_pairs(moments), k, options$confidence)
  jackknife <- if (gaps) {
    or_default(anew$alpha, nowhere)
  } else {
    interval_alpha_jackknife(about$alpha, moments$complete, options$confidence)
  }
  list(
    feldt = feldt, jackknife = jackknife, omega = or_default(anew$omega, nowhere),
    rest = if (gaps) or_default(anew$rest, unknown) else rest_intervals(moments$complete, about$rest, options$confidence),
    advised = if (gaps && !anyNA(jackknife)) "jackknife" else advised_interval(feldt, jackknife, whole)
  )
}

# Feldt's holds for normal answers; where persons left out one by one move alpha by clearly more, they are not.
advised_interval <- function(feldt, jackknife, persons) {
  width <- function(ends) log((1 - ends[1]) / (1 - ends[2]))
  wider <- persons >= 30L && isTRUE(width(jackknife) > 1.1 * width(feldt))
  if (wider) "jackknife" else "Feldt"
}

# Each item with the sum of the others, one person left out at a time, among those who answered all.
rest_intervals <- function(complete, rest, confidence) {
  n <- nrow(complete)
  if (n < 5L) return(matrix(NA_real_, ncol(complete), 2L))
  variance <- core_rest_variances(lapply(seq_len(ncol(complete)), function(k) complete[, k]), rowSums(complete), 2L)
  limits <- interval_from_z(rest, (1 - rest) * (1 + rest), variance, confidence, n - 2)
  unname(cbind(limits$ci_low, limits$ci_high))
}

alpha_by <- function(study, columns, by, confidence) {
  if (is.null(by)) return(NULL)
  words <- as.character(study_column(study, by))
  kinds <- sort(unique(words[!is.na(words)]))
  rows <- lapply(kinds, function(kind) {
    part <- lapply(columns, function(column) column[words %in% kind])
    moments <- item_moments(part)
    few <- min(moments$n) < 5L
    used <- length(persons_used(part))
    alpha <- if (few) NA_real_ else alpha_of_items(moments$covariance)
    ends <- interval_feldt(alpha, persons_of_pairs(moments), length(part), confidence)
    data.frame(group = kind, n = used, alpha = alpha, alpha_low = ends[1], alpha_high = ends[2])
  })
  do.call(rbind, rows)
}

#' @export
as.data.frame.unsere_items <- function(x, ...) x$items
