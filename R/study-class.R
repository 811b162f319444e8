#' Make a study from a data frame
#'
#' A study is a table of cases and variables with its codebook and provenance. The data frame is not changed.
#'
#' @param data A data frame, or a matrix, with one row per case and one column per variable; column names are unique.
#' @param codebook A description of the variables: a data frame, or the path of a CSV file, with one row per
#'   variable and the columns `variable` and any of `label`, `unit`, `level` (`numeric`, `ordinal`, `binary`,
#'   `nominal`), `role` (`measure`, `case`, `time`, `group`, `about`), `missing_codes` (separated by semicolons),
#'   `source`, `values` (the category order, lowest first: `Never < Rarely < Often`). A score with plausible
#'   values has a row of its own with the role `plausible` and `values` such as `pv1 | pv2 | pv3`. See [codebook()].
#'   Default: detected from the data.
#' @param missing_codes Missing-value codes of all variables, for example `c(-9, 99)`; or a named list of codes for
#'   single variables. Default: none.
#' @return A study (class `unsere_study`): a list of `data`, `codebook` and `provenance`. If `data` is a study, its
#'   codebook is supplemented. Columns with value labels contribute their label, and two labelled values become
#'   their words.
#' @section Errors: `unsere_error_input` if names are missing or repeated, or if the codebook cannot be used.
#' @seealso [read_study()] to bring in a file, [set_variable()] to say what a variable is.
#' @examples
#' tutors <- data.frame(tutor = c("Ada", "Ben", "Cleo", "Dan"), hours = c(4, 7, 2, -9))
#' study <- as_study(tutors, missing_codes = -9)
#' codebook(study)
#' @export
as_study <- function(data, codebook = NULL, missing_codes = NULL) {
  if (inherits(data, "unsere_study")) return(tell_more(data, codebook, missing_codes))
  table <- as_table(data)
  if (is.null(table)) {
    abort_input(
      problem("A study is made from a data frame, not from %s.", class(data)[1]),
      if (is_word(data)) sprintf("Read the file first: read_study(\"%s\").", data) else "Try as.data.frame() first."
    )
  }
  table <- with_flat_columns(table)
  by_groups(build_study(table, codebook, missing_codes, list(file = NULL, decimal_mark = ".")), data)
}

# What a data frame is grouped by names the groups, where the codebook names none.
by_groups <- function(study, data) {
  by <- setdiff(names(attr(data, "groups", exact = TRUE)), ".rows")
  if (!inherits(data, "grouped_df") || length(by) != 1L || length(role_variable(study, "group"))) return(study)
  with_role(study, "group", by)
}

#' A study of which more is known now than when it was made
#' @noRd
tell_more <- function(study, codebook, missing_codes) {
  if (!is.null(codebook)) {
    known <- read_codebook(codebook, study_names(study))
    for (k in seq_len(nrow(known))) {
      if (!is.na(known$values[k])) study <- with_values(study, known$variable[k], known$values[k])
      entry <- as.list(known[k, setdiff(codebook_columns, c("variable", "missing_codes", "values"))])
      study <- with_entry(study, known$variable[k], Filter(Negate(is.na), entry))
    }
    study <- with_all_plausible(study, attr(known, "plausible"))
  } else {
    known <- empty_codebook()
  }
  if (is.null(codebook) && is.null(missing_codes)) return(study)
  codes <- codes_by_variable(study_names(study), known, missing_codes)
  for (name in names(codes)[lengths(codes) > 0L]) study <- with_codes(study, name, codes[[name]])
  study
}

#' Columns in, study out: the one way in for files and data frames alike
#' @noRd
build_study <- function(data, codebook, missing_codes, provenance) {
  without <- without_summaries(data, provenance)
  data <- without$data
  provenance <- without$provenance
  columns_read <- read_columns(data, codebook, missing_codes, provenance)
  data <- columns_read$data
  known <- columns_read$known
  read <- columns_read$read
  ordered <- columns_read$ordered
  for (name in names(ordered$apart)) read$codes[[name]] <- unique(c(read$codes[[name]], ordered$apart[[name]]))
  book <- complete_codebook(data, known, read$codes, read$units, read$labels, ordered$values)
  provenance$decisions <- c(
    provenance$decisions, attr(known, "decisions"), columns_read$decisions, read$decisions, ordered$decisions,
    coded_cells_sentence(read$coded), attr(book, "decisions")
  )
  attr(book, "decisions") <- NULL
  provenance[c("labels", "units")] <- NULL
  provenance$coded <- read$coded
  provenance$by_codes <- read$by_codes
  provenance$missing_codes <- missing_codes
  provenance$n_rows <- nrow(data)
  study <- structure(
    list(data = data, codebook = book, provenance = provenance, converted = new.env(parent = emptyenv())),
    class = "unsere_study"
  )
  study$provenance$decisions <- as_decisions(c(provenance$decisions, found_sentences(study)))
  with_all_plausible(study, attr(known, "plausible"))
}

# Rows of a file that sum up others are no cases, unless they are to be kept.
without_summaries <- function(data, provenance) {
  at <- if (!is.null(provenance$file) && !identical(provenance$summary_rows, "keep")) sure_summaries(data)
  if (!length(at)) return(list(data = data, provenance = provenance))
  rows <- or_default(provenance$rows, seq_len(nrow(data)))
  provenance$decisions <- c(provenance$decisions, list(summary_row = template(
    paste(
      "rows excluded because they hold sums, averages or limits of other rows, or an answer key: %s %s",
      "(summary_rows: keep includes them)"
    ),
    template(if (length(at) == 1L) "row" else "rows"), some_rows(at, rows)
  )))
  provenance$answer_key <- key_in_rows(data, at)
  provenance$rows <- rows[-at]
  cases <- data[-at, , drop = FALSE]
  rownames(cases) <- NULL
  list(data = cases, provenance = provenance)
}

# A table as it was read, with what was found about it.
study_from <- function(table, codebook, missing_codes, origin) {
  described <- table[setdiff(names(table), c("data", "decimal"))]
  build_study(table$data, codebook, missing_codes, c(origin, described, list(decimal_mark = decimal_of(table))))
}

#' A table's columns as what they mean
#' @return A list: `data`, and what was made of it on the way.
#' @noRd
read_columns <- function(data, codebook, missing_codes, provenance) {
  named <- name_unnamed(trimws(plain_text(names(data))))
  names(data) <- named$names
  check_names(names(data), provenance$file)
  paired <- split_pairs(data)
  spread <- spread_choices(paired$data)
  known <- read_codebook(codebook, names(spread$data), provenance$file)
  codes <- codes_by_variable(names(spread$data), known, missing_codes)
  read <- convert_columns(spread$data, known, codes, provenance)
  orders <- read$orders[!names(read$orders) %in% known$variable[!is.na(known$values)]]
  orders[names(provenance$values)] <- provenance$values
  ordered <- order_words(read$columns, known, orders)
  list(
    data = list2DF(ordered$columns, nrow(data)), known = known, read = read, ordered = ordered,
    decisions = c(named$notes, paired$decisions, spread$decisions)
  )
}

#' What a study that is read shows when it is looked at
#' @noRd
found_sentences <- function(study) {
  data <- study$data
  book <- study$codebook
  rows <- study$provenance$rows
  c(
    suspicion_sentences(suspicious_columns(study)), summary_row_sentence(data, rows), beyond_range_sentences(data, book),
    role_sentences(data, book), repeat_sentence(study_repeats(study), rows), text_sentences(data, book, rows)
  )
}

#' Each column as what it means
#'
#' @return A list: `columns`, `codes`, `labels`, `units`, `orders` (by value labels), `by_codes` (those of groups),
#'   `coded` (how many cells held a missing code), `decisions`.
#' @noRd
convert_columns <- function(data, known, codes, provenance) {
  # A list, not a data frame: many small changes to data frames take long.
  columns <- as.list(data)
  by_name <- function(by_label) if (length(by_label)) stats::setNames(by_label, trimws(plain_text(names(by_label))))
  labels <- or_default(by_name(provenance$labels), list())
  units <- stats::setNames(rep(NA_character_, length(columns)), names(columns))
  from_heading <- by_name(unlist(provenance$units))
  units[names(from_heading)] <- from_heading
  decisions <- coded <- orders <- by_codes <- NULL
  nothing <- known[0, ]
  for (k in seq_along(columns)) {
    name <- names(columns)[k]
    entry <- if (name %in% known$variable) known[known$variable == name, ] else nothing
    given <- or_default(attr(known, "labels")[[name]], labels_in_heading(name))
    plain <- without_labels(with_labels(columns[[k]], given), entry$level)
    if (!is.null(plain$label)) labels[[name]] <- plain$label
    if (!is.null(plain$order)) orders[name] <- plain$order
    if (!is.null(plain$by_codes)) by_codes[name] <- plain$by_codes
    if (length(plain$apart)) codes[[k]] <- unique(c(codes[[k]], plain$apart))
    read <- read_column(
      plain$values, codes[[k]], entry, provenance$decimal_mark,
      paste(stats::na.omit(c(name, labels[[name]], entry$label)), collapse = " ")
    )
    if (read$coded) coded[name] <- read$coded
    columns[[k]] <- read$values
    if (!is.null(read$unit)) units[k] <- read$unit
    for (note in c(plain$note, read$note)) decisions <- c(decisions, column = about(joined(name, ": ", note), name))
  }
  list(
    columns = columns, codes = codes, labels = labels, units = units, orders = orders, by_codes = by_codes, coded = coded,
    decisions = decisions
  )
}

read_column <- function(column, codes, entry, decimal, name) {
  read <- tidy_column(if (is.numeric(column)) column else blank_codes(column, codes), entry, decimal, name)
  if (is.character(read$values) && !isTRUE(entry$level %in% c("nominal", "binary"))) {
    read <- or_default(read_among_words(read$values, entry, decimal, name), read)
  }
  is_code <- if (length(codes)) matches_code(column, codes) | matches_code(read$values, codes) else FALSE
  if (any(is_code)) read$values[is_code] <- NA
  c(read, list(coded = sum(is_code)))
}

# Up to this share of the cells may hold a mark in place of a number.
most_marked <- 0.05

#' Numbers and dates among which some cells say in words that there is no answer: "unknown", "refused", "?"
#' @return As from `tidy_column()`, or `NULL` where the other cells are text as well.
#' @noRd
read_among_words <- function(text, entry, decimal, name) {
  given <- text[!is.na(text)]
  sample <- given[even_places(length(given), 300L)]
  if (mean(grepl("[0-9]", sample)) < 0.5) return(NULL)
  words <- unique(given[!grepl("[0-9]", given)])
  odd <- unread_numbers(given)
  out <- text %in% c(words, odd)
  kinds <- length(words) + length(odd)
  if (!kinds || kinds > 20L) return(NULL)
  nothing <- !length(odd) && all(says_nothing(words))
  # A mark in a few cells, such as "INC" or "40-45", is no reason to lose the numbers of all others.
  few <- (length(words) <= 3L || sum(out) <= most_marked * length(given) / 2) &&
    sum(out) <= max(1, most_marked * length(given)) && length(given) >= 10L
  if (!nothing && !few) return(NULL)
  read <- tidy_column(replace(text, out, NA), entry, decimal, name)
  if (is.character(read$values)) return(NULL)
  marks <- c(words, odd)
  shown <- paste(sprintf("\"%s\"", utils::head(marks, 4L)), collapse = ", ")
  if (length(marks) > 4L) shown <- paste0(shown, ", ...")
  note <- if (nothing) {
    template("%s treated as missing because the text says that there is no answer: %s", counted(sum(out), "cell"), shown)
  } else {
    template("%s of text among its numbers taken as missing: %s", counted(sum(out), "cell"), shown)
  }
  read$note <- c(read$note, note)
  read
}

# Cells with digits that are no number and no number with a limit, a mark of decimals or a multiple: "40-45", "about 40".
unread_numbers <- function(given) {
  digits <- unique(given[grepl("[0-9]", given)])
  unread <- is.na(numbers_in(sub("%$", "", gsub("[,. '\u2019]", "", digits))))
  # Where most are dates, times or codes, none is odd.
  if (mean(given %in% digits[!unread]) < 0.9) return(character())
  digits <- digits[unread]
  limited <- "[<>\u2264\u2265+]|[0-9] ?[kKmM]$|[0-9][.,][0-9]|[eE][-+]?[0-9]|[:/]|^[^0-9]?[0-9]+[^0-9]?$"
  digits[!grepl(limited, digits)]
}

coded_cells_sentence <- function(coded) {
  if (length(coded)) c(coded = template("cells with a missing-value code: %s", paste(names(coded), coded, collapse = ", ")))
}

suspicion_sentences <- function(codes) {
  rows <- do.call(rbind, Map(function(rows, name) data.frame(rows, name = name), codes, names(codes)))
  if (is.null(rows)) return(NULL)
  # Many columns with the same code are told in one line.
  alike <- split(rows, paste(rows$code, rows$low, rows$high))
  alike <- alike[order(vapply(alike, function(one) match(one$name[1], names(codes)), 0))]
  sentences <- unlist(lapply(alike, function(one) {
    if (nrow(one) > 3L) return(list(suspicion_of_several(one)))
    lapply(seq_len(nrow(one)), function(k) suspicion_of_one(one[k, ]))
  }), recursive = FALSE)
  stats::setNames(sentences, rep("suspicious", length(sentences)))
}

suspicion_of_one <- function(code) {
  about(template(
    "%s: %s stands in %s, far outside the others (%s to %s). Missing-value code? It counts as a value until declared",
    code$name, format(code$code, trim = TRUE), counted(code$count, "cell"), format(code$low), format(code$high)
  ), code$name)
}

suspicion_of_several <- function(codes) {
  template(
    "%s stands in %d variables (%s to %s), outside the others (%s to %s). Missing-value code? It counts until declared",
    format(codes$code[1], trim = TRUE), nrow(codes), codes$name[1], codes$name[nrow(codes)], format(codes$low[1]),
    format(codes$high[1])
  )
}

repeat_sentence <- function(again, rows) {
  if (is.null(again)) return(NULL)
  at <- as.integer(if (is.null(rows)) again$rows else rows[again$rows])
  first <- as.integer(if (is.null(rows)) again$of else rows[again$of])
  c(repeated = template(
    "%s an earlier one%s (row %d that of row %d%s); each is counted as a case",
    counted(length(at), "row repeats", "rows repeat"),
    if (again$named) template(" in all but the case's name") else "", at[1],
    first[1], if (length(at) > 1L) ", ..." else ""
  ))
}

text_sentences <- function(data, book, rows) {
  spoilt <- book$variable[book$level == "numeric" & vapply(data[book$variable], is.character, NA)]
  decisions <- lapply(spoilt, function(name) {
    about(template(
      "%s: %s; excluded from analyses until corrected or declared as missing-value codes",
      name, text_cells(data[[name]], rows)
    ), name)
  })
  if (length(decisions)) stats::setNames(decisions, rep("text", length(decisions)))
}

check_study <- function(study) {
  if (inherits(study, "unsere_study")) return(study)
  as_study(study)
}
