# Rows that are no cases: sums and averages of others, at the end or between groups, and the most that can be had.

summary_row_choices <- c("leave out", "keep")

key_words <- paste0(
  "(answer |scoring |correct )?keys?|(correct|right) (answers?|options?)|(muster)?l\u00f6sung(en)?|",
  "(l\u00f6sungs)?schl\u00fcssel|corrig\u00e9s?|clave( de respuestas)?|soluzion[ei]"
)

summary_words <- paste0("^(", paste(c(
  "(grand |overall |sub-?|sub )?totals?", "sums?", "(over)?all", "means?", "averages?", "avg\\.?", "medians?",
  "(std|standard)\\.? ?dev(iation|\\.)?", "s\\.?d\\.?", "(class |group |course )?(averages?|means?|medians?)",
  "highest( (score|mark|grade))?", "lowest( (score|mark|grade))?", "max(imum)?\\.?", "min(imum)?\\.?", "out of",
  "weights?", "weighting", "standardabweichung", "h\u00f6chst(er?|wert)", "niedrigst(er?|wert)", "gewicht(ung)?",
  "[e\u00e9]cart[- ]type", "maximum", "minimum", "desviaci\u00f3n", "m[a\u00e1]ximo", "m[i\u00ed]nimo", "massimo", "minimo",
  "(gesamt|zwischen|end)?summen?", "gesamt", "insgesamt", "mittelwert", "durchschnitt",
  "(points?|marks?|score) possible", "possible (points?|marks?|score)", "(max(imum)?|min(imum)?)\\.? (points?|marks?|score)",
  "(highest|lowest)( possible)? (points?|marks?|score)", "(maximal|h\u00f6chst)punkt(e|zahl)", "max\\.? punkte",
  key_words, "(sous-?)?total( g[e\u00e9]n[e\u00e9]ral)?", "sommes?", "moyennes?",
  "(sub)?total general", "suma", "promedio", "medias?", "(sub)?totale", "somma", "soma", "m[e\u00e9]dia",
  "(sub)?totaal", "som", "gemiddelde", "world", "oecd( (average|total|mean))?", "eu[- ]?(15|25|27|28)( (average|total))?",
  "european union", "euro(zone| area)", paste0(
    "all (countries|nations|states|regions|districts|counties|provinces|municipalities|schools|classes|pupils|students|",
    "learners|participants|respondents|persons|people|groups|sectors|industries|centres|courses|ages|years|cases|items)"
  ), "alle (l\u00e4nder|staaten|regionen|kreise|gemeinden|schulen|klassen|sch\u00fcler|teilnehmer|personen|gruppen|kurse)"
), collapse = "|"), ")( (of|for|von|de|du|di|van) .*|:)?$")

summary_parts <- paste0(
  "^(sub-?)?(total|mean|average|summe|mittelwert) \\S|",
  "\\S[ :,-]+((sub-?)?totals?|mean|average|sum|summe|mittelwert)$"
)

#' What is said of rows that seem to be sums, averages or limits of others, or nothing
#' @noRd
summary_row_sentence <- function(data, rows) {
  at <- sort(unique(c(named_summaries(data), last_summaries(data), sums_between(data))))
  if (!length(at)) return(NULL)
  list(summary_row = template(
    if (length(at) == 1L) {
      "row %s contains sums, averages or limits of other rows; it counts as a case until removed in a copy of the file"
    } else {
      "rows %s contain sums, averages or limits of other rows; they count as cases until removed in a copy of the file"
    }, some_rows(at, rows)
  ))
}

some_rows <- function(at, rows) {
  at <- as.integer(if (is.null(rows)) at else rows[at])
  shown <- toString(utils::head(at, 5))
  if (length(at) > 5L) template("%s and %d more", shown, length(at) - 5L) else shown
}

#' Rows of a file that are certain to be no cases: at its ends by their labels, or equal to what the rows above sum up to
#'
#' A label tells where it stands in a column of names, each of its own, in a row at the top or at the end of the table,
#' and none of them where a tenth of the rows or more would go.
#' @return Places.
#' @noRd
sure_summaries <- function(data) {
  n <- nrow(data)
  if (n < 6L || n > 1e5) return(integer())
  most <- max(8, n / 10)
  ended <- numbers_at_end(data)
  at <- union(labelled_ends(data, floor(most) + 1), last_summaries(ended))
  if (length(at) > most) at <- integer()
  labelled <- lapply(Filter(is.character, data), is_summary_label, part = TRUE)
  sort(Reduce(union, list(at, labelled_between(data, labelled), closed_by_sums(ended), total_units(data, labelled))))
}

#' Rows of units that are no unit of a panel but all of them together: "State total" among districts that come every year
#'
#' By a label that says so in a column where the others come again and again, and a number beyond all of theirs in every
#' such row.
#' @param labelled Of each column of words which cells are such labels.
#' @noRd
total_units <- function(data, labelled) {
  numbers <- NULL
  for (name in names(labelled)) {
    is_total <- labelled[[name]]
    if (!any(is_total)) next
    counts <- table(data[[name]][!is_total & !is_blank(data[[name]])])
    if (length(counts) < 4L || stats::median(counts) < 2 || sum(is_total) > 2 * max(counts)) next
    numbers <- or_default(numbers, Filter(Negate(is.null), lapply(data, numbers_of_cells)))
    beyond <- vapply(numbers, function(v) {
      rest <- v[!is_total]
      !anyNA(v[is_total]) && any(!is.na(rest)) && min(rest, na.rm = TRUE) >= 0 && min(v[is_total]) > max(rest, na.rm = TRUE)
    }, NA)
    if (any(beyond)) return(which(is_total))
  }
  integer()
}

# A column of numbers, with whatever marks its thousands; `NULL` where it is none.
numbers_of_cells <- function(column) {
  if (is.numeric(column)) return(as.double(column))
  if (!is.character(column) || mean(grepl("[0-9]", utils::head(column, 100L))) < .5) return(NULL)
  read <- plain_numbers(column, ".")
  if (is.numeric(read)) read
}

#' Rows with a label of a summary whose every number is the sum, mean, or another figure of the cases about them
#'
#' All rows with such a label, or none: where one is no such figure, the labels may be answers.
#' @noRd
labelled_between <- function(data, is_label) {
  labelled <- Reduce(`|`, is_label, rep(FALSE, nrow(data)))
  at <- which(labelled)
  if (!length(at) || length(at) > nrow(data) / 2) return(integer())
  numbers <- Filter(function(column) any(!is.na(column)), lapply(data, function(column) {
    if (is.character(column)) numbers_in(trimws(column)) else if (is.numeric(column)) column
  }))
  cases <- which(!labelled)
  # A run of cases ends at a label; the cases of a run are those of one group.
  run <- cumsum(c(TRUE, diff(cases) > 1))
  sure <- vapply(at, function(row) {
    before <- run[cases < row]
    after <- run[cases > row]
    near <- c(if (length(before)) max(before), if (length(after)) min(after))
    about <- c(lapply(near, function(k) cases[run == k]), list(cases[cases < row], cases))
    any(vapply(about, function(others) is_figure_of(numbers, row, others), NA))
  }, NA)
  if (all(sure)) at else integer()
}

figures_of_cases <- list(
  sum = sum, mean = mean, median = stats::median, least = min, most = max, sd = stats::sd, n = length,
  sd_of_all = function(v) stats::sd(v) * sqrt(1 - 1 / length(v))
)

# Whether every number of a row is one figure of other rows: of two columns at least, or finer than each case, or a
# sum beyond each of its parts.
is_figure_of <- function(numbers, row, others) {
  value <- vapply(numbers, `[`, 0, row)
  cases <- lapply(numbers, function(column) column[others][!is.na(column[others])])
  filled <- !is.na(value) & lengths(cases) > 1L
  if (length(others) < 2L || !any(filled) || any(!is.na(value) & !filled)) return(FALSE)
  any(vapply(names(figures_of_cases), function(name) {
    expected <- vapply(cases[filled], figures_of_cases[[name]], 0)
    places <- decimals_written(value[filled])
    if (any(abs(value[filled] - expected) > 0.5001 * 10^-places + 1e-9 * abs(expected))) return(FALSE)
    finer <- all(places > vapply(cases[filled], function(v) max(decimals_written(unique(v))), 0))
    sum(filled) > 1L || finer || (name == "sum" && all(expected > vapply(cases[filled], max, 0)))
  }, NA))
}

#' Rows without a label that close every group of a table, each larger than any of the cases it sums up
#' @noRd
closed_by_sums <- function(data) {
  at <- sums_between(data)
  numbers <- summed_columns(data)
  n <- nrow(data)
  if (!length(at)) return(integer())
  cases <- setdiff(seq_len(max(at)), at)
  group <- findInterval(cases, at)
  beyond <- all(vapply(numbers, function(column) {
    all(tapply(column[cases], group, max) < column[at]) && all(column[cases] >= 0)
  }, NA))
  if (!beyond || any(diff(c(0L, at)) < 3L)) return(integer())
  last <- max(at)
  if (last == n) return(at)
  of_all <- last == n - 1L && sums_up(numbers, n, cases)
  if (of_all) c(at, n) else integer()
}

# Rows at the top and at the end with a label of a summary, as far as `most` rows from either.
labelled_ends <- function(data, most) {
  n <- nrow(data)
  first <- seq_len(min(n, most))
  last <- seq(max(1, n - most + 1), n)
  labelled <- logical(n)
  for (column in Filter(is.character, data)) {
    if (!any(is_summary_label(column[c(first, last)]))) next
    is_label <- is_summary_label(column)
    names <- trimws(column[!is_label & !is_blank(column)])
    # In a column of answers, such as "total" or "weight", the others come again.
    if (length(names) >= 4L && mean(!duplicated(names)) > 0.9) labelled <- labelled | is_label
  }
  top <- first[cumprod(labelled[first]) == 1]
  if (!any(labelled[last])) return(top)
  # A blank row between the cases and what sums them up goes with it.
  gone <- labelled[last] | is_empty_row(data[last, , drop = FALSE])
  end <- last[rev(cumprod(rev(gone))) == 1]
  union(top, if (any(labelled[end])) end)
}

#' The right answers in one of some rows, by its label
#' @return A character vector by column, or `NULL`.
#' @noRd
key_in_rows <- function(data, rows) {
  texts <- Filter(is.character, data)
  for (row in rows) {
    cells <- vapply(texts, function(column) trimws(column[row]), "")
    label <- grep(paste0("^(", key_words, "):?$"), cells, ignore.case = TRUE, perl = TRUE)
    if (length(label)) return(cells[-label[1]][!is_blank(cells[-label[1]])])
  }
  NULL
}

is_summary_label <- function(text, part = FALSE) {
  kinds <- unique(text)
  named <- grepl(summary_words, trimws(kinds), ignore.case = TRUE, perl = TRUE)
  # "Class 3A average", "Total Millby"
  if (part) named <- named | grepl(summary_parts, trimws(kinds), ignore.case = TRUE, perl = TRUE)
  text %in% kinds[named]
}

is_empty_row <- function(data) Reduce(`&`, lapply(data, function(column) is_blank(as.character(column))))

# Columns of text that may be numbers as numbers; most that are not show it in their last cell.
numbers_at_end <- function(data) {
  list2DF(lapply(data, function(column) {
    if (!is.character(column)) return(if (is.integer(column)) as.double(column) else column)
    end <- column[length(column)]
    if (!is_blank(end) && is.na(numbers_in(trimws(end)))) return(column)
    numbers <- numbers_in(trimws(column))
    if (any(is.na(numbers) & !is_blank(column))) column else numbers
  }), nrow(data))
}

#' Rows whose text says so, such as "Subtotal" or "Mean"
#' @noRd
named_summaries <- function(data) {
  texts <- Filter(is.character, data)
  if (!length(texts) || nrow(data) > 1e5 || length(texts) == length(data)) return(integer())
  labelled <- Reduce(`|`, lapply(texts, function(text) {
    # An answer that many give is an answer.
    here <- is_summary_label(text)
    if (sum(here) > length(text) / 3) rep(FALSE, length(text)) else here
  }))
  which(labelled)
}

summed_columns <- function(data) Filter(function(column) is.double(column) && !is.object(column), data)

#' Up to three rows at the end that hold sums or means of all rows above them
#' @noRd
last_summaries <- function(data) {
  n <- nrow(data)
  numbers <- summed_columns(data)
  if (n < 4L || n > 1e5 || length(numbers) < 2L) return(integer())
  for (end in utils::head(seq(max(n - 3L, 3L), n - 1L), 3)) {
    tail <- seq(end + 1L, n)
    if (all(vapply(tail, function(row) sums_up(numbers, row, seq_len(end)), NA))) return(tail)
  }
  integer()
}

# Whether a row holds the sums, or the means with more decimals than any value, of other rows; most are settled by their
# first column.
sums_up <- function(numbers, row, others) {
  value <- vapply(numbers, `[`, 0, row)
  numbers <- numbers[!is.na(value)]
  value <- value[!is.na(value)]
  if (length(numbers) < 2L) return(FALSE)
  like_sum <- like_mean <- TRUE
  finer <- FALSE
  for (k in seq_along(numbers)) {
    above <- numbers[[k]][others]
    above <- above[!is.na(above)]
    if (length(above) < 3L) return(FALSE)
    like_sum <- like_sum && abs(value[k] - sum(above)) < 1e-9 * sum(abs(above)) && value[k] > max(above)
    places <- decimals_written(value[k])
    like_mean <- like_mean && abs(value[k] - mean(above)) <= 0.5001 * 10^-places
    if (!like_sum && !like_mean) return(FALSE)
    if (like_mean && !finer) finer <- places > max(decimals_written(unique(above)))
  }
  like_sum || finer
}

#' Rows that hold, in every column of numbers, the sum of the rows since the last such row; two of them or none
#' @noRd
sums_between <- function(data) {
  numbers <- summed_columns(data)
  n <- nrow(data)
  if (length(numbers) < 2L || n < 6L || n > 1e5) return(integer())
  rows <- integer()
  start <- 1L
  repeat {
    row <- next_sum(numbers, start)
    if (is.na(row)) break
    rows <- c(rows, row)
    start <- row + 1L
  }
  if (length(rows) > 1L && !any(vapply(numbers, anyNA, NA))) rows else integer()
}

# The first row, two or more after the start, that holds the sum of those from the start on, in every column.
next_sum <- function(numbers, start) {
  n <- length(numbers[[1]])
  rows <- seq_len(n)
  rows <- rows[rows >= start + 2L]
  for (column in numbers) {
    if (!length(rows)) return(NA_integer_)
    # Few rows outlast the first column, so that the others are summed up to the last of them alone.
    sums <- cumsum(column[seq(start, max(rows) - 1L)])[rows - start]
    rows <- rows[which(sums != 0 & abs(column[rows] - sums) <= 1e-9 * abs(sums))]
  }
  rows[1]
}
