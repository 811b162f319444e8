# From a column of text to what it means: numbers in all their spellings, percentages, units; dates and times beside them.

#' @param decimal The decimal mark of the file, where it is known; `numbers` whether it is known to hold numbers; `name` the
#'   heading, which tells a duration from a time of day.
#' @return A list: `values`, and where it applies `unit` and `note` (what was decided).
#' @noRd
convert_text <- function(text, decimal = ".", numbers = FALSE, name = "") {
  # Of words that come again and again each is read once.
  kinds <- if (length(text) > 5000L && length(unique(utils::head(text, 2000L))) < 200L) unique(text)
  if (length(kinds) && length(kinds) < length(text) / 20) {
    read <- read_text(kinds, decimal, numbers, name)
    read$values <- if (identical(read$values, kinds)) text else read$values[match(text, kinds)]
    return(read)
  }
  read_text(text, decimal, numbers, name)
}

read_text <- function(text, decimal, numbers, name) {
  text <- tidy_text(text)
  bare <- Find(Negate(is.null), list(
    without_heading_unit(text, name), without_brackets(text), without_error(text), without_flags(text)
  ))
  if (!is.null(bare)) {
    read <- read_text(bare$text, decimal, numbers, "")
    if (is.numeric(read$values) || mostly_numbers(read$values)) return(replace(read, "note", list(c(bare$note, read$note))))
  }
  given <- which(!is.na(text))
  if (!length(given)) return(list(values = rep(NA_real_, length(text))))
  # Letters among a few hundred values leave only an exponent or a date with T; a million names are not searched for marks.
  signed <- with_plain_signs(text)
  sample <- signed[given[unique(round(seq(1, length(given), length.out = 300)))]]
  reason <- if (!numbers && any(grepl("^-?[0-9]+([eE][0-9]+)?$", sample))) why_kept(text)
  if (!is.null(reason)) return(keep_text(text, template(reason)))
  readings <- list(
    plain = read_plain, percent = read_percent, grouped = read_grouped, comma = read_comma, lasting = lasting_as(name),
    ratio = ratios_as(name), out_of = points_as(name), clock = clock_as(name), dates = read_dates,
    fractions = read_fractions, feet = read_feet, tenures = read_tenures, durations = read_durations, unit = read_unit,
    multiples = multiples_as(name), stars = read_stars
  )
  if (any(grepl("[[:alpha:]]", sample))) {
    worded <- readings[c("plain", "clock", "dates", "feet", "tenures", "durations", "unit", "multiples")]
    readings <- Filter(function(reading) !is.null(reading(sample, decimal)), worded)
  }
  for (reading in readings) {
    figures <- reading(signed, decimal)
    if (!is.null(figures)) return(figures)
  }
  read <- read_truth(if (decimal == ",") with_points(text) else text)
  kind <- if (is.null(read$note)) unread_kind(sample)
  if (!is.null(kind) && is.null(kind$quiet)) read$note <- joined(template("kept as text: "), kind$why)
  read
}

# Numbers among which some cell is text stay text, but are seen as numbers: "2,5" as "2.5".
with_points <- function(text) {
  points <- sub(",", ".", text, fixed = TRUE)
  number <- !is.na(numbers_in(points))
  if (mean(number[!is.na(text)]) > 0.5) ifelse(number, points, text) else text
}

#' Why whole numbers are no numbers to compute with but names: what numbers would not keep; else `NULL`
#'
#' 38E8 is a code where no cell of the column has decimals or a sign before its exponent, as numbers of such a size have.
#' @noRd
why_kept <- function(text) {
  given <- text[!is.na(text)]
  if (!length(given)) return(NULL)
  if (any(grepl("^([0-9]+E|[0-9]{2,}e)[0-9]+$", given))) {
    scientific <- any(grepl("[.,][0-9]|[eE][-+][0-9]|^[-+\u2212]", given))
    return(if (!scientific) "as numbers the E in them would be an exponent")
  }
  whole <- grepl("^-?[0-9]+$", given)
  # Beside "01" and "69" a "2A" is a code too.
  if (!all(whole) && !all(grepl("^[0-9]{1,4}[[:alpha:]]$|^[[:alpha:]][0-9]{1,4}$", given[!whole]))) return(NULL)
  coded <- !all(whole)
  given <- sub("-", "", given[whole], fixed = TRUE)
  if (!coded && any(nchar(given) > 15L)) return("as numbers their many digits would be rounded")
  if (any(startsWith(given, "0") & nchar(given) > 1L)) "as numbers they would lose leading zeros"
}

#' Whole numbers of 64 bits: as doubles, or as text where doubles would round some of them
#' @param text As written.
#' @noRd
whole_numbers <- function(text) {
  values <- suppressWarnings(as.double(text))
  if (any(abs(values) > 2^53, na.rm = TRUE)) text else values
}

read_percent <- function(text, decimal) {
  marked <- grepl("%$", text)
  # .45 beside 76 % may be 45 %; only nothing is nothing in both.
  if (!any(marked) || !all(marked | is.na(text) | grepl("^0([.,]0*)?$", text))) return(NULL)
  values <- plain_numbers(sub("%$", "", text), decimal, comma = TRUE)
  if (is.numeric(values)) list(values = values, unit = "%", note = template("percent signs removed"))
}

mostly_numbers <- function(column) {
  given <- which(!is.na(column))
  given <- column[given[even_places(length(given), 1000L)]]
  numbers <- length(given) > 0 && mean(!is.na(numbers_in(as.character(given)))) > 0.5
  numbers && is.null(why_kept(as.character(column)))
}
