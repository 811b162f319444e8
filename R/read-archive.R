# Workbooks as the archives that they are: how large they unpack, and what their parts say that a table of cells does not.

#' An archive that unpacks beyond all measure is not opened
#' @noRd
check_archive <- function(path, kind) {
  members <- tryCatch(suppressWarnings(utils::unzip(path, list = TRUE)), error = function(e) NULL)
  if (is.null(members) || !nrow(members)) abort_workbook(path, kind)
  size <- sum(as.numeric(members$Length))
  if (size > 2e9 || size > 5e7 && size > 150 * file.size(path)) {
    abort_input(
      problem("%s unpacks to %s megabytes; it is not opened.", file_name(path), format(round(size / 1e6), big.mark = ",")),
      "Save the sheet as .csv or .parquet."
    )
  }
  members
}

#' What a sheet's reader will be asked for: the last row and column that hold something
#'
#' A reader makes room for each place up to the furthest cell, and trusts each reference; so both are looked at before.
#' @param bytes The XML of a sheet (or of all sheets, of an .ods file).
#' @return A data frame, a row a sheet: `name`, `filled`, `rows`, `columns`.
#' @section Errors: `unsere_error_input` where a reference is none, or where a cell lies so far out that its sheet would cost
#'   many times what its filled cells cost.
#' @noRd
check_extents <- function(bytes, path, open_document) {
  extents <- list2DF(core_sheet_extents(bytes, open_document))
  odd <- extents[nzchar(extents$odd), ]
  if (nrow(odd)) abort_input(
    problem("%s is damaged: \"%s\" is not a cell address.", file_name(path), shown_text(plain_text(odd$odd[1]), 20L)),
    "Open it in a spreadsheet and save it again."
  )
  extents
}

shown_text <- function(text, most = 60L) if (nchar(text) > most) paste0(substr(text, 1L, most), " ...") else text

check_extent <- function(extent, path, sheet) {
  most <- max(2e6, 20 * extent$filled)
  if (extent$rows * extent$columns <= most) return(invisible())
  far <- if (extent$rows > 20 * extent$filled) extent$last_row else extent$last_column
  abort_input(
    problem(
      "In %s, sheet \"%s\", cell %s lies far from all others (%s filled).", file_name(path), sheet, far,
      count_in_english(extent$filled, "cell")
    ),
    "Delete it in a spreadsheet, or save the table alone as .csv."
  )
}

# Elements within elements: a reader that goes down by calling itself does not go endlessly deep.
check_depth <- function(path, members, kind) {
  parts <- members$Name[grepl("[.](xml|rels)$", members$Name)]
  for (part in parts) if (core_xml_depth(archive_bytes(path, part, members)) > 200) abort_workbook(path, kind)
}

#' A member of an archive as text, read into memory; "" where there is none
#' @noRd
archive_text <- function(path, member, members) {
  text <- rawToChar(archive_bytes(path, member, members))
  Encoding(text) <- "UTF-8"
  text
}

archive_bytes <- function(path, member, members) {
  size <- members$Length[match(member, members$Name)]
  if (is.na(size)) return(raw())
  part <- unz(path, member, "rb")
  on.exit(close(part))
  readBin(part, "raw", size)
}

archive_xml <- function(path, member, members) {
  xml2::xml_ns_strip(xml2::read_xml(charToRaw(archive_text(path, member, members))))
}

#' The sheets of a workbook, whether they are hidden, and which member holds each
#' @noRd
sheets_xlsx <- function(path, members) {
  book <- xml2::xml_find_all(archive_xml(path, "xl/workbook.xml", members), "//sheets/sheet")
  links <- xml2::xml_find_all(archive_xml(path, "xl/_rels/workbook.xml.rels", members), "//Relationship")
  ids <- xml2::xml_attr(book, "id")
  target <- xml2::xml_attr(links, "Target")[match(ids, xml2::xml_attr(links, "Id"))]
  data.frame(
    name = xml2::xml_attr(book, "name"), hidden = xml2::xml_attr(book, "state") %in% c("hidden", "veryHidden"),
    member = ifelse(startsWith(target, "/"), substring(target, 2), file.path("xl", target))
  )
}

#' What a sheet holds beside values: cells of errors, formulas without a value, merged cells
#'
#' @return A list of data frames with the columns `row` and `column`; of errors also `text`, of merged cells `to_row` and
#'   `to_column`; and `hidden`, the rows with values that are not shown.
#' @noRd
extras_xlsx <- function(path, member, members) {
  text <- archive_text(path, member, members)
  # Of a large sheet without any of these no tree is made.
  sheet <- if (grepl(" t=\"e\"|<f|<mergeCell |<row[^>]* hidden=\"", text)) text else "<none/>"
  sheet <- xml2::xml_ns_strip(xml2::read_xml(charToRaw(sheet)))
  places <- function(address) {
    data.frame(
      row = as.integer(gsub("[^0-9]", "", address)),
      column = vapply(gsub("[0-9]", "", address), letters_number, 0L)
    )
  }
  errors <- xml2::xml_find_all(sheet, "//c[@t='e'][v]")
  blank <- xml2::xml_find_all(sheet, "//c[f][not(v) or not(normalize-space(v))][not(is)]")
  merged <- strsplit(xml2::xml_attr(xml2::xml_find_all(sheet, "//mergeCell"), "ref"), ":", fixed = TRUE)
  merged <- Filter(function(ends) length(ends) == 2L, merged)
  # What is an error by its type stays one, whatever number stands for it.
  texts <- xml2::xml_text(xml2::xml_find_first(errors, "v"))
  hidden <- xml2::xml_find_all(sheet, "//row[@hidden='1' or @hidden='true'][c/v or c/is]")
  list(
    errors = cbind(places(xml2::xml_attr(errors, "r")), text = ifelse(startsWith(texts, "#"), texts, "#VALUE!")),
    hidden = as.integer(xml2::xml_attr(hidden, "r")),
    formulas = places(xml2::xml_attr(blank, "r")),
    merged = cbind(
      places(vapply(merged, `[`, "", 1L)),
      to_row = places(vapply(merged, `[`, "", 2L))$row, to_column = places(vapply(merged, `[`, "", 2L))$column
    )
  )
}

# Of a column, "A" is 1 and "AA" is 27.
letters_number <- function(letters) {
  Reduce(function(sum, digit) 26L * sum + digit, utf8ToInt(letters) - 64L, 0L)
}

column_letters <- function(number) {
  if (number <= 26L) return(LETTERS[number])
  paste0(column_letters((number - 1L) %/% 26L), LETTERS[(number - 1L) %% 26L + 1L])
}

#' What the text of an .ods file says: the sheets and rows it hides, and how many cells of a sheet are joined
#'   over several rows
#' @noRd
parts_ods <- function(path, members) {
  text <- archive_text(path, "content.xml", members)
  if (!grepl("table:display=\"false\"|number-rows-spanned=\"([2-9]|[1-9][0-9])|visibility=\"(collapse|filter)", text)) {
    return(list(hidden = character(), joined = integer(), hidden_rows = list()))
  }
  body <- archive_xml(path, "content.xml", members)
  part <- function(node, name) xml2::xml_find_all(node, sprintf(".//*[local-name()='%s']", name))
  unseen <- xml2::xml_find_all(body, "//*[local-name()='table-properties'][@*[local-name()='display']='false']/..")
  tables <- part(body, "table")
  names <- xml2::xml_attr(tables, "name")
  spans <- lapply(tables, function(table) xml2::xml_attr(part(table, "table-cell"), "number-rows-spanned"))
  joined <- vapply(spans, function(span) sum(as.integer(span) > 1L, na.rm = TRUE), 0L)
  hidden <- names[xml2::xml_attr(tables, "style-name") %in% xml2::xml_attr(unseen, "name")]
  list(
    hidden = hidden, joined = stats::setNames(joined, names),
    hidden_rows = stats::setNames(lapply(tables, hidden_rows_ods), names)
  )
}

# A row stands for as many as it is repeated.
hidden_rows_ods <- function(table) {
  rows <- xml2::xml_find_all(table, ".//*[local-name()='table-row']")
  times <- as.numeric(xml2::xml_attr(rows, "number-rows-repeated", default = "1"))
  last <- cumsum(times)
  unseen <- xml2::xml_attr(rows, "visibility") %in% c("collapse", "filter") & nzchar(xml2::xml_text(rows))
  unlist(Map(seq, (last - times + 1)[unseen], last[unseen]))
}

abort_workbook <- function(path, kind) {
  abort_input(problem("%s cannot be opened as a workbook (.%s).", file_name(path), kind), "Open it and save it again.")
}
