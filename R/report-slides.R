# The slides: one statement as the title, one picture or one small table, nothing under 20 points.

write_slides <- function(results, sections, path) {
  need_package("officer", "to write slides")
  deck <- officer::read_pptx(system.file("report", "reference.pptx", package = "unsere"))
  deck <- officer::set_doc_properties(deck, title = report_title(results), creator = "Unsere")
  size <- officer::slide_size(deck)
  deck <- text_slide(deck, size, report_title(results), c(results$brief$question,
    if (length(results$pairs)) plain_answer(results$pairs[[1]])))
  for (pair in results$pairs) {
    relation <- pair$relation
    grave <- utils::head(grave_cautions(pair), 1)
    below <- c(short_figures(relation), if (nrow(grave)) sprintf("%s: %s", capital(grave$severity),
      caution_meanings[[grave$code]]))
    deck <- picture_slide(deck, size, seen_title(relation, relation$pair), pair_figure(pair, list(title = NA,
      subtitle = NA,
      caption = NA), FALSE), paste(below, collapse = "    "))
  }
  if (!is.null(results$matrix)) deck <- picture_slide(deck, size, matrix_title(results$matrix),
    matrix_figure(results$matrix,
    list(title = NA, subtitle = NA, caption = NA)), NULL)
  if (!is.null(results$rank)) deck <- picture_slide(deck, size, predictors_title(results$rank),
    predictors_figure(results$rank,
    list(title = NA, subtitle = NA, caption = NA)), NULL)
  for (flags in Filter(function(flags) !is.null(flags$series), results$flags)) {
    figure <- over_time_figure(flags, "time", list(subtitle = NA, caption = NA))
    deck <- picture_slide(deck, size, figure$labels$title, figure + ggplot2::labs(title = NULL), sprintf(
      "r of levels %s, of changes %s, without the trend %s", format_r(flags$levels$r), format_r(flags$changes$r),
      format_r(flags$detrended$r)))
  }
  told <- conclusion_section(results)$blocks
  if (length(told)) for (texts in slidefuls(told[[1]]$text)) deck <- text_slide(deck, size, "What this means", texts)
  print(deck, target = path)
}

short_figures <- function(relation) {
  paste0(coefficient_symbol(relation$coefficient), " = ", format_r(relation$r), " ", format_interval(relation$ci_low,
    relation$ci_high), ", n = ", relation$n)
}

slide_text <- function(texts, size, bold = FALSE, colour = look$ink) {
  do.call(officer::block_list, lapply(texts, function(text) {
    officer::fpar(officer::ftext(text, officer::fp_text(font.size = size, bold = bold, color = colour,
      font.family = "Arial")),
      fp_p = officer::fp_par(padding.bottom = 8))
  }))
}

# A long title shrinks before it wraps to a third line.
slide_title <- function(deck, size, title) {
  title <- gsub("\n", " ", title)
  officer::ph_with(deck, slide_text(title, if (nchar(title) > 60) 28 else 32, TRUE),
    officer::ph_location(left = 0.6, top = 0.35, width = size$width - 1.2, height = 1.1))
}

picture_slide <- function(deck, size, title, plot, below) {
  deck <- officer::add_slide(deck, layout = "Blank", master = "Office Theme")
  deck <- slide_title(deck, size, title)
  alt <- htmltools::htmlEscape(gsub("\n", " ", title), attribute = TRUE)
  room <- if (is.null(below)) size$height - 1.9 else size$height - 2.6
  width <- size$width - 1.2
  file <- tempfile(fileext = ".png")
  # Drawn small and enlarged, so that all type of the picture can be read from the back.
  plot <- plot + ggplot2::theme(plot.margin = ggplot2::margin(2, 6, 2, 2),
    strip.text = ggplot2::element_text(size = 11.5))
  save_figure(plot, file, width / 1.75, room / 1.75, dpi = 150, printed = width)
  deck <- officer::ph_with(deck, officer::external_img(file, width = width, height = room, alt = alt),
    officer::ph_location(left = 0.6, top = 1.5, width = width, height = room), use_loc_size = FALSE)
  if (is.null(below)) return(deck)
  officer::ph_with(deck, slide_text(below, 22, colour = look$soft),
    officer::ph_location(left = 0.6, top = 1.55 + room, width = width, height = 0.7))
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
  deck <- officer::add_slide(deck, layout = "Blank", master = "Office Theme")
  deck <- slide_title(deck, size, title)
  long <- sum(nchar(texts)) > 420
  officer::ph_with(deck, slide_text(texts, if (long) 20 else 24),
    officer::ph_location(left = 0.6, top = 1.6, width = size$width - 1.2, height = size$height - 2))
}
