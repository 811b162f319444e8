# The brief: read, and checked against the schema that ships with the package; all mistakes are told at once.

#' Read a brief and the data it names
#' @return A list: `brief` (as read), `path`, `lines` (of the file).
#' @noRd
read_brief <- function(path) {
  if (!is.character(path) || length(path) != 1L || !file.exists(path) || dir.exists(path)) {
    there <- if (is.character(path) && length(path) == 1L) list.files(dirname(path), "[.]ya?ml$")
    near <- nearest_names(basename(paste(path, collapse = " ")), there)
    hint <- if (length(near)) paste0("In that folder: ", paste(near, collapse = ", "), ".")
    abort_input(sprintf("There is no brief %s.", paste(path, collapse = " ")), or_default(hint,
      "Write one with: unsere brief FILE"))
  }
  need_package("yaml", "to read a brief")
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  brief <- tryCatch(yaml::yaml.load(paste(lines, collapse = "\n"), eval.expr = FALSE, handlers = yaml_handlers),
    error = function(e) abort_yaml(path, conditionMessage(e)))
  if (!is.list(brief) || is.null(names(brief))) {
    abort_input(sprintf("%s is no brief: it holds no \"key: value\" lines.", basename(path)),
      "See: unsere brief --help")
  }
  faults <- check_against(brief, brief_schema(), character())
  if (length(faults)) abort_brief(path, lines, faults)
  list(brief = brief, path = path, lines = lines)
}

# Sequences stay lists; "y", "no" and their like stay words, as a variable may be called y.
yaml_handlers <- list(
  seq = function(x) x, "bool#yes" = function(x) if (tolower(x) == "true") TRUE else x,
  "bool#no" = function(x) if (tolower(x) == "false") FALSE else x
)

brief_schema <- function() {
  jsonlite::fromJSON(system.file("schema", "brief.json", package = "unsere"), simplifyVector = FALSE)
}

abort_yaml <- function(path, message) {
  at <- regmatches(message, regexec("line ([0-9]+), column ([0-9]+)", message))[[1]]
  where <- if (length(at)) sprintf(" at line %s, column %s", at[2], at[3]) else ""
  abort_input(sprintf("%s cannot be read as YAML%s.", basename(path), where),
    "Look for a missing colon, a tab, or quotes that do not close.")
}

#' What is wrong with a value by its part of the schema: a list of faults, each a place (keys) and a text
#' @noRd
check_against <- function(value, schema, place) {
  fault <- function(text) list(list(place = place, text = text))
  types <- unlist(schema$type)
  if (!is.null(types) && !any(vapply(types, is_of_type, NA, value = value))) {
    return(fault(sprintf("must be %s", paste(sub("^null$", "empty", types), collapse = " or "))))
  }
  if (is.null(value)) return(list())
  if (!is.null(schema$enum) && !any(vapply(schema$enum, identical, NA, value))) {
    return(fault(sprintf("cannot be \"%s\"; allowed: %s", format(value), paste(unlist(schema$enum), collapse = ", "))))
  }
  if (is.numeric(value) && (!is.null(schema$minimum) && value < schema$minimum || !is.null(schema$maximum) &&
    value > schema$maximum)) {
    return(fault(sprintf("must lie from %s to %s", format(or_default(schema$minimum, "any")),
      format(or_default(schema$maximum, "any")))))
  }
  if ("array" %in% types && is_of_type("array", value)) return(check_items(value, schema, place))
  if ("object" %in% types && is.list(value)) return(check_keys(value, schema, place))
  list()
}

is_of_type <- function(type, value) {
  one <- length(value) == 1L && !is.list(value)
  switch(type,
    null = is.null(value), string = one && is.character(value), number = one && is.numeric(value),
    integer = one && is.numeric(value) && value == round(value), boolean = one && is.logical(value),
    array = is.null(names(value)) && (is.list(value) || is.vector(value)),
    object = is.list(value) && (length(value) == 0L || !is.null(names(value))), FALSE
  )
}

check_items <- function(value, schema, place) {
  if (!is.null(schema$minItems) && length(value) < schema$minItems) {
    return(list(list(place = place, text = sprintf("needs %d entries or more", schema$minItems))))
  }
  if (!is.null(schema$maxItems) && length(value) > schema$maxItems) {
    return(list(list(place = place, text = sprintf("takes %d entries", schema$maxItems))))
  }
  do.call(c, c(list(list()), lapply(seq_along(value), function(k) {
    check_against(value[[k]], schema$items, c(place,
    k))
  })))
}

check_keys <- function(value, schema, place) {
  known <- names(schema$properties)
  open <- schema$additionalProperties
  faults <- lapply(setdiff(unlist(schema$required), names(value)), function(key) {
    list(place = place, text = sprintf("needs the key \"%s\"", key))
  })
  for (key in names(value)) {
    inner <- if (key %in% known) schema$properties[[key]] else if (is.list(open)) open
    found <- if (is.null(inner)) {
      near <- nearest_names(key, known)
      list(list(place = c(place, key), text = sprintf("is no key here; %s",
        if (length(near)) sprintf("did you mean %s?", near[1])
        else paste("allowed:", paste(known, collapse = ", ")))))
    } else {
      check_against(value[[key]], inner, c(place, key))
    }
    faults <- c(faults, found)
  }
  faults
}

abort_brief <- function(path, lines, faults) {
  told <- vapply(faults, function(fault) {
    named <- fault$place[is.na(suppressWarnings(as.integer(fault$place)))]
    line <- line_of_key(lines, named)
    sprintf("%s%s %s", if (is.na(line)) "" else sprintf("line %d: ", line), if (length(fault$place)) paste(fault$place,
      collapse = ".") else "the brief", fault$text)
  }, "")
  abort_input(sprintf("%s has %s: %s.", basename(path), count_of(length(told), "mistake"), told[1]),
    if (length(told) > 1L) paste(told[-1], collapse = "; "))
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

#' The study of a brief: data read, variables said, new ones derived; every variable that is named must be there
#' @noRd
brief_study <- function(read, data = NULL) {
  brief <- read$brief
  folder <- dirname(read$path)
  file <- if (is.null(data)) beside(folder, brief$data$file) else data
  if (!file.exists(file)) {
    abort_input(sprintf("The data file %s of the brief is not there.", brief$data$file),
      "Correct the brief, or name another with --data.")
  }
  codebook <- brief$data$codebook
  study <- read_study(file,
    sheet = brief$data$sheet, header_row = brief$data$header_row, missing_codes = unlist(brief$data$missing_codes),
    decimal = brief$data$decimal, codebook = if (!is.null(codebook)) beside(folder, codebook)
  )
  missing <- setdiff(names(brief$variables), c(names(study$data), names(brief$derive)))
  told <- setdiff(names(brief$variables), c(missing, names(brief$derive)))
  for (name in told) study <- set_from_brief(study, name, brief$variables[[name]])
  for (name in names(brief$derive)) study <- derive_names(study, brief$derive[name])
  for (name in intersect(names(brief$variables), names(brief$derive))) {
    study <- set_from_brief(study, name, brief$variables[[name]])
  }
  missing <- unique(c(missing, setdiff(brief_names(brief), names(study$data))))
  if (length(missing)) {
    line <- line_of_name(read$lines, missing[1])
    abort_input(
      sprintf("%s%s lacks %s of the brief: %s.", if (is.na(line)) "" else sprintf("line %d: ", line), basename(file),
        count_of(length(missing), "variable"), paste(missing, collapse = ", ")),
      suggest_names(missing[1], names(study$data), "variables")
    )
  }
  study
}

beside <- function(folder, path) if (grepl("^(/|[A-Za-z]:|~)", path)) path else file.path(folder, path)

line_of_name <- function(lines, name) {
  found <- grep(name, lines, fixed = TRUE)
  if (length(found)) found[1] else NA_integer_
}

set_from_brief <- function(study, name, entry) {
  do.call(set_variable, c(list(study, name), Filter(Negate(is.null), entry[intersect(names(entry), c("label", "unit",
    "level",
    "role", "source"))])))
}

brief_names <- function(brief) {
  unique(c(
    unlist(lapply(brief$pairs, function(pair) c(pair$x, pair$y))), unlist(brief$matrix$variables), brief$rank$outcome,
    unlist(brief$rank$predictors), brief$spurious$time, brief$spurious$group, unlist(brief$spurious$pairs)
  ))
}
