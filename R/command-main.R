# The command `unsere`: finds the command asked for, runs it, and turns errors into one or two lines and a status.

#' Run the command line
#'
#' What `exec/unsere` calls: the same engine as the R functions.
#'
#' @param arguments The words after `unsere`, a character vector.
#' @return The exit status, invisibly: 0 done, 1 a fault in Unsere, 2 used wrongly, 3 the input cannot be used, 4 the
#'   result is not defined for these data.
#' @section Errors: none; they are written to standard error.
#' @examples
#' run_command(c("relate", demo_file("dial.csv"), "dial", "level_db"))
#' @export
run_command <- function(arguments) {
  status <- tryCatch(
    {
      dispatch(arguments)
      0L
    },
    unsere_error = function(e) tell_error(e),
    interrupt = function(e) {
      message("unsere: stopped.")
      1L
    },
    error = function(e) {
      if (grepl("No space left", conditionMessage(e), fixed = TRUE) || !has_room(tempdir())) {
        message("unsere: there is no room left on a disk that it needs, such as that of ", dirname(tempdir()), ".")
        return(3L)
      }
      message("unsere: a fault in Unsere itself: ", first_line(conditionMessage(e)))
      1L
    }
  )
  invisible(status)
}

tell_error <- function(e) {
  message("unsere: ", e$said)
  if (!is.null(e$hint)) message("  ", e$hint)
  statuses <- c(unsere_error_usage = 2L, unsere_error_input = 3L, unsere_error_undefined = 4L)
  statuses[[intersect(names(statuses), class(e))]]
}

commands <- function() {
  list(
    look = list(usage = "look FILE", about = "what is in the file", options = c(intake_options, "format", "out"),
      words = "FILE", example = "look DEMO/learners.csv", run = command_look
    ),
    relate = list(usage = "relate FILE X Y", about = "one pair: r, its interval and its test",
      options = c(intake_options, "coefficient", "expect", "confidence", "interval", "test", "seed", "resamples",
        "threads",
        "strength", "format", "out"),
      words = c("FILE", "X", "Y"), example = "relate DEMO/learners.csv practice_hours speaking_score",
        run = command_relate
    ),
    matrix = list(usage = "matrix FILE [VAR ...]", about = "all pairs",
      options = c(intake_options, "coefficient", "missing", "multiplicity", "highlight", "expect", "confidence",
        "by", "rows", "columns", "list", "strength", "table", "stars", "intervals", "chunk-rows", "threads", "format",
        "out"),
      words = "FILE", open = TRUE, example = "matrix DEMO/learners.csv practice_hours speaking_score confidence",
      run = command_matrix
    ),
    line = list(usage = "line FILE X Y [--at A,B] [--solve Y1,Y2]", about = "the line of Y in X",
      options = c(intake_options, "shape", "at", "solve", "same-unknown", "residuals", "confidence", "format", "out"),
      words = c("FILE", "X", "Y"), example = "line DEMO/dial.csv dial level_db --at 4.5 --solve 55,62",
        run = command_line
    ),
    rank = list(usage = "rank FILE OUTCOME VAR VAR ...", about = "which predictor goes best with the outcome",
      options = c(intake_options, "coefficient", "confidence", "at", "format", "out"),
      words = c("FILE", "OUTCOME", "VAR", "VAR"), open = TRUE,
      example = "rank DEMO/learners.csv speaking_score practice_hours attendance_pct", run = command_rank
    ),
    flag = list(usage = "flag FILE [X [Y]] [--time V] [--group V]", about = "is it more than a shared trend?",
      options = c(intake_options, "time", "group", "confidence", "format", "out"), words = "FILE", open = TRUE,
      example = "flag DEMO/town_years.csv ebook_loans cycle_path_km", run = command_flag
    ),
    draw = list(usage = "draw KIND FILE VAR ... --out F",
      about = "a figure of a KIND",
        more = c("KIND: scatter, residuals, predictors, over-time, pairs, matrix, distribution, quantiles,",
          "box, history (FILE is then a folder of results)"),
      options = c(intake_options, "by", "panels", "shape", "at", "solve", "case-band", "means", "confidence",
        "x-limits", "y-limits", "flat-line", "no-line", "name-cases",
        "time", "bins", "compare-log", "highlight", "by-likeness", "title", "plain", "width", "height", "out"),
      words = c("KIND", "FILE"), open = TRUE,
      example = "draw scatter DEMO/learners.csv practice_hours speaking_score --out scatter.png", run = command_draw
    ),
    brief = list(usage = "brief FILE [--out brief.yml]", about = "a starter brief, filled in from the file",
      options = c(intake_options, "out"), words = "FILE", example = "brief DEMO/dial.csv --out my-brief.yml",
        run = command_brief
    ),
    run = list(usage = "run BRIEF [--data FILE] [--since DIR] [--out DIR]", about = "the whole analysis of a brief",
      options = c("data", "since", "out"), words = "BRIEF", example = "run DEMO/learners.yml --out my-results",
        run = command_run
    ),
    demo = list(usage = "demo [--out DIR]", about = "the full example on the demo data", options = "out",
      words = character(), example = "demo --out my-demo", run = command_demo
    )
  )
}

dispatch <- function(arguments) {
  if (!length(arguments) || arguments[1] %in% c("--help", "-h", "help")) return(writeLines(general_help()))
  if (arguments[1] == "--version") return(writeLines(version_line()))
  name <- arguments[1]
  known <- commands()
  if (startsWith(name, "-")) check_option(sub("^-+", "", name), c("help", "version"))
  if (!name %in% names(known)) {
    abort_usage(sprintf("There is no command \"%s\".", name), suggest_names(name, names(known), "commands"))
  }
  command <- known[[name]]
  parsed <- parse_command(arguments[-1], c(command$options, closing_options))
  if (isTRUE(parsed$options$help)) return(writeLines(command_help(command)))
  if (isTRUE(parsed$options$version)) return(writeLines(version_line()))
  check_words(parsed$words, command)
  command$run(parsed$words, parsed$options)
}

check_words <- function(words, command) {
  wanted <- command$words
  if (length(words) == length(wanted) || length(words) > length(wanted) && isTRUE(command$open)) return(invisible())
  if (length(words) < length(wanted)) {
    abort_usage(sprintf("%s is missing.", wanted[length(words) + 1L]), sprintf("Use: unsere %s", command$usage))
  }
  abort_usage(sprintf("\"%s\" is one word too many.", words[length(wanted) + 1L]),
    sprintf("Use: unsere %s", command$usage))
}

version_line <- function() paste("unsere", as.character(utils::packageVersion("unsere")))

general_help <- function() {
  known <- commands()
  c(
    "Unsere: correlations that stand up to questions.", "",
    "First:  unsere demo            the full example, on made-up data",
    "Then:   unsere look FILE       what is in your own file", "",
    set_table(list(usage = paste("unsere", vapply(known, `[[`, "", "usage")), about = vapply(known, `[[`, "", "about")),
      left = 2L
    )[-1],
    "", "Help on one, with an example: unsere relate --help",
    "FILE is delimited text, .xlsx, .ods, .parquet or .json; - reads standard input."
  )
}

command_help <- function(command) {
  names <- c(command$options, closing_options)
  values <- vapply(names, function(name) c(command_options[[name]]$value, "")[1], "")
  options <- stats::setNames(
    as.list(vapply(names, function(name) command_options[[name]]$help, "")), trimws(paste0("--", names, " ", values))
  )
  example <- sub("DEMO", system.file("extdata", package = "unsere"), command$example, fixed = TRUE)
  c(
    sprintf("unsere %s", command$usage), paste0("  ", c(command$about, command$more)), "",
    "Options", set_entries(options), "",
    "Example", paste0("  unsere ", example)
  )
}
