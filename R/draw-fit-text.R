# Texts of a figure measured with the font of the device, in lines that they have room for.

#' The width of texts in inches, in an element of a theme
#' @noRd
text_inches <- function(texts, element) {
  style <- grid::gpar(fontsize = element$size, fontfamily = element$family, fontface = element$face)
  grid::pushViewport(grid::viewport(gp = style))
  on.exit(grid::popViewport())
  grid::convertWidth(grid::stringWidth(texts), "in", valueOnly = TRUE)
}

#' A text in lines of at most some inches; what needs more lines than there may be ends with a sign that something was cut
#'
#' Its own line breaks stay.
#' @noRd
fit_text <- function(text, room, element, most = 2L) {
  paragraphs <- strsplit(text, "\n", fixed = TRUE)[[1]]
  lines <- unlist(lapply(paragraphs, function(one) fit_line_breaks(one, room, element)))
  # The last line of a subtitle says how many cases there are.
  if (length(lines) > most && length(paragraphs) > 1L) {
    return(fit_text(paste(paragraphs[-1], collapse = "\n"), room, element, most))
  }
  if (length(lines) > most) {
    rest <- paste(lines[most:length(lines)], collapse = " ")
    lines <- c(lines[seq_len(most - 1L)], cut_to_room(rest, room, element))
  }
  long <- text_inches(lines, element) > room
  lines[long] <- vapply(lines[long], cut_to_room, "", room, element)
  paste(lines, collapse = "\n")
}

fit_line_breaks <- function(text, room, element) {
  words <- gsub("\u00a0", " ", strsplit(hold_together(text), " ", fixed = TRUE)[[1]], fixed = TRUE)
  if (length(words) < 2L) return(text)
  width <- text_inches(c(words, "n n", "nn"), element)
  space <- diff(rev(utils::tail(width, 2L)))
  line <- 1L
  at <- 0
  lines <- integer(length(words))
  for (k in seq_along(words)) {
    if (at > 0 && at + space + width[k] > room) {
      line <- line + 1L
      at <- 0
    }
    at <- at + (at > 0) * space + width[k]
    lines[k] <- line
  }
  unname(vapply(split(words, lines), paste, "", collapse = " "))
}

#' A text cut at a word, or within one, so that it has room
#' @noRd
cut_to_room <- function(text, room, element) {
  mark <- if (writes_utf8()) "\u2026" else "..."
  if (text_inches(text, element) <= room) return(text)
  ends <- setdiff(gregexpr(" ", text, fixed = TRUE)[[1]] - 1L, c(-2L, 0L))
  if (length(ends)) {
    cuts <- paste0(sub("[,;:. ]+$", "", substring(text, 1L, ends)), mark)
    fits <- cuts[text_inches(cuts, element) <= room]
    if (length(fits)) return(utils::tail(fits, 1L))
  }
  letters <- paste0(substring(text, 1L, seq_len(nchar(text))), mark)
  fits <- letters[text_inches(letters, element) <= room]
  if (length(fits)) utils::tail(fits, 1L) else mark
}
