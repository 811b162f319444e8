#' @export
format.unsere_matrix <- function(x, ...) {
  strongest <- utils::head(above_zero(x$pairs), 5)
  c(
    set_title(matrix_heading(x)), paste0("  ", soft(matrix_how(x))), "",
    if (is.null(x$rows)) matrix_lines(x) else rectangle_lines(x), "",
    if (nrow(strongest)) c("Strongest", set_table(matrix_cells(x, strongest), left = 3L), ""),
    unlist(lapply(x$notes, set_paragraph)), set_cautions(x$cautions)
  )
}

matrix_heading <- function(x) {
  pairs <- count_of(nrow(x$pairs), "pair")
  if (is.null(x$rows)) return(sprintf("%s of %s", pairs, count_of(nrow(x$variables), "variable")))
  sprintf("%s: %d down by %d across", pairs, length(x$rows), length(x$columns))
}

above_zero <- function(pairs) {
  pairs <- pairs[!is.na(pairs$r), ]
  pairs[order(-abs(pairs$r)), ]
}

matrix_how <- function(x) {
  used <- table(factor(x$pairs$coefficient, coefficient_names))
  used <- used[used > 0]
  coefficients <- paste(sprintf("%s %d", capital(names(used)), used), collapse = ", ")
  adjusted <- c(holm = "p adjusted by Holm", "benjamini-hochberg" = "p adjusted by Benjamini and Hochberg",
    none = "p not adjusted")
  sprintf("%s; %s", coefficients, adjusted[[x$multiplicity]])
}

#' The lower triangle, variables numbered, in blocks that fit 80 columns; a mark at the pairs that stand out
#' @noRd
matrix_lines <- function(x) {
  names <- x$variables$variable
  p <- length(names)
  cells <- matrix("", p, p)
  i <- match(x$pairs$x, names)
  j <- match(x$pairs$y, names)
  mark <- ifelse(x$pairs$highlighted, glyphs()$mark, " ")
  cells[cbind(pmax(i, j), pmin(i, j))] <- paste0(format_r(x$pairs$r), mark)
  labels <- paste(format(seq_len(p)), shorten(label_of(x$variables, names), 20))
  labels <- paste0(labels, strrep(" ", max(nchar(labels, "width")) - nchar(labels, "width")))
  room <- max(6L, max(nchar(cells, "width")) + 1L)
  each <- (78L - max(nchar(labels, "width"))) %/% room
  blocks <- split(seq_len(p - 1L), (seq_len(p - 1L) - 1L) %/% each)
  lines <- lapply(blocks, function(block) {
    rows <- seq(block[1] + 1L, p)
    rows <- if (block[1] == 1L) seq_len(p) else rows
    head <- paste0(strrep(" ", nchar(labels[1], "width") + 2L),
      paste0(formatC(paste0(block, " "), width = room), collapse = ""))
    body <- vapply(rows, function(row) {
      texts <- cells[row, block]
      paste0("  ", labels[row], paste0(strrep(" ", room - nchar(texts, "width")), texts, collapse = ""))
    }, "")
    sub(" +$", "", c(head, body, ""))
  })
  lines <- unlist(lines, use.names = FALSE)
  legend <- sprintf("  %s r of %s or more before rounding, up or down", glyphs()$mark, format_r(x$highlight))
  c(lines[-length(lines)], if (any(x$pairs$highlighted)) legend, mixture_lines(x))
}

#' Rows by columns, the columns numbered and named below
#' @noRd
rectangle_lines <- function(x) {
  places <- pair_cells(x, x$rows, x$columns)
  mark <- ifelse(x$pairs$highlighted, glyphs()$mark, " ")
  cells <- matrix("", nrow(places), ncol(places))
  cells[!is.na(places)] <- paste0(format_r(x$pairs$r), mark)[places[!is.na(places)]]
  columns <- c(list(shorten(label_of(x$variables, x$rows), 28)), lapply(seq_len(ncol(cells)), function(k) cells[, k]))
  names(columns) <- c("", paste0(seq_along(x$columns), " "))
  blocks <- blocks_that_fit(vapply(columns, function(column) max(nchar(column, "width")) + 2L, 0L), 1L)
  lines <- unlist(lapply(blocks, function(block) c(set_table(columns[c(1L, block)]), "")))
  names <- set_paragraph(paste0(paste(sprintf("%d %s", seq_along(x$columns), label_of(x$variables, x$columns)),
    collapse = "; "), "."))
  legend <- sprintf("  %s r of %s or more before rounding, up or down", glyphs()$mark, format_r(x$highlight))
  c(lines, names, if (any(x$pairs$highlighted)) legend, mixture_lines(x))
}

#' Which cells are what, where coefficients are mixed
#' @noRd
mixture_lines <- function(x) if (length(unique(x$pairs$coefficient)) > 1L) set_paragraph(mixture_words(x))

mixture_words <- function(x) {
  used <- unique(x$pairs$coefficient)
  numbers <- function(level) {
    which <- which(x$variables$level == level)
    if (is.null(x$rows)) paste(which, collapse = ", ") else paste(inside_all(x$variables, x$variables$variable[which]),
      collapse = ", ")
  }
  text <- c(
    if ("spearman" %in% used) sprintf("Spearman with %s", numbers("ordinal")),
    if ("point-biserial" %in% used) sprintf("point-biserial for %s with numeric ones", numbers("binary")),
    if ("phi" %in% used) sprintf("phi among %s", numbers("binary")), if ("pearson" %in% used) "Pearson elsewhere"
  )
  paste0(capital(paste(text, collapse = "; ")), ".")
}

#' Pairs as a reader's cells
#' @noRd
matrix_cells <- function(x, pairs = x$pairs) {
  cells <- list(
    shorten(label_of(x$variables, pairs$x), 20), shorten(label_of(x$variables, pairs$y), 20),
    vapply(pairs$coefficient, coefficient_symbol, "", USE.NAMES = FALSE), format_r(pairs$r),
    mapply(format_interval, pairs$ci_low, pairs$ci_high), format(pairs$n), prose_p(pairs$p_adjusted)
  )
  names(cells) <- c("x", "y", "", "r", "interval", "n", if (x$multiplicity == "none") "p" else "p adj.")
  cells
}

prose_p <- function(p) sub("^p (= )?", "", vapply(p, format_p_clause, ""))

#' @export
in_words.unsere_matrix <- function(result, digits = 2, ...) {
  pairs <- above_zero(result$pairs)
  clear <- pairs[!is.na(pairs$p_adjusted) & pairs$p_adjusted < 1 - result$confidence, ]
  how <- c(
    holm = " after Holm's adjustment",
      "benjamini-hochberg" = " with the false discovery rate held by Benjamini and Hochberg",
    none = ", without adjustment for their number"
  )[[result$multiplicity]]
  first <- sprintf("Of %s, %s of chance at p < %s%s.", count_of(nrow(pairs), "correlation"),
    if (nrow(clear) == 1) "one was clear" else sprintf("%d were clear", nrow(clear)),
      sub("^0", "", format(1 - result$confidence)), how
  )
  if (!nrow(clear)) return(first)
  named <- utils::head(clear, 3)
  said <- sprintf("%s and %s (%s = %s, %s, p %s)", vapply(named$x, inside_of, "", variables = result$variables),
    vapply(named$y, inside_of, "", variables = result$variables), vapply(named$coefficient, coefficient_symbol, ""),
    format_r(named$r, digits), paste0("n = ", named$n),
      ifelse(named$p_adjusted < .001, "< .001", paste("=", prose_p(named$p_adjusted)))
  )
  rest <- clear[-seq_len(nrow(named)), ]
  tail <- if (nrow(rest)) {
    sprintf(" The other clear ones lay between %s and %s.", format_r(min(rest$r), digits),
      format_r(max(rest$r), digits))
  }
  paste0(first, if (nrow(named) > 1) " The strongest: " else " It was that of ", paste(said, collapse = "; "), ".",
    tail)
}
