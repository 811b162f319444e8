# The command `unsere`: finds the command asked for, runs it, and turns errors into one or two lines and a status.

#' Run the command line
#'
#' Runs a command of `unsere` from R, with the same results as the R functions.
#'
#' From a shell, `Rscript -e "unsere::run_command()" relate scores.csv hours score` does on any machine with R what the
#' command `unsere relate scores.csv hours score` does where it is installed.
#'
#' @param arguments The words after `unsere`, a character vector. Default: the words after R's own in the call of a script;
#'   R then ends with the exit status.
#' @return The exit status, invisibly: 0 success, 1 a fault in Unsere, 2 wrong usage, 3 input that cannot be used, 4 a
#'   result that is not defined for these data, 130 interrupted.
#' @section Errors: None; messages are written to standard error.
#' @examples
#' run_command(c("relate", demo_file("dial.csv"), "dial", "level_db"))
#' @export
run_command <- function(arguments = commandArgs(trailingOnly = TRUE)) {
  if (missing(arguments) && !interactive()) quit("no", run_command(arguments))
  undo <- use_utf8()
  on.exit(undo())
  before <- options(unsere.language = asked_language(arguments))
  on.exit(options(before), add = TRUE)
  status <- tryCatch(
    with_files({
      dispatch(arguments)
      check_written()
      0L
    }),
    unsere_error = function(e) tell_error(e),
    interrupt = function(e) {
      message("unsere: stopped.")
      130L
    },
    error = function(e) {
      if (grepl("No space left", conditionMessage(e), fixed = TRUE) || !has_room(tempdir())) {
        message("unsere: there is no room left on a disk that it needs, such as that of ", dirname(tempdir()), ".")
        return(3L)
      }
      if (grepl("SIGPIPE", conditionMessage(e))) return(0L) # who reads has seen enough
      if (grepl("cannot allocate|bad_alloc", conditionMessage(e))) {
        return(tell_error(tryCatch(abort_memory(), error = identity)))
      }
      message("unsere: a fault in Unsere itself: ", first_line(conditionMessage(e)))
      1L
    }
  )
  invisible(status)
}

#' The language that the words of the command ask for, before anything else is made of them, so that errors speak it too
#' @noRd
asked_language <- function(arguments) {
  at <- grep("^--language(=|$)", arguments)
  code <- if (length(at)) sub("^--language=?", "", arguments[at[1]])
  if (identical(code, "")) code <- arguments[at[1] + 1L]
  if (length(code) && code %in% languages()) code else getOption("unsere.language")
}

tell_error <- function(e) {
  message("unsere: ", error_text(e))
  if (!is.null(e$hint)) message("  ", error_hint(e))
  statuses <- c(unsere_error_usage = 2L, unsere_error_input = 3L, unsere_error_undefined = 4L)
  statuses[[intersect(names(statuses), class(e))]]
}

#' All commands: the questions, and what is done beside them
#' @noRd
commands <- function() {
  c(
    lapply(questions(), command_of_question), list(draw = draw_command()), brief_commands(),
    list(plan = plan_command(), demonstrate = demonstrate_command(), desk = desk_command())
  )
}

command_of_question <- function(question) {
  if (question$name == "matrix") question_command(question, matrix_arguments(), ask_matrix) else question_command(question)
}

#' The command of a name; of a question it alone is built
#' @noRd
find_command <- function(name) {
  maker <- get0(paste0("question_", name), topenv(), mode = "function", inherits = FALSE)
  question <- if (!is.null(maker) && !length(formals(maker))) maker()
  if ("FILE" %in% question$words) return(command_of_question(question))
  known <- commands()
  if (name %in% names(known)) return(known[[name]])
  abort_usage(problem("There is no command \"%s\".", name), suggest_names(name, names(known), "commands"))
}

dispatch <- function(arguments) {
  if (!length(arguments) || arguments[1] %in% c("--help", "-h", "help")) return(writeLines(general_help(commands())))
  if (arguments[1] == "--version") return(writeLines(version_line()))
  name <- arguments[1]
  if (startsWith(name, "-")) check_option(sub("^-+", "", name), c("help", "version"))
  command <- find_command(name)
  declared <- c(command$arguments, closing_arguments())
  parsed <- parse_words(enc2utf8(arguments[-1]), declared)
  if (isTRUE(parsed$options$help)) return(writeLines(command_help(command)))
  if (isTRUE(parsed$options$version)) return(writeLines(version_line()))
  check_words(parsed$words, command)
  if (!is.null(parsed$options$language)) check_language(parsed$options$language)
  how <- parsed$texts[intersect(names(parsed$texts), c(names(intake_arguments()), names(allow_sql_argument())))]
  door <- door_shell(parsed$words[match("FILE", command$words)], how)
  with_named_tables(command$run(parsed$words, parsed$options, door), allowed = isTRUE(parsed$options$allow_sql))
}

#' Work in UTF-8 also where the locale has none: names and paths are then understood as they are typed, and text output
#' keeps to plain marks
#' @return A function that undoes it.
#' @noRd
use_utf8 <- function() {
  before <- Sys.getlocale("LC_CTYPE")
  if (l10n_info()$`UTF-8`) return(function() NULL)
  for (name in c("C.UTF-8", "en_US.UTF-8", "UTF-8")) {
    if (nzchar(suppressWarnings(Sys.setlocale("LC_CTYPE", name)))) break
  }
  former <- options(unsere.plain_marks = TRUE)
  function() {
    options(former)
    Sys.setlocale("LC_CTYPE", before)
  }
}

check_words <- function(words, command) {
  wanted <- command$words
  if (length(words) == length(wanted) || length(words) > length(wanted) && isTRUE(command$open)) return(invisible())
  if (length(words) < length(wanted)) {
    abort_usage(problem("%s is missing.", wanted[length(words) + 1L]), problem("Use: unsere %s", command$usage))
  }
  abort_usage(
    problem("\"%s\" is one word too many.", words[length(wanted) + 1L]),
    problem("Use: unsere %s", command$usage)
  )
}

version_line <- function() paste("unsere", as.character(utils::packageVersion("unsere")))
