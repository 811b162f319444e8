#' @export
format.unsere_matrix <- function(x, ...) {
  strongest <- utils::head(above_zero(x$pairs), 5)
  c(
    set_title(sprintf("%s of %s", count_of(nrow(x$pairs), "pair"), count_of(nrow(x$variables), "variable"))),
    paste0("  ", soft(matrix_how(x))), "",
    matrix_lines(x), "",
    if (nrow(strongest)) c("Strongest", set_table(matrix_cells(x, strongest), left = 3L), ""),
    unlist(lapply(x$notes, set_paragraph))
  )
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

#' Which cells are what, where coefficients are mixed
#' @noRd
mixture_lines <- function(x) {
  used <- unique(x$pairs$coefficient)
  if (length(used) < 2L) return(NULL)
  numbers <- function(level) paste(which(x$variables$level == level), collapse = ", ")
  text <- c(
    if ("spearman" %in% used) sprintf("Spearman with %s", numbers("ordinal")),
    if ("point-biserial" %in% used) sprintf("point-biserial for %s with numeric ones", numbers("binary")),
    if ("phi" %in% used) sprintf("phi among %s", numbers("binary")), if ("pearson" %in% used) "Pearson elsewhere"
  )
  set_paragraph(paste0(capital(paste(text, collapse = "; ")), "."))
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
