# What is known of the variables: from a codebook, and from the data themselves.

#' A codebook from a data frame or a file, only the entries for these variables
#'
#' An entry may name the `file` it is for (without its ending, `*` for any part), so that one codebook can serve the
#' files of a folder.
#' @return The entries, with the attribute `decisions`: which codebook was used and what of it serves nothing.
#' @noRd
read_codebook <- function(codebook, names, file = NULL) {
  if (!is.null(codebook)) return(use_codebook(codebook, names, file, given = TRUE))
  beside <- codebook_beside(file)
  if (is.null(beside)) return(empty_codebook())
  # One that lies in the folder by chance stops nothing.
  tryCatch(use_codebook(beside, names, file, given = FALSE), unsere_error_input = function(e) {
    note <- template("not used: %s in the same folder (%s)", file_name(beside), sub("[.]$", "", in_english(e$problem)))
    structure(empty_codebook(), decisions = c(codebook = note))
  })
}

use_codebook <- function(codebook, names, file, given) {
  named <- is.character(codebook)
  where <- if (named) file_name(codebook) else "the codebook"
  if (named) codebook <- read_codebook_file(codebook, names, file)
  labels <- attr(codebook, "labels")
  book <- check_codebook(codebook, where)
  book <- book[for_this_file(book$file, file), codebook_columns]
  plausible <- plausible_entries(book, names)
  book <- book[!book$variable %in% names(plausible), ]
  book$role[book$role %in% "plausible"] <- NA_character_
  unknown <- setdiff(book$variable, names)
  if (nrow(book) && length(unknown) == nrow(book)) {
    abort_input(
      problem("%s describes none of the variables here: it knows %s.", where, some_values(unknown)),
      "Give the codebook of these data, or leave it out."
    )
  }
  known <- book[book$variable %in% names, ]
  structure(known, labels = labels, plausible = plausible, decisions = c(
    if (nrow(book)) c(codebook = codebook_sentence(where, known, unknown, names)), undescribed_sentence(where, known, names)
  ))
}

#' Scores that a codebook declares as plausible values: a row of a name of its own, with the role `plausible` and, in
#' `values`, the names of the values separated by bars
#' @return A list by name: `values`, `label`.
#' @noRd
plausible_entries <- function(book, names) {
  at <- which(book$role %in% "plausible" & !is.na(book$values) & !book$variable %in% names)
  entries <- lapply(at, function(k) {
    list(values = trimws(strsplit(book$values[k], "|", fixed = TRUE)[[1]]), label = if (!is.na(book$label[k])) book$label[k])
  })
  here <- vapply(entries, function(one) length(one$values) > 1L && all(one$values %in% names), NA)
  stats::setNames(entries, book$variable[at])[here]
}

undescribed_sentence <- function(where, known, names) {
  open <- setdiff(names, known$variable)
  if (!length(open) || !nrow(known)) return(NULL)
  more <- if (length(open) > 6L) template(" and %d more", length(open) - 6L) else ""
  c(undescribed = template("not described by %s: %s%s", where, toString(utils::head(open, 6)), more))
}

codebook_sentence <- function(where, known, unknown, names) {
  used <- template("described by %s: %d of %s", where, nrow(known), counted(length(names), "variable"))
  if (!length(unknown)) return(used)
  near <- vapply(utils::head(unknown, 3), function(name) {
    like <- nearest_names(name, setdiff(names, known$variable))
    if (length(like)) sprintf("%s (%s?)", name, like[1]) else name
  }, "")
  more <- if (length(unknown) > 3L) template(" and %d more", length(unknown) - 3L) else ""
  template("%s; not here: %s%s", used, paste(near, collapse = ", "), more)
}

codebook_beside <- function(file) {
  if (is.null(file) || identical(file, "-")) return(NULL)
  names <- c("codebook.csv", "codebook.xml", "codebook.json", paste0(basename(file), "-metadata.json"), "datapackage.json")
  beside <- file.path(dirname(file), setdiff(names, basename(file)))
  beside <- beside[file.exists(beside)]
  if (length(beside)) beside[1]
}

empty_codebook <- function() {
  as.data.frame(stats::setNames(rep(list(character()), length(codebook_columns)), codebook_columns))
}

read_codebook_file <- function(path, names = NULL, file = NULL) {
  if (!file.exists(path)) abort_input(problem("There is no codebook %s.", path), "Check the name and the folder.")
  if (dir.exists(path)) abort_input(problem("%s is a folder, not a codebook.", path), "Give the name of a file in it.")
  kind <- file_ending(path)
  if (kind == "xml") return(read_codebook_ddi(path))
  if (kind == "json") return(read_codebook_json(path, names, file))
  table <- read_delimited(path)$data
  as.data.frame(lapply(table, function(column) unguard_text(as.character(column))), check.names = FALSE)
}

check_codebook <- function(book, where) {
  if (!is.data.frame(book) || !"variable" %in% names(book)) {
    abort_input(problem("%s has no column `variable`.", where), "A codebook has a row a variable; see ?codebook.")
  }
  for (field in c(codebook_columns, "file")) {
    text <- if (field %in% names(book)) trimws(as.character(book[[field]])) else rep(NA_character_, nrow(book))
    text[!nzchar(text)] <- NA_character_
    book[[field]] <- text
  }
  check_twice(book, where)
  check_entries(book, "level", level_names, where)
  check_entries(book, "role", c(role_names, "plausible"), where)
  for (k in which(!is.na(book$range))) parse_range(book$range[k], sprintf("%s, %s", where, book$variable[k]))
  book
}

#' A variable described twice for the same files is refused where the two say different things
#' @noRd
check_twice <- function(book, where) {
  entry <- paste(book$variable, book$file)
  twice <- setdiff(book$variable[duplicated(entry)], NA)
  again <- entry %in% entry[duplicated(entry)]
  unlike <- Filter(function(name) nrow(unique(book[book$variable %in% name & again, ])) > 1L, twice)
  if (!length(unlike)) return(invisible())
  fields <- vapply(unlike, function(name) {
    rows <- book[book$variable %in% name, c(codebook_columns, "file")]
    names(rows)[vapply(rows, function(field) length(unique(field)) > 1L, NA)][1]
  }, "")
  abort_input(
    problem("%s describes %s more than once, with another %s.", where, some_values(unlike), toString(unique(fields))),
    "One row per variable, or one per variable and file (column `file`)."
  )
}

check_entries <- function(book, field, allowed, where) {
  wrong <- which(!is.na(book[[field]]) & !book[[field]] %in% allowed)
  if (length(wrong)) {
    abort_input(
      problem("%s gives %s the %s \"%s\".", where, book$variable[wrong[1]], field, book[[field]][wrong[1]]),
      problem("Allowed: %s.", paste(allowed, collapse = ", "))
    )
  }
}

for_this_file <- function(pattern, file) {
  if (is.null(file)) return(is.na(pattern))
  stem <- file_stem(file)
  is.na(pattern) | vapply(pattern, function(one) !is.na(one) && grepl(utils::glob2rx(one), stem), NA, USE.NAMES = FALSE)
}

#' Every variable gets an entry; what the codebook leaves open is found from the data and the headings
#' @noRd
complete_codebook <- function(data, known, codes, units, labels = list(), values = character()) {
  decisions <- NULL
  columns <- as.list(data)
  fields <- intersect(c("label", "unit", "source", "short"), names(known))
  known[fields] <- lapply(known[fields], without_control)
  described <- match(names(data), known$variable)
  headings <- Map(
    function(name, label) c(name, labels[[name]], label[!is.na(label)]), names(columns), known$label[described]
  )
  scales <- scale_columns(columns, headings)
  rows <- lapply(seq_along(columns), function(k) {
    name <- names(columns)[k]
    # A list, not a row of a data frame: many small changes to data frames take long.
    entry <- lapply(known[codebook_columns], `[`, described[k])
    entry$variable <- name
    heading <- unit_in_heading(name)
    if (is.na(entry$label) && !is.null(labels[[name]])) entry$label <- labels[[name]]
    if (is.na(entry$label) && !is.null(heading)) entry$label <- heading$label
    if (is.na(entry$unit)) entry$unit <- if (is.null(heading)) units[[k]] else heading$unit
    ends <- if (is.na(entry$range)) range_in_heading(name, columns[[k]])
    if (!is.null(ends)) entry$range <- range_text(ends)
    kind <- if (is.na(entry$level)) codes_kind(name, columns[[k]])
    if (!is.null(kind)) {
      entry$level <- "nominal"
      if (kind == "case" && is.na(entry$role)) entry$role <- "case"
      decisions <<- c(decisions, codes = about(template("%s: read as codes, not as numbers", name), name))
    }
    if (name %in% names(values)) {
      entry$values <- values[[name]]
      if (is.na(entry$level)) entry$level <- "ordinal"
    }
    if (is.na(entry$level)) entry$level <- if (name %in% scales) "ordinal" else find_level(columns[[k]])
    if (is.na(entry$role) && is_time(columns[[k]], columns)) {
      entry$role <- "time"
      if (is.character(columns[[k]])) decisions <<- c(decisions,
        time = about(template("%s: its periods are read as the time", name), name)
      )
    }
    if (length(codes[[k]])) entry$missing_codes <- paste(codes[[k]], collapse = ";")
    entry
  })
  book <- as.data.frame(lapply(stats::setNames(codebook_columns, codebook_columns), function(field) {
    vapply(rows, function(entry) as.character(entry[[field]]), "")
  }))
  book$role[is.na(book$role)] <- "measure"
  for (field in c("label", "short", "unit", "source")) book[[field]] <- plain_text(book[[field]])
  book$short <- propose_short(ifelse(is.na(book$label), book$variable, book$label), book$short)
  about <- about_response(data, book, book$variable %in% known$variable[!is.na(known$role)])
  book$role[about] <- "about"
  decisions <- c(decisions, about_sentence(book$variable[about]))
  book$role <- case_roles(data, book, known)
  personal <- personal_columns(data, book)
  aside <- book$variable %in% names(personal) & book$role %in% c("measure", "time") &
    !book$variable %in% known$variable[!is.na(known$role) | !is.na(known$level)]
  book$role[aside] <- "about"
  decisions <- c(decisions, personal_sentence(personal))
  rownames(book) <- NULL
  attr(book, "decisions") <- decisions
  book
}

# Where no column names the cases, one of text does; it does so too instead of a count of the rows beside it, if its
# heading says so.
case_roles <- function(data, book, known) {
  role <- book$role
  naming <- first_naming_column(data, book)
  if (is.na(naming)) return(role)
  counts <- role == "case" & grepl(nameless_words, tolower(book$variable)) & !book$variable %in% known$variable
  says_so <- named_like(book$variable[naming], c(person_words, code_words, "names?"))
  if (any(role == "case") && !(sum(role == "case") == 1L && any(counts) && says_so)) return(role)
  role[counts] <- "about"
  role[naming] <- "case"
  role
}

# The first column of text that is complete and different in every row names the cases.
first_naming_column <- function(data, book) {
  naming <- vapply(data, function(column) {
    is.character(column) && !anyNA(column) && !anyDuplicated(column) && !holds_periods(column)
  }, NA)
  match(TRUE, naming & book$level == "nominal" & book$role == "measure")
}

codebook_columns <- c("variable", "label", "short", "unit", "level", "role", "missing_codes", "source", "values", "range")

role_names <- c("measure", "case", "time", "group", "weight", "stratum", "cluster", "replicate", "about")

#' Values beyond the range that the codebook declares
#' @noRd
beyond_range_sentences <- function(data, book) {
  unlist(lapply(which(!is.na(book$range)), function(k) {
    column <- data[[book$variable[k]]]
    if (!is.numeric(column)) return(NULL)
    ends <- parse_range(book$range[k], book$variable[k])
    out <- which(column < ends[1] | column > ends[2])
    if (!length(out)) return(NULL)
    shown <- some_values(unique(column[out]))
    beyond <- counted(length(out), "value")
    c(range = template("%s: %s outside its range of %s (%s)", book$variable[k], beyond, book$range[k], shown))
  }))
}
