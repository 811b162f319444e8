# Tables for LaTeX and Typst: three rules, none upright, numbers to the right, title above, note below.

#' What the first line of a typeset table says, from which it is known as ours
#' @noRd
typeset_mark <- "Written by Unsere"

#' @param table From [reading_table()].
#' @return Lines of LaTeX: a table that stands on its own or is brought in by `\\input`, without a package.
#' @noRd
table_latex <- function(table) {
  cells <- lapply(table$cells, escape_latex)
  row <- function(texts) paste0("  ", paste(texts, collapse = " & "), " \\\\")
  c(
    paste("%", typeset_mark), "\\begin{table}", "\\centering", sprintf("\\caption{%s}", escape_latex(table$title)),
    "\\smallskip",
    sprintf("\\begin{tabular}{l%s}", strrep("r", length(cells) - 1L)), "\\hline",
    row(latex_heads(names(table$cells))), "\\hline", vapply(seq_len(nrow(table$cells)), function(k) {
      row(vapply(cells, `[`, "", k))
    }, ""), "\\hline", "\\end{tabular}",
    if (length(table$note)) {
      note <- escape_latex(paste(table$note, collapse = " "))
      c("\\par\\smallskip", sprintf("\\begin{minipage}{.9\\linewidth}\\raggedright\\footnotesize %s\\end{minipage}", note))
    },
    "\\end{table}"
  )
}

# Symbols at the head of columns stand in italics.
latex_heads <- function(heads) {
  vapply(heads, function(head) {
    if (!is_statistic_head(head)) return(escape_latex(head))
    runs <- statistic_runs(head, head = TRUE)
    paste(ifelse(runs$lowered, sprintf("$_{\\mathrm{%s}}$", runs$text), sprintf("\\textit{%s}", escape_latex(runs$text))),
      collapse = ""
    )
  }, "", USE.NAMES = FALSE)
}

escape_latex <- function(text) {
  text <- gsub("\\", "\u0001", plain_text(as.character(text)), fixed = TRUE)
  text <- gsub("([#$%&_{}])", "\\\\\\1", text)
  for (sign in names(latex_signs)) text <- gsub(sign, latex_signs[[sign]], text, fixed = TRUE)
  # A bracket that begins a row would be taken for the space above it.
  sub("^\\[", "{[}", text)
}

latex_signs <- c(
  "\u0001" = "\\textbackslash{}", "~" = "\\textasciitilde{}", "^" = "\\textasciicircum{}", "<" = "$<$", ">" = "$>$",
  "\u2212" = "$-$", "\u2013" = "--", "\u00b2" = "$^2$", "\u00d7" = "$\\times$", "\u00a0" = "~", "\u2026" = "\\ldots{}",
  "\u03c1" = "$\\rho$", "\u03c4" = "$\\tau$", "\u03c6" = "$\\phi$"
)

#' @return Lines of Typst.
#' @noRd
table_typst <- function(table) {
  cells <- lapply(table$cells, quote_typst)
  rows <- vapply(seq_len(nrow(table$cells)), function(k) {
    paste0("    ", paste(vapply(cells, `[`, "", k), collapse = ", "), ",")
  }, "")
  align <- paste(c("left", rep("right", length(cells) - 1L)), collapse = ", ")
  c(
    paste("//", typeset_mark), "#figure(",
    sprintf("  caption: figure.caption(position: top, %s),", quote_typst(table$title)),
    sprintf("  table(columns: %d, align: (%s), stroke: none,", length(cells), align), "    table.hline(),",
    sprintf("    table.header(%s),", paste(quote_typst(names(table$cells)), collapse = ", ")),
    "    table.hline(stroke: .5pt),", rows, "    table.hline(),", "  )", ")",
    if (length(table$note)) sprintf("#text(size: .85em, %s)", quote_typst(paste(table$note, collapse = " ")))
  )
}

# A string, in which nothing is markup.
quote_typst <- function(text) paste0("\"", gsub("([\"\\\\])", "\\\\\\1", plain_text(as.character(text))), "\"")
