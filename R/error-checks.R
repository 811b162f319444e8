# What is checked in many places, each check once.

one_of <- function(value, allowed, argument) {
  if (is.character(value) && length(value) == 1L && value %in% allowed) return(value)
  shown <- if (length(value) == 1L) sprintf("\"%s\"", value) else "of this length"
  abort_usage(
    problem("`%s` cannot be %s.", argument, shown),
    problem("Allowed: %s.", paste0("\"", allowed, "\"", collapse = ", "))
  )
}

check_confidence <- function(confidence) {
  if (is_number(confidence) && confidence > 0 && confidence < 1) return(invisible(confidence))
  abort_usage(
    problem("`confidence` cannot be %s.", paste(format(confidence), collapse = ", ")),
    "Allowed: one number between 0 and 1, such as 0.95."
  )
}

check_folder_of <- function(path) {
  if (!dir.exists(dirname(path))) abort_input(problem("There is no folder %s.", dirname(path)), "Make it first.")
  if (nchar(basename(path), "bytes") > 200) {
    abort_input(problem("%s ... is too long for a file name.", substr(basename(path), 1, 40)), "Give a shorter one.")
  }
}

#' Whether a path is a file like others, or of nothing yet: no pipe and no device
#' @noRd
is_regular <- function(path) {
  if (.Platform$OS.type != "unix" || !file.exists(path) || dir.exists(path)) return(TRUE)
  # What stands for an open file, such as /dev/stdout, may lead to one like others, and is no place to put one.
  if (grepl("^/(dev|proc)/", path)) return(FALSE)
  if (file.size(path) > 0) return(TRUE) # pipes and devices have no size
  core_regular_file(enc2utf8(path.expand(path)))
}

#' "1 case", "240 cases", in errors
#' @noRd
count_in_english <- function(n, one, many = paste0(one, "s")) {
  mark <- if (any(n >= 10000)) "," else ""
  paste(format(n, big.mark = mark, trim = TRUE, scientific = FALSE), ifelse(n == 1, one, many))
}

# The first letter large, but for a name that stands as the file has it: doctors_per_1000, m1, hoursRead.
capital <- function(text) {
  as_given <- grepl("^[[:lower:]][[:alnum:]]*([_0-9]|[.][[:alnum:]]|(?<=[[:lower:]])[[:upper:]])", text, perl = TRUE)
  ifelse(as_given, text, first_large(text))
}

first_large <- function(text) paste0(toupper(substr(text, 1L, 1L)), substring(text, 2L))

is_number <- function(x) is.numeric(x) && length(x) == 1L && is.finite(x)

is_whole <- function(x) is_number(x) && x == round(x)

is_word <- function(x) is.character(x) && length(x) == 1L && !is.na(x)

or_default <- function(value, otherwise) if (is.null(value)) otherwise else value

has_package <- function(package) requireNamespace(package, quietly = TRUE)

#' A package that is loaded only when needed, or the command that installs it
#' @noRd
need_package <- function(package, purpose) {
  if (has_package(package)) return(invisible())
  install <- sprintf("In R: install.packages(\"%s\")", package)
  abort_input(problem("The package %s is needed %s.", package, purpose), install)
}

first_line <- function(text) trimws(strsplit(iconv(text, "UTF-8", "UTF-8", sub = "?"), "\n", fixed = TRUE)[[1]][1])

#' The ends of a declared range
#' @return Two numbers.
#' @noRd
parse_range <- function(text, where) {
  number <- "([-+\u2212]?[0-9.]+(?:[eE][-+]?[0-9]+)?)"
  pattern <- paste0("^\\s*", number, "\\s*(?:to|\\.\\.|\u2013|bis|-)\\s*", number, "\\s*$")
  parts <- regmatches(text, regexec(pattern, text, perl = TRUE))[[1]]
  ends <- suppressWarnings(as.numeric(gsub("\u2212", "-", parts[2:3])))
  if (anyNA(ends) || ends[1] >= ends[2]) {
    abort_input(problem("%s: \"%s\" is no range.", where, text), "A range is the least and the largest value: 0 to 100.")
  }
  ends
}
