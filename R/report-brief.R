# The brief: read, and checked against the schema that ships with the package; all mistakes are told at once.

#' Read a brief and the data it names
#' @return A list: `brief` (as read), `path`, `lines` (of the file).
#' @noRd
read_brief <- function(path) {
  if (!is.character(path) || length(path) != 1L || !file.exists(path) || dir.exists(path)) {
    there <- if (is.character(path) && length(path) == 1L) list.files(dirname(path), "[.]ya?ml$")
    near <- nearest_names(basename(paste(path, collapse = " ")), there)
    hint <- if (length(near)) paste0("In that folder: ", paste(near, collapse = ", "), ".")
    missing <- sprintf("There is no brief %s.", paste(path, collapse = " "))
    abort_input(missing, or_default(hint, "Write one with: unsere brief FILE"))
  }
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  brief <- tryCatch(yaml::yaml.load(paste(lines, collapse = "\n"), eval.expr = FALSE, handlers = yaml_handlers),
    error = function(e) abort_yaml(path, conditionMessage(e))
  )
  if (!is.list(brief) || is.null(names(brief))) {
    abort_input(
      sprintf("%s is no brief: it holds no \"key: value\" lines.", basename(path)),
      "See: unsere brief --help"
    )
  }
  faults <- check_against(brief, brief_schema(), character())
  if (length(faults)) abort_brief(path, lines, faults)
  list(brief = brief, path = path, lines = lines, digest = cli::hash_file_sha256(path))
}

# Sequences stay lists; "y", "no" and their like stay words, as a variable may be called y.
yaml_handlers <- list(
  seq = function(x) x, "bool#yes" = function(x) if (tolower(x) == "true") TRUE else x,
  "bool#no" = function(x) if (tolower(x) == "false") FALSE else x
)

abort_yaml <- function(path, message) {
  at <- regmatches(message, regexec("line ([0-9]+), column ([0-9]+)", message))[[1]]
  where <- if (length(at)) sprintf(" at line %s, column %s", at[2], at[3]) else ""
  abort_input(
    sprintf("%s cannot be read as YAML%s.", basename(path), where),
    "Look for a missing colon, a tab, or quotes that do not close."
  )
}

abort_brief <- function(path, lines, faults) {
  told <- vapply(faults, function(fault) {
    named <- fault$place[is.na(suppressWarnings(as.integer(fault$place)))]
    line <- line_of_key(lines, named)
    sprintf("%s%s %s", if (is.na(line)) "" else sprintf("line %d: ", line), if (length(fault$place)) paste(fault$place,
      collapse = "."
    ) else "the brief", fault$text)
  }, "")
  abort_input(
    sprintf("%s has %s: %s.", basename(path), count_of(length(told), "mistake"), told[1]),
    if (length(told) > 1L) paste(told[-1], collapse = "; ")
  )
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

#' The study that a brief speaks of: its file read as it says, its variables described, new ones derived
#' @param data A file in place of the brief's own.
#' @noRd
brief_study <- function(read, data = NULL) {
  brief <- read$brief
  folder <- dirname(read$path)
  file <- if (is.null(data)) beside(folder, brief$data$file) else data
  if (!file.exists(file)) {
    abort_input(
      sprintf("The data file %s of the brief is not there.", brief$data$file),
      "Correct the brief, or name another with --data."
    )
  }
  how <- brief$data[intersect(names(brief$data), names(intake_arguments()))]
  if (!is.null(how$codebook)) how$codebook <- beside(folder, how$codebook)
  if (!is.null(how$missing_codes)) how$missing_codes <- unlist(how$missing_codes)
  study <- do.call(read_study, c(list(file), how))
  described <- names(brief$variables)
  derived <- names(brief$derive)
  for (name in setdiff(intersect(described, study_names(study)), derived)) {
    study <- set_from_brief(study, name, brief$variables[[name]])
  }
  study <- derive_each(study, brief$derive)
  for (name in intersect(described, derived)) study <- set_from_brief(study, name, brief$variables[[name]])
  check_brief_names(read, study, file)
  study
}

check_brief_names <- function(read, study, file) {
  wanted <- unique(c(names(read$brief$variables), brief_names(read$brief)))
  missing <- setdiff(wanted, study_names(study))
  if (!length(missing)) return(invisible())
  line <- line_of_name(read$lines, missing[1])
  where <- if (is.na(line)) "" else sprintf("line %d: ", line)
  count <- count_of(length(missing), "variable")
  abort_input(
    sprintf("%s%s lacks %s of the brief: %s.", where, basename(file), count, paste(missing, collapse = ", ")),
    suggest_names(missing[1], study_names(study), "variables")
  )
}

beside <- function(folder, path) if (grepl("^(/|[A-Za-z]:|~)", path)) path else file.path(folder, path)

line_of_name <- function(lines, name) {
  found <- grep(name, lines, fixed = TRUE)
  if (length(found)) found[1] else NA_integer_
}

set_from_brief <- function(study, name, entry) {
  said <- Filter(Negate(is.null), entry[intersect(names(entry), c("label", "unit", "level", "role", "source"))])
  do.call(set_variable, c(list(study, name), said))
}

#' Every variable that a brief asks about
#' @noRd
brief_names <- function(brief) {
  unique(c(
    unlist(lapply(brief$pairs, function(pair) c(pair$x, pair$y))),
    unlist(brief$matrix[c("variables", "rows", "columns", "by")]),
    brief$rank$outcome, unlist(brief$rank$predictors), brief$spurious$time, brief$spurious$group,
    unlist(brief$spurious$pairs)
  ))
}
