# Workbooks: every cell as the text a reader would see, dates as year-month-day.

hidden_row_choices <- c("keep", "leave out")

read_workbook <- function(path, sheet, header_row, kind, hidden_rows = NULL) {
  tools <- open_workbook(path, kind)
  or_unreadable <- function(code) {
    tryCatch(code, error = function(e) if (inherits(e, "unsere_error")) stop(e) else abort_workbook(path, kind))
  }
  sheets <- or_unreadable(tools$sheets())
  sheet_requested <- sheet
  sheet <- pick_sheet(sheet, sheets, path)
  read <- or_unreadable(tools$grid(sheet))
  if (is.null(sheet_requested) && !holds_table(read$grid, path)) {
    # A cover sheet, or one without any cell, is no choice where another holds a table.
    for (other in setdiff(sheets$name[!sheets$hidden], sheet)) {
      grid <- or_unreadable(tools$grid(other))
      if (!holds_table(grid$grid, path) && !(all(is_blank(read$grid)) && !all(is_blank(grid$grid)))) next
      sheet <- other
      read <- grid
      if (holds_table(read$grid, path)) break
    }
  }
  others <- setdiff(sheets$name, sheet)
  shaped <- tryCatch(
    shape_grid(read$grid, header_row, path),
    unsere_error_input = function(e) abort_sheet(e, sheet, others, is.null(sheet_requested))
  )
  shaped$sheet <- sheet
  leave <- identical(hidden_rows, "leave out")
  if (leave) shaped <- without_hidden_rows(shaped, read$extras$hidden, path)
  shaped$decisions <- c(
    if (length(others)) {
      labels <- ifelse(others %in% sheets$name[sheets$hidden], paste(others, "(hidden)"), others)
      template("sheet \"%s\" read; also there: %s", sheet, paste(labels, collapse = ", "))
    },
    shaped$decisions, extras_sentences(read$extras, shaped$header_row, leave)
  )
  shaped
}

without_hidden_rows <- function(shaped, hidden, path) {
  shown <- !shaped$rows %in% hidden
  if (!any(shown)) abort_input(problem("All rows of %s are hidden.", file_name(path)), "Read them with hidden_rows: keep.")
  shaped$data <- shaped$data[shown, , drop = FALSE]
  shaped$rows <- shaped$rows[shown]
  shaped
}

#' The sheets of a workbook that can be seen, by name; none where it cannot be read
#' @noRd
workbook_sheets <- function(path) {
  kind <- sub("xlsm", "xlsx", file_ending(path))
  sheets <- tryCatch(open_workbook(path, kind)$sheets(), error = function(e) NULL)
  sheets$name[!sheets$hidden]
}

# Two columns or more with a heading, over two cases or more.
holds_table <- function(grid, path) {
  if (NCOL(grid) < 2L || NROW(grid) < 3L) return(FALSE)
  shaped <- tryCatch(shape_grid(grid, NULL, path), unsere_error = function(e) NULL)
  !is.null(shaped) && ncol(shaped$data) >= 2L && nrow(shaped$data) >= 2L &&
    sum(!is_blank(as.matrix(shaped$data))) >= length(as.matrix(shaped$data)) / 3
}

#' What reads a workbook, once its archive and its parts were looked at
#' @return A list of functions: `sheets()`, and `grid(sheet)`, whose cells are looked at before their reader sees them.
#' @noRd
open_workbook <- function(path, kind) {
  members <- check_archive(path, kind)
  need_package("xml2", sprintf("to read workbooks (.%s)", kind))
  check_depth(path, members, kind)
  list(xlsx = workbook_xlsx, ods = workbook_ods)[[kind]](path, members)
}

# A sheet without a table, in a book with others, may be the wrong one.
abort_sheet <- function(error, sheet, others, chosen) {
  if (!length(others) || !chosen) stop(error)
  names <- paste(sprintf("\"%s\"", utils::head(others, 8)), collapse = ", ")
  abort_input(
    problem("Sheet \"%s\": %s", sheet, error$problem), problem("Other sheets: %s. Choose one by sheet (--sheet).", names)
  )
}

#' What is said of cells that hold more, or less, than a value
#' @noRd
extras_sentences <- function(extras, header_row, leave = FALSE) {
  some <- function(part) {
    shown <- utils::head(part, 3)
    addresses <- paste0(vapply(shown$column, column_letters, ""), shown$row, collapse = ", ")
    if (nrow(part) > 3L) template("%s and %d more", addresses, nrow(part) - 3L) else addresses
  }
  formulas <- extras$formulas
  merged <- extras$merged[extras$merged$row > header_row, ]
  joined <- c(extras$joined, nrow(merged), 0L)[1]
  hidden <- extras$hidden[extras$hidden > header_row]
  c(
    if (length(hidden)) template(
      if (leave) "%s skipped (row %s)" else "%s read with the others (row %s; hidden_rows: leave out takes them off)",
      counted(length(hidden), "hidden row", "hidden rows"),
      toString(c(utils::head(hidden, 5), if (length(hidden) > 5L) "..."))
    ),
    if (isTRUE(extras$covered > 0L)) template(
      "%s under merged cells, skipped because they are not visible", counted(extras$covered, "value", "values")
    ),
    if (length(formulas) && nrow(formulas)) template(
      "%s without a stored value (%s), read as blank: open the workbook, let it calculate, save it",
      counted(nrow(formulas), "formula"), some(formulas)
    ),
    if (joined) template(
      "%s over several rows or columns%s: only the first place of each holds the value, the others are blank",
      counted(joined, "cell reaches", "cells reach"), if (length(merged)) template(" (from %s)", some(merged)) else ""
    )
  )
}

#' @param sheets A data frame: `name`, `hidden`.
#' @noRd
pick_sheet <- function(sheet, sheets, path) {
  if (is.null(sheet)) return(c(sheets$name[!sheets$hidden], sheets$name)[1])
  names <- sheets$name
  number <- if (is.numeric(sheet)) sheet else if (sheet %in% names) NA else numbers_in(sheet)
  if (!is.na(number) && number >= 1 && number <= length(names)) return(names[number])
  if (sheet %in% names) return(as.character(sheet))
  abort_input(
    problem("%s has no sheet \"%s\".", file_name(path), sheet), suggest_names(as.character(sheet), names, "sheets")
  )
}

workbook_xlsx <- function(path, members) {
  need_package("readxl", "to read workbooks (.xlsx)")
  sheets <- NULL
  list(
    sheets = function() sheets <<- sheets_xlsx(path, members),
    grid = function(sheet) {
      extent <- check_extents(archive_bytes(path, sheets$member[sheets$name == sheet], members), path, FALSE)
      check_extent(extent, path, sheet)
      if (!extent$filled) return(list(grid = matrix("", 0, 0)))
      # All cells from the upper left corner on, so that row numbers are those of the sheet.
      cells <- suppressMessages(suppressWarnings(readxl::read_xlsx(path, sheet,
        range = cellranger::cell_limits(c(1, 1), c(extent$rows, extent$columns)), col_names = FALSE, col_types = "list",
        .name_repair = "minimal"
      )))
      if (!length(cells)) return(list(grid = matrix("", 0, 0)))
      text <- lapply(cells, function(column) texts_of_cells(column))
      grid <- matrix(unlist(text, use.names = FALSE), ncol = length(text))
      extras <- extras_xlsx(path, sheets$member[sheets$name == sheet], members)
      errors <- extras$errors[extras$errors$row <= nrow(grid) & extras$errors$column <= ncol(grid), ]
      grid[cbind(errors$row, errors$column)] <- errors$text
      covered <- covered_cells(extras$merged, grid)
      grid[covered] <- NA
      list(grid = grid, extras = c(extras, covered = nrow(covered)))
    }
  )
}

#' Cells with a value of their own that a merged cell covers
#' @return A matrix of places: row and column.
#' @noRd
covered_cells <- function(merged, grid) {
  places <- lapply(seq_len(nrow(merged)), function(k) {
    rows <- intersect(merged$row[k]:merged$to_row[k], seq_len(nrow(grid)))
    columns <- intersect(merged$column[k]:merged$to_column[k], seq_len(ncol(grid)))
    at <- as.matrix(expand.grid(row = rows, column = columns))[-1, , drop = FALSE]
    at[!is_blank(grid[at]), , drop = FALSE]
  })
  do.call(rbind, c(list(matrix(0, 0, 2)), places))
}

#' The cells of a column; of times that a workbook counts from its first day what they are: of a day, or lasting longer
#' @noRd
texts_of_cells <- function(column) {
  text <- vapply(column, cell_text, "")
  moments <- vapply(column, inherits, NA, "POSIXt")
  seconds <- rep(NA_real_, length(column))
  seconds[moments] <- vapply(column[moments], function(cell) seconds_of_clock(as.numeric(cell)), 0)
  lasting <- !is.na(seconds)
  if (!any(seconds[lasting] %% 86400 != 0)) return(text)
  seconds <- round(seconds[lasting])
  hours <- seconds %/% 3600
  rest <- c(list(seconds %/% 60 %% 60), list(seconds %% 60))
  form <- if (any(hours >= 24)) "PT%dH%dM%dS" else "%02d:%02d:%02d"
  text[lasting] <- sprintf(form, as.integer(hours), as.integer(rest[[1]]), as.integer(rest[[2]]))
  text
}

cell_text <- function(cell) {
  if (is.null(cell) || length(cell) == 0L || is.na(cell)) return(NA_character_)
  if (inherits(cell, "POSIXt")) {
    return(format(cell, if (as.numeric(cell) %% 86400 == 0) "%Y-%m-%d" else "%Y-%m-%d %H:%M:%S"))
  }
  if (is.numeric(cell)) return(shortest_number(cell))
  as.character(cell)
}

#' Seconds from the day before a workbook's first, of 1900 or 1904; `NA` where that is a date
#' @noRd
seconds_of_clock <- function(seconds) {
  since <- seconds - c(-2209075200, -2082844800) # 1899-12-31 and 1904-01-01
  # A time that lasts sixty days or more is a date.
  since[since >= 0 & since < 60 * 86400][1]
}

#' The fewest digits that give the number back
#' @noRd
shortest_number <- function(x) {
  text <- format(x, digits = 15, trim = TRUE, scientific = FALSE)
  if (as.numeric(text) == x) text else format(x, digits = 17, trim = TRUE)
}

workbook_ods <- function(path, members) {
  need_package("readODS", "to read workbooks (.ods)")
  parts <- extents <- names <- NULL
  list(
    sheets = function() {
      extents <<- check_extents(archive_bytes(path, "content.xml", members), path, TRUE)
      parts <<- parts_ods(path, members)
      names <<- readODS::list_ods_sheets(path)
      data.frame(name = names, hidden = names %in% parts$hidden)
    },
    grid = function(sheet) {
      check_extent(extents[match(sheet, names), ], path, sheet)
      cells <- suppressMessages(suppressWarnings(readODS::read_ods(path, sheet,
        col_names = FALSE, col_types = NA, as_tibble = FALSE,
        .name_repair = "minimal"
      )))
      list(grid = as.matrix(cells), extras = list(
        joined = sum(parts$joined[sheet], na.rm = TRUE), hidden = parts$hidden_rows[[sheet]]
      ))
    }
  )
}
