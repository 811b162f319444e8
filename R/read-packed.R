# Tables that come as other text than delimited: packed by gzip, in a web page, in columns set by spaces.

#' The text of a file: the file itself, or a copy of what is packed in it or stands in its page
#'
#' @return A list: `path`, `copied`, `notes` (what was done, or `NULL`).
#' @section Errors: `unsere_error_input` where it cannot be unpacked, or where a page holds no table.
#' @noRd
text_of_file <- function(path, shown) {
  first <- readBin(path, "raw", 2000L)
  if (identical(as.integer(first[1:2]), c(31L, 139L))) {
    packed <- gunzip(path, shown)
    inner <- text_of_file(packed, shown)
    if (inner$path != packed) unlink(packed)
    inner$copied <- TRUE
    return(inner)
  }
  head <- rawToChar(first[first != as.raw(0)])
  begins <- "^(\xef\xbb\xbf)?\\s*<(!doctype html|html|head|table|body|div|meta)\\b"
  if (grepl(begins, head, ignore.case = TRUE, perl = TRUE, useBytes = TRUE)) {
    return(table_of_page(path, shown))
  }
  list(path = path, copied = FALSE)
}

# Packed text is some ten times as long; what unpacks beyond measure is not opened.
gunzip <- function(path, shown, most = 2e10) {
  input <- gzfile(path, "rb")
  on.exit(close(input))
  broken <- function(condition) NULL
  read <- copy_of_input(function() tryCatch(readBin(input, "raw", 1e7), error = broken, warning = broken), most)
  copy <- read$path
  if (is.null(read$length)) stop_broken(copy, shown)
  if (read$length > most) stop_broken(copy, shown, "unpacks beyond all measure; it is not opened")
  if (read$length %% 2^32 != length_packed(path)) stop_broken(copy, shown)
  copy
}

# How long the text was that was packed, modulo 2^32: the last four bytes (RFC 1952).
length_packed <- function(path) {
  input <- file(path, "rb", raw = TRUE)
  on.exit(close(input))
  seek(input, file.size(path) - 4)
  bytes <- as.integer(readBin(input, "raw", 4L))
  sum(bytes * 256^(0:3))
}

stop_broken <- function(copy, shown, why = "cannot be unpacked to its end") {
  unlink(copy)
  abort_input(problem("%s %s.", file_name(shown), why), "Unpack it, and give its contents.")
}

#' The longest table of a web page, as text with tabs
#' @noRd
table_of_page <- function(path, shown) {
  need_package("xml2", "to read the table of a web page")
  page <- tryCatch(xml2::read_html(path), error = function(e) NULL)
  tables <- if (!is.null(page)) xml2::xml_find_all(page, "//table[not(.//table)]")
  rows <- lapply(tables, function(table) xml2::xml_find_all(table, ".//tr"))
  if (!length(rows)) {
    abort_input(problem("%s is a web page without a table.", file_name(shown)), "Save the data as .csv or .xlsx.")
  }
  hidden <- remove_unseen(page)
  rows <- lapply(tables, function(table) xml2::xml_find_all(table, ".//tr"))
  longest <- rows[[which.max(lengths(rows))]]
  notes <- mend_cells(longest)
  copy <- tempfile(fileext = ".csv")
  utils::write.table(cells_of_rows(longest), copy,
    sep = "\t", na = "", qmethod = "double", row.names = FALSE, col.names = FALSE, fileEncoding = "UTF-8"
  )
  several <- length(rows) > 1L
  note <- if (several) template(
    "the longest of %d tables in the page",
    length(rows)
  ) else template("the table of a web page")
  list(path = copy, copied = TRUE, notes = do.call(joined, c(
    list(note), if (hidden) list(template("; left out: %s", counted(hidden, "hidden row", "hidden rows"))),
    if (notes) list(template("; left out: %s", counted(notes, "mark of a note", "marks of notes")))
  )))
}

#' What a browser does not show: scripts, and what its own attributes hide (classes are not looked up)
#' @return How many rows it took along.
#' @noRd
remove_unseen <- function(page) {
  style <- "translate(translate(@style, ' ', ''), 'DISPLAYNOEVIBTH', 'displaynoevibth')"
  hidden <- sprintf("//*[@hidden or contains(%1$s, 'display:none') or contains(%1$s, 'visibility:hidden')]", style)
  before <- length(xml2::xml_find_all(page, "//tr"))
  xml2::xml_remove(xml2::xml_find_all(page, "//script|//style|//template|//noscript|//comment()"))
  xml2::xml_remove(xml2::xml_find_all(page, hidden))
  before - length(xml2::xml_find_all(page, "//tr"))
}

#' A break parts words; a small mark above a line, or a link to a note, is no part of a value
#' @return How many marks were left out.
#' @noRd
mend_cells <- function(rows) {
  for (mark in xml2::xml_find_all(rows, ".//br")) {
    xml2::xml_set_name(mark, "span")
    xml2::xml_set_text(mark, " ")
  }
  remaining <- 0L
  for (note in xml2::xml_find_all(rows, ".//sup|.//a[starts-with(@href, '#')]")) {
    cell <- xml2::xml_find_first(note, "ancestor::td|ancestor::th")
    if (is.na(cell)) next
    own <- trimws(xml2::xml_text(note))
    rest <- trimws(sub(own, "", xml2::xml_text(cell), fixed = TRUE))
    marks <- "[0-9]{1,3}|[a-z]|[*\u2020\u2021\u00a7]{1,3}|(note|nb) ?[0-9]{0,2}"
    short <- grepl(sprintf("^[[(]?(%s)[])]?$", marks), own, ignore.case = TRUE)
    # Of m and km, and of ten after a times sign, it is a power.
    before <- if (xml2::xml_name(note) == "sup") trimws(text_before(note)) else ""
    if (grepl("[\u00d7\u00b7*x] ?10$", before)) xml2::xml_set_text(note, paste0("^", own))
    power <- grepl("(^|[^[:alpha:]])[kcd]?m$|[\u00d7\u00b7*x] ?10$", before)
    if (!short || !nzchar(rest) || power) next
    xml2::xml_set_text(note, "")
    remaining <- remaining + 1L
  }
  remaining
}

text_before <- function(node) {
  paste(xml2::xml_text(xml2::xml_find_all(node, "preceding-sibling::node()")), collapse = "")
}

# A matrix of text; a cell over several columns stands in the first of them, one over several rows in each.
cells_of_rows <- function(rows) {
  grid <- list()
  spans <- function(cells, name) {
    span_counts <- suppressWarnings(as.integer(xml2::xml_attr(cells, name, default = "1")))
    pmin(pmax(replace(span_counts, is.na(span_counts), 1L), 1L), 1000L)
  }
  below <- list()
  for (k in seq_along(rows)) {
    cells <- xml2::xml_find_all(rows[[k]], "./td|./th")
    text <- trimws(gsub("[[:space:]\u00a0]+", " ", xml2::xml_text(cells)))
    across <- spans(cells, "colspan")
    down <- spans(cells, "rowspan")
    line <- or_default(below[as.character(k)][[1]], character())
    column <- 1L
    for (j in seq_along(text)) {
      while (column <= length(line) && !is.na(line[column])) column <- column + 1L
      places <- column + seq_len(across[j]) - 1L
      line[places] <- c(text[j], rep("", across[j] - 1L))
      for (later in as.character(k + seq_len(min(down[j], length(rows) - k + 1L) - 1L))) {
        below[[later]][places] <- line[places]
      }
    }
    grid[[k]] <- line
  }
  width <- max(lengths(grid), 1L)
  do.call(rbind, lapply(grid, function(line) line[seq_len(width)]))
}

#' A copy with tabs of a text whose columns are set by spaces, line by line
#' @return The path, or `NULL` where the lines have no columns.
#' @noRd
without_spaces <- function(path) {
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  columns <- columns_by_spaces(lines)
  if (is.null(columns)) return(NULL)
  copy <- tempfile(fileext = ".csv")
  out <- character(length(lines))
  out[columns$line] <- vapply(columns$cells, paste, "", collapse = "\t")
  write_lines(out, copy)
  check_copied(copy, sum(nchar(out, "bytes")) + length(out))
  copy
}

#' The cells of lines that spaces part: two or more, one, or blanks in the same place of every line
#'
#' @return `NULL`, or a list: `line` (the places of lines that hold something) and `cells`, a vector a line.
#' @noRd
columns_by_spaces <- function(lines) {
  line <- which(nzchar(trimws(lines)))
  text <- lines[line]
  if (length(text) < 3L || !all(validUTF8(text))) return(NULL)
  tokens <- function(text) regmatches(text, gregexpr("\"[^\"]*\"|[^ ]+", text))
  for (parts in list(function() strsplit(trimws(text), " {2,}"), function() tokens(text), function() parts_by_gaps(text))) {
    cells <- parts()
    if (are_columns(cells)) return(list(line = line, cells = cells))
  }
  NULL
}

# As many cells in each line, or one heading less where the first column counts; numbers in one of the columns at least.
are_columns <- function(cells) {
  width <- lengths(cells)
  common <- width[length(width)]
  if (common < 2L || !all(width[-1] == common)) return(FALSE)
  body <- do.call(rbind, cells[-1])
  named <- width[1] == common - 1L && all(gsub("\"", "", body[, 1]) == seq_len(nrow(body)))
  if (width[1] != common && !named) return(FALSE)
  any(colMeans(matrix(is_figure(body) & nzchar(body), nrow(body))) > 0.5)
}

# Columns between which every line is blank, in so many places at least; what stands under no heading belongs to the column
# before.
parts_by_gaps <- function(text, least = 1L) {
  width <- max(nchar(text))
  marks <- matrix(unlist(strsplit(paste0(text, strrep(" ", width - nchar(text))), "", fixed = TRUE)), width)
  filled <- rowSums(marks != " ") > 0
  gaps <- rle(filled)
  gaps$values[!gaps$values & gaps$lengths < least] <- TRUE
  filled <- inverse.rle(gaps)
  begins <- which(filled & !c(FALSE, utils::head(filled, -1)))
  under <- vapply(seq_along(begins), function(k) {
    to <- if (k < length(begins)) begins[k + 1L] - 1L else width
    any(marks[begins[k]:to, 1] != " ")
  }, NA)
  begins <- begins[under]
  lapply(seq_along(text), function(k) {
    trimws(substring(text[k], begins, c(begins[-1] - 1L, width)))
  })
}
