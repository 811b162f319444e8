# The slides: one statement as the title, one picture, nothing under 20 points.

form_slides <- function() new_form("pptx", 3, write_slides, needs = "officer", pictures = TRUE)

write_slides <- function(report, path) {
  need_package("officer", "to write slides")
  deck <- officer::read_pptx(system.file("report", "reference.pptx", package = "unsere"))
  deck <- officer::set_doc_properties(deck, title = report$title, creator = "Unsere")
  size <- officer::slide_size(deck)
  deck <- title_slide(deck, size, report)
  notes <- character()
  for (block in all_blocks(report)) {
    # The picture beside the answer is that of the first pair: one slide is enough for both.
    if (inherits(block, "block_figure") && block$alt %in% notes) next
    if (inherits(block, "block_figure")) notes <- c(notes, block$alt)
    deck <- slide_block(block, deck, size)
  }
  print(deck, target = path)
}

#' The first slide: what was asked and found, the strip of the first pair, and what it rests on
#' @noRd
title_slide <- function(deck, size, report) {
  deck <- empty_slide(deck, size, 0.35)
  wide <- size$width - 1.8
  place <- function(top, height, width = wide, left_edge = 1) officer::ph_location(left_edge, top, width, height)
  deck <- officer::ph_with(deck, slide_text(report$title, if (nchar(report$title) > 50) 32 else 40, TRUE), place(0.5, 1.5))
  question <- if (report$question != report$title) report$question
  lines <- c(
    if (!is.null(question)) list(slide_paragraph(question, 24, colour = look$soft)),
    if (!is.null(report$answer)) list(slide_paragraph(report$answer, if (nchar(report$answer) > 220) 22 else 26))
  )
  if (length(lines)) deck <- officer::ph_with(deck, do.call(officer::block_list, lines), place(2.15, 2.6))
  strips <- blocks_of_type(report, "strip")
  if (length(strips)) {
    relation <- strips[[1]]$relation
    deck <- slide_strip(deck, relation, 1, size$height - 2.3, 5)
    deck <- officer::ph_with(deck, slide_text(r_label(relation), 24, TRUE), place(size$height - 2.35, 0.7, wide - 5.4, 6.4))
    deck <- with_notes(deck, in_words(relation))
  }
  data <- Find(function(section) section$id == "data", report$sections)
  if (is.null(data)) return(deck)
  officer::ph_with(deck, slide_text(data$blocks[[1]]$text[1], 20, colour = look$soft), place(size$height - 1.1, 0.6))
}

# A slide with a band at its left, as wide as said. A shape without any text would not be shown.
empty_slide <- function(deck, size, band = 0.12) {
  deck <- officer::add_slide(deck, layout = "Blank", master = "Office Theme")
  officer::ph_with(deck, slide_text("\u00a0", 20), officer::ph_location(0, 0, band, size$height, bg = look$dots))
}

slide_strip <- function(deck, relation, left_edge, top, width) {
  if (is.na(relation$r)) return(deck)
  file <- tempfile(fileext = ".png")
  high <- width * 0.16
  save_figure(figure_strip(relation, 20), file, width, high, dpi = 200)
  picture <- officer::external_img(file, width = width, height = high, alt = strip_alt(relation))
  officer::ph_with(deck, picture, officer::ph_location(left_edge, top, width, high), use_loc_size = FALSE)
}

slide_block <- function(block, deck, size) UseMethod("slide_block")

#' @export
slide_block.default <- function(block, deck, size) deck

#' @export
slide_block.block_conclusion <- function(block, deck, size) {
  for (texts in slidefuls(block$text)) deck <- text_slide(deck, size, say("What this means"), texts)
  deck
}

#' @export
slide_block.block_figure <- function(block, deck, size) {
  if (is.null(block$statement)) return(deck)
  deck <- slide_title(empty_slide(deck, size), size, block$statement)
  alt <- htmltools::htmlEscape(gsub("\n", " ", block$statement), attribute = TRUE)
  room <- if (is.null(block$below)) size$height - 1.9 else size$height - 2.6
  width <- size$width - 1.2
  file <- tempfile(fileext = ".png")
  # Drawn small and enlarged, so that all type of the picture can be read from the back.
  save_figure(picture_alone(block$slide()), file, width / 1.75, room / 1.75, dpi = 150, printed = width)
  place <- officer::ph_location(left = 0.6, top = 1.5, width = width, height = room)
  # What is said aloud stands in the notes.
  if (!is.null(block$relation)) deck <- with_notes(deck, in_words(block$relation))
  picture <- officer::external_img(file, width = width, height = room, alt = alt)
  deck <- officer::ph_with(deck, picture, place, use_loc_size = FALSE)
  if (is.null(block$below)) return(deck)
  strip <- if (is.null(block$relation)) 0 else 3.6
  if (strip) deck <- slide_strip(deck, block$relation, 0.6, 1.6 + room, strip)
  officer::ph_with(
    deck, slide_text(block$below, 22, colour = look$soft),
    officer::ph_location(left = 0.6 + strip + 0.2, top = 1.55 + room, width = width - strip - 0.2, height = 0.7)
  )
}

with_notes <- function(deck, text) {
  officer::set_notes(deck, value = text, location = officer::notes_location_type("body"))
}

slide_text <- function(texts, size, bold = FALSE, colour = look$ink) {
  do.call(officer::block_list, lapply(texts, slide_paragraph, size, bold, colour))
}

slide_paragraph <- function(text, size, bold = FALSE, colour = look$ink) {
  shown <- officer::fp_text(font.size = size, bold = bold, color = colour, font.family = "Arial")
  set_paragraph_runs(text, shown, fp_p = officer::fp_par(padding.bottom = 8))
}

# A long title shrinks before it wraps to a third line.
slide_title <- function(deck, size, title) {
  title <- gsub("\n", " ", title)
  officer::ph_with(
    deck, slide_text(title, if (nchar(title) > 60) 28 else 32, TRUE),
    officer::ph_location(left = 0.6, top = 0.35, width = size$width - 1.2, height = 1.1)
  )
}

# As many texts as a slide holds at 20 points, then the next.
slidefuls <- function(texts, room = 1100L) {
  slide <- integer(length(texts))
  filled <- 0L
  for (k in seq_along(texts)) {
    over <- k > 1L && filled + nchar(texts[k]) > room
    slide[k] <- if (k == 1L) 1L else slide[k - 1L] + over
    filled <- if (over) nchar(texts[k]) else filled + nchar(texts[k])
  }
  split(texts, slide)
}

text_slide <- function(deck, size, title, texts) {
  deck <- slide_title(empty_slide(deck, size), size, title)
  long <- sum(nchar(texts)) > 420
  officer::ph_with(
    deck, slide_text(texts, if (long) 20 else 24),
    officer::ph_location(left = 0.6, top = 1.6, width = size$width - 1.2, height = size$height - 2)
  )
}
