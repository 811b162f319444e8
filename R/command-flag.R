command_flag <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  put_result(flags_asked(study, words[-1], options), options)
}

flags_asked <- function(study, names, options) {
  if (length(names) > 2L) abort_usage(sprintf("\"%s\" is one word too many.", names[3]),
    "Use: unsere flag FILE [X [Y]]")
  names <- vapply(names, function(name) check_variable(study, name), "", USE.NAMES = FALSE)
  checked <- function(name) if (!is.null(name)) check_variable(study, name)
  flag_names(study, if (length(names)) names[1], if (length(names) > 1L) names[2], checked(options$time),
    checked(options$group),
    number_option(options, "confidence", 0.95))
}
