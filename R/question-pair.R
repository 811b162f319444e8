# A pair of a brief: its relation and its line, of one sample. Briefs alone ask for both at once.

question_pairs <- function() {
  new_question(
    "pairs", "run_brief", "one pair with its line", character(), list(),
    NULL, "run brief.yml",
    section = new_brief_section(
      "pairs", 1, function() {
        keys <- c(list(x = string_key(), y = string_key()), question_keys(question_relate()), question_keys(question_line()))
        list(type = "array", items = closed(keys, c("x", "y")))
      },
      names = function(entry) entry[c("x", "y", "given")], entries = identity,
      about = function(entry) template("%s and %s", entry$x, entry$y),
      answer = function(study, entry, brief, settings, known) answer_pair(study, entry, settings),
      title = template("Pairs"), many = TRUE
    )
  )
}

#' One pair: its relation and, where there is one to speak of, its line, of one sample
#' @noRd
answer_pair <- function(study, pair, settings) {
  settings$seed <- or_default(pair$seed, settings$seed) # of a run that is worked out again
  options <- settle_arguments(question_relate(), section_arguments(question_relate(), pair, settings))
  line_asked <- settle_arguments(question_line(), section_arguments(question_line(), pair, settings))
  line_asked$interval <- line_route(options)
  names <- c(pair$x, pair$y, unlist(pair$given))
  of_pair <- function(arguments) c(arguments[setdiff(names(arguments), c("x", "y"))], pair[c("x", "y")])
  vast <- !gives_rows(study, names, sums_relate(study, of_pair(options)) && identical(line_asked$shape, "linear"))
  samples <- if (!vast) samples_of_pair(study, pair$x, pair$y, unlist(pair$given), categories = TRUE)
  relation <- if (vast) {
    relate_by_sums(study, of_pair(options))
  } else {
    relate_study(study, pair$x, pair$y, options, samples)
  }
  # A line of what is left predicts nothing.
  asked_for <- !is.null(pair$shape) || !is.null(pair$predict_at) || all(level_of(study, names[1:2]) == "numeric")
  wanted <- !length(pair$given) && asked_for
  of_groups <- names[level_of(study, names) == "nominal"]
  if (wanted && length(of_groups)) abort_no_order(of_groups[1])
  line <- if (wanted && vast) {
    line_by_sums(study, of_pair(line_asked))
  } else if (wanted) {
    line_of_samples(samples, line_asked, relation)
  }
  structure(list(relation = relation, line = line, digits = settings$digits), class = "unsere_pair")
}
