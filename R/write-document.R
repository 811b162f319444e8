# The document: real headings, numbered captions, editable tables, figures placed.

form_document <- function() {
  new_form("docx", 2, write_document, needs = c("officer", "flextable"), pictures = TRUE)
}

write_document <- function(report, path) {
  need_package("officer", "to write a document")
  document <- officer::read_docx(system.file("report", "reference.docx", package = "unsere"))
  document <- officer::set_doc_properties(document, title = report$title, creator = "Unsere")
  document <- officer::body_add_par(document, report$title, style = "heading 1")
  if (report$question != report$title) document <- officer::body_add_par(document, report$question, style = "Normal")
  counts <- c(block_table = 0L, block_figure = 0L)
  for (section in report$sections) {
    shown <- Filter(function(block) !inherits(block, c("block_rows", "block_strip")), section$blocks)
    if (length(shown) && !is.null(section$heading)) {
      document <- officer::body_add_par(document, section$heading, style = "heading 2")
    }
    for (block in shown) {
      type <- class(block)[1]
      if (type %in% names(counts)) counts[type] <- counts[type] + 1L
      document <- document_block(block, document, counts)
    }
  }
  print(document, target = path)
}

#' @param counts How many tables and figures there are so far, this one included.
#' @noRd
document_block <- function(block, document, counts) UseMethod("document_block")

#' @export
document_block.default <- function(block, document, counts) document

#' @export
document_block.block_text <- function(block, document, counts) {
  for (text in block$text) document <- officer::body_add_fpar(document, set_paragraph_runs(text), style = "Normal")
  document
}

#' A paragraph of a document or a slide, with its statistics set
#' @param look The properties of its text.
#' @param lead Runs before it.
#' @noRd
set_paragraph_runs <- function(text, look = officer::fp_text_lite(), lead = list(), ...) {
  runs <- statistic_runs(hold_together(text))
  parts <- Map(function(text, italic, lowered) {
    style <- look
    if (italic) style$italic <- TRUE
    if (lowered) style$vertical.align <- "subscript"
    officer::ftext(text, style)
  }, runs$text, runs$italic, runs$lowered)
  do.call(officer::fpar, c(lead, unname(parts), list(...)))
}

#' @export
document_block.block_conclusion <- document_block.block_text

#' @export
document_block.block_table <- function(block, document, counts) {
  caption <- say("Table %d. %s", counts[["block_table"]], or_default(block$caption, ""))
  document <- officer::body_add_par(document, caption, style = "table title")
  cells <- as.data.frame(lapply(block$cells, plain_powers), check.names = FALSE)
  names(cells) <- unnamed_apart(names(block$cells))
  document <- body_add_parts(document, cells, block$note, block$left_aligned, style = "table title")
  officer::body_add_par(document, "", style = "Normal")
}

#' @export
document_block.block_figure <- function(block, document, counts) {
  width <- min(6.3, block$width)
  alt <- htmltools::htmlEscape(block$alt, attribute = TRUE)
  picture <- officer::external_img(block$picture, width = width, height = block$height * width / block$width, alt = alt)
  document <- officer::body_add_fpar(document, officer::fpar(picture), style = "Normal")
  caption <- say("Figure %d. %s", counts[["block_figure"]], or_default(block$caption, block$alt))
  officer::body_add_par(document, caption, style = "graphic title")
}

#' @export
document_block.block_cautions <- function(block, document, counts) {
  cautions <- block$cautions
  for (k in seq_len(nrow(cautions))) {
    word <- officer::ftext(paste0(capital(say(cautions$severity[k])), ". "), officer::fp_text_lite(bold = TRUE))
    text <- set_paragraph_runs(trimws(paste(cautions$evidence[k], cautions$advice[k])), lead = list(word))
    document <- officer::body_add_fpar(document, text, style = "Normal")
  }
  document
}

#' @export
document_block.block_code <- function(block, document, counts) {
  type <- officer::fp_text(font.family = "Courier New", font.size = 8)
  for (line in block$lines) document <- officer::body_add_fpar(document, officer::fpar(officer::ftext(line, type)))
  document
}

# Column heads that are blank are told apart by their blanks, as a table wants every name once.
unnamed_apart <- function(names) {
  blank <- !nzchar(names)
  names[blank] <- strrep(" ", seq_len(sum(blank)))
  make.unique(names, sep = " ")
}

plain_powers <- function(texts) {
  digits <- c("\u2070", "\u00b9", "\u00b2", "\u00b3", "\u2074", "\u2075", "\u2076", "\u2077", "\u2078", "\u2079")
  raised <- function(power) {
    paste(vapply(strsplit(power, "")[[1]], function(mark) {
      if (grepl("[0-9]", mark)) digits[as.integer(mark) + 1L] else "\u207b"
    }, ""), collapse = "")
  }
  vapply(texts, function(text) {
    parts <- regmatches(text, regexec("^(.* 10)\\^(.+)$", text))[[1]]
    if (length(parts)) paste0(parts[2], raised(parts[3])) else text
  }, "", USE.NAMES = FALSE)
}
