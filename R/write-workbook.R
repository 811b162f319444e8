# Tables as files: each as CSV, all as the sheets of a workbook.

#' The tables of a report by name, rows of the same kind under one another
#' @noRd
report_tables <- function(report) {
  blocks <- blocks_of_type(report, "rows")
  names <- vapply(blocks, `[[`, "", "name")
  parts <- split(lapply(blocks, `[[`, "rows"), factor(names, unique(names)))
  lapply(parts, function(rows) do.call(rbind, rows))
}

#' @param work A list: `tables` (named data frames) and the `folder` of results.
#' @noRd
write_all_tables <- function(work) {
  for (name in names(work$tables)) {
    replace_file(as_csv(work$tables[[name]]), file.path(work$folder, "tables", paste0(name, ".csv")))
  }
}

write_workbook <- function(sheets, path, pictures = list()) {
  save_workbook(begin_workbook(sheets), pictures, path)
}

begin_workbook <- function(sheets) {
  need_package("openxlsx", "to write a workbook")
  book <- openxlsx::createWorkbook(creator = "Unsere")
  for (k in seq_along(sheets)) add_sheet(book, sheet_name(names(sheets)[k], k), sheets[[k]])
  book
}

#' @param pictures Of each its file (`picture`), `title`, `width` and `height` in inches.
#' @noRd
save_workbook <- function(book, pictures, path) {
  for (k in seq_along(pictures)) add_picture(book, paste("Figure", k), pictures[[k]])
  replace_by(path, function(draft) openxlsx::saveWorkbook(book, draft, overwrite = TRUE))
}

#' A figure on a sheet of its own, under what it says
#' @noRd
add_picture <- function(book, sheet, picture) {
  openxlsx::addWorksheet(book, sheet, orientation = "landscape", gridLines = FALSE)
  openxlsx::pageSetup(book, sheet, orientation = "landscape", fitToWidth = TRUE, fitToHeight = TRUE)
  openxlsx::writeData(book, sheet, plain_text(enc2utf8(gsub("\n", " ", picture$title))), colNames = FALSE)
  openxlsx::addStyle(book, sheet, openxlsx::createStyle(textDecoration = "bold", fontColour = look$ink), rows = 1, cols = 1)
  openxlsx::insertImage(book, sheet, picture$picture, picture$width, picture$height, startRow = 3)
}

#' A table as a sheet: title, column heads, numbers that stay numbers and are shown rounded, note
#' @noRd
add_sheet <- function(book, sheet, data) {
  openxlsx::addWorksheet(book, sheet, orientation = "landscape")
  openxlsx::pageSetup(book, sheet, orientation = "landscape", fitToWidth = TRUE, fitToHeight = FALSE)
  former <- attributes(data)[c("title", "note")]
  attr(data, "title") <- attr(data, "note") <- NULL
  first <- if (is.null(former$title)) 1L else 3L
  rows <- first + seq_len(nrow(data))
  if (!is.null(former$title)) openxlsx::writeData(book, sheet, former$title, colNames = FALSE)
  openxlsx::writeData(book, sheet, plain_columns(data), startRow = first, keepNA = FALSE)
  side <- ifelse(vapply(data, is.numeric, NA), "right", "left")
  for (one in unique(side)) {
    head <- openxlsx::createStyle(textDecoration = "bold", border = "bottom", fontColour = look$ink, halign = one)
    openxlsx::addStyle(book, sheet, head, cols = which(side == one), rows = first)
  }
  masks <- mapply(number_mask, data, names(data))
  for (one in unique(masks[!is.na(masks)])) {
    shown <- openxlsx::createStyle(numFmt = one)
    openxlsx::addStyle(book, sheet, shown, cols = which(masks %in% one), rows = rows, gridExpand = TRUE)
  }
  if (!is.null(former$note)) {
    openxlsx::writeData(book, sheet, former$note, startRow = first + nrow(data) + 2L, colNames = FALSE)
  }
  openxlsx::setColWidths(book, sheet, seq_along(data), column_widths(data))
  openxlsx::freezePane(book, sheet, firstActiveRow = first + 1L)
}

#' How a column of numbers is shown, `NA` as it is; the cells keep every digit
#' @noRd
number_mask <- function(column, name) {
  if (!is.double(column) || all(column == round(column), na.rm = TRUE)) return(NA_character_)
  if (name %in% c("p", "p_adjusted")) return("[<0.001]0.0E+00;0.000")
  if (all(abs(column) <= 1, na.rm = TRUE)) return("0.00")
  decimals <- min(6, max(0, decimals_for(column, 4)))
  if (decimals == 0) "0" else paste0("0.", strrep("0", decimals))
}

# By the cells alone, not by the title and the note in the first column.
column_widths <- function(data) {
  mapply(function(column, name) {
    text <- if (is.double(column)) formatC(column, digits = 4, format = "g") else as.character(column)
    min(60, max(8, nchar(c(name, text), "width"), na.rm = TRUE) + 2)
  }, data, names(data))
}

sheet_name <- function(name, k) {
  name <- substr(gsub("[\\[\\]:*?/\\\\]", " ", name, perl = TRUE), 1, 31)
  if (nzchar(trimws(name))) name else paste("Table", k)
}

# Numbers stay numbers; all else is text, so that nothing is taken for a formula or a date.
plain_columns <- function(data) {
  data[] <- lapply(data, function(column) {
    if (is.numeric(column) || is.logical(column)) column else plain_text(enc2utf8(as.character(column)))
  })
  data
}
