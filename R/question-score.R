#' Compute a scale score
#'
#' Adds the mean or the sum of several items as a new variable. The study keeps track of the items, so that
#' correlating the score with one of them raises the caution of a part-whole correlation.
#'
#' @param study A study, or a data frame.
#' @param name The name of the new variable; one string.
#' @param items The items: bare names, strings, or tidyselect expressions; two or more.
#' @param least The least number of answers for a score. Default (`NULL`): all items. A sum over fewer answers
#'   is scaled up to all items.
#' @param how `"mean"` or `"sum"`. Default: `"mean"`.
#' @param key The correct answers of multiple choice: `c(q1 = "B", q2 = "D")`, `"q1=B,q2=D"` or `"BD"`; each
#'   correct answer counts 1. Default: none.
#' @param reverse Negatively worded items, which are reversed within the range of all items' values, or within
#'   the `range` declared in the codebook. Default: none.
#' @param label A readable name; one string.
#' @return The study with the new variable; how it was made stands in the codebook's `source`.
#' @section Errors: `unsere_error_usage` for fewer than two items, and for `least` outside 1 to their number;
#'   `unsere_error_input` if there is a variable of that name, for an item without an order, or a right answer that
#'   nobody gave; `unsere_error_undefined` if no case has enough answers.
#' @seealso [check_items()] for whether the score is sound; [derive()] for other arithmetic.
#' @references Likert (1932) for sums of items; Downey & King (1998), Journal of General Psychology 125, 175-191, for means
#'   of those answered.
#' @examples
#' learners <- demo_study("learners")
#' learners <- score(learners, "motivation", c(m1, m2, m3, m4, m5, m6), least = 4, reverse = m4)
#' relate(learners, motivation, speaking_score)
#' @export
score <- function(study, name, items, least = NULL, how = "mean", key = NULL, reverse = NULL, label = NULL) {
  study <- check_study(study)
  score_items(study, name, pick_several(study, list(rlang::enquo(items))), list(
    least = least, how = how, key = key, reverse = pick_side(study, rlang::enquo(reverse)), label = label
  ))
}

#' @param items Names; `options` a list of `least`, `how`, `key`, `reverse`, `label`.
#' @noRd
score_items <- function(study, name, items, options) {
  if (!is_word(name)) abort_usage("A score needs a name.", "For example score(study, \"motivation\", c(m1, m2, m3)).")
  if (name %in% study_names(study)) {
    abort_input(problem("There is a variable \"%s\" already.", name), "Give the score another name.")
  }
  if (length(items) < 2L) abort_usage("A score needs two items or more.", "Name them all.")
  how <- one_of(or_default(options$how, "mean"), c("mean", "sum"), "how")
  least <- or_default(options$least, length(items))
  if (!is_whole(least) || least < 1 || least > length(items)) {
    abort_usage(
      problem("`least` must be a whole number from 1 to %d.", length(items)),
      "It is the number of answers a score requires."
    )
  }
  key <- parse_key(unlist(options$key), items)
  stray <- setdiff(c(names(key), options$reverse), items)
  if (length(stray)) abort_usage(problem("%s is not one of the items.", stray[1]), "Name it among the items.")
  columns <- do.call(cbind, turned_items(study, items, key, options$reverse))
  answered <- rowSums(!is.na(columns))
  values <- rowMeans(columns, na.rm = TRUE)
  values[answered < least] <- NA
  if (all(is.na(values))) abort_undefined("No case has enough answers for this score.", "Require fewer with `least`.")
  if (how == "sum") values <- values * length(items)
  turned <- if (length(options$reverse)) sprintf(", %s reversed", paste(options$reverse, collapse = ", ")) else ""
  rule <- if (least < length(items)) sprintf(", of %d answers or more", as.integer(least)) else ""
  source <- sprintf("score: %s of %s%s%s", how, paste(items, collapse = ", "), turned, rule)
  study <- with_column(study, name, values, source)
  study <- with_score(study, name, list(items = items, key = key, reverse = options$reverse))
  with_entry(study, name, list(label = options$label, level = "numeric"))
}

# Turned within the range that is declared, else within that of all items, as nobody may have chosen an end of one.
turned_items <- function(study, items, key, reverse) {
  columns <- lapply(stats::setNames(items, items), function(name) item_scores(study, name, key, list()))
  scale <- columns[setdiff(items, names(key))]
  for (name in setdiff(reverse, names(key))) {
    declared <- book_entries(study, name)$range
    ends <- if (is.na(declared)) range(unlist(scale), na.rm = TRUE) else parse_range(declared, name)
    columns[[name]] <- sum(ends) - columns[[name]]
  }
  columns
}
