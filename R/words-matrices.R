#' @export
format.unsere_matrices <- function(x, ..., door = door_r()) {
  c(
    set_title(say("%s, overall and by %s", matrix_heading(x$pooled), matrices_by_label(x))),
    paste0("  ", soft(matrix_how(x$pooled))), "",
    matrices_lines(x), "",
    set_paragraph(matrices_words(x)),
    set_paragraph(paste(say("All cases:"), paste(matrix_notes(x$pooled), collapse = " ")))
  )
}

matrices_by_label <- function(x) if (is.na(x$by_label)) x$by else x$by_label

#' A row a pair: r among all cases, then in each group; the pairs strongest in all first, forty at most
#' @noRd
matrices_lines <- function(x, most = 40L) {
  pairs <- above_zero(x$pooled$pairs, most)
  key <- function(pairs) pair_key(pairs$x, pairs$y)
  in_group <- lapply(x$groups, function(group) group$pairs$r[match(key(pairs), key(group$pairs))])
  variables <- x$pooled$variables
  columns <- c(
    list(
      x = shorten(label_of(variables, pairs$x), 18), y = shorten(label_of(variables, pairs$y), 18),
      all = format_r(pairs$r)
    ),
    lapply(in_group, function(r) format_r(r))
  )
  names(columns)[-(1:3)] <- shorten(names(x$groups), 10)
  blocks <- blocks_that_fit(vapply(seq_along(columns), function(k) {
    max(nchar(c(names(columns)[k], columns[[k]]), "width")) + 2L
  }, 0L), 3L)
  more <- nrow(x$pooled$pairs) - nrow(pairs)
  lines <- unlist(lapply(blocks, function(block) {
    c(set_table(structure(columns[c(1:3, block)], given = 3L + seq_along(block)), left_aligned = 2L), "")
  }))
  c(lines[-length(lines)], if (more > 0) say("  and %s more (--format csv has all)", count_of(more, "pair")))
}

#' Which pairs turn round: the groups together against what is seen in all
#' @noRd
matrices_words <- function(x) {
  pooled <- x$pooled$pairs
  key <- function(pairs) pair_key(pairs$x, pairs$y)
  turned <- vapply(seq_len(nrow(pooled)), function(k) {
    r <- vapply(x$groups, function(group) group$pairs$r[match(key(pooled[k, ]), key(group$pairs))], 0)
    # What the groups bring about stands out as if the cases were independent.
    p <- test_student(pooled$r[k], (1 - pooled$r[k]) * (1 + pooled$r[k]), pooled$n[k])$p
    isTRUE(is_below(p, x$pooled$confidence)) && mean(sign(r) == -sign(pooled$r[k]), na.rm = TRUE) > 0.5
  }, NA)
  if (!any(turned)) {
    return(paste(say("No pair that is significant over all cases changes sign in most groups."), difference_words(x)))
  }
  named <- say(
    "%s and %s", inside_of(x$pooled$variables, pooled$x[turned]),
    inside_of(x$pooled$variables, pooled$y[turned])
  )
  say(
    "Opposite sign in most groups (Simpson's paradox): %s. The correlation over all cases does not hold within them. %s",
    paste(named, collapse = "; "), difference_words(x)
  )
}

#' Which r differ between the groups, by their test
#' @noRd
difference_words <- function(x) {
  tests <- x$differences[!is.na(x$differences$p_adjusted), ]
  if (!nrow(tests)) return(say("Whether r differs between the groups cannot be tested: they are too small."))
  clear <- tests[is_below(tests$p_adjusted, x$pooled$confidence), ]
  if (!nrow(clear)) {
    return(say(
      "No r differs significantly between the groups (%s tested%s).", count_of(nrow(tests), "pair"),
      adjusted_words(x)
    ))
  }
  clear <- clear[order(clear$p_adjusted), ]
  named <- utils::head(clear, 5)
  more <- if (nrow(clear) > 5L) say("; and %d more", nrow(clear) - 5L) else ""
  variables <- x$pooled$variables
  clause <- say(
    "%s and %s (%s(%d) = %s, %s)", inside_of(variables, named$x), inside_of(variables, named$y), glyphs()$chi_squared,
    as.integer(named$df), format_statistic(named$chi_squared), vapply(named$p_adjusted, format_p_clause, "")
  )
  say("r differs significantly between the groups%s: %s%s.", adjusted_words(x), paste(clause, collapse = "; "), more)
}

adjusted_words <- function(x) {
  switch(x$pooled$multiplicity,
    none = "",
    holm = say(", p adjusted (Holm)"),
    say(", p adjusted (Benjamini and Hochberg)")
  )
}

#' @export
in_words.unsere_matrices <- function(result, digits = 2, ...) {
  paste(in_words(result$pooled, digits), matrices_words(result))
}

#' @export
format.unsere_moments <- function(x, ...) {
  c(
    set_title(say("Moments of %s, %s", count_of(length(x$variables), "variable"), count_of(x$n, "case"))),
    set_paragraph(paste(utils::head(x$variables, 12), collapse = ", ")),
    "  Next: correlation_matrix() of these moments."
  )
}
