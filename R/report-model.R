# The report: what all output forms are set from.

#' @param results From [brief_results()]; `changes` from [changes_since()], or `NULL`.
#' @return A list: `title`, `question`, `answer` (a sentence, or `NULL`), `sections` in the order people work.
#' @noRd
new_report <- function(results, changes = NULL) {
  title <- or_default(results$brief$title, "Correlations")
  questions <- list(
    pairs = pair_sections(results), matrix = list(matrix_section(results)), rank = list(rank_section(results)),
    items = list(items_section(results)), levels = list(levels_section(results)), spurious = list(trend_section(results)),
    plan = list(plan_section(results))
  )
  sections <- c(
    list(if (!is.null(changes)) changes_section(changes), answer_section(results), data_section(results)),
    list(variables_section(results)), do.call(c, unname(questions[order_of_sections(results$brief)])),
    list(conclusion_section(results), method_section(results), rows_section(results))
  )
  sections <- Filter(function(section) length(section$blocks) > 0L, Filter(Negate(is.null), sections))
  list(
    title = title, question = or_default(results$brief$question, title),
    answer = if (length(results$pairs)) plain_answer(results$pairs[[1]]), sections = sections
  )
}

order_of_sections <- function(brief) unique(c(unlist(brief$report$order), section_kinds))
