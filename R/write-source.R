# The source: the report as R Markdown and as Quarto, with its tables and figures, to edit and set again.

#' @param output The line of its head that says what it becomes.
#' @noRd
write_source <- function(report, path, output = "output: html_document") {
  # What stands in the head is set as Markdown too.
  quote_yaml <- function(text) sprintf("\"%s\"", gsub("([\"\\\\])", "\\\\\\1", escape_markdown(plain_text(text))))
  body <- lapply(report$sections, function(section) {
    shown <- unlist(lapply(section$blocks, source_block))
    if (length(shown)) c(if (!is.null(section$heading)) c(paste("##", escape_markdown(section$heading)), ""), shown)
  })
  head <- c(
    "---", paste("title:", quote_yaml(report$title)),
    if (report$question != report$title) paste("subtitle:", quote_yaml(report$question)), output, "---", ""
  )
  # What Quarto would take for a call of its own, even within code, is none.
  write_lines(c(head, gsub("{{<", "{ {<", as.character(unlist(body)), fixed = TRUE)), path)
}

# A backtick becomes an entity: behind a backslash it would still begin code that runs when the source is knit.
escape_markdown <- function(text) {
  one_line <- gsub("[[:space:]]*\n[[:space:]]*", " ", text)
  without_code(gsub("([]\\[\\\\*_{}#<>|$&~^@])", "\\\\\\1", one_line))
}

without_code <- function(text, mark = "&#96;") gsub("`", mark, text, fixed = TRUE)

source_block <- function(block) UseMethod("source_block")

#' @export
source_block.default <- function(block) NULL

#' @export
source_block.block_text <- function(block) as.vector(rbind(escape_markdown(block$text), ""))

#' @export
source_block.block_conclusion <- source_block.block_text

#' @export
source_block.block_table <- function(block) {
  cells <- lapply(block$cells, escape_markdown)
  note <- if (!is.null(block$note)) c(escape_markdown(block$note), "")
  c(paste("Table:", escape_markdown(or_default(block$caption, ""))), "", markdown_table(cells, block$left_aligned), "", note)
}

#' @export
source_block.block_figure <- function(block) {
  alt <- without_code(gsub("([\"\\\\])", "\\\\\\1", plain_text(block$alt)))
  c(sprintf("![%s](figures/%s.png){alt=\"%s\"}", escape_markdown(or_default(block$caption, "")), block$name, alt), "")
}

#' @export
source_block.block_cautions <- function(block) {
  cautions <- block$cautions
  as.vector(rbind(
    sprintf("**%s.** %s", capital(say(cautions$severity)), escape_markdown(paste(cautions$evidence, cautions$advice))),
    ""
  ))
}

#' @export
source_block.block_code <- function(block) {
  # Longer than any row of its marks within.
  marks <- regmatches(block$lines, gregexpr("~+", block$lines))
  fence <- strrep("~", max(3L, nchar(unlist(marks)) + 1L))
  c(paste0(fence, "yaml"), without_code(block$lines, "\u02cb"), fence, "")
}
