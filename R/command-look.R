command_look <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  put_result(overview(study), options)
}
