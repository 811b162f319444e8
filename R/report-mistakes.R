# The mistakes of a brief, all told at once, each with its line and key: of its form, of its arithmetic, of its names.

#' @param faults A list of faults, each a `place` (keys), a `text` and maybe the `line`.
#' @noRd
abort_brief <- function(read, faults) {
  messages <- vapply(faults, function(fault) {
    named <- fault$place[is.na(suppressWarnings(as.integer(fault$place)))]
    line <- or_default(fault$line, line_of_key(read$lines, named))
    place <- if (length(fault$place)) paste(fault$place, collapse = ".") else say("the brief")
    paste0(if (!is.na(line)) say("line %d: ", line), place, " ", fault$text)
  }, "")
  messages <- unique(messages)
  abort_input(
    problem("%s has %s: %s.", basename(read$path), count_of(length(messages), "mistake"), messages[1]),
    if (length(messages) > 1L) paste(messages[-1], collapse = "; ")
  )
}

#' What is wrong with the arithmetic of derived variables, before any data are read
#' @noRd
derive_faults <- function(derive) {
  if (!is.list(derive)) return(NULL)
  texts <- Filter(is_word, derive)
  unlist(lapply(names(texts), function(name) {
    parsed <- tryCatch(
      {
        parse_expression(texts[[name]])
        NULL
      },
      unsere_error = function(e) sub("[.]$", "", error_text(e))
    )
    if (!is.null(parsed)) list(list(place = c("derive", name), text = say("cannot be computed: %s", parsed)))
  }), recursive = FALSE)
}

# Beside mistakes of form, those of names: as far as the data can be read.
faults_of_data <- function(read, read_data) {
  study <- tryCatch(read_data(read), error = function(e) NULL)
  if (!is.null(study)) tryCatch(name_faults(read, study, NULL), error = function(e) NULL)
}

# Of more mistakes of one kind the number is enough.
most_told <- 20L

#' Names that a brief speaks of and the data lack
#' @noRd
name_faults <- function(read, study, data) {
  file <- basename(if (is.null(data)) read$brief$data$file else data)
  derived <- names(read$brief$derive)
  there <- c(study_names(study), derived, names(read$brief$plausible), names(read$brief$scores))
  fault <- function(place, name, known) {
    near <- nearest_names(name, known)
    text <- say(
      "\"%s\" is no variable of %s%s", name, file,
      if (length(near)) say("; did you mean %s?", near[1]) else ""
    )
    list(list(place = place, text = text, line = line_of_name(read$lines, name, place[1])))
  }
  faults_of_cases <- lapply(no_cases(study, names(read$brief$leave_out)), function(name) {
    near <- nearest_names(name, case_names(study))
    text <- say(
      "\"%s\" is no case of %s%s", name, file, if (length(near)) say("; did you mean %s?", near[1]) else ""
    )
    list(place = "leave_out", text = text, line = line_of_name(read$lines, name, "leave_out"))
  })
  named <- brief_names(patterns_in_brief(read$brief, there))
  faults <- unlist(lapply(names(named), function(key) {
    unknown <- setdiff(named[[key]], there)
    name_list <- unlist(lapply(utils::head(unknown, most_told), function(name) fault(key, name, there)), recursive = FALSE)
    more <- length(unknown) - most_told
    if (more <= 0L) return(name_list)
    c(name_list, list(list(place = key, text = say("names %d further ones that %s lacks", more, file))))
  }), recursive = FALSE)
  for (k in seq_along(derived)) {
    text <- read$brief$derive[[k]]
    tree <- if (is_word(text)) tryCatch(parse_expression(text), unsere_error = function(e) NULL)
    known <- c(study_names(study), derived[seq_len(k - 1L)])
    for (name in setdiff(if (!is.null(tree)) variables_in(tree), known)) {
      faults <- c(faults, fault(c("derive", derived[k]), name, known))
    }
  }
  c(faults, faults_of_cases)
}

#' The line where a path of keys stands: each key looked for after the one before
#' @noRd
line_of_key <- function(lines, keys) {
  at <- 0L
  for (key in keys) {
    pattern <- paste0("(^|[{, -])[\"']?", gsub("([][(){}.+*?^$|\\\\])", "\\\\\\1", key), "[\"']?\\s*:")
    here <- grep(pattern, lines)
    here <- here[here >= max(at, 1L)]
    if (!length(here)) break
    at <- here[1]
  }
  if (at == 0L) NA_integer_ else at
}

# The line of a name, from the line of its key on.
line_of_name <- function(lines, name, key) {
  from <- line_of_key(lines, key)
  places <- grep(name, lines, fixed = TRUE)
  c(places[places >= if (is.na(from)) 1L else from], places, NA_integer_)[1]
}

#' Every variable that a brief asks about, by the key under which it stands
#' @noRd
brief_names <- function(brief) {
  some <- function(...) unique(unlist(list(...)))
  sections <- lapply(brief_sections(), function(section) some(lapply(section_entries(section, brief), section$names)))
  c(list(
    variables = names(brief$variables), design = some(brief$design[c("weight", "stratum", "cluster")]),
    scores = some(lapply(brief$scores, `[[`, "items")), plausible = some(brief$plausible)
  ), sections)
}
