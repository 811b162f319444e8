# Figures by command: kinds of figure, how many variables each takes, its size and its options.

draw_command <- function() {
  list(
    usage = "draw KIND FILE VAR ... --out F", about = "a figure of a KIND",
    more = c(
      "KIND: scatter, residuals, predictors, over-time, pairs, matrix, distribution, quantiles,",
      "box, history (FILE is then a folder of results)"
    ),
    words = c("KIND", "FILE"), open = TRUE,
    arguments = c(intake_arguments(), draw_arguments(), allow_sql_argument(), output_arguments()["out"]),
    example = "draw scatter DEMO/learners.csv practice_hours speaking_score --out scatter.png", run = command_draw
  )
}

draw_arguments <- function() {
  inches <- function(help) argument("number", help, value = "INCHES", from = 1, to = 60)
  limits <- function(help) argument("numbers", help, value = "A,B")
  line <- question_line()$arguments
  flag <- question_flag()$arguments
  c(
    list(
      by = argument("variable", "a variable that splits the cases into groups", value = "VAR"),
      given = argument("variables", "variables held constant: what is left of both is drawn", value = "A,B"),
      panels = argument("flag", "a panel for each group of --by", default = FALSE),
      shape = argument("choice", "linear, log or quadratic", default = "linear", value = "S", allowed = line_shapes),
      at = argument("text", "predict at these values (for predictors: name=value,name=value)", value = "A,B"),
      solve = line$solve, case_band = argument("flag", "add the band in which a single new case lies", default = FALSE),
      means = argument("flag", "lay the mean of Y at each X over the dots", default = FALSE)
    ),
    shared_arguments("confidence"),
    list(
      x_limits = limits("the ends of the horizontal axis"), y_limits = limits("the ends of the vertical axis"),
      flat_line = argument("flag", "draw the flat line at the mean too", default = FALSE),
      no_line = argument("flag", "leave the fitted line out", default = FALSE),
      name_cases = argument("texts", "all, or names of cases separated by commas", value = "WHICH"),
      time = flag$time, group = flag$group,
      bins = argument("whole", "about how many bins a histogram has", value = "N", from = 1, to = 500),
      compare_log = argument("flag", "show the natural logarithm beside the values", default = FALSE),
      highlight = question_matrix()$arguments$highlight,
      by_likeness = argument("flag", "variables that go together stand together", default = FALSE),
      title = argument("text", "the title of the figure", value = "TEXT"),
      plain = argument("flag", "no title and no notes, as journals want figures", default = FALSE),
      width = inches("the width of the figure"), height = inches("the height of the figure")
    )
  )
}

#' A kind of figure: the fewest and the most variables, its width and height by their number, and how it is drawn
#' @noRd
draw_kind <- function(least, most, draw, width = function(n) 8, height = function(n) if (n > 4) 7 else 5) {
  list(least = least, most = most, draw = draw, width = width, height = height)
}

draw_kinds <- function() {
  list(
    scatter = draw_kind(2L, 2L, draw_scatter_kind),
    residuals = draw_kind(2L, 2L, function(study, names, asked, texts) {
      line <- question_line()$answer(study, c(list(x = names[1], y = names[2]), asked[c("shape", "confidence")]))
      figure_residuals(check_residuals(line), "path", texts = texts)
    }),
    predictors = draw_kind(3L, 7L, function(study, names, asked, texts) {
      at <- if (!is.null(asked$at)) parse_value(asked$at, list(type = "values"), "at")
      given <- list(outcome = names[1], names = names[-1], confidence = asked$confidence, at = at)
      figure_predictors(question_rank()$answer(study, given), texts)
    }, function(n) 11, function(n) if (n > 4) 9 else 5.5),
    "over-time" = draw_kind(2L, 2L, function(study, names, asked, texts) {
      given <- c(list(x = names[1], y = names[2]), asked[c("time", "group", "confidence")])
      flags <- question_flag()$answer(study, given)
      if (is.null(flags$series)) abort_usage("This file has no variable with the time.", "Name it with --time.")
      figure_over_time(flags, "time", texts)
    }, height = function(n) 6.5),
    pairs = draw_kind(2L, 30L, function(study, names, asked, texts) {
      figure_pairs(study, question_matrix()$answer(study, list(names = names)), texts = texts)
    }, function(n) 11, function(n) if (n > 4) 9 else if (n > 2) 7 else 5),
    matrix = draw_kind(0L, 200L, function(study, names, asked, texts) {
      matrix <- question_matrix()$answer(study, c(list(names = names), asked[c("highlight", "confidence")]))
      figure_matrix(matrix, texts, asked$by_likeness)
    }, function(n) if (n == 0 || n > 8) 14 else 8, function(n) if (n == 0) 9 else min(max(5, 1.5 + 0.55 * n), 14)),
    distribution = draw_kind(1L, 12L, function(study, names, asked, texts) {
      figure_distribution(study, names, asked$bins, asked$compare_log, texts)
    }),
    quantiles = draw_kind(1L, 12L, function(study, names, asked, texts) {
      figure_quantiles(study, names, asked$compare_log, texts)
    }),
    # Box plots stand one under the other and need room for the names of cases.
    box = draw_kind(1L, 12L, function(study, names, asked, texts) {
      figure_box(study, names, asked$compare_log, texts = texts)
    }, height = function(n) max(5, 1.6 + 1.5 * n)),
    history = draw_kind(0L, 0L, NULL, function(n) 9, function(n) 5)
  )
}

draw_scatter_kind <- function(study, names, asked, texts) {
  asked$line <- !asked$no_line
  asked$labels <- TRUE
  asked$name_cases <- or_default(asked$name_cases, "none")
  if (!is.null(asked$at)) asked$at <- parse_value(asked$at, list(type = "numbers"), "at")
  draw_pair(study, names[1], names[2], asked, texts)
}

command_draw <- function(words, options, door) {
  kinds <- draw_kinds()
  if (!words[1] %in% names(kinds)) {
    abort_usage(
      sprintf("There is no figure \"%s\".", words[1]), suggest_names(words[1], names(kinds), "kinds of figure")
    )
  }
  kind <- kinds[[words[1]]]
  n <- length(words) - 2L
  check_number_of_variables(words[1], kind, n)
  if (is.null(options$out)) abort_usage("--out is missing.", "Say where the figure goes, such as --out figure.png.")
  check_target(options$out, inputs_of(words[2], options))
  if (is_regular(options$out)) figure_kind(options$out)
  question <- list(arguments = draw_arguments(), words = "FILE", open = "names", usage = draw_command()$usage)
  texts <- figure_texts(options$title, NULL, NULL, isTRUE(options$plain))
  if (words[1] == "history") {
    asked <- settle_arguments(question, options[intersect(names(options), names(question$arguments))])
    return(put_figure(figure_history(read_history(words[2]), texts), options, asked, kind, n))
  }
  study <- command_study(words[2], options)
  asked <- settle_arguments(question, question_given(question, study, words[-(1:2)], options))
  put_figure(kind$draw(study, as.character(asked$names), asked, texts), options, asked, kind, n)
}

check_number_of_variables <- function(name, kind, n) {
  if (n >= kind$least && n <= kind$most) return(invisible())
  takes <- if (kind$least == kind$most) {
    count_of(kind$least, "variable")
  } else {
    sprintf("%d to %d variables", kind$least, kind$most)
  }
  abort_usage(sprintf("A %s figure takes %s, not %d.", name, takes, n), "Use: unsere draw KIND FILE VAR ... --out F")
}

put_figure <- function(figure, options, asked, kind, n) {
  width <- or_default(asked$width, kind$width(n))
  height <- or_default(asked$height, if (isTRUE(asked$panels)) 7 else kind$height(n))
  replace_by(options$out, function(draft) save_figure(figure, draft, width, height))
  note(options, sprintf("Written to %s.", options$out))
}
