draw_kinds <- function() {
  list(
    scatter = list(least = 2L, most = 2L, draw = draw_scatter_asked), distribution = list(least = 1L, most = 12L,
      draw = function(study, names, options, texts) {
        distribution_of(study, names, number_option(options, "bins"), isTRUE(options$compare_log), texts)
      }
    ),
    residuals = list(least = 2L, most = 2L, draw = function(study, names, options, texts) {
      line <- fit_line_names(study, names[1], names[2], or_default(options$shape, "linear"),
        number_option(options, "confidence", 0.95))
      residuals_figure(check_residuals(line), "path", texts = texts)
    }),
    "over-time" = list(least = 2L, most = 2L, draw = function(study, names, options, texts) {
      flags <- flags_asked(study, names, options)
      if (is.null(flags$series)) abort_usage("This file has no variable with the time.", "Name it with --time.")
      over_time_figure(flags, "time", texts)
    }),
    predictors = list(least = 3L, most = 7L, draw = function(study, names, options, texts) {
      predictors_figure(ranking_asked(study, names, options), texts)
    }),
    history = list(least = 0L, most = 0L),
    quantiles = list(least = 1L, most = 12L, draw = function(study, names, options, texts) {
      quantiles_of(study, names, isTRUE(options$compare_log), texts)
    }),
    matrix = list(least = 0L, most = 200L, draw = function(study, names, options, texts) {
      plan <- list(highlight = number_option(options, "highlight"), confidence = number_option(options, "confidence"))
      matrix_figure(matrix_names(study, names, plan = plan), texts, isTRUE(options$by_likeness))
    }),
    pairs = list(least = 2L, most = 30L, draw = function(study, names, options, texts) {
      pairs_figure(study, matrix_names(study, names), texts = texts)
    }),
    box = list(least = 1L, most = 12L, draw = function(study, names, options, texts) {
      box_of(study, names, isTRUE(options$compare_log), texts = texts)
    })
  )
}

command_draw <- function(words, options) {
  kinds <- draw_kinds()
  if (!words[1] %in% names(kinds)) {
    abort_usage(sprintf("There is no figure \"%s\".", words[1]),
      suggest_names(words[1], names(kinds), "kinds of figure"))
  }
  kind <- kinds[[words[1]]]
  asked <- words[-(1:2)]
  if (length(asked) < kind$least || length(asked) > kind$most) {
    abort_usage(
      sprintf("A %s figure takes %s, not %d.", words[1],
        if (kind$least == kind$most) count_of(kind$least, "variable") else sprintf("%d to %d variables", kind$least,
          kind$most),
        length(asked)
      ),
      "Use: unsere draw KIND FILE VAR ... --out F"
    )
  }
  if (is.null(options$out)) abort_usage("--out is missing.", "Say where the figure goes, such as --out figure.png.")
  check_target(options$out, words[2])
  if (words[1] == "history") {
    figure <- history_figure(read_history(words[2]), figure_texts(options$title, NULL, NULL, isTRUE(options$plain)))
    return(put_figure(figure, options, 9, 5))
  }
  study <- study_option(words[2], options)
  names <- vapply(asked, function(name) check_variable(study, name), "", USE.NAMES = FALSE)
  plain <- isTRUE(options$plain)
  figure <- kind$draw(study, names, options, figure_texts(options$title, NULL, NULL, plain))
  panels <- length(names)
  put_figure(figure, options, usual_width(words[1], panels),
    if (isTRUE(options$panels)) 7 else usual_height(words[1], panels))
}

put_figure <- function(figure, options, width, height) {
  replace_by(options$out, function(draft) {
    save_figure(figure, draft, number_option(options, "width", width), number_option(options, "height", height))
  })
  note(options, sprintf("Written to %s.", options$out))
}

# Box plots stand one under the other and need room for the names of cases.
usual_height <- function(kind, panels) {
  if (kind == "over-time") return(6.5)
  if (kind == "predictors") return(if (panels > 4) 9 else 5.5)
  if (kind == "pairs") return(if (panels > 4) 9 else if (panels > 2) 7 else 5)
  if (kind == "box") return(max(5, 1.6 + 1.5 * panels))
  if (kind == "matrix") return(if (panels == 0) 9 else min(max(5, 1.5 + 0.55 * panels), 14))
  if (panels > 4) 7 else 5
}

usual_width <- function(kind, panels) {
  if (kind %in% c("pairs", "predictors")) 11 else if (kind == "matrix" &&
  (panels == 0 ||
  panels > 8)) 14 else 8
}

draw_scatter_asked <- function(study, names, options, texts) {
  if (!is.null(options$by)) check_variable(study, options$by)
  confidence <- number_option(options, "confidence", 0.95)
  fitted <- fit_line_names(study, names[1], names[2], or_default(options$shape, "linear"), confidence)
  group <- group_of(study, options$by, names[1], names[2])
  if (isTRUE(options$panels)) return(panels_figure(fitted, group, texts))
  scatter_of(
    relate_names(study, names[1], names[2], confidence = confidence), fitted,
    group = group, line = !isTRUE(options$no_line),
    flat_line = isTRUE(options$flat_line), name_cases = or_default(words_option(options, "name_cases"), "none"),
    limits = list(
      x = check_limits(numbers_option(options, "x_limits"), "--x-limits"),
      y = check_limits(numbers_option(options, "y_limits"), "--y-limits")
    ), texts = texts, extra = list(case_band = isTRUE(options$case_band), means = isTRUE(options$means),
      marks = line_marks(fitted, numbers_option(options, "at"), numbers_option(options, "solve")))
  )
}
