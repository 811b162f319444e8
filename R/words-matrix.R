# A matrix as the terminal shows it, and its sentences.

#' @export
format.unsere_matrix <- function(x, ..., door = door_r()) {
  strongest <- above_zero(x$pairs, if (nrow(x$variables) > 60L) 20L else 5L)
  c(
    set_title(matrix_heading(x)), paste0("  ", soft(matrix_how(x))), "",
    if (nrow(x$variables) > 60L) unprinted_lines(x) else if (is.null(x$rows)) matrix_lines(x) else rectangle_lines(x), "",
    if (nrow(strongest)) c(say("Strongest"), set_table(matrix_cells(x, strongest), left_aligned = 3L), ""),
    unlist(lapply(matrix_notes(x), set_paragraph)), set_intake(x, x$variables), set_cautions(x$cautions, x$variables, door)
  )
}

# A matrix that nobody can read on a screen.
unprinted_lines <- function(x) {
  set_paragraph(paste(
    "The matrix itself is too large to be read here. Every pair: --format csv or json, or as.data.frame() in R. In a",
    "figure or a table: name fewer variables, or rows and columns."
  ))
}

matrix_heading <- function(x) {
  pairs <- count_of(nrow(x$pairs), "pair")
  if (is.null(x$rows)) return(say("%s of %s", pairs, count_of(nrow(x$variables), "variable")))
  say("%s: %d rows by %d columns", pairs, length(x$rows), length(x$columns))
}

# Of fewer cases r is too loose to stand among the strongest.
few_for_a_pair <- 10L

#' The pairs with an r, the strongest first; those of few cases stand last
#' @param most How many are wanted: of millions of pairs only those are put in order.
#' @noRd
above_zero <- function(pairs, most = Inf) pairs[strongest_places(pairs, most), ]

strongest_places <- function(pairs, most = Inf, among = which(!is.na(pairs$r))) {
  size <- abs(pairs$r[among]) - 2 * (pairs$n[among] < few_for_a_pair) # two more than any r: after all others
  if (most < length(among)) {
    places <- which(size >= -sort(-size, partial = most)[most])
    among <- among[places]
    size <- size[places]
  }
  utils::head(among[order(-size)], most)
}

few_notes <- function(x) {
  few <- which(!is.na(x$pairs$r) & x$pairs$n < few_for_a_pair)
  if (!length(few) || length(few) == sum(!is.na(x$pairs$r))) return(NULL)
  named <- x$pairs[strongest_places(x$pairs, 5L, few), ]
  named <- say("%s with %s (r = %s, n = %d)", named$x, named$y, format_r(named$r), named$n)
  more <- if (length(few) > 5L) say("; and %d more", length(few) - 5L) else ""
  say("Based on fewer than %d cases: %s%s.", few_for_a_pair, paste(named, collapse = "; "), more)
}

matrix_how <- function(x) {
  used <- tabulate(match(x$pairs$coefficient, coefficient_names()), length(coefficient_names()))
  names(used) <- coefficient_names()
  used <- used[used > 0]
  coefficients <- paste(sprintf("%s %d", capital(coefficient_label(names(used))), used), collapse = ", ")
  adjusted <- c(
    holm = say("p adjusted (Holm)"), "benjamini-hochberg" = say("p adjusted (Benjamini and Hochberg)"),
    none = say("p not adjusted")
  )
  sprintf("%s; %s", coefficients, adjusted[[x$multiplicity]])
}

#' What was left out, how n varies, what is not defined, and how far cautions were looked for
#' @noRd
matrix_notes <- function(x) {
  out <- x$left_out
  listed <- function(names, why) if (length(names)) say("Excluded, %s: %s.", why, paste(names, collapse = ", "))
  c(
    listed(out$nominal, say("unordered categories")), listed(out$case, say("names of the cases")),
    listed(out$empty, say("no values")),
    listed(out$spoilt, say("text among the numbers")),
    if (isTRUE(out$unsuited > 0L)) {
      say("Excluded, %s: not suitable for %s.", count_of(out$unsuited, "pair"), x$pairs$coefficient[1])
    },
    held_note(x), cases_notes(x), design_notes(x),
    dependence_notes(x$pairs), few_notes(x), undefined_notes(x), checked_note(x$checked)
  )
}

held_note <- function(x) {
  if (is.null(x$given)) return(NULL)
  say(
    "Partial correlations, controlling for %s in every pair. Cautions are checked when a pair is related alone.",
    inside_several(x$given_labels, x$given)
  )
}

design_notes <- function(x) {
  if (is.null(x$design)) return(NULL)
  by <- if (length(x$design$replicates)) say("the replicate weights") else say("the jackknife over sampled units")
  drawn <- unlist(x$design[c("weight", "stratum", "cluster")])
  say("Sampling design%s: p and intervals by %s.", if (length(drawn)) sprintf(" (%s)", toString(drawn)) else "", by)
}

# How many pairs have an interval and p of cases that are not independent.
dependence_notes <- function(pairs) {
  counts <- vapply(c("clusters", "effective size"), function(method) sum(pairs$ci_method %in% method), 0L)
  c(
    if (counts[1]) say(
      "Intervals and p of %s allow for classes in which the cases are clustered (jackknife over classes).",
      count_of(counts[1], "pair")
    ),
    if (counts[2]) say(
      "Intervals and p of %s are by the effective sample size (autocorrelation).", count_of(counts[2], "pair")
    )
  )
}

cases_notes <- function(x) {
  n <- range(x$pairs$n)
  ends <- format_count(n)
  if (x$missing == "listwise") {
    return(say(
      "All pairs on the %s of %s cases without missing values (listwise deletion).", ends[1],
      format_count(x$cases)
    ))
  }
  if (ends[1] == ends[2]) return(say("n = %s for every pair.", ends[1]))
  c(
    say("n from %s to %s (pairwise deletion).", ends[1], ends[2]),
    if (n[1] < 0.8 * n[2]) {
      say("The pairs are based on very different cases; compare with missing = \"listwise\".")
    }
  )
}

undefined_notes <- function(x) {
  constant <- x$variables$variable[x$variables$sd %in% 0]
  undefined <- x$pairs[which(is.na(x$pairs$r)), ]
  undefined <- undefined[!undefined$x %in% constant & !undefined$y %in% constant, ]
  c(
    if (length(constant)) say("No r, as the values do not vary: %s.", paste(constant, collapse = ", ")),
    if (nrow(undefined)) {
      named <- paste(utils::head(paste(undefined$x, "with", undefined$y), 3), collapse = "; ")
      say("No r for %s with too few complete cases: %s.", count_of(nrow(undefined), "pair"), named)
    }
  )
}

checked_note <- function(checked) {
  if (is.null(checked) || checked$clear <= checked$checked) return(NULL)
  say(
    "Cautions were checked for the %d largest of %d pairs that are significant or large; check another with relate.",
    checked$checked, checked$clear
  )
}

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
  each <- max(1L, (text_width() - 2L - max(nchar(labels, "width"))) %/% room)
  blocks <- split(seq_len(p - 1L), (seq_len(p - 1L) - 1L) %/% each)
  lines <- unlist(lapply(blocks, function(block) matrix_block(cells, labels, block, room)), use.names = FALSE)
  c(lines[-length(lines)], if (any(x$pairs$highlighted)) highlight_legend(x), mixture_lines(x))
}

matrix_block <- function(cells, labels, block, room) {
  p <- nrow(cells)
  rows <- if (block[1] == 1L) seq_len(p) else seq(block[1] + 1L, p)
  heads <- paste0(formatC(paste0(block, " "), width = room), collapse = "")
  body <- vapply(rows, function(row) {
    texts <- cells[row, block]
    paste0("  ", labels[row], paste0(strrep(" ", room - nchar(texts, "width")), texts, collapse = ""))
  }, "")
  sub(" +$", "", c(paste0(strrep(" ", nchar(labels[1], "width") + 2L), heads), body, ""))
}

highlight_legend <- function(x) {
  say("  %s r of %s or more before rounding, up or down", glyphs()$mark, format_r(x$highlight))
}

rectangle_lines <- function(x) {
  places <- pair_cells(x, x$rows, x$columns)
  mark <- ifelse(x$pairs$highlighted, glyphs()$mark, " ")
  cells <- matrix("", nrow(places), ncol(places))
  cells[!is.na(places)] <- paste0(format_r(x$pairs$r), mark)[places[!is.na(places)]]
  columns <- c(list(shorten(label_of(x$variables, x$rows), 28)), lapply(seq_len(ncol(cells)), function(k) cells[, k]))
  names(columns) <- c("", paste0(seq_along(x$columns), " "))
  widths <- vapply(columns, function(column) max(nchar(column, "width")) + 2L, 0L)
  blocks <- blocks_that_fit(widths, 1L)
  lines <- unlist(lapply(blocks, function(block) c(set_table(columns[c(1L, block)]), "")))
  numbered <- sprintf("%d %s", seq_along(x$columns), label_of(x$variables, x$columns))
  c(
    lines, set_paragraph(paste0(paste(numbered, collapse = "; "), ".")),
    if (any(x$pairs$highlighted)) highlight_legend(x), mixture_lines(x)
  )
}

mixture_lines <- function(x) if (length(unique(x$pairs$coefficient)) > 1L) set_paragraph(mixture_words(x))

#' Which coefficient stands where, in a matrix of several
#' @noRd
mixture_words <- function(x) {
  records <- coefficient_records()[intersect(coefficient_names(), x$pairs$coefficient)]
  parts <- vapply(records, function(record) {
    clause <- record$words$mixture
    if (is.null(record$words$mixture_level)) say(clause) else say(clause, level_words(x, record$words$mixture_level))
  }, "")
  # What stands elsewhere is said last.
  general <- vapply(records, function(record) is.null(record$words$mixture_level), NA)
  paste0(capital(paste(c(parts[!general], parts[general]), collapse = "; ")), ".")
}

#' The variables of a level: their numbers in a square, their names in a rectangle
#' @noRd
level_words <- function(x, level) {
  which <- which(x$variables$level == level)
  words <- if (is.null(x$rows)) which else inside_of(x$variables, x$variables$variable[which])
  paste(words, collapse = ", ")
}

matrix_cells <- function(x, pairs = x$pairs) {
  cells <- list(
    shorten(label_of(x$variables, pairs$x), 20), shorten(label_of(x$variables, pairs$y), 20),
    coefficient_symbol(pairs$coefficient), format_r(pairs$r), mapply(format_interval, pairs$ci_low, pairs$ci_high),
    format(pairs$n), prose_p(pairs$p_adjusted)
  )
  names(cells) <- c("x", "y", "", "r", "interval", "n", if (x$multiplicity == "none") "p" else "adjusted p")
  cells
}

#' @export
in_words.unsere_matrix <- function(result, digits = 2, ...) {
  paste(c(matrix_sentence(result, digits), matrix_clauses(result)), collapse = " ")
}

# What cautions say against pairs of the matrix, the pairs of each caution named.
matrix_clauses <- function(result) {
  cautions <- result$cautions
  cautioned <- which(stands_in_sentence(cautions) & !vapply(cautions$figures, function(f) is.null(f$pairs), NA))
  vapply(cautioned, function(k) {
    pairs <- cautions$figures[[k]]$pairs
    named <- vapply(utils::head(pairs, 3), function(pair) {
      say("%s with %s", inside_of(result$variables, pair$x), inside_of(result$variables, pair$y))
    }, "")
    more <- if (length(pairs) > 3L) say(" and %s more", format_count(length(pairs) - 3L)) else ""
    meaning <- fill_template(find_caution(cautions$code[k])$meaning, result$variables)
    say("Caution (%s%s): %s", paste(named, collapse = "; "), more, meaning)
  }, "")
}

matrix_sentence <- function(result, digits) {
  pairs <- result$pairs
  clear <- which(!is.na(pairs$r) & !is.na(pairs$p_adjusted) & is_below(pairs$p_adjusted, result$confidence))
  how <- c(
    holm = say(" (Holm-adjusted)"),
    "benjamini-hochberg" = say(" (false discovery rate controlled by Benjamini and Hochberg's method)"),
    none = say(" (unadjusted)")
  )[[result$multiplicity]]
  many <- clear_words(length(clear))
  alpha <- marked(sub("^0", "", format(alpha_of(result$confidence))))
  first <- say("Of %s, %s at p < %s%s.", count_of(sum(!is.na(pairs$r)), "correlation"), many, alpha, how)
  if (!length(clear)) return(first)
  named <- strongest_places(pairs, 3, clear)
  rest <- setdiff(clear, named)
  tail <- if (length(rest)) {
    ends <- format_r(range(pairs$r[rest]), digits)
    say(" The other significant correlations lay between %s and %s.", ends[1], ends[2])
  }
  lead <- if (length(named) > 1) say(" The strongest: ") else say(" It was that of ")
  paste0(first, lead, paste(pair_clauses(result, pairs[named, ], digits), collapse = "; "), ".", tail)
}

clear_words <- function(count) {
  switch(min(count, 2L) + 1L,
    say("none was significant"),
    say("one was significant"),
    say("%s were significant", format_count(count))
  )
}

pair_clauses <- function(matrix, pairs, digits) {
  p <- ifelse(pairs$p_adjusted < .001, marked("< .001"), paste("=", prose_p(pairs$p_adjusted)))
  say(
    "%s and %s (%s = %s, n = %s, p %s)", inside_of(matrix$variables, pairs$x), inside_of(matrix$variables, pairs$y),
    coefficient_symbol(pairs$coefficient), format_r(pairs$r, digits), format_count(pairs$n), p
  )
}
