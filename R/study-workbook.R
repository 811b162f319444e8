# Workbooks: every cell as the text a reader would see, dates as year-month-day.

read_workbook <- function(path, sheet, header_row, kind) {
  tools <- list(xlsx = workbook_xlsx, ods = workbook_ods)[[kind]]
  tools <- tools()
  sheets <- tryCatch(suppressWarnings(tools$sheets(path)), error = function(e) abort_workbook(path, kind))
  sheet <- pick_sheet(sheet, sheets, path)
  grid <- tryCatch(tools$grid(path, sheet), error = function(e) abort_workbook(path, kind))
  shaped <- shape_grid(grid, header_row, path)
  shaped$sheet <- sheet
  if (length(sheets) > 1) {
    others <- setdiff(sheets, sheet)
    shaped$decisions <- c(
      sprintf("sheet \"%s\" read; also there: %s", sheet, paste(others, collapse = ", ")),
      shaped$decisions
    )
  }
  shaped
}

abort_workbook <- function(path, kind) {
  abort_input(sprintf("%s cannot be opened as a workbook (.%s).", file_name(path), kind), "Open it and save it again.")
}

pick_sheet <- function(sheet, sheets, path) {
  if (is.null(sheet)) return(sheets[1])
  number <- if (is.numeric(sheet)) sheet else if (sheet %in% sheets) NA else numbers_in(sheet)
  if (!is.na(number) && number >= 1 && number <= length(sheets)) return(sheets[number])
  if (sheet %in% sheets) return(as.character(sheet))
  abort_input(
    sprintf("%s has no sheet \"%s\".", file_name(path), sheet), suggest_names(as.character(sheet), sheets, "sheets")
  )
}

workbook_xlsx <- function() {
  need_package("readxl", "to read workbooks (.xlsx)")
  list(sheets = readxl::excel_sheets, grid = function(path, sheet) {
    # All cells from the upper left corner on, so that row numbers are those of the sheet.
    cells <- suppressMessages(readxl::read_xlsx(path, sheet,
      range = cellranger::cell_limits(c(1, 1), c(NA, NA)), col_names = FALSE, col_types = "list",
      .name_repair = "minimal"
    ))
    text <- lapply(cells, function(column) vapply(column, cell_text, ""))
    matrix(unlist(text, use.names = FALSE), ncol = length(text))
  })
}

cell_text <- function(cell) {
  if (is.null(cell) || length(cell) == 0L || is.na(cell)) return(NA_character_)
  if (inherits(cell, "POSIXt")) {
    return(format(cell, if (as.numeric(cell) %% 86400 == 0) "%Y-%m-%d" else "%Y-%m-%d %H:%M:%S"))
  }
  if (is.numeric(cell)) return(shortest_number(cell))
  as.character(cell)
}

#' The fewest digits that give the number back
#' @noRd
shortest_number <- function(x) {
  text <- format(x, digits = 15, trim = TRUE, scientific = FALSE)
  if (as.numeric(text) == x) text else format(x, digits = 17, trim = TRUE)
}

workbook_ods <- function() {
  need_package("readODS", "to read workbooks (.ods)")
  list(sheets = readODS::list_ods_sheets, grid = function(path, sheet) {
    cells <- suppressMessages(readODS::read_ods(path, sheet,
      col_names = FALSE, col_types = NA, as_tibble = FALSE,
      .name_repair = "minimal"
    ))
    as.matrix(cells)
  })
}
