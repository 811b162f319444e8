#' Write the tables of a result
#'
#' @param result A result of Unsere, a data frame, or a named list of these.
#' @param path The file to write. Its ending determines the format: `.xlsx` (one sheet per table, numeric cells without
#'   formulas), `.csv` (all digits), `.html`, `.md`, `.docx`, `.tex` (LaTeX) or `.typ` (Typst).
#' @param ... For a matrix: `stars`, `intervals` and `digits` as for [publication_table()].
#' @return The path, invisibly.
#' @section Errors: `unsere_error_usage` for another ending or for something without a table; `unsere_error_input` when
#'   the folder does not exist, or when a file of that name is there that Unsere did not write.
#' @examples
#' found <- correlation_matrix(demo_study("learners"), practice_hours, speaking_score, confidence)
#' write_tables(found, tempfile(fileext = ".csv"))
#' write_tables(found, tempfile(fileext = ".md"), stars = TRUE)
#' @export
write_tables <- function(result, path, ...) {
  form <- if (is.character(path) && length(path) == 1L) file_ending(path) else ""
  if (!form %in% c("xlsx", "csv", "html", "md", "docx", "tex", "typ")) {
    abort_usage(
      "A table needs a name that ends in .xlsx, .csv, .html, .md, .docx, .tex or .typ.",
      "For example write_tables(result, \"table.xlsx\")."
    )
  }
  check_folder_of(path)
  check_own_table(path, form)
  if (form == "xlsx") return(invisible(write_workbook(sheets_of(result, ...), path)))
  if (form == "csv") {
    replace_file(as_csv(csv_fields(result)), path)
    return(invisible(path))
  }
  table <- reading_table(result, ...)
  switch(form,
    md = replace_file(as_markdown(table), path),
    html = replace_file(table_page(table), path),
    tex = replace_file(table_latex(table), path),
    typ = replace_file(table_typst(table), path),
    docx = replace_by(path, function(draft) write_table_document(table, draft))
  )
  invisible(path)
}

# A file that is there is replaced only where it is one of ours by its first lines, or a workbook or document by its
# maker.
check_own_table <- function(path, form) {
  if (!file.exists(path) || form %in% c("csv", "md")) return(invisible())
  own <- if (form == "html") {
    is_own_page(path)
  } else if (form %in% c("tex", "typ")) {
    grepl(typeset_mark, paste(readLines(path, 1L, warn = FALSE), collapse = ""), fixed = TRUE)
  } else {
    identical(made_by(path), "Unsere")
  }
  if (!own) {
    abort_input(
      problem("%s was not written by Unsere and is left alone.", path),
      "Give the table another name."
    )
  }
}

made_by <- function(path) {
  unpacked <- tryCatch(utils::unzip(path, "docProps/core.xml", exdir = tempfile("unsere-")),
    error = function(e) NULL,
    warning = function(w) NULL
  )
  if (!length(unpacked)) return(NA_character_)
  on.exit(unlink(dirname(dirname(unpacked)), recursive = TRUE))
  text <- paste(readLines(unpacked, warn = FALSE), collapse = "")
  if (grepl("<dc:creator>Unsere", text, fixed = TRUE)) "Unsere" else NA_character_
}

#' The table as it is to be read
#' @noRd
reading_table <- function(result, ...) {
  if (inherits(result, "unsere_table")) return(result)
  if (inherits(result, "unsere_matrix")) return(publication_table(result, ...))
  cells <- table_cells(result)
  structure(list(
    cells = as.data.frame(cells$cells, check.names = FALSE), numbers = NULL, title = cells$title,
    note = cells$note
  ), class = c("unsere_table", "unsere_result"))
}

table_cells <- function(result) {
  if (inherits(result, "unsere_relation")) {
    return(list(cells = relation_cells(result), title = "Correlation", note = in_words(result)))
  }
  if (inherits(result, "unsere_line")) {
    return(list(cells = line_term_cells(result), title = "Line", note = line_equation(result)))
  }
  data <- tryCatch(as.data.frame(result), error = function(e) NULL)
  if (is.null(data)) abort_usage("There is no table for this.", "Give a result of Unsere or a data frame.")
  list(
    cells = lapply(data, function(column) if (is.double(column)) format_number(column, 4) else as.character(column)),
    title = "Table", note = NULL
  )
}

#' Named data frames with real numbers, a sheet each
#' @noRd
sheets_of <- function(result, ...) {
  if (inherits(result, "unsere_table")) return(publication_sheets(result))
  if (inherits(result, "unsere_matrix")) {
    notes <- data.frame(note = c(matrix_notes(result), matrix_how(result)))
    return(c(publication_sheets(publication_table(result, ...)), list(Pairs = result$pairs, Notes = notes)))
  }
  if (is.list(result) && !is.data.frame(result) && !inherits(result, "unsere_result")) {
    sheets <- lapply(result, function(one) if (is.data.frame(one)) one else as.data.frame(one))
    names(sheets) <- ifelse(nzchar(names(result)), names(result), paste("Table", seq_along(result)))
    return(sheets)
  }
  list(Table = tryCatch(as.data.frame(result), error = function(e) {
    abort_usage("There is no table for this.", "Give a result of Unsere or a data frame.")
  }))
}

publication_sheets <- function(table) {
  frame <- if (is.null(table$numbers)) table$cells else table$numbers
  list(Table = structure(frame, title = table$title, note = table$note))
}

table_page <- function(table) {
  block <- block_table(as.list(table$cells), NULL, table$note)
  html_page(list(title = "Table", question = table$title, sections = list(new_section("table", NULL, block))))
}

#' @exportS3Method flextable::as_flextable
as_flextable.unsere_table <- function(x, ...) flex_table(x$cells, x$note)

#' Three rules, no vertical ones, figures to the right, the note below
#'
#' @param left_aligned The number of columns of text, which stand to the left.
#' @param width The room there is, in inches; the type shrinks down to 7 points before a table grows wider.
#' @noRd
flex_table <- function(cells, note = NULL, left_aligned = 1L, size = 9, width = 6.3) {
  need_package("flextable", "to set tables in a document")
  names(cells)[!nzchar(names(cells))] <- " "
  rule <- officer::fp_border(color = look$ink, width = 1)
  table <- flextable::font(flextable::border_remove(flextable::flextable(cells)), fontname = "Arial", part = "all")
  table <- flextable::hline_top(table, border = rule, part = "header")
  table <- flextable::hline_bottom(table, border = officer::fp_border(color = look$ink, width = 0.5), part = "header")
  table <- flextable::hline_bottom(table, border = rule, part = "body")
  table <- flextable::align(table, align = "right", part = "all")
  table <- flextable::align(table, j = seq_len(left_aligned), align = "left", part = "all")
  table <- flextable::padding(table,
    padding.top = 2, padding.bottom = 2, padding.left = 4, padding.right = 4,
    part = "all"
  )
  widths <- text_widths(cells)
  needed <- function(size) widths * size + (4 + 4) / 72 + 0.05
  while (sum(needed(size)) > width && size > 7) size <- size - 0.5
  # Text is broken before a column of figures is.
  if (sum(needed(size)) > width) {
    widths[seq_len(left_aligned)] <- stub_widths(needed(size), left_aligned, width) / size - 0.1611 / size
  }
  table <- set_heads(table, names(cells))
  # Where Arial is not at hand another stands for it, which may run wider.
  room <- min(1.2, max(1, width / sum(needed(size))))
  table <- flextable::width(flextable::fontsize(table, size = size, part = "all"), width = needed(size) * room)
  table <- flextable::height_all(flextable::hrule(table, rule = "atleast", part = "all"), 0.2, part = "all")
  if (is.null(note)) return(table)
  table <- flextable::add_footer_lines(table, hold_together(note))
  table <- flextable::font(table, fontname = "Arial", part = "footer")
  table <- flextable::fontsize(table, size = max(size - 0.5, 7), part = "footer")
  flextable::align(table, align = "left", part = "footer")
}

#' How wide the columns of text may be, so that the figures beside them have room
#' @noRd
stub_widths <- function(needed, left_aligned, width) {
  stub <- seq_len(left_aligned)
  room <- max(width - sum(needed[-stub]), 1.1 * left_aligned)
  share <- pmin(needed[stub], room / left_aligned)
  spare <- room - sum(share)
  wide <- needed[stub] > share
  share[wide] <- share[wide] + spare / max(sum(wide), 1L)
  pmin(share, needed[stub])
}

#' The symbols at the head of columns, in italics
#' @noRd
set_heads <- function(table, heads) {
  for (j in which(is_statistic_head(heads))) {
    runs <- statistic_runs(heads[j], head = TRUE)
    chunks <- Map(function(text, italic, lowered) {
      if (lowered) flextable::as_sub(text) else if (italic) flextable::as_i(text) else flextable::as_chunk(text)
    }, runs$text, runs$italic, runs$lowered)
    value <- do.call(flextable::as_paragraph, unname(chunks))
    table <- flextable::compose(table, j = j, value = value, part = "header")
  }
  table
}

#' A table as the parts that have room on a page: the columns of text stand in each
#' @param width Of the page, in inches.
#' @noRd
page_parts <- function(cells, left_aligned, width = 6.3, size = 7) {
  needed <- text_widths(cells) * size + (4 + 4) / 72 + 0.05
  stub <- seq_len(left_aligned)
  rest <- setdiff(seq_along(cells), stub)
  if (!length(rest) || sum(needed[rest]) + 1.1 * left_aligned <= width) return(list(cells))
  room <- width - min(sum(needed[stub]), 1.6 * left_aligned)
  part <- integer(length(rest))
  filled <- 0
  for (k in seq_along(rest)) {
    over <- k > 1L && filled + needed[rest[k]] > room
    part[k] <- if (k == 1L) 1L else part[k - 1L] + over
    filled <- if (over) needed[rest[k]] else filled + needed[rest[k]]
  }
  unname(lapply(split(rest, part), function(columns) cells[c(stub, columns)]))
}

#' The widest text of each column in Arial, in inches for a point of its size
#' @noRd
text_widths <- function(cells) {
  before <- grDevices::dev.cur()
  grDevices::pdf(NULL)
  on.exit({
    grDevices::dev.off()
    if (before > 1L) grDevices::dev.set(before)
  })
  texts <- lapply(seq_along(cells), function(j) c(names(cells)[j], as.character(cells[[j]])))
  # Letters beyond ASCII count as figures, as wide as they stand.
  plain <- gsub("[^ -~]", "", unlist(texts))
  plain <- paste0(plain, strrep("0", pmax(nchar(unlist(texts), "width") - nchar(plain), 0)))
  grid::pushViewport(grid::viewport(gp = grid::gpar(fontsize = 100, fontfamily = "Helvetica")))
  inches <- grid::convertWidth(grid::stringWidth(plain), "inches", valueOnly = TRUE) / 100
  vapply(split(inches, rep(seq_along(texts), lengths(texts))), max, 0, USE.NAMES = FALSE)
}

#' A table in as many parts as the page needs, its note under the last
#' @param style Of the line that says that it is continued.
#' @noRd
body_add_parts <- function(document, cells, note = NULL, left_aligned = 1L, width = 6.3, style = "Normal") {
  parts <- page_parts(cells, left_aligned, width)
  for (k in seq_along(parts)) {
    if (k > 1L) document <- officer::body_add_par(document, say("(continued)"), style = style)
    table <- flex_table(parts[[k]], if (k == length(parts)) note, left_aligned, width = width)
    document <- body_add_table(document, table, nrow(cells))
  }
  document
}

# A table of a few rows is not torn apart at the end of a page.
body_add_table <- function(document, table, rows) {
  together <- rows <= 15L
  # Newer versions say it of the table, older ones as it is put in.
  said_of_table <- "paginate" %in% getNamespaceExports("flextable")
  if (together && said_of_table) table <- getExportedValue("flextable", "paginate")(table, init = TRUE, hdr_ftr = TRUE)
  if (said_of_table || !together) return(flextable::body_add_flextable(document, table, align = "left"))
  flextable::body_add_flextable(document, table, align = "left", keepnext = TRUE)
}

write_table_document <- function(table, path) {
  need_package("officer", "to write a document")
  wide <- sum(vapply(table$cells, function(column) max(nchar(column)), 0)) > 75
  document <- officer::read_docx()
  document <- officer::set_doc_properties(document, title = table$title, creator = "Unsere")
  document <- officer::body_add_par(document, table$title, style = "Normal")
  document <- body_add_parts(document, table$cells, table$note, width = if (wide) 9 else 6.3)
  if (wide) {
    landscape <- officer::prop_section(page_size = officer::page_size(orient = "landscape"), type = "continuous")
    document <- officer::body_end_block_section(document, officer::block_section(landscape))
  }
  print(document, target = path)
}
