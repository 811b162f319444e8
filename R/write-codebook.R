#' Write the codebook of a study to a file
#'
#' Writes CSV (found automatically by [read_study()] if named `codebook.csv` beside the data), a Frictionless Table Schema
#' (JSON), DDI-Codebook 2.5 (XML) as used by survey archives, or an HTML page for reading. All but the page can be used
#' again as `codebook`.
#'
#' @param study A study, or a data frame.
#' @param path The file to write: a name that ends in `.csv`, `.json`, `.xml` or `.html`.
#' @return The path, invisibly.
#' @section Errors: `unsere_error_usage` for another ending; `unsere_error_input` if the folder does not exist or the
#'   file is the data file.
#' @references DDI Alliance (2012). *DDI-Codebook 2.5*. Frictionless Data (2017). *Table Schema*.
#' @examples
#' write_codebook(demo_study("dial"), tempfile(fileext = ".csv"))
#' xml <- write_codebook(demo_study("dial"), tempfile(fileext = ".xml"))
#' cat(readLines(xml)[1:8], sep = "\n")
#' @export
write_codebook <- function(study, path) {
  study <- check_study(study)
  kind <- if (is_word(path)) file_ending(path) else ""
  if (!kind %in% c("csv", "json", "xml", "html")) {
    abort_usage(
      "A codebook needs a name that ends in .csv, .json, .xml or .html.",
      "For example write_codebook(study, \"codebook.csv\")."
    )
  }
  check_folder_of(path)
  from <- study_origin(study)$path
  if (!is.null(from) && is_same_file(path, from)) {
    abort_input(problem("%s is the data file; it is never written to.", path), "Give the codebook another name.")
  }
  book <- study_book(study)
  title <- or_default(study_file(study), say("A study"))
  replace_by(path, function(draft) {
    switch(kind,
      csv = write_lines(as_csv(with_plausible_rows(book, study_plausible(study))), draft),
      json = write_lines(codebook_as_json(book), draft),
      xml = xml2::write_xml(codebook_as_ddi(book, title), draft),
      html = write_lines(codebook_page(study, title), draft)
    )
  })
  invisible(path)
}

# Scores known as plausible values, as a codebook declares them.
with_plausible_rows <- function(book, plausible) {
  for (name in names(plausible)) {
    at <- book$variable == name
    book[at, c("role", "values", "source")] <- list("plausible", paste(plausible[[name]], collapse = " | "), NA_character_)
  }
  book
}

#' The codebook as a page: what each variable is, and where its values lie
#' @noRd
codebook_page <- function(study, title) {
  look <- overview(study)
  rows <- look$variables
  book <- study_book(study)
  blank <- function(text) ifelse(is.na(text), "", text)
  cells <- list(
    variable = rows$variable, label = blank(rows$label), "short label" = blank(rows$short),
    unit = blank(rows$unit), level = say(rows$level),
    role = say(rows$role),
    values = codebook_values(look, study), n = format_count(rows$n), missing = format_count(rows$missing),
    "missing-value codes" = blank(book$missing_codes), source = blank(book$source)
  )
  empty <- vapply(cells, function(column) all(!nzchar(column)), NA)
  html_page(list(
    title = say("Codebook"), question = title, sections = list(
      new_section(
        "variables", sprintf("%s, %s", count_of(look$cases, "case"), count_of(nrow(rows), "variable")),
        block_table(
          cells[!empty], say("What each variable is, and where its values lie."),
          left_aligned = sum(!empty[1:7])
        )
      ),
      new_section("read", say("How the file was read"), block_text(
        if (length(study_provenance(study)$decisions)) {
          fill_templates(study_provenance(study)$decisions)
        } else {
          say("Nothing had to be decided.")
        }
      ))
    )
  ))
}

# Of few values each with its count, of numbers their mean, sd and ends, of times the first and the last.
codebook_values <- function(look, study) {
  rows <- look$variables
  values <- ifelse(
    is.na(rows$mean) | rows$level != "numeric", "",
    say(
      "mean %s, sd %s, %s to %s", format_number(rows$mean), format_number(rows$sd), format_end(rows$min),
      format_end(rows$max)
    )
  )
  counted <- vapply(look$counts, function(counts) {
    paste(sprintf("%s: %s", counts$value, format_count(counts$count)), collapse = "; ")
  }, "")
  values[match(names(counted), rows$variable)] <- counted
  bare <- which(!nzchar(values) & rows$role != "case")
  values[bare] <- vapply(rows$variable[bare], function(name) range_of_times(study_column(study, name)), "")
  values
}

# Times as they stand, year first, are in order as texts.
range_of_times <- function(column) {
  column <- column[!is.na(column)]
  if (!length(column) || !all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}", column))) return("")
  paste(range(as.character(column)), collapse = " to ")
}
