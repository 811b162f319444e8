# The commands that write a whole analysis: a starter brief, a run of one, the demo.

brief_commands <- function() {
  out <- output_arguments()["out"]
  since <- argument("path", "the results folder of an earlier run, to report what has changed", value = "DIR")
  data <- argument("path", "a data file to use instead of the one in the brief", value = "FILE")
  list(
    brief = list(
      usage = "brief FILE [--out brief.yml]", about = "write a starter brief for the file", words = "FILE",
      arguments = c(intake_arguments(), allow_sql_argument(), out), example = "brief DEMO/dial.csv --out my-brief.yml",
      run = command_brief
    ),
    run = list(
      usage = "run BRIEF [--data FILE] [--since DIR] [--out DIR]",
      about = "run all analyses of a brief and write the report",
      words = "BRIEF", arguments = c(list(data = data, since = since), allow_sql_argument(), out),
      example = "run DEMO/learners.yml --out my-results", run = command_run
    ),
    verify = list(
      usage = "verify DIR [--data FILE]", about = "verify that results are reproduced", words = "DIR",
      arguments = c(
        list(data = argument("path", "the data file, instead of the rows in the folder", value = "FILE")),
        allow_sql_argument(), output_arguments()
      ), example = "verify my-results", run = command_verify
    ),
    demo = list(
      usage = "demo [--out DIR]", about = "run the full example on the demo data", words = character(), arguments = out,
      example = "demo --out my-demo", run = command_demo
    )
  )
}

command_brief <- function(words, options, door) {
  out <- or_default(options$out, "brief.yml")
  if (words[1] == "-") abort_usage("A brief needs a file with a name, not standard input.", "Save the data first.")
  check_target(out, inputs_of(words[1], options))
  write_brief(command_study(words[1], options), out)
  note(options, sprintf("Written to %s. Next: unsere run %s", out, shell_word(out)))
}

command_run <- function(words, options, door) {
  folder <- run_brief(words[1], options$data, options$since, options$out, isTRUE(options$quiet))
  note(options, sprintf("Written to %s: %s", folder, paste(list.files(folder), collapse = ", ")))
}

command_verify <- function(words, options, door) {
  verdict <- verify_results(words[1], options$data)
  put_result(verdict, options, door)
  if (!is_confirmed(verdict)) abort_undefined(in_words(verdict), "See what differs above.")
}

command_demo <- function(words, options, door) {
  folder <- or_default(options$out, "unsere-demo")
  show_demo(folder, isTRUE(options$quiet), door_shell(file.path(folder, "data", "learners.csv")))
  writeLines(c(
    "", sprintf("The data, to try things on: %s", file.path(folder, "data")),
    sprintf("The page: %s", file.path(folder, "report.html"))
  ))
}
