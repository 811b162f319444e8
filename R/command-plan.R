# `unsere plan`: how many cases, without a file.

plan_command <- function() {
  question <- question_plan()
  drawn <- list(draw = argument("path", "draw the power curve into this file", value = "FILE"))
  c(question[c("usage", "about", "words", "example")], list(
    arguments = c(question$arguments, drawn, output_arguments()), run = run_plan
  ))
}

run_plan <- function(words, options, door) {
  plan <- answer_plan(options[intersect(names(options), names(plan_arguments()))])
  put_result(plan, options, door)
  if (!is.null(options$draw)) {
    check_target(options$draw)
    save_figure(figure_plan(plan), options$draw, width = 8, height = 5)
    note(options, sprintf("Written to %s.", options$draw))
  }
}
