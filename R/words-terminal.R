# How text output is set: as wide as the terminal, the answer first, colour only to dim or lift.

#' The columns there are, from 40 to 200: of the terminal, or as R or COLUMNS say where the text goes elsewhere
#' @noRd
text_width <- function() {
  columns <- suppressWarnings(as.integer(Sys.getenv("COLUMNS")))
  width <- if (!is.na(columns)) columns else if (isatty(stdout())) cli::console_width() else getOption("width", 80L)
  min(200L, max(40L, width))
}

bold <- function(text) if (colour_wanted()) cli::style_bold(text) else text

soft <- function(text) if (colour_wanted()) cli::col_grey(text) else text

colour_wanted <- function() {
  !nzchar(Sys.getenv("NO_COLOR")) && isatty(stdout()) && cli::num_ansi_colors() > 1L
}

#' Lines of "name  text", the names in one column, long text wrapped under itself
#' @noRd
set_entries <- function(entries, indent = 2L, width = text_width(), gap = 2L) {
  entries <- entries[!vapply(entries, is.null, NA)]
  if (!length(entries)) return(NULL)
  names(entries) <- say(names(entries))
  column <- max(nchar(names(entries), type = "width")) + gap
  unlist(Map(function(name, text) {
    lines <- wrap_held(text, width - indent - column + 1L)
    lead <- c(formatC(name, width = -column, flag = "-"), rep(strrep(" ", column), max(0, length(lines) - 1L)))
    lead[1] <- paste0(name, strrep(" ", column - nchar(name, type = "width")))
    paste0(strrep(" ", indent), lead, lines)
  }, names(entries), entries), use.names = FALSE)
}

#' Questions under the short labels that stand for them
#' @noRd
set_questions <- function(whole, width = text_width()) {
  unlist(Map(function(short, text) {
    c(paste0("  ", short), paste0("    ", wrap_held(text, width - 4L)))
  }, names(whole), whole), use.names = FALSE)
}

#' Figures that belong together are held on one line by spaces that do not break: "r = .48", "[.31, .62]"
#' @noRd
hold_together <- function(text) {
  text_held <- gsub(" ([=\u00d7]) | ([<>]) (?=[.0-9\u2212])", "\u00a0\\1\\2\u00a0", enc2utf8(text), perl = TRUE)
  text_held <- gsub("([0-9]) %", "\\1\u00a0%", gsub("([*]) (?=p\u00a0)", "\\1\u00a0", text_held, perl = TRUE))
  text_held <- gsub("(CI|KI) \\[", "\\1\u00a0[", gsub("% CI\\b", "%\u00a0CI", text_held))
  gsub("(\\[[^] ,]+,) ", "\\1\u00a0", text_held)
}

wrap_held <- function(text, width, indent = 0L) {
  gsub("\u00a0", " ", strwrap(hold_together(text), width, indent = indent, exdent = indent), fixed = TRUE)
}

set_paragraph <- function(text, indent = 2L, width = text_width()) wrap_held(text, width, indent)

# A line with gaps of its own, kept where it fits.
set_heading <- function(text, indent = 2L) {
  line <- paste0(strrep(" ", indent), text)
  if (cli::ansi_nchar(line, "width") <= text_width()) line else set_paragraph(text, indent)
}

#' A table as aligned lines: the first columns to the left, the figures to the right; what is wider than the text goes on
#' below, each part with the first column
#' @noRd
set_table <- function(columns, left_aligned = 1L, indent = 2L, gap = 2L) {
  columns <- with_said_names(columns)
  set <- Map(function(name, cells, at) {
    cells <- c(name, cells)
    room <- max(nchar(cells, type = "width"))
    fill <- strrep(" ", room - nchar(cells, type = "width"))
    if (at <= left_aligned) paste0(cells, fill) else paste0(fill, cells)
  }, names(columns), columns, seq_along(columns))
  widths <- vapply(set, function(cells) nchar(cells[1], type = "width"), 0L) + gap
  parts <- list(seq_along(set))
  if (sum(widths) - gap + indent > text_width() && length(set) > 2L) {
    fixed <- if (widths[1] > gap + 3L || length(set) < 4L) 1L else 1:2
    rest <- blocks_that_fit(widths, length(fixed), text_width() - indent + gap)
    parts <- lapply(unname(rest), function(block) c(fixed, block))
  }
  lines <- lapply(parts, function(part) {
    c("", sub(" +$", "", paste0(strrep(" ", indent), do.call(paste, c(unname(set[part]), sep = strrep(" ", gap))))))
  })
  unlist(lines)[-1]
}

#' Notes as paragraphs, a blank line before them
#' @noRd
set_notes <- function(notes) if (length(notes)) c("", unlist(lapply(notes, set_paragraph)))

set_title <- function(text) bold(strwrap(text, text_width() + 1L))

#' @export
print.unsere_result <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' Columns in blocks that fit the line beside the fixed ones
#' @noRd
blocks_that_fit <- function(widths, fixed, width = text_width() - 2L) {
  free <- seq_along(widths)[-seq_len(fixed)]
  room <- max(width - sum(widths[seq_len(fixed)]), max(widths[free]))
  split(free, cumsum_blocks(widths[free], room))
}

cumsum_blocks <- function(widths, room) {
  block <- 1L
  used <- 0L
  out <- integer(length(widths))
  for (k in seq_along(widths)) {
    if (used + widths[k] > room) {
      block <- block + 1L
      used <- 0L
    }
    used <- used + widths[k]
    out[k] <- block
  }
  out
}
