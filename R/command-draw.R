command_draw <- function(words, options) {
  one_of(words[1], "scatter", "KIND")
  if (is.null(options$out)) abort_usage("--out is missing.", "Say where the figure goes, such as --out scatter.png.")
  check_target(options$out, words[2])
  study <- study_option(words[2], options)
  for (name in words[3:4]) check_variable(study, name)
  if (!is.null(options$by)) check_variable(study, options$by)
  confidence <- number_option(options, "confidence", 0.95)
  named <- words_option(options, "name_cases")
  texts <- if (isTRUE(options$plain)) list(title = NA, subtitle = NA, caption = NA) else list(title = options$title)
  figure <- scatter_of(
    relate_names(study, words[3], words[4], confidence = confidence),
    fit_line_names(study, words[3], words[4], confidence = confidence),
    group = group_of(study, options$by, words[3], words[4]), line = !isTRUE(options$no_line),
    flat_line = isTRUE(options$flat_line), name_cases = or_default(named, "none"),
    limits = list(
      x = check_limits(numbers_option(options, "x_limits"), "--x-limits"),
      y = check_limits(numbers_option(options, "y_limits"), "--y-limits")
    ), texts = texts
  )
  save_figure(figure, options$out, number_option(options, "width", 8), number_option(options, "height", 5))
  note(options, sprintf("Written to %s.", options$out))
}
