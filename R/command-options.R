# The options of the command: each is described once, here, and listed by name in the commands that take it.

command_options <- list(
  sheet = list(value = "NAME", help = "the sheet of a workbook, by name or number"),
  "header-row" = list(value = "N", help = "the row of the headings, counted from 1 (found by itself)"),
  "missing-codes" = list(value = "A,B", help = "values that stand for \"no answer\", such as -9,99"),
  codebook = list(value = "FILE", help = "a codebook (CSV); without it codebook.csv beside the data is used"),
  decimal = list(value = "MARK", help = "the decimal mark, . or , (found by itself)"),
  delimiter = list(value = "MARK", help = "the delimiter: , or ; or tab (found by itself)"),
  encoding = list(value = "NAME", help = "the encoding of the text (found by itself)"),
  coefficient = list(value = "NAME", help = "auto, pearson, spearman, point-biserial or phi"),
  expect = list(value = "DIRECTION", help = "the direction predicted beforehand: either, positive, negative"),
  confidence = list(value = "SHARE", help = "the coverage of intervals, such as 0.95"),
  interval = list(value = "KIND", help = "analytic or bootstrap"),
  test = list(value = "KIND", help = "analytic, exact or permutation"),
  seed = list(value = "N", help = "a whole number that fixes resampling"),
  resamples = list(value = "N", help = "how many resamples or permutations (10000)"),
  threads = list(value = "N", help = "how many threads work (2)"),
  missing = list(value = "HOW", help = "pairwise (each pair's own cases) or listwise (cases that have every value)"),
  multiplicity = list(value = "HOW", help = "what many tests do to p: holm, benjamini-hochberg or none"),
  rows = list(value = "A,B", help = "the variables down, for a rectangle"),
  columns = list(value = "A,B", help = "the variables across, for a rectangle"),
  list = list(help = "each pair on a line with its test, and its sentence"),
  table = list(value = "PATH", help = "also write the table for a paper: .docx, .xlsx, .html, .md or .csv"),
  stars = list(help = "mark p below .05, .01 and .001 in that table"),
  intervals = list(help = "set the interval under each r in that table"),
  "chunk-rows" = list(value = "N", help = "read so many lines at a time, for files larger than memory (Pearson only)"),
  highlight = list(value = "R", help = "the size of r from which on a pair stands out (0.5)"),
  strength = list(value = "SCALE",
    help = "the scale behind words for size: cohen, evans, gignac, or small=.1,large=.4"),
  shape = list(value = "S", help = "linear, log or quadratic; for a comparison several, such as linear,log"),
  at = list(value = "A,B", help = "predict at these values (for several predictors: name=value,name=value)"),
  solve = list(value = "Y1,Y2", help = "which X belongs to these readings of Y"),
  "same-unknown" = list(help = "all readings of --solve are of one unknown"),
  residuals = list(help = "look at what the line leaves instead"),
  "case-band" = list(help = "add the band in which a single new case lies"),
  panels = list(help = "a panel for each group of --by"),
  means = list(help = "lay the mean of Y at each X over the dots"),
  time = list(value = "VAR", help = "the variable that holds the time (that with the role time)"),
  group = list(value = "VAR", help = "the variable that splits the cases (that with the role group)"),
  by = list(value = "VAR", help = "a variable that splits the cases into groups"),
  "x-limits" = list(value = "A,B", help = "the ends of the horizontal axis"),
  "y-limits" = list(value = "A,B", help = "the ends of the vertical axis"),
  "name-cases" = list(value = "WHICH", help = "all, or names of cases separated by commas"),
  title = list(value = "TEXT", help = "the title of the figure"),
  width = list(value = "INCHES", help = "the width of the figure"),
  height = list(value = "INCHES", help = "the height of the figure"),
  bins = list(value = "N", help = "about how many bins a histogram has"),
  "by-likeness" = list(help = "variables that go together stand together"),
  "compare-log" = list(help = "show the natural logarithm beside the values"),
  "flat-line" = list(help = "draw the flat line at the mean too"),
  "no-line" = list(help = "leave the fitted line out"),
  plain = list(help = "no title and no notes, as journals want figures"),
  data = list(value = "FILE", help = "a data file in place of the brief's own"),
  since = list(value = "DIR", help = "the results of an earlier run: say first what changed"),
  format = list(value = "FORM", help = "text, json, csv or markdown"),
  out = list(value = "PATH", help = "write to this file (for run and demo: this folder) instead"),
  quiet = list(help = "no notes beside the result"),
  help = list(help = "show this help"),
  version = list(help = "show the version")
)

intake_options <- c("sheet", "header-row", "missing-codes", "codebook", "decimal", "delimiter", "encoding")

closing_options <- c("quiet", "help", "version")

#' Options and plain words apart; every option is one that the command takes
#' @noRd
parse_command <- function(arguments, allowed) {
  split <- split_arguments(arguments, allowed)
  declared <- lapply(allowed, function(name) {
    spec <- command_options[[name]]
    optparse::make_option(paste0("--", name),
      action = if (is.null(spec$value)) "store_true" else "store",
      type = if (is.null(spec$value)) "logical" else "character", default = NULL, dest = gsub("-", "_", name)
    )
  })
  parser <- optparse::OptionParser(option_list = declared, add_help_option = FALSE)
  list(words = split$words, options = optparse::parse_args(parser, args = split$options, print_help_and_exit = FALSE))
}

#' "--name value" becomes "--name=value", so that a value may start with a minus sign
#' @noRd
split_arguments <- function(arguments, allowed) {
  words <- options <- character()
  i <- 1L
  while (i <= length(arguments)) {
    argument <- arguments[i]
    if (argument %in% c("-h", "-?")) argument <- "--help"
    if (startsWith(argument, "--") && nchar(argument) > 2L) {
      name <- sub("^--([^=]*).*$", "\\1", argument)
      check_option(name, allowed)
      takes_value <- !is.null(command_options[[name]]$value)
      has_value <- grepl("=", argument, fixed = TRUE)
      if (has_value && !takes_value) abort_usage(sprintf("--%s takes no value.", name),
        sprintf("Write --%s alone.", name))
      if (takes_value && !has_value) {
        i <- i + 1L
        if (i > length(arguments)) abort_usage(sprintf("--%s needs a value.", name),
          sprintf("It takes %s.", command_options[[name]]$help))
        argument <- paste0(argument, "=", arguments[i])
      }
      options <- c(options, argument)
    } else if (grepl("^-[A-Za-z]", argument)) {
      abort_usage(sprintf("There is no option %s.", argument), "Options are whole words, such as --format.")
    } else {
      words <- c(words, argument)
    }
    i <- i + 1L
  }
  list(words = words, options = options)
}

check_option <- function(name, allowed) {
  if (name %in% allowed) return(invisible())
  near <- nearest_names(name, allowed)
  abort_usage(
    sprintf("There is no option --%s here.", name),
    if (length(near)) sprintf("Did you mean --%s?", near[1]) else paste0("The options: ",
      paste0("--", allowed, collapse = ", "), ".")
  )
}

number_option <- function(options, name, otherwise = NULL) {
  text <- options[[name]]
  if (is.null(text)) return(otherwise)
  numbers <- numbers_in(trimws(text))
  if (is.na(numbers)) abort_usage(sprintf("--%s takes one number, not \"%s\".", gsub("_", "-", name), text))
  numbers
}

numbers_option <- function(options, name) {
  text <- options[[name]]
  if (is.null(text)) return(NULL)
  numbers <- numbers_in(trimws(strsplit(text, ",", fixed = TRUE)[[1]]))
  if (!length(numbers) || anyNA(numbers)) {
    abort_usage(sprintf("--%s takes numbers separated by commas, not \"%s\".", gsub("_", "-", name), text))
  }
  numbers
}

words_option <- function(options, name) {
  if (is.null(options[[name]])) NULL else trimws(strsplit(options[[name]], ",", fixed = TRUE)[[1]])
}

#' A scale's name, or the user's own cut points as "small=.1,large=.4"
#' @noRd
strength_option <- function(options) {
  text <- options$strength
  if (is.null(text)) return("cohen")
  if (!grepl("=", text, fixed = TRUE)) return(text)
  parts <- strsplit(words_option(options, "strength"), "=", fixed = TRUE)
  stats::setNames(
    vapply(parts, function(part) if (length(part) == 2L) numbers_in(part[2]) else NA_real_, 0),
    vapply(parts, `[`, "", 1L)
  )
}
