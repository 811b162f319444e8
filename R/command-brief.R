command_brief <- function(words, options) {
  out <- or_default(options$out, "brief.yml")
  check_target(out, words[1])
  write_brief(study_option(words[1], options), out)
  note(options, sprintf("Written to %s. Next: unsere run %s", out, out))
}

command_run <- function(words, options) {
  folder <- run_brief(words[1], options$data, options$since, options$out, isTRUE(options$quiet))
  note(options, sprintf("Written to %s: %s", folder, paste(list.files(folder), collapse = ", ")))
}
