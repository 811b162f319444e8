# The report: what all output forms are set from.

#' @param results From [brief_results()]; `changes` from [changes_since()], or `NULL`.
#' @return A list: `title`, `question`, `answer` (a sentence, or `NULL`), `sections` in the order people work.
#' @noRd
new_report <- function(results, changes = NULL) {
  title <- or_default(results$brief$title, "Correlations")
  questions <- lapply(brief_sections(), function(section) sections_of_key(section$key, results))
  sections <- c(
    list(if (!is.null(changes)) changes_section(changes), answer_section(results), data_section(results)),
    list(variables_section(results)), do.call(c, unname(questions[order_of_sections(results$brief)])),
    list(conclusion_section(results), method_section(results), rows_section(results))
  )
  sections <- Filter(function(section) length(section$blocks) > 0L, Filter(Negate(is.null), sections))
  list(
    title = title, question = or_default(results$brief$question, title),
    answer = leading_answer(results), sections = sections
  )
}

#' What the report tells of one section of a brief: a list of sections, by the function of its name
#' @noRd
sections_of_key <- function(key, results) {
  get(paste0("sections_", key), topenv(), mode = "function", inherits = FALSE)(results)
}
