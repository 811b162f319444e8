# All answers to a brief, each question asked once; every form of the report is set from them.

#' @param read From [read_brief()].
#' @return A list: `brief`, `file`, `lines`, `study`, `settings`, `names` (variables that the report tells of), `pairs`
#'   (each a `relation`, a `line` or `NULL`, `digits`), `matrix`, `rank`, `items`, `flags`, `levels`, `plan`, `unanswered` (a
#'   data frame: `asked`, `why`), `single` (whether it is a page of one pair).
#' @section Errors: where nothing at all could be answered, the first reason.
#' @noRd
brief_results <- function(read, study, tick = function(text) NULL) {
  brief <- read$brief
  settings <- brief_settings(brief)
  tick("each variable")
  named <- intersect(unlist(brief_names(brief)[-(1:2)]), study_names(study))
  # Of cases that are too many to be fetched the folder holds the moments.
  share <- share_settings(brief)
  if (!gives_rows(study, named) && share$rows == "all") brief$share$rows <- "moments"
  apart <- unlist(lapply(c("time", "case", "group"), function(role) names_with(study, role)))
  answers <- collect_answers()
  pairs <- Filter(Negate(is.null), lapply(brief$pairs, function(pair) {
    question <- say("%s and %s", pair$x, pair$y)
    tick(question)
    answers$try(question, answer_pair(study, pair, settings))
  }))
  tick("matrix, predictors, trends")
  matrix <- answers$try(say("the matrix"), brief_matrix(study, brief, settings, lapply(pairs, `[[`, "relation")))
  rank <- answers$try(say("the predictors"), brief_rank(study, brief, settings))
  items <- answers$try(say("the items"), brief_items(study, brief, settings))
  flags <- brief_flags(study, brief, settings, answers)
  levels <- brief_levels(study, brief, settings, answers)
  plan <- answers$try(say("the plan"), brief_plan(brief))
  several <- Filter(Negate(is.null), list(matrix, rank, items, plan))
  answers$check(length(pairs) + length(flags) + length(levels) + length(several) > 0L)
  names <- described_names(study, named, apart)
  withheld <- small_group_variables(study, named, share$least)
  suppress_small(list(
    withheld = withheld, intake = report_intake(study, names), made = made_here(),
    brief = brief, file = basename(read$path), digest = read$digest, lines = lines_to_share(read, study), study = study,
    settings = settings, names = names, pairs = pairs, matrix = matrix, rank = rank,
    items = items, flags = flags, levels = levels, plan = plan,
    unanswered = answers$lacking(), single = isTRUE(read$single)
  ), share$least)
}

#' What a report tells of how its data were read
#' @return A list: `name` and `file` of the data, `digest`, `cases`, `variables` (how many), `coded` (cells of missing
#'   codes, by variable), `decisions`.
#' @noRd
report_intake <- function(study, names) {
  provenance <- study_provenance(study)
  decisions <- provenance$decisions
  coded <- coded_cells(study)
  list(
    name = or_default(study_file(study), table_title(provenance$table)), file = study_file(study),
    digest = digest_of(provenance), cases = study_size(study), variables = length(study_names(study)),
    coded = as.list(coded[names(coded) %in% names]),
    # Missing codes have a sentence of their own, by label.
    decisions = fill_templates(decisions[!names(or_default(decisions, character())) %in% "coded"])
  )
}

made_here <- function() {
  list(
    version = as.character(utils::packageVersion("unsere")), r = as.character(getRversion()),
    date = format(Sys.Date(), "%Y-%m-%d")
  )
}

# What the report tells of one by one; answers of multiple choice are told of as items.
described_names <- function(study, named, apart) {
  named <- setdiff(named, apart)
  named[level_of(study, named) != "nominal"]
}

#' Answers one by one: what one question cannot be asked of these data is told, and the others go on
#' @noRd
collect_answers <- function() {
  lacking <- data.frame(asked = character(), why = character())
  first <- NULL
  list(
    try = function(question, code) {
      tryCatch(code, unsere_error = function(e) {
        if (is.null(first)) first <<- e
        lacking <<- rbind(lacking, data.frame(asked = question, why = e$said))
        tell(sprintf("No answer for %s: %s", question, e$said))
        NULL
      })
    },
    check = function(any_answer) if (!any_answer && !is.null(first)) stop(first), lacking = function() lacking
  )
}

#' Settings hold for every question; what a section says itself goes before them
#' @noRd
brief_settings <- function(brief) {
  given <- brief$settings
  if (is.null(given$confidence) && !is.null(given$alpha)) given$confidence <- 1 - given$alpha
  given$alpha <- NULL
  if (is.list(given$strength)) given$strength <- unlist(given$strength)
  utils::modifyList(list(strength = "cohen", digits = 2), as.list(given))
}

#' What a section of the brief says of a question's arguments
#' @noRd
section_arguments <- function(question, section, settings) {
  declared <- Filter(function(one) "brief" %in% one$doors, question$arguments)
  said <- lapply(names(declared), function(name) {
    key <- declared[[name]]$brief
    value <- if (key == "settings") settings[[name]] else section[[key]]
    if (is.list(value) && is.null(names(value))) unlist(value) else value
  })
  Filter(Negate(is.null), stats::setNames(said, names(declared)))
}

#' One pair: its relation and, where there is one to speak of, its line, of one sample
#' @noRd
answer_pair <- function(study, pair, settings) {
  settings$seed <- or_default(pair$seed, settings$seed) # of a run that is worked out again
  options <- settle_arguments(question_relate(), section_arguments(question_relate(), pair, settings))
  line_asked <- settle_arguments(question_line(), section_arguments(question_line(), pair, settings))
  names <- c(pair$x, pair$y, unlist(pair$given))
  of_pair <- function(arguments) c(arguments[setdiff(names(arguments), c("x", "y"))], pair[c("x", "y")])
  vast <- !gives_rows(study, names, sums_relate(study, of_pair(options)) && identical(line_asked$shape, "linear"))
  samples <- if (!vast) samples_of_pair(study, pair$x, pair$y, unlist(pair$given))
  relation <- if (vast) {
    relate_by_sums(study, of_pair(options))
  } else {
    relate_study(study, pair$x, pair$y, options, samples)
  }
  # A line of what is left predicts nothing.
  asked_for <- !is.null(pair$shape) || !is.null(pair$predict_at) || all(level_of(study, names[1:2]) == "numeric")
  wanted <- !length(pair$given) && asked_for
  line <- if (wanted && vast) {
    line_by_sums(study, of_pair(line_asked))
  } else if (wanted) {
    line_of_samples(samples, line_asked, relation)
  }
  list(relation = relation, line = line, digits = settings$digits)
}

brief_matrix <- function(study, brief, settings, known) {
  if (is.null(brief$matrix)) return(NULL)
  said <- section_arguments(question_matrix(), brief$matrix, settings)
  answer_matrix(study, c(said, list(names = as.character(unlist(brief$matrix$variables)))), known)
}

brief_rank <- function(study, brief, settings) {
  rank <- brief$rank
  if (is.null(rank)) return(NULL)
  said <- section_arguments(question_rank(), rank, settings)
  if (is.null(said$at)) said$at <- predictions_of_pairs(brief)
  answer_rank(study, c(said, list(outcome = rank$outcome, names = unlist(rank$predictors))))
}

brief_items <- function(study, brief, settings) {
  if (is.null(brief$items)) return(NULL)
  key <- brief$items$key
  said <- section_arguments(question_items(), brief$items[setdiff(names(brief$items), "key")], settings)
  answer_items(study, c(said, list(names = as.character(unlist(brief$items$variables)), key = if (length(key)) unlist(key))))
}

#' What the pairs predict is predicted beside the other predictors too
#' @noRd
predictions_of_pairs <- function(brief) {
  at <- list()
  for (pair in brief$pairs) {
    ranked <- pair$y == brief$rank$outcome && pair$x %in% unlist(brief$rank$predictors)
    if (ranked && length(pair$predict_at)) at[[pair$x]] <- as.numeric(unlist(pair$predict_at))[1]
  }
  if (length(at)) at
}

brief_flags <- function(study, brief, settings, answers) {
  said <- section_arguments(question_flag(), brief$spurious, settings)
  Filter(Negate(is.null), lapply(brief$spurious$pairs, function(pair) {
    question <- say("the trends of %s and %s", pair[[1]], pair[[2]])
    answers$try(question, answer_flag(study, c(said, list(x = pair[[1]], y = pair[[2]]))))
  }))
}

brief_levels <- function(study, brief, settings, answers) {
  Filter(Negate(is.null), lapply(brief$levels, function(pair) {
    question <- say("%s and %s between groups and within", pair$x, pair$y)
    answers$try(question, answer_levels_of(study, pair, settings))
  }))
}

answer_levels_of <- function(study, pair, settings) {
  answer_levels(study, c(section_arguments(question_levels(), pair, settings), list(x = pair$x, y = pair$y)))
}

brief_plan <- function(brief) {
  if (!is.null(brief$plan)) answer_plan(lapply(brief$plan, unlist))
}

#' The document of all results, as a plain list: written as results.json, and compared with that of an earlier run
#' @noRd
results_document <- function(results) {
  study <- results$study
  door <- door_page()
  plain_document(c(json_head("results"), list(
    title = results$brief$title, question = results$brief$question, brief = results$file, brief_digest = results$digest,
    data = study_origin_document(study),
    cases = if (share_settings(results$brief)$names == "own") as.list(case_names(study)) else list(),
    variables = lapply(results$names, function(name) variable_document(study, name, results$withheld)),
    pairs = lapply(results$pairs, function(pair) {
      line <- if (!is.null(pair$line)) json_fields(pair$line, door)
      list(relation = json_fields(pair$relation, door), line = line)
    }),
    matrix = if (!is.null(results$matrix)) json_fields(results$matrix, door),
    rank = if (!is.null(results$rank)) json_fields(results$rank, door),
    items = if (!is.null(results$items)) json_fields(results$items, door),
    flags = lapply(results$flags, json_fields, door = door),
    levels = if (length(results$levels)) lapply(results$levels, json_fields, door = door),
    plan = if (!is.null(results$plan)) json_fields(results$plan, door),
    unanswered = if (nrow(results$unanswered)) results$unanswered,
    record = if (!results$single) c(run_record(results), list(
      intake = results$intake, made = results$made, cautions = placed_cautions(results[cautioned_parts]),
      left_out = lapply(results$matrix$left_out, as.list)
    ))
  )))
}

study_origin_document <- function(study) {
  origin <- study_origin(study)
  list(file = origin$file, digest = digest_of(study_provenance(study)), cases = origin$cases)
}

variable_document <- function(study, name, withheld = character()) {
  entry <- as.list(book_entries(study, name)[c("variable", "label", "unit", "level", "role")])
  if (!gives_rows(study, name)) return(c(entry, summaries_there(study, name)[[1]][c("n", "mean", "sd", "min", "max")]))
  values <- tryCatch(study_numbers(study, name)$values, unsere_error = function(e) NA_real_)
  figures <- describe_column(values)
  if (name %in% withheld) figures[setdiff(names(figures), "n")] <- list(NULL)
  c(entry, figures)
}

#' A document of lists alone, as it comes back from a file: rows as lists, nothing for what is not defined
#' @noRd
plain_document <- function(value) {
  if (inherits(value, "json")) return(value)
  if (is.data.frame(value)) {
    cell <- function(column, k) if (inherits(column, "written")) structure(column[[k]], class = "json") else column[[k]]
    rows <- lapply(seq_len(nrow(value)), function(k) lapply(unclass(value), cell, k))
    return(lapply(rows, plain_document))
  }
  if (is.list(value)) return(lapply(value, plain_document))
  if (length(value) == 1L && is.na(value)) NULL else value
}
