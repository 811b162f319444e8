# `unsere plan`: how many cases, without a file.

plan_command <- function() {
  list(
    usage = "plan [--r R] [--n N] [--power P]", about = "how many cases are needed?", words = character(),
    arguments = c(plan_arguments(), list(
      draw = argument("path", "draw the curve into this file", value = "FILE")
    ), output_arguments()), example = "plan --r 0.3 --power 0.8", run = run_plan
  )
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
