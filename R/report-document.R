# The document: real headings, numbered captions, editable tables, figures placed.

write_document <- function(results, sections, path) {
  need_package("officer", "to write a document")
  document <- officer::read_docx(system.file("report", "reference.docx", package = "unsere"))
  title <- report_title(results)
  document <- officer::set_doc_properties(document, title = title, creator = "Unsere")
  document <- officer::body_add_par(document, title, style = "heading 1")
  if (!is.null(results$brief$question)) document <- officer::body_add_par(document, results$brief$question,
    style = "Normal")
  counts <- c(table = 0L, figure = 0L)
  for (section in sections) {
    if (!is.null(section$heading)) document <- officer::body_add_par(document, section$heading, style = "heading 2")
    for (block in section$blocks) {
      if (block$kind %in% names(counts)) counts[block$kind] <- counts[block$kind] + 1L
      document <- add_block(document, block, counts)
    }
  }
  print(document, target = path)
}

report_title <- function(results) or_default(results$brief$title, "Correlations")

add_block <- function(document, block, counts) {
  switch(block$kind,
    text = {
      for (text in block$text) document <- officer::body_add_par(document, text, style = "Normal")
      document
    },
    table = {
      document <- officer::body_add_par(document, sprintf("Table %d. %s", counts[["table"]],
        or_default(block$caption, "")),
        style = "table title")
      cells <- as.data.frame(lapply(block$cells, plain_powers), check.names = FALSE)
      names(cells) <- unnamed_apart(names(block$cells))
      document <- flextable::body_add_flextable(document, flex_table(cells, block$note, block$left), align = "left")
      officer::body_add_par(document, "", style = "Normal")
    },
    figure = {
      width <- min(6.3, block$width)
      picture <- officer::external_img(block$picture, width = width, height = block$height * width / block$width,
        alt = htmltools::htmlEscape(block$alt, attribute = TRUE))
      document <- officer::body_add_fpar(document, officer::fpar(picture), style = "Normal")
      officer::body_add_par(document, sprintf("Figure %d. %s", counts[["figure"]], or_default(block$caption,
        block$alt)),
        style = "graphic title")
    },
    cautions = {
      for (k in seq_len(nrow(block$cautions))) {
        row <- block$cautions[k, ]
        document <- officer::body_add_fpar(document, officer::fpar(
          officer::ftext(paste0(capital(row$severity), ". "), officer::fp_text_lite(bold = TRUE)),
          paste(row$evidence, row$advice)), style = "Normal")
      }
      document
    },
    code = {
      for (line in block$lines) document <- officer::body_add_fpar(document, officer::fpar(officer::ftext(line,
        officer::fp_text(font.family = "Courier New", font.size = 8))))
      document
    },
    document
  )
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
