# All results of a brief, computed once; every form of the report is set from them.

#' @param tick A function that tells the step.
#' @return A list: `brief`, `study`, `overview`, `pairs` (each `relation`, `line`), `matrix`, `rank`, `flags`.
#' @noRd
brief_results <- function(read, study, tick = function(text) NULL) {
  brief <- read$brief
  settings <- brief_settings(brief)
  tick("each variable")
  names <- intersect(brief_names(brief), study$codebook$variable)
  pairs <- lapply(brief$pairs, function(pair) {
    tick(sprintf("%s and %s", pair$x, pair$y))
    pair_results(study, pair, settings)
  })
  tick("matrix, predictors, trends")
  list(
    brief = brief, path = read$path, lines = read$lines, study = study, settings = settings,
    names = setdiff(names, study$codebook$variable[study$codebook$role %in% c("time", "case", "group")]), pairs = pairs,
    matrix = matrix_results(study, brief, settings),
    rank = if (!is.null(brief$rank)) rank_names(study, brief$rank$outcome, unlist(brief$rank$predictors),
      confidence = settings$confidence, at = predictions_of_pairs(brief)),
    flags = lapply(brief$spurious$pairs, function(pair) {
      flag_names(study, pair[[1]], pair[[2]], brief$spurious$time, brief$spurious$group, settings$confidence)
    })
  )
}

brief_settings <- function(brief) {
  given <- brief$settings
  confidence <- if (!is.null(given$confidence)) given$confidence else if (!is.null(given$alpha)) 1 - given$alpha else 0.95
  list(confidence = confidence, strength = or_default(given$strength, "cohen"),
    digits = or_default(given$digits, 2))
}

pair_results <- function(study, pair, settings) {
  relation <- relate_names(study, pair$x, pair$y, or_default(pair$coefficient, "auto"),
    or_default(pair$expect, "either"), settings$confidence, strength = settings$strength)
  levels <- study$codebook$level[match(c(pair$x, pair$y), study$codebook$variable)]
  wanted <- !is.null(pair$shape) || !is.null(pair$predict_at) || all(levels == "numeric")
  line <- if (wanted) fit_line_names(study, pair$x, pair$y, or_default(pair$shape, "linear"), settings$confidence)
  if (!is.null(pair$predict_at)) line$predictions <- unclass_rows(predict_y(line, as.numeric(unlist(pair$predict_at))))
  list(relation = relation, line = line, digits = settings$digits)
}

matrix_results <- function(study, brief, settings) {
  if (is.null(brief$matrix)) return(NULL)
  matrix_names(study, as.character(unlist(brief$matrix$variables)), plan = list(confidence = settings$confidence,
    highlight = brief$matrix$highlight, multiplicity = brief$matrix$multiplicity, missing = brief$matrix$missing))
}

#' What the pairs predict at, for the predictors of the ranking that stand in them
#' @noRd
predictions_of_pairs <- function(brief) {
  at <- list()
  for (pair in brief$pairs) {
    if (pair$y == brief$rank$outcome && pair$x %in% unlist(brief$rank$predictors) && length(pair$predict_at)) {
      at[[pair$x]] <- as.numeric(unlist(pair$predict_at))[1]
    }
  }
  if (length(at)) at
}

#' Everything in one JSON document, with what next week's run needs to compare
#'
#' @param files The digest of each file of the run, by name.
#' @noRd
results_json <- function(results, files = NULL) {
  study <- results$study
  named <- study$codebook[study$codebook$variable %in% results$names, c("variable", "label", "unit", "level", "role")]
  spread <- lapply(named$variable, function(name) {
    values <- tryCatch(numbers_of(study, name)$values, error = function(e) NA_real_)
    values <- values[!is.na(values)]
    list(n = length(values), mean = if (length(values)) mean(values) else NA,
      sd = if (length(values) > 1) stats::sd(values) else NA,
      min = if (length(values)) min(values) else NA,
      max = if (length(values)) max(values) else NA)
  })
  fields <- c(json_head("results"), list(
    title = results$brief$title, question = results$brief$question, brief = basename(results$path),
    brief_digest = digest::digest(results$path, "sha256", file = TRUE), data = data_origin(study),
    cases = as.list(case_names(study)), variables = Map(function(row, more) c(as.list(named[row, ]), more),
      seq_len(nrow(named)),
      spread),
    pairs = lapply(results$pairs, function(pair) {
      list(relation = json_fields(pair$relation), line = if (!is.null(pair$line)) json_fields(pair$line))
    }),
    matrix = if (!is.null(results$matrix)) json_fields(results$matrix),
    rank = if (!is.null(results$rank)) json_fields(results$rank), flags = lapply(results$flags, json_fields),
    files = files
  ))
  jsonlite::toJSON(verbatim_numbers(fields), auto_unbox = TRUE, na = "null", null = "null", pretty = TRUE,
    json_verbatim = TRUE)
}

data_origin <- function(study) {
  list(file = study_file(study), digest = digest::digest(study$provenance$file, "sha256", file = TRUE),
    cases = nrow(study$data))
}
