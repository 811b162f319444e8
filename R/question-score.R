#' A score of several items, as a new variable
#'
#' The mean or the sum of the items that a person answered, where enough of them were answered. The items keep their
#' places in the study, so that a relation of the score with one of them is told to be that of a part with its whole.
#'
#' @param study A study, or a data frame.
#' @param name The name of the new variable; one string.
#' @param items The items: bare names, strings, or what tidyselect understands; two or more.
#' @param least How many answers a score takes at least, a whole number; all items when `NULL`. A sum over fewer answers
#'   is that of their mean: scaled up to all items.
#' @param how `"mean"` or `"sum"`.
#' @param key The right answers of multiple choice, such as `c(q1 = "B", q2 = "D")` or `"q1=B,q2=D"`: right counts 1.
#' @param reverse Items that ask the other way round: turned within the range of all items' values, or within the `range`
#'   that the codebook declares.
#' @param label A readable name; one string.
#' @return The study with the new variable; how it was made stands in the codebook's `source`.
#' @section Errors: `unsere_error_usage` for fewer than two items, and for `least` outside 1 to their number;
#'   `unsere_error_input` when there is a variable of that name, for an item without an order, or a right answer that
#'   nobody gave; `unsere_error_undefined` when no case has enough answers.
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
  if (length(items) < 2L) abort_usage("A score takes two items or more.", "Name them all.")
  how <- one_of(or_default(options$how, "mean"), c("mean", "sum"), "how")
  least <- or_default(options$least, length(items))
  if (!is_whole(least) || least < 1 || least > length(items)) {
    abort_usage(problem("`least` must be a whole number from 1 to %d.", length(items)), "So many answers a score takes.")
  }
  key <- parse_key(unlist(options$key))
  stray <- setdiff(c(names(key), options$reverse), items)
  if (length(stray)) abort_usage(problem("%s is none of the items.", stray[1]), "Name it among the items.")
  columns <- do.call(cbind, turned_items(study, items, key, options$reverse))
  answered <- rowSums(!is.na(columns))
  values <- rowMeans(columns, na.rm = TRUE)
  values[answered < least] <- NA
  if (all(is.na(values))) abort_undefined("No case has enough answers for this score.", "Ask for fewer with `least`.")
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
