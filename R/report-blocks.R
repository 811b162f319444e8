# A report is a list of sections, each a heading and blocks. A block is typed by what it is, not by how it will look; each
# output form has a method for each type.

new_section <- function(id, heading, ...) {
  list(id = id, heading = heading, blocks = Filter(Negate(is.null), list(...)))
}

new_block <- function(type, ...) structure(list(...), class = c(paste0("block_", type), "block"))

block_text <- function(...) if (length(c(...))) new_block("text", text = c(...))

#' @param cells A named list of text columns; `left_aligned` how many of them are words.
#' @noRd
block_table <- function(cells, caption, note = NULL, left_aligned = 1L) {
  cells <- with_said_names(cells)
  new_block("table", cells = cells, caption = caption, note = note, left_aligned = left_aligned)
}

#' @param plot A ggplot2 object, with its titles; forms leave them out where their own text says it.
#' @param statement What the figure shows, a sentence, and `below` the figures for it: where it stands alone, as on a slide.
#' @param slide A function that draws the figure for a slide, where it is drawn otherwise there.
#' @param relation The relation whose cases the dots are, where each can be named.
#' @noRd
block_figure <- function(plot, alt, caption, width = 8, height = 5, statement = NULL, below = NULL, relation = NULL,
                         slide = function() plot) {
  new_block(
    "figure",
    plot = plot, alt = alt, caption = caption, width = width, height = height, statement = statement, below = below,
    relation = relation, slide = slide
  )
}

block_code <- function(lines, caption) new_block("code", lines = lines, caption = caption)

block_strip <- function(relation) new_block("strip", relation = relation)

#' @param cautions From [words_of_cautions()].
#' @noRd
block_cautions <- function(cautions) if (nrow(cautions)) new_block("cautions", cautions = cautions)

#' Rows in full digits: for the workbook and the tables as files, not for reading
#' @noRd
block_rows <- function(name, rows) if (length(rows) && nrow(rows)) new_block("rows", name = name, rows = rows)

#' What is to be concluded, in plain words
#' @noRd
block_conclusion <- function(text) if (length(text)) new_block("conclusion", text = text)

#' All blocks of a report, in order
#' @noRd
all_blocks <- function(report) do.call(c, lapply(report$sections, `[[`, "blocks"))

blocks_of_type <- function(report, type) Filter(function(block) inherits(block, paste0("block_", type)), all_blocks(report))
