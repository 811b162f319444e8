# Questions where several answers may be chosen: one cell that lists them, or a column for each. Each choice
# becomes a variable of its own with a no and a yes.

#' The columns of a table with each choice as a variable
#'
#' @param data A data frame as it came in.
#' @return A list: `data`, `decisions`.
#' @noRd
spread_choices <- function(data) {
  texts <- which(vapply(data, function(column) is.character(column) || is.factor(column), NA))
  out <- list(data = data, decisions = NULL)
  if (!length(texts)) return(out)
  out <- mark_blocks(out, texts)
  for (name in setdiff(names(data)[texts], attr(out$data, "block"))) {
    choices <- listed_choices(data[[name]])
    if (is.null(choices)) next
    columns <- chosen_columns(data[[name]], choices)
    names <- new_names(sprintf("%s: %s", name, choices$options), names(out$data))
    at <- match(name, names(out$data))
    out$data <- with_columns_after(out$data, at, stats::setNames(columns, names))
    out$decisions <- c(out$decisions, choices = template(
      "%s: several answers may be chosen; %s, a variable each with no and yes: %s", name, counted(length(names), "choice"),
      paste(choices$options, collapse = ", ")
    ))
  }
  attr(out$data, "block") <- NULL
  out
}

with_columns_after <- function(data, at, columns) {
  data.frame(data[seq_len(at)], columns, data[-seq_len(at)], check.names = FALSE)
}

new_names <- function(wanted, taken) {
  clash <- wanted %in% taken
  wanted[clash] <- paste(wanted[clash], "(chosen)")
  make.unique(wanted, " ")
}

# What stands between answers. A comma between digits is a part of their number: "6,9 h", "1,000 words or more".
# Between codes it may stand alone, where some cell can be no number: "1,3,4".
listing_marks <- c(semicolon = ";", bar = "[|]", comma = "(?<![0-9]),|,(?![0-9])", codes = ",")

#' The choices that cells list: each comes often, and some cells hold several
#' @return A list: `options`, `mark` (a pattern of what stands between them); or `NULL`.
#' @noRd
listed_choices <- function(column) {
  text <- as.character(column)
  # Some cells settle for most columns that they list nothing.
  sample <- text[even_places(length(text), 2000L)]
  sample <- sample[!is_blank(sample)]
  if (!any(grepl("[;|,]", sample))) return(NULL)
  given <- which(!is.na(text) & nzchar(trimws(text)))
  if (length(given) < 8L) return(NULL)
  for (kind in names(listing_marks)) {
    mark <- listing_marks[[kind]]
    listing <- grepl(mark, sample, perl = TRUE)
    if (mean(listing) < 0.1) next
    kinds <- unique(text[given])
    if (length(kinds) > 2000L) return(NULL)
    counts <- table(factor(text[given], kinds))
    parts <- lapply(strsplit(kinds, mark, perl = TRUE), function(one) unique(trimws(one)[nzchar(trimws(one))]))
    if (kind == "comma" && any(vapply(parts, function(one) all(is_figure(one)), NA))) next
    if (kind == "codes" && !are_codes(kinds[!is_blank(kinds)])) next
    often <- tapply(rep(as.vector(counts), lengths(parts)), unlist(parts), sum)
    options <- names(often)[order(match(names(often), unlist(parts)))]
    if (!are_choices(options, often[options], length(given), kind) || !vary_freely(parts, options) ||
      stand_in_places(parts)) next
    if (!anyNA(suppressWarnings(as.numeric(options)))) options <- options[order(as.numeric(options))]
    return(list(options = options, mark = mark))
  }
  NULL
}

# Whole numbers of one or two digits, in some cell three of them or a space between.
are_codes <- function(kinds) {
  all(grepl("^ *[0-9]{1,2}( ?, ?[0-9]{1,2})* *$", kinds)) && any(grepl(",.*,|, ", kinds))
}

# A free answer with a mark in it makes parts that come once. A few choices of one's own are let pass as they stand.
are_choices <- function(options, often, answers, kind) {
  usual <- often >= max(2, 0.02 * answers)
  n <- length(options)
  n >= 2L && n <= 25L && mean(usual) >= 0.7 && sum(often[usual]) / sum(often) >= 0.9 &&
    all(nchar(options) <= if (kind %in% c("comma", "codes")) 40L else 90L) && sum(often) / answers > 1.1
}

# "Smith, Ann": as many parts in every cell, each in a place of its own, are one thing.
stand_in_places <- function(parts) {
  if (length(unique(lengths(parts))) > 1L) return(FALSE)
  places <- unique(data.frame(part = unlist(parts), place = unlist(lapply(lengths(parts), seq_len))))
  !anyDuplicated(places$part)
}

# Choices come in more ways than there are of them, and no two always together; sentences do not.
vary_freely <- function(parts, options) {
  with <- vapply(
    options,
    function(option) paste(which(vapply(parts, function(one) option %in% one, NA)), collapse = " "), ""
  )
  length(parts) >= length(options) && !anyDuplicated(with)
}

chosen_columns <- function(column, choices) {
  text <- as.character(column)
  kinds <- unique(text)
  parts <- lapply(strsplit(kinds, choices$mark, perl = TRUE), trimws)
  place <- match(text, kinds)
  blank <- is.na(text) | !nzchar(trimws(text))
  lapply(choices$options, function(option) {
    chosen <- vapply(parts, function(one) option %in% one, NA)[place]
    ifelse(blank, NA_character_, ifelse(chosen, "yes", "no"))
  })
}

#' Neighbouring columns of one question, each with one answer or a blank: a blank is a no where another of them is chosen
#' @noRd
mark_blocks <- function(out, texts) {
  data <- out$data
  single <- vapply(data, function(column) {
    if (!is.character(column) && !is.factor(column)) return(FALSE)
    text <- trimws(as.character(utils::head(column, 2000L)))
    length(unique(text[!is_blank(text)])) == 1L && any(is_blank(text)) && {
      text <- trimws(as.character(column))
      length(unique(text[!is_blank(text)])) == 1L
    }
  }, NA)
  stems <- question_of(names(data))
  runs <- rle(ifelse(single, stems, NA_character_))
  ends <- cumsum(runs$lengths)
  for (k in which(!is.na(runs$values) & runs$lengths >= 2L)) {
    at <- seq(ends[k] - runs$lengths[k] + 1L, ends[k])
    chosen <- lapply(data[at], function(column) !is_blank(as.character(column)))
    any_chosen <- Reduce(`|`, chosen)
    for (j in seq_along(at)) data[[at[j]]] <- ifelse(any_chosen, ifelse(chosen[[j]], "yes", "no"), NA_character_)
    out$decisions <- c(out$decisions, choices = template(
      "%s: %s of one question; a blank counts as no where another of them is chosen", runs$values[k],
      counted(length(at), "choice")
    ))
    attr(data, "block") <- c(attr(data, "block"), names(data)[at])
  }
  ticked <- setdiff(names(data)[single], attr(data, "block"))
  ticked <- ticked[vapply(data[ticked], is_ticked, NA)]
  for (name in ticked) data[[name]] <- ifelse(is_blank(as.character(data[[name]])), "no", "yes")
  if (length(ticked)) {
    out$decisions <- c(out$decisions, choices = template("%s: a mark is read as yes, a blank as no", toString(ticked)))
  }
  attr(data, "block") <- c(attr(data, "block"), ticked)
  out$data <- data
  out
}

# Columns of one mark such as a tick and of blanks.
is_ticked <- function(column) {
  text <- trimws(as.character(column))
  marked <- text[!is_blank(text)]
  length(marked) >= 2L && length(marked) < length(text) &&
    marked[1] %in% c("x", "X", "checked", "Checked", tick_marks)
}

tick_marks <- c("\u2713", "\u2714", "\u2611", "\u2612", "\u2717", "\u2718", "\u25cf", "\u2022")

#' The part of a heading that columns of one question share: "Which? [Radio]", "Which? - Radio", "q5_1"
#' @noRd
question_of <- function(names) {
  patterns <- c(
    "^(.+?) ?\\[[^]]+\\]$", "^(.+?[?.:]) ?[-\u2013:]? ?\\S.*$", "^(.+?) ?[-\u2013:] \\S.*$",
    "^(.*[[:alpha:]].*?)[_.][[:alnum:]]{1,3}$"
  )
  stems <- names
  for (k in grep("[^[:alnum:]]", names)) {
    for (pattern in patterns) {
      parts <- regmatches(names[k], regexec(pattern, names[k], perl = TRUE))[[1]]
      if (!length(parts)) next
      stems[k] <- trimws(parts[2])
      break
    }
  }
  stems
}
