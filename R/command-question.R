# A question asked by command: its words and options become its arguments, its answer is put out.

#' The command of a declared question
#' @noRd
question_command <- function(question, further = list(), run = ask_question) {
  arguments <- Filter(function(one) "command" %in% one$doors, question$arguments)
  list(
    usage = question$usage, about = question$about, words = question$words, open = !is.null(question$open),
    arguments = c(
      intake_arguments()[setdiff(names(intake_arguments()), names(further))],
      if (question$designed) design_arguments(), arguments, further,
      allow_sql_argument(), output_arguments()
    ), example = question$example,
    run = function(words, options, door) run(question, words, options, door)
  )
}

ask_question <- function(question, words, options, door) {
  check_output(options, words[1])
  study <- command_study(words[1], options)
  put_result(question$answer(study, question_given(question, study, words[-1], options)), options, door)
}

#' What was said, as a question takes it: names of variables looked up in the study
#' @noRd
question_given <- function(question, study, words, options) {
  places <- tolower(question$words[-1])
  places[places == "var"] <- "names"
  further <- length(words) - length(places)
  if (further > 0L) {
    if (length(question$open) > 1L && further > length(question$open)) {
      abort_usage(
        problem("\"%s\" is one word too many.", words[length(question$open) + 1L]), paste("Use: unsere", question$usage)
      )
    }
    places <- c(places, rep_len(question$open, further))
  }
  given <- Map(function(word, place) {
    if (place %in% question$lists) return(check_variables(study, listed_names(study, word)))
    if (place == "names") check_variables(study, word) else check_variable(study, word)
  }, words, places)
  given <- lapply(split(given, factor(places, unique(places))), unlist, use.names = FALSE)
  given$names <- unique(given$names)
  arguments_given <- options[intersect(names(options), names(question$arguments))]
  for (name in names(arguments_given)) {
    if (question$arguments[[name]]$type %in% c("variable", "variables")) {
      arguments_given[[name]] <- check_variables(study, arguments_given[[name]])
    }
  }
  c(given, arguments_given)
}

# A name may have commas of its own.
listed_names <- function(study, word) {
  if (word %in% study_names(study)) word else trimws(strsplit(word, ",", fixed = TRUE)[[1]])
}

#' The study that a file holds, read as the options say
#' @noRd
command_study <- function(file, options) {
  declared <- intake_arguments()
  how <- options[intersect(names(options), names(declared))]
  for (name in names(how)) how[[name]] <- check_argument(how[[name]], declared[[name]], name)
  study <- do.call(read_study, c(list(file), how))
  drawn <- options[intersect(names(options), names(design_arguments()))]
  inside <- c(replicate_method = "method", design_df = "df")
  renamed <- names(drawn) %in% names(inside)
  names(drawn)[renamed] <- inside[names(drawn)[renamed]]
  if (!is.null(drawn$imputed)) study <- with_imputed(study, drawn$imputed)
  with_design(study, drawn[names(drawn) != "imputed"])
}
