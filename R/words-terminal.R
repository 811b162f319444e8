# How text output is set: at most 80 columns, the answer first, colour only to dim or lift.

bold <- function(text) if (colour_wanted()) cli::style_bold(text) else text

soft <- function(text) if (colour_wanted()) cli::col_grey(text) else text

colour_wanted <- function() {
  !nzchar(Sys.getenv("NO_COLOR")) && isatty(stdout()) && cli::num_ansi_colors() > 1L
}

#' Lines of "name  text", the names in one column, long text wrapped under itself
#' @noRd
set_entries <- function(entries, indent = 2L, width = 80L, gap = 2L) {
  entries <- entries[!vapply(entries, is.null, NA)]
  if (!length(entries)) return(NULL)
  column <- max(nchar(names(entries), type = "width")) + gap
  unlist(Map(function(name, text) {
    lines <- strwrap(text, width - indent - column + 1L)
    lead <- c(formatC(name, width = -column, flag = "-"), rep(strrep(" ", column), max(0, length(lines) - 1L)))
    lead[1] <- paste0(name, strrep(" ", column - nchar(name, type = "width")))
    paste0(strrep(" ", indent), lead, lines)
  }, names(entries), entries), use.names = FALSE)
}

#' Figures that belong together are held on one line by spaces that do not break: "r = .48", "[.31, .62]"
#' @noRd
hold_together <- function(text) {
  held <- gsub(" ([=<>\u00d7]) ", "\u00a0\\1\u00a0", enc2utf8(text))
  gsub("(\\[[^] ,]+,) ", "\\1\u00a0", held)
}

set_paragraph <- function(text, indent = 2L, width = 80L) {
  gsub("\u00a0", " ", strwrap(hold_together(text), width, indent = indent, exdent = indent), fixed = TRUE)
}

#' A table as aligned lines: the first columns to the left, the figures to the right
#' @noRd
set_table <- function(columns, left = 1L, indent = 2L, gap = 2L) {
  set <- Map(function(name, cells, at) {
    cells <- c(name, cells)
    room <- max(nchar(cells, type = "width"))
    fill <- strrep(" ", room - nchar(cells, type = "width"))
    if (at <= left) paste0(cells, fill) else paste0(fill, cells)
  }, names(columns), columns, seq_along(columns))
  lines <- do.call(paste, c(unname(set), sep = strrep(" ", gap)))
  sub(" +$", "", paste0(strrep(" ", indent), lines))
}

#' Notes as paragraphs, a blank line before them
#' @noRd
set_notes <- function(notes) if (length(notes)) c("", unlist(lapply(notes, set_paragraph)))

set_title <- function(text) bold(strwrap(text, 80))

#' @export
print.unsere_result <- function(x, ...) {
  cat(format(x, ...), sep = "\n")
  invisible(x)
}

#' Columns in blocks that fit the line beside the fixed ones
#' @noRd
blocks_that_fit <- function(widths, fixed, width = 78L) {
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
