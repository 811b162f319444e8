# `unsere demonstrate`: what correlations do, on made-up data.

demonstrate_command <- function() {
  question <- question_demonstrate()
  c(question[c("usage", "about", "words", "example")], list(
    arguments = c(question$arguments["seed"], output_arguments()), run = run_demonstrate
  ))
}

run_demonstrate <- function(words, options, door) {
  shown <- answer_demonstrate(list(topic = words[1], seed = options$seed))
  page <- !is.null(options$out) && grepl("[.]html?$", options$out)
  if (!page) return(put_result(shown, options, door))
  check_target(options$out)
  write_demonstration(shown, options$out)
  note(options, sprintf("Written to %s.", options$out))
}
