# All answers to a brief, each question asked once; every form of the report is set from them.

#' @param read From [read_brief()].
#' @return A list: `brief`, `file`, `lines`, `study`, `settings`, `names` (variables that the report tells of), `pairs`
#'   (each a `relation`, a `line` or `NULL`, `digits`), `matrix`, `rank`, `items`, `flags`, `levels`, `plan`, `unanswered` (a
#'   data frame: `asked`, `why`), `single` (whether it is a page of one pair).
#' @section Errors: where nothing at all could be answered, the first reason.
#' @noRd
brief_results <- function(read, study, tick = function(text) NULL) {
  brief <- patterns_in_brief(read$brief, study_names(study))
  settings <- brief_settings(brief)
  tick(say("each variable"))
  named <- intersect(unlist(brief_names(brief)[-(1:2)]), study_names(study))
  # Of cases that are too many to be fetched the folder holds the moments.
  share <- share_settings(brief)
  if (!gives_rows(study, named) && share$rows == "all") brief$share$rows <- "moments"
  apart <- unlist(lapply(c("time", "case", "group"), function(role) names_with(study, role)))
  answers <- collect_answers()
  results <- section_results(study, brief, settings, answers, tick)
  answers$check(any(lengths(results) > 0L))
  names <- described_names(study, named, apart)
  withheld <- small_group_variables(study, named, share$least)
  suppress_small(c(list(
    withheld = withheld, intake = report_intake(study, names), made = made_here(),
    brief = brief, file = basename(read$path), digest = read$digest, lines = lines_to_share(read, study), study = study,
    settings = settings, names = names, unanswered = answers$lacking(), single = isTRUE(read$single)
  ), results), share$least)
}

#' The results of a brief's sections, each under its name: one, or a list of several
#' @noRd
section_results <- function(study, brief, settings, answers, tick) {
  results <- list()
  for (section in brief_sections()) {
    answers_given <- lapply(section_entries(section, brief), function(entry) {
      about <- fill_template(section$about(entry))
      tick(about)
      answers$try(about, section$answer(study, entry, brief, settings, results))
    })
    answers_given <- Filter(Negate(is.null), answers_given)
    results[section$result] <- list(if (section$many) answers_given else if (length(answers_given)) answers_given[[1]])
  }
  results
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
    # What the analyst is advised to do is no part of a report.
    decisions = gather_decisions(decisions[!names(or_default(decisions, character())) %in% c("coded", "role")])
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
  Filter(function(name) {
    level_of(study, name) != "nominal" || tryCatch(length(study_categories(study, name)), unsere_error = function(e) 0L) > 0L
  }, setdiff(named, apart))
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
        lacking <<- rbind(lacking, data.frame(asked = question, why = error_text(e)))
        tell(say("No result for %s: %s", question, error_text(e)))
        NULL
      })
    },
    check = function(any_answer) if (!any_answer && !is.null(first)) stop(first), lacking = function() lacking
  )
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
    variables = lapply(results$names, function(name) variable_document(study, name, results$withheld))
  ), section_documents(results, door), list(
    unanswered = if (nrow(results$unanswered)) results$unanswered,
    record = if (!results$single) c(run_record(results), list(
      intake = results$intake, made = results$made, cautions = placed_cautions(results[result_names()]),
      left_out = lapply(results$matrix$left_out, as.list)
    ))
  )))
}

section_documents <- function(results, door) {
  documents <- lapply(brief_sections(), function(section) {
    section_result <- results[[section$result]]
    if (section$many) return(lapply(section_result, json_fields, door = door))
    if (!is.null(section_result)) json_fields(section_result, door)
  })
  stats::setNames(documents, result_names())
}

result_names <- function() vapply(brief_sections(), `[[`, "", "result", USE.NAMES = FALSE)

study_origin_document <- function(study) {
  origin <- study_origin(study)
  list(file = origin$file, digest = digest_of(study_provenance(study)), cases = origin$cases)
}

variable_document <- function(study, name, withheld = character()) {
  entry <- as.list(book_entries(study, name)[c("variable", "label", "short", "unit", "level", "role")])
  if (!gives_rows(study, name)) return(c(entry, summaries_in_database(study, name)[[1]][c("n", "mean", "sd", "min", "max")]))
  figures <- if (entry$level == "nominal") {
    list(n = sum(!is.na(study_column(study, name))))
  } else {
    describe_column(tryCatch(study_numbers(study, name)$values, unsere_error = function(e) NA_real_))
  }
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
