# Figures by command; which there are, how many variables each takes, its size and its options say their declarations.

draw_command <- function() {
  list(
    usage = "draw KIND FILE VAR ... --out F", about = "draw a figure",
    more = strwrap(paste("KIND:", names_of_drawings()), 90),
    words = c("KIND", "FILE"), open = TRUE,
    arguments = c(intake_arguments(), all_drawing_arguments(), allow_sql_argument(), output_arguments()["out"]),
    example = "draw scatter DEMO/learners.csv practice_hours speaking_score --out scatter.png", run = command_draw
  )
}

command_draw <- function(words, options, door) {
  kinds <- all_drawings()
  if (!words[1] %in% names(kinds)) {
    abort_usage(
      problem("There is no figure \"%s\".", words[1]), suggest_names(words[1], names(kinds), "kinds of figure")
    )
  }
  kind <- kinds[[words[1]]]
  n <- length(words) - 2L
  check_number_of_variables(words[1], kind, n)
  check_drawing_options(words[1], kind, names(options))
  if (is.null(options$out)) abort_usage("--out is missing.", "Say where the figure goes, such as --out figure.png.")
  check_target(options$out, inputs_of(words[2], options))
  if (is_regular(options$out)) figure_kind(options$out)
  question <- list(arguments = all_drawing_arguments(), words = "FILE", open = "names", usage = draw_command()$usage)
  texts <- figure_texts(options$title, NULL, NULL, isTRUE(options$plain))
  if (kind$of == "folder") {
    given <- settle_arguments(question, options[intersect(names(options), names(question$arguments))])
    return(put_figure(kind$draw(words[2], texts), options, given, kind, n))
  }
  study <- command_study(words[2], options)
  given <- settle_arguments(question, question_given(question, study, words[-(1:2)], options))
  if (!is.null(given$at)) given$at <- parse_value(given$at, list(type = kind$at), "at")
  put_figure(kind$draw(study, as.character(given$names), given, texts), options, given, kind, n)
}

check_drawing_options <- function(name, kind, given) {
  takes <- c(names(kind$arguments), names(shared_drawing_arguments()))
  stray <- setdiff(intersect(given, names(all_drawing_arguments())), takes)
  if (length(stray)) abort_usage(
    problem("A %s figure has no option %s.", name, option_name(stray[1])),
    problem("Its options: %s.", paste_or(option_name(takes)))
  )
}

check_number_of_variables <- function(name, kind, n) {
  if (n >= kind$least && n <= kind$most) return(invisible())
  takes <- if (kind$least == kind$most) {
    count_of(kind$least, "variable")
  } else {
    sprintf("%d to %d variables", kind$least, kind$most)
  }
  abort_usage(problem("A %s figure takes %s, not %d.", name, takes, n), "Use: unsere draw KIND FILE VAR ... --out F")
}

put_figure <- function(figure, options, arguments_given, kind, n) {
  width <- or_default(arguments_given$width, kind$width(n))
  height <- or_default(arguments_given$height, if (isTRUE(arguments_given$panels)) 7 else kind$height(n))
  replace_by(options$out, function(draft) save_figure(figure, draft, width, height))
  note(options, sprintf("Written to %s.", options$out))
}
