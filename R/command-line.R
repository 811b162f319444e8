command_line <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  shapes <- or_default(words_option(options, "shape"), "linear")
  confidence <- number_option(options, "confidence", 0.95)
  lines <- lapply(shapes, function(shape) fit_line_names(study, words[2], words[3], shape, confidence))
  if (isTRUE(options$residuals)) return(put_result(check_residuals(lines[[1]]), options))
  if (length(lines) > 1L) return(put_result(do.call(compare_lines, lines), options))
  put_result(used_line(lines[[1]], options), options)
}

#' The line with what was predicted and solved
#' @noRd
used_line <- function(line, options) {
  at <- numbers_option(options, "at")
  readings <- numbers_option(options, "solve")
  if (!is.null(at)) line$predictions <- unclass_rows(predict_y(line, at))
  if (any(line$predictions$outside_data)) line$cautions <- rbind(line$cautions, outside_caution(line))
  if (!is.null(readings)) line$solutions <- unclass_rows(estimate_x(line, readings, isTRUE(options$same_unknown)))
  line
}

command_rank <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  names <- vapply(words[-1], function(name) check_variable(study, name), "", USE.NAMES = FALSE)
  put_result(ranking_asked(study, names, options), options)
}

ranking_asked <- function(study, names, options) {
  rank_names(study, names[1], unique(names[-1]), or_default(options$coefficient, "auto"),
    number_option(options, "confidence", 0.95), at_option(options))
}

#' "practice_hours=5,attendance_pct=90"
#' @noRd
at_option <- function(options) {
  if (is.null(options$at)) return(NULL)
  parts <- strsplit(words_option(options, "at"), "=", fixed = TRUE)
  numbers <- vapply(parts, function(part) if (length(part) == 2L) numbers_in(trimws(part[2])) else NA_real_, 0)
  if (anyNA(numbers)) abort_usage(sprintf("--at takes a value for each predictor, not \"%s\".", options$at),
    "For example --at practice_hours=5,attendance_pct=90.")
  stats::setNames(as.list(numbers), trimws(vapply(parts, `[`, "", 1L)))
}
