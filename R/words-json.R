# Results as JSON.

#' Convert a result to JSON
#'
#' Gives the same fields as the command's `--format json`, with 17 significant digits, so that every number is preserved.
#'
#' @param result Any result, its cautions, or a table from [predict_y()] or [estimate_x()].
#' @return One string (class `json`); undefined values are `null`.
#' @section Errors: `unsere_error_usage` for what is no result.
#' @examples
#' found <- relate(demo_study("learners"), practice_hours, speaking_score)
#' back <- jsonlite::fromJSON(in_json(found))
#' back$r == found$r
#' @export
in_json <- function(result) as_json(result)

#' JSON with 17 digits, what is not defined as null
#' @noRd
as_json <- function(result, door = door_r()) json_text(json_fields(result, door))

json_text <- function(fields) {
  jsonlite::toJSON(
    verbatim_numbers(fields),
    auto_unbox = TRUE, na = "null", null = "null", pretty = TRUE, json_verbatim = TRUE
  )
}

#' Numbers as they are to stand in JSON, data frames as lists of rows; jsonlite itself stops at 15 digits
#' @noRd
verbatim_numbers <- function(value) {
  if (is.data.frame(value)) return(rows_as_lists(value))
  if (is.list(value)) return(lapply(value, verbatim_numbers))
  if (!is.double(value) || inherits(value, "json")) return(value)
  text <- ifelse(is.finite(value), formatC(value, digits = 17, format = "g", width = 1), "null")
  if (length(text) != 1L) text <- sprintf("[%s]", paste(text, collapse = ", "))
  structure(text, class = "json")
}

#' A data frame as a list of rows; column by column, as there may be many rows
#' @noRd
rows_as_lists <- function(data) {
  columns <- lapply(data, function(column) {
    if (inherits(column, "written")) return(lapply(unclass(column), structure, class = "json"))
    if (!is.double(column)) return(as.list(column))
    text <- ifelse(is.finite(column), formatC(column, digits = 17, format = "g", width = 1), "null")
    lapply(text, structure, class = "json")
  })
  lapply(seq_len(nrow(data)), function(i) lapply(columns, `[[`, i))
}

#' @param door Whom advice is for.
#' @noRd
json_fields <- function(result, door = door_r()) UseMethod("json_fields")

# A list in JSON however many there are; nothing stays nothing.
many <- function(values) if (!is.null(values)) as.list(unname(values))

json_head <- function(kind) list(kind = kind, version = as.character(utils::packageVersion("unsere")))

#' @export
json_fields.unsere_pair <- function(result, door = door_r()) {
  list(relation = json_fields(result$relation, door), line = if (!is.null(result$line)) json_fields(result$line, door))
}

#' @export
json_fields.unsere_relation <- function(result, door = door_r()) {
  fields <- unclass(result)[relation_fields]
  fields$p <- p_as_number(result)
  names_kept <- intersect(c(
    "groups", "largest", "seed", "resamples", "unheld", "part", "corrected", "corrected_low", "corrected_high",
    "unrestricted", "unmeasured", "smallest", "smallest_verdict", "smallest_confidence", "smallest_low", "smallest_high",
    "n_effective", "design_effect", "units",
    "strata", "plausible", "share_between", "imputed", "missing_information", "group_means", "df_residual", "textbook",
    "epsilon_squared", "counts",
    "bias_corrected"
  ), names(result))
  extra <- c(list(reason = why_words(result)), result[names_kept])
  cautions <- fields_of_cautions(result$cautions, result$sample$variables, door)
  c(
    json_head("relation"), fields, list(cautions = cautions, sentence = in_words(result)), Filter(Negate(is.null), extra),
    if (!is.null(result$given)) list(given = as.list(result$given)),
    if (!is.null(result$reliability)) list(reliability = as.list(result$reliability)), intake_fields(result)
  )
}

#' @export
json_fields.unsere_line <- function(result, door = door_r()) {
  fields <- unclass(result)[line_fields]
  for (part in c("terms", "variance")) fields[[part]] <- rows_as_written(fields[[part]], "json")
  place <- match("residual_sd", line_fields)
  fields <- append(fields, list(equation = line_equation(result)), place)
  cautions <- fields_of_cautions(result$cautions, result$sample$variables, door)
  drawn <- Filter(Negate(is.null), unclass(result)[c("ci_method", "n_effective", "units", "strata")])
  c(json_head("line"), fields, list(cautions = cautions, sentence = in_words(result)), drawn, intake_fields(result))
}

#' @export
json_fields.unsere_matrix <- function(result, door = door_r()) {
  c(json_head("matrix"), list(
    variables = result$variables$variable, missing = result$missing, multiplicity = result$multiplicity,
    confidence = result$confidence, expect = result$expect, highlight = result$highlight, rows = many(result$rows),
    columns = many(result$columns), pairs = pairs_as_written(result$pairs, "json"),
    cautions = fields_of_cautions(result$cautions, result$variables, door),
    notes = or_default(many(matrix_notes(result)), list()),
    sentence = in_words(result)
  ), if (!is.null(result$given)) list(given = as.list(result$given)), intake_fields(result))
}

#' @export
json_fields.unsere_overview <- function(result, door = door_r()) {
  origin <- result$provenance[c("file", "kind", "sheet", "header_row")]
  origin <- Filter(Negate(is.null), c(origin[!is.na(names(origin))], list(digest = digest_of(result$provenance))))
  c(json_head("overview"), list(
    cases = result$cases, complete = result$complete, variables = result$variables,
    counts = json_counts(result$counts), answers = json_answers(result$answers),
    provenance = c(origin, list(decisions = or_default(many(fill_templates(result$provenance$decisions)), list())))
  ))
}

# A row for each value of the variables that have few of them.
json_counts <- function(counts) {
  if (!length(counts)) return(list())
  do.call(rbind, unname(Map(function(name, rows) cbind(variable = name, rows), names(counts), counts)))
}

json_answers <- function(answers) {
  lapply(seq_len(NROW(answers)), function(k) {
    list(
      sign = answers$sign[k], count = answers$count[k], detail = answer_details(answers$sign[k]),
      cases = as.list(answers$cases[[k]])
    )
  })
}

#' @export
json_fields.unsere_matrices <- function(result, door = door_r()) {
  part <- function(matrix) json_fields(matrix, door)[-(1:2)]
  c(json_head("matrices"), list(
    by = result$by, pooled = part(result$pooled), groups = lapply(result$groups, part),
    differences = result$differences, sentence = in_words(result)
  ))
}

#' @export
json_fields.unsere_pair_list <- function(result, door = door_r()) {
  c(json_head("pairs"), list(pairs = as.data.frame(unclass_list(result)), strength_scale = attr(result, "scale")$name))
}

#' @export
json_fields.unsere_predictors <- function(result, door = door_r()) {
  c(json_head("predictors"), list(
    outcome = result$outcome, predictors = result$predictors, comparisons = result$comparisons,
    predictions = result$predictions, n_dropped = result$n_dropped, confidence = result$confidence,
    cautions = fields_of_cautions(result$cautions, result$variables, door), sentence = in_words(result)
  ), intake_fields(result))
}

#' @export
json_fields.unsere_lines <- function(result, door = door_r()) {
  lines <- cbind(result$lines, equation = lines_equations(result))
  curve <- if (!is.null(result$curve)) as.list(result$curve)
  c(
    json_head("lines"), list(lines = lines, same_y = result$same_y, curve = curve, sentence = in_words(result)),
    intake_fields(result)
  )
}

#' @export
json_fields.unsere_residuals <- function(result, door = door_r()) {
  c(json_head("residuals"), list(
    x = result$line$x, y = result$line$y, shape = result$line$shape, sum = result$sum,
    quartiles = unname(result$quartiles), largest = result$largest, bend = result$bend, spread = result$spread,
    sentence = in_words(result)
  ))
}

#' @export
json_fields.unsere_difference <- function(result, door = door_r()) {
  fields <- unclass(result)
  c(json_head("difference"), fields[setdiff(names(fields), c("jackknife", "relations"))], list(sentence = in_words(result)))
}

#' @export
json_fields.unsere_advice <- function(result, door = door_r()) {
  c(json_head("advice"), unclass(result)[c("x", "y", "levels", "coefficient", "reason")], list(also = many(result$also)))
}

#' @export
json_fields.unsere_cautions <- function(result, door = door_r()) {
  c(json_head("cautions"), list(cautions = fields_of_cautions(result, no_variables(), door)))
}

#' @export
json_fields.unsere_predictions <- function(result, door = door_r()) {
  c(json_head("predictions"), list(predictions = as.data.frame(unclass_list(result))))
}

#' @export
json_fields.unsere_solutions <- function(result, door = door_r()) {
  c(json_head("solutions"), list(solutions = as.data.frame(unclass_list(result))))
}

#' @export
json_fields.default <- function(result, door = door_r()) {
  abort_usage(problem("There is no JSON form of %s.", class(result)[1]), "Give a result, such as from relate().")
}
