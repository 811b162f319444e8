# Value labels that columns bring along: which values they name, which of them are no answer, and whether they have an order.

#' A column without the value labels that some formats bring along
#'
#' @param level That the codebook gives it, if any.
#' @return A list: `values`, `label` (of the variable, or `NULL`), `order` (as a codebook has it, or `NULL`), `by_codes`
#'   (the order of the codes of words that are taken for groups), `apart` (codes
#'   that stand for no answer), `note` (what was decided, or `NULL`).
#' @noRd
without_labels <- function(column, level = NULL) {
  label <- attr(column, "label", exact = TRUE)
  if (!is_word(label)) label <- NULL
  labels <- attr(column, "labels", exact = TRUE)
  if (is.null(labels) && !inherits(column, "labelled") && is.null(attr(column, "na_values"))) {
    if (!is.null(attr(column, "label"))) attr(column, "label") <- NULL
    return(list(values = column, label = label))
  }
  values <- as.vector(unclass(column))
  declared <- declared_missing(column, values)
  apart <- labels[is_apart(bare_words(names(labels)))]
  no_answer <- declared | !is.na(values) & values %in% apart
  codes <- unique(c(attr(column, "na_values", exact = TRUE), unname(apart)))
  values[no_answer] <- NA
  note <- c(
    if (any(declared)) template("%s declared as missing in the file", counted(sum(declared), "cell")),
    if (any(no_answer & !declared)) {
      template("no answer by their labels: %s", paste(names(apart), collapse = ", "))
    }
  )
  named <- labels[!labels %in% codes & !is.na(labels)]
  label_text <- if (length(named) && !is.null(names(named))) tell_labels(values, named, level)
  c(list(
    values = or_default(label_text$values, values), label = label, order = label_text$order, by_codes = label_text$by_codes,
    apart = as.character(codes),
    note = c(note, label_text$note)
  ))
}

#' A column with the labels that a codebook gives its codes, where it holds those codes
#' @noRd
with_labels <- function(column, labels) {
  if (is.null(labels) || !is.null(attr(column, "labels"))) return(column)
  given <- unique(column[!is.na(column)])
  if (!length(given) || mean(as.character(given) %in% format_code(labels)) < 0.5) return(column)
  values <- if (is.numeric(column)) column else suppressWarnings(as.numeric(as.character(column)))
  if (sum(is.na(values)) > sum(is.na(column))) return(column)
  structure(values, labels = labels)
}

#' The labels of codes that a heading gives in brackets at its end: "Member (1=Yes, 2=No)", "Stage [1: first; 2: second]"
#' @return Numbers, named by their labels; `NULL` where there are none.
#' @noRd
labels_in_heading <- function(name) {
  if (!grepl("[0-9] ?[=:]", name)) return(NULL)
  inside <- regmatches(name, regexec("[(\\[]([^()\\[\\]]+)[)\\]] *$", name, perl = TRUE))[[1]][2]
  if (is.na(inside)) return(NULL)
  parts <- trimws(strsplit(inside, " *[,;|/] *(?=-?[0-9]+ ?[=:])", perl = TRUE)[[1]])
  pairs <- regmatches(parts, regexec("^(-?[0-9]{1,4}) ?[=:] ?(.*\\S)$", parts))
  if (length(pairs) < 2L || any(lengths(pairs) == 0L)) return(NULL)
  codes <- as.numeric(vapply(pairs, `[[`, "", 2L))
  labels <- vapply(pairs, `[[`, "", 3L)
  if (!anyDuplicated(codes) && !anyDuplicated(labels) && any(grepl("[[:alpha:]]", labels))) stats::setNames(codes, labels)
}

#' What labels make of the values they name
#' @param named The values that have a label, named by it.
#' @noRd
tell_labels <- function(values, named, level = NULL) {
  named <- named[order(named)]
  given <- unique(values[!is.na(values)])
  whole <- all(given %in% named)
  unlisted <- sort(setdiff(given, named))
  shown <- named[named %in% given]
  if (length(shown) == 2L && length(named) == 2L && whole) {
    return(list(values = names(named)[match(values, named)], note = template("its two values are named by their labels")))
  }
  text <- paste(sprintf("%s = %s", format_code(named), names(named)), collapse = ", ")
  if (!is.numeric(named) || length(named) < 2L || anyDuplicated(named) || anyDuplicated(names(named)) ||
    any(grepl("[<;]", names(named)))) {
    return(list(note = template("codes with labels (%s)", text)))
  }
  in_words <- function() names(named)[match(values, named)]
  if (whole && "nominal" %in% level) return(list(
    values = in_words(),
    note = template("unordered categories by their labels")
  ))
  if (whole && length(named) >= 3L && !"ordinal" %in% level) {
    order <- order_known(names(named))
    as_coded <- identical(order$order, names(named))
    if (as_coded || identical(rev(order$order), names(named))) {
      return(list(order = order_text(named, names(named)), note = c(
        template("in the order of its codes and their labels"),
        if (!as_coded) template("which run from \"%s\" to \"%s\"", names(named)[1], names(named)[length(named)])
      )))
    }
    return(list(
      values = in_words(), by_codes = order_text(named, names(named)),
      note = template(
        "unordered categories by their labels; if they have an order, give it: values: \"%s\"",
        order_text(named, names(named))
      )
    ))
  }
  steps <- seq(min(named), max(named))
  if (all(given %in% steps) && length(steps) <= 11L && all(named == round(named)) && length(given) > 2L) {
    words <- names(named)[match(steps, named)]
    return(list(order = order_text(steps, words), note = template("labels at some of its codes")))
  }
  list(note = c(
    template("codes with labels (%s)", text),
    if (length(unlisted)) template("without a label: %s", paste(utils::head(format_code(unlisted), 6), collapse = ", "))
  ))
}

order_text <- function(codes, words) {
  codes <- format_code(codes)
  paste(ifelse(is.na(words), codes, sprintf("%s = %s", codes, spell_words(words))), collapse = " < ")
}

declared_missing <- function(column, values) {
  ends <- attr(column, "na_range", exact = TRUE)
  named <- values %in% attr(column, "na_values", exact = TRUE)
  if (!is.numeric(values) || length(ends) != 2L) return(named & !is.na(values))
  !is.na(values) & (named | (values >= ends[1] & values <= ends[2]))
}
