# What is worth a look in the items of a scale.

#' What is worth a look in each item, as codes: `too_easy`, `too_hard`, `negative`, `adds_nothing`, `redundant`,
#' `distractor`, `constant`
#' @return A data frame of a list column of codes, `flags`, and `redundant_with`, the item that one says the same as.
#' @noRd
flags_of_items <- function(result, columns, options) {
  items <- result$items
  same <- lapply(items$item, function(item) {
    if (!item %in% rownames(result$r)) return(character())
    setdiff(colnames(result$r)[result$r[item, ] >= 0.9], item)
  })
  flags <- lapply(seq_len(nrow(items)), function(k) {
    row <- items[k, ]
    values <- columns[[row$item]]
    values <- values[!is.na(values)]
    if (!differs(values)) return("constant")
    ends <- range(values)
    place <- (row$mean - ends[1]) / diff(ends)
    drawn <- if (!is.null(options)) options[options$item == row$item & !options$right, ]
    c(
      if (place > 0.95) "too_easy", if (place < (if (is_right_or_wrong(values)) 0.2 else 0.05)) "too_hard",
      if (isTRUE(row$item_rest < 0 && !isTRUE(row$ci_high >= 0))) "negative",
      if (isTRUE(row$item_rest < 0.1 && row$ci_low <= 0 && row$ci_high >= 0)) "adds_nothing",
      if (length(same[[k]])) "redundant", if (any(drawn$rest > 2 / sqrt(pmax(drawn$n, 1)), na.rm = TRUE)) "distractor"
    )
  })
  list(
    flags = vapply(flags, paste, "", collapse = ";"),
    redundant_with = vapply(same, function(items) if (length(items)) items[1] else NA_character_, "")
  )
}

with_constant_items <- function(items, columns) {
  rows <- do.call(rbind, lapply(names(columns), function(name) {
    row <- items[1, ]
    row[] <- NA
    given <- columns[[name]][!is.na(columns[[name]])]
    row$item <- name
    row[c("n", "missing", "mean", "sd")] <- list(length(given), sum(is.na(columns[[name]])), given[1], 0)
    row
  }))
  rbind(items, rows)
}

differs <- function(values) {
  known <- values[!is.na(values)]
  length(known) > 1L && any(known != known[1])
}

is_right_or_wrong <- function(values) !any(values != 0 & values != 1)
