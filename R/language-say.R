# Languages: a sentence is one template, in English in the code, and in each further language in a file of its own,
# inst/languages/CODE.yml. A third language is one more file there.

spoken <- new.env(parent = emptyenv())
spoken$code <- "en"

#' A template in the language in use, filled in
#' @param template One or several, in English, for [sprintf()]; without more arguments the text itself.
#' @noRd
say <- function(template, ...) {
  text <- translated(template)
  if (...length()) sprintf(text, ...) else text
}

translated <- function(text) {
  if (language_in_use() == "en" || !is.character(text) || !length(text)) return(text)
  translation <- unname(spoken$words[text])
  ifelse(is.na(translation), text, translation)
}

#' The language of what is written while some code runs
#' @param code Of two letters: "en", or one that has a file; `NULL` for that of the option `unsere.language`.
#' @noRd
with_language <- function(code, work) {
  before <- spoken$set
  on.exit(spoken$set <- before)
  spoken$set <- code
  force(work)
}

language_wanted <- function() if (is.null(spoken$set)) getOption("unsere.language", "en") else spoken$set

knows_language <- function() language_wanted() %in% languages()

language_in_use <- function() {
  code <- language_wanted()
  if (!identical(code, spoken$code)) learn_language(code)
  spoken$code
}

check_language <- function(code) {
  if (!code %in% languages()) {
    abort_usage(problem("There is no language \"%s\".", code), problem("There are: %s.", toString(languages())))
  }
}

learn_language <- function(code) {
  check_language(code)
  # Taken up when it is read, so that one that is not there leaves the other as it was.
  entries <- if (code != "en") read_word_file(language_file(code))
  spoken$words <- unlist(entries$sentences)
  spoken$marks <- entries$marks
  spoken$code <- code
}

languages <- function() {
  c("en", sort(sub("[.]yml$", "", list.files(system.file("languages", package = "unsere"), "^[a-z]{2}[.]yml$"))))
}

# What each is called by those who speak it.
language_names <- function() {
  vapply(languages(), function(code) {
    if (code == "en") return("English")
    sub("^language: *", "", grep("^language:", readLines(language_file(code), 5L, encoding = "UTF-8"), value = TRUE))
  }, "")
}

language_file <- function(code) system.file("languages", paste0(code, ".yml"), package = "unsere")

#' Numbers with the marks of the language in use: of decimals and of thousands, and a zero before the decimal mark where the
#' language writes one
#' @noRd
marked <- function(text) {
  if (language_in_use() == "en") return(text)
  if (isTRUE(spoken$marks$leading_zero)) text <- gsub("(^|[^0-9])[.]([0-9])", "\\10.\\2", text)
  chartr(".,", paste0(spoken$marks$decimal, spoken$marks$thousands), text)
}

# What parts two numbers: where a decimal is marked by a comma, no comma.
between_marks <- function() if (language_in_use() == "en") ", " else spoken$marks$between

#' Columns with their headings in the language in use; those that the data give stay as they are
#' @param columns A named list; `attr(, "given")`: the places of headings that are names of the data.
#' @noRd
with_said_names <- function(columns) {
  named <- setdiff(seq_along(columns), attr(columns, "given"))
  names(columns)[named] <- say(names(columns)[named])
  columns
}

# A file of words in UTF-8, whatever the locale.
read_word_file <- function(path) yaml::yaml.load(paste(readLines(path, encoding = "UTF-8", warn = FALSE), collapse = "\n"))
