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
  check_key_count(lines, path)
  brief <- tryCatch(yaml::yaml.load(paste(lines, collapse = "\n"), eval.expr = FALSE, handlers = yaml_handlers),
    error = function(e) abort_yaml(path, conditionMessage(e)),
    warning = function(w) abort_yaml(path, conditionMessage(w))
  )
  if (!is.list(brief) || is.null(names(brief))) {
    abort_input(
      problem("%s is not a brief: it contains no \"key: value\" lines.", basename(path)),
      "See: unsere brief --help"
    )
  }
  # Marks that cannot be seen, and that documents do not take.
  brief <- rapply(brief, without_control, "character", how = "replace")
  if (is.list(brief$data) && is_word(brief$data$database) && is.null(brief$data$file)) {
    brief$data$file <- paste0("db:", brief$data$database)
  }
  faults <- c(check_against(brief, brief_schema(), character()), derive_faults(brief$derive))
  read <- list(brief = brief, path = path, lines = lines, digest = cli::hash_file_sha256(path))
  if (length(faults)) abort_brief(read, c(faults, faults_of_data(read, read_brief_data)))
  read
}

# The reader of YAML compares each key of a list of keys with all the others.
most_keys <- 5000L

check_key_count <- function(lines, path) {
  if (sum(nchar(lines, "bytes")) < 4 * most_keys) return(invisible())
  key <- regmatches(lines, regexpr("^ *(?=[^ #-][^:]*:( |$))", lines, perl = TRUE))
  in_line <- lengths(regmatches(lines, gregexpr("[{,] *[^{},:]+:( |$)", lines)))
  if (max(table(key), in_line, 0L) <= most_keys) return(invisible())
  abort_input(
    problem("%s has more than %s keys in one place.", basename(path), format(most_keys, big.mark = ",")),
    "Describe so many variables in a codebook: see ?codebook."
  )
}

# Sequences stay lists; "y", "no" and their like stay words, as a variable may be called y.
yaml_handlers <- list(
  seq = function(x) x, "bool#yes" = function(x) if (tolower(x) == "true") TRUE else x,
  "bool#no" = function(x) if (tolower(x) == "false") FALSE else x
)

abort_yaml <- function(path, message) {
  at <- regmatches(message, regexec("line ([0-9]+), column ([0-9]+)", message))[[1]]
  where <- if (length(at)) sprintf(" at line %s, column %s", at[2], at[3]) else ""
  if (grepl("anchor", message)) {
    abort_input(
      problem("%s refers to something it does not define (%s).", basename(path), tolower(first_line(message))),
      "Put a value that begins with * in quotation marks."
    )
  }
  abort_input(
    problem("%s cannot be read as YAML%s.", basename(path), where),
    "Check for a missing colon, a tab, or unclosed quotation marks."
  )
}

#' The study that a brief speaks of: its file read as it says, its variables described, new ones derived
#' @param data A file in place of the brief's own.
#' @noRd
brief_study <- function(read, data = NULL) {
  study <- read_brief_data(read, data)
  if (!is.null(data)) study <- with_reworded_names(read, study)
  read$brief <- patterns_in_brief(read$brief, c(study_names(study), names(read$brief$derive)))
  note_wanted(study, unlist(brief_names(read$brief)))
  faults <- name_faults(read, study, data)
  if (length(faults)) abort_brief(read, faults)
  described_study(read, study, names = share_settings(read$brief)$names)
}

#' A study as the brief describes it: variables, derived ones, cases excluded
#' @param names How its cases are called: see [share_settings()].
#' @noRd
described_study <- function(read, study, names = "own") {
  brief <- read$brief
  described <- names(brief$variables)
  derived <- names(brief$derive)
  for (name in setdiff(intersect(described, study_names(study)), derived)) {
    study <- set_from_brief(study, name, brief$variables[[name]])
  }
  study <- derive_each(study, brief$derive)
  for (name in names(brief$scores)) {
    options <- brief$scores[[name]]
    options$reverse <- unlist(options$reverse)
    study <- score_items(study, name, unlist(options$items), options)
  }
  derived <- c(derived, names(brief$scores))
  for (name in intersect(described, derived)) study <- set_from_brief(study, name, brief$variables[[name]])
  if (!is.null(brief$imputed)) study <- with_imputed(study, brief$imputed)
  for (name in names(brief$plausible)) {
    entry <- brief$variables[[name]]
    study <- with_plausible(study, name, unlist(brief$plausible[[name]]), entry$label)
  }
  aside <- unlist(brief$leave_out)
  at <- if (length(aside)) places_of_cases(study, names(aside))
  study <- with_shared_names(study, names)
  if (length(aside)) study <- leave_out(study, at, unname(aside))
  study <- with_excluded_places(study, at)
  if (is.null(brief$design)) study else with_design(study, lapply(brief$design, unlist))
}

read_brief_data <- function(read, data = NULL) {
  folder <- dirname(read$path)
  file <- if (is.null(data)) beside(folder, read$brief$data$file) else data
  if (is.null(data) && is_database(read$brief$data$file)) {
    file <- read$brief$data$file
  } else if (is.null(data) && !file.exists(file)) {
    abort_input(
      problem("The data file %s of the brief is not there.", read$brief$data$file),
      "Correct the brief, or name another with --data."
    )
  }
  how <- read$brief$data[intersect(names(read$brief$data), names(intake_arguments()))]
  if (!is.null(how$codebook)) how$codebook <- beside(folder, how$codebook)
  if (!is.null(how$missing_codes)) how$missing_codes <- unlist(how$missing_codes)
  with_named_tables(do.call(read_study, c(list(file), how)))
}

beside <- function(folder, path) if (grepl("^(/|[A-Za-z]:|~)", path)) path else file.path(folder, path)

set_from_brief <- function(study, name, entry) {
  declared <- Filter(
    Negate(is.null),
    entry[intersect(names(entry), setdiff(codebook_columns, "variable"))]
  )
  if (!is.null(declared$missing_codes)) declared$missing_codes <- unlist(declared$missing_codes)
  do.call(set_variable, c(list(study, name), declared))
}
