# From a column of text to what it means: numbers in all their spellings, percentages, dates, times of day, yes and no.

blank_marks <- c("", "NA", "N/A", "n/a", "na", "-", "\u2013", "\u2014")

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
  given <- which(!is.na(text))
  if (!length(given)) return(list(values = rep(NA_real_, length(text))))
  # Letters among a few hundred values leave only an exponent or a date with T; a million names are not searched for marks.
  sample <- text[given[unique(round(seq(1, length(given), length.out = 300)))]]
  kept <- if (!numbers && all(grepl("^[0-9]+$", sample))) why_kept(text)
  if (!is.null(kept)) return(list(values = text, note = joined(template("kept as text: "), template(kept))))
  readings <- list(read_plain, read_percent, read_grouped, read_comma, lasting_as(name), read_clock, read_dates, read_unit)
  if (any(grepl("[[:alpha:]]", sample))) {
    readings <- Filter(function(reading) !is.null(reading(sample, decimal)), readings[c(1, 6, 7, 8)])
  }
  signed <- if (any(grepl("\u2212", text, fixed = TRUE))) sub("\u2212", "-", text, fixed = TRUE) else text
  for (reading in readings) {
    found <- reading(signed, decimal)
    if (!is.null(found)) return(found)
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

#' Without spaces around it, and without the marks that stand for a blank
#' @noRd
tidy_text <- function(text) {
  if (any(grepl("\u00a0", text, fixed = TRUE))) text <- gsub("\u00a0", " ", text, fixed = TRUE)
  if (any(startsWith(text, " ") | endsWith(text, " "), na.rm = TRUE)) text <- trimws(text)
  text[text %in% blank_marks] <- NA_character_
  text
}

complete_reading <- function(text, values) if (all(is.na(text) | !is.na(values))) values

numbers_in <- function(text) {
  plain <- grepl("^[-+\u2212]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$", text)
  out <- rep(NA_real_, length(text))
  out[plain] <- as.numeric(sub("\u2212", "-", text[plain], fixed = TRUE))
  # 1e400 is no number that can be computed with.
  out[is.infinite(out)] <- NA
  out
}

#' Why whole numbers are no numbers to compute with but names: what numbers would not keep; else `NULL`
#' @noRd
why_kept <- function(text) {
  given <- text[!is.na(text)]
  if (!length(given) || !all(grepl("^[0-9]+$", given))) return(NULL)
  if (any(nchar(given) > 15L)) return("as numbers their many digits would be rounded")
  if (any(startsWith(given, "0") & nchar(given) > 1L)) "as numbers they would lose leading zeros"
}

read_plain <- function(text, decimal) {
  # Beside decimal commas "1.250" is no decimal number.
  pointed <- grepl(".", text, fixed = TRUE)
  if (decimal == "," && any(pointed) && all(grepl("^[-+]?[1-9][0-9]{0,2}([.][0-9]{3})+$", text[pointed]))) return(NULL)
  values <- complete_reading(text, numbers_in(text))
  if (!is.null(values)) list(values = values)
}

#' Numbers with the marks of their file, or the text as it is: the same whatever other cells there are
#' @param comma Whether a comma may be the decimal mark.
#' @noRd
plain_numbers <- function(text, decimal, comma = decimal == ",") {
  text <- tidy_text(text)
  for (reading in c(list(read_plain, read_grouped), if (comma) read_comma)) {
    found <- reading(text, decimal)
    if (!is.null(found)) return(found$values)
  }
  text
}

read_percent <- function(text, decimal) {
  marked <- grepl("%$", text)
  # .45 beside 76 % may be 45 %; only nothing is nothing in both.
  if (!any(marked) || !all(marked | is.na(text) | grepl("^0([.,]0*)?$", text))) return(NULL)
  values <- plain_numbers(sub("%$", "", text), decimal, comma = TRUE)
  if (is.numeric(values)) list(values = values, unit = "%", note = template("percent signs taken off"))
}

# Thousands in groups of three: 1,234,567.8 or 1.234.567,8 or 1 234 567 or 1'234'567.
read_grouped <- function(text, decimal) {
  styles <- list(c(",", "."), c(".", ","), c(" ", decimal), c("'", decimal))
  if (decimal == ",") styles <- styles[c(2, 1, 3, 4)]
  for (style in styles) {
    mark <- if (style[1] %in% c(".", "'", ",")) paste0("[", style[1], "]") else " "
    point <- paste0("[", style[2], "]")
    grouped <- grepl(sprintf("^[-+]?[1-9][0-9]{0,2}(%s[0-9]{3})+(%s[0-9]+)?$", mark, point), text)
    plain <- grepl(sprintf("^[-+]?[0-9]+(%s[0-9]+)?$", point), text)
    if (!any(grouped) || !all(is.na(text) | grouped | plain)) next
    values <- numbers_in(sub(style[2], ".", gsub(style[1], "", text, fixed = TRUE), fixed = TRUE))
    return(list(values = values, note = template("\"%s\" read as a thousands mark", style[1])))
  }
  NULL
}

read_comma <- function(text, decimal) {
  if (!any(grepl(",", text, fixed = TRUE))) return(NULL)
  values <- complete_reading(text, numbers_in(sub(",", ".", text, fixed = TRUE)))
  if (!is.null(values)) list(values = values, note = template("\",\" read as the decimal mark"))
}

duration_words <- c(
  "mm:ss", "durations?", "times? (taken|spent|to)", "(total|completion|response|reading|reaction|running) ?time",
  "length", "lasted",
  "\\w*dauer", "\\w*zeit", "dur\u00e9e", "duraci\u00f3n", "durata", "dura\u00e7\u00e3o", "duur", "minutes?", "min"
)

#' Minutes and seconds, or hours, minutes and seconds, that something lasted, where the heading says so
#' @noRd
lasting_as <- function(name) {
  name <- gsub("[_.]+", " ", name)
  lasting <- grepl(paste0("(^|[^[:alpha:]])(", paste(duration_words, collapse = "|"), ")([^[:alpha:]]|$)"),
    tolower(name),
    perl = TRUE
  )
  hours <- grepl("\\bh\\b|hours?|stunden|heures?|horas|\\bore\\b|\\buur\\b", tolower(name), perl = TRUE)
  function(text, decimal) {
    given <- text[!is.na(text)]
    if (!lasting || !length(given) || !all(grepl("^([0-9]{1,3}:)?[0-9]{1,3}:[0-5][0-9]$", given))) return(NULL)
    parts <- lapply(strsplit(given, ":", fixed = TRUE), as.numeric)
    first <- max(vapply(parts, `[[`, 0, 1L))
    short <- if (hours && first <= 23) c(60, 1) else c(1, 1 / 60)
    minutes <- rep(NA_real_, length(text))
    minutes[!is.na(text)] <- vapply(parts, function(one) sum(one * if (length(one) == 3L) c(60, 1, 1 / 60) else short), 0)
    form <- if (short[1] == 60) "hours:minutes" else "minutes:seconds"
    if (any(lengths(parts) == 3L)) form <- "hours:minutes:seconds"
    list(values = minutes, unit = "min", note = template("durations (%s) read as minutes", form))
  }
}

#' The last time of a night that goes on past midnight, as of going to bed: 0:30 comes after 23:30
#'
#' Where all times lie from the afternoon to the early morning.
#' @return Minutes after midnight, or -1 where the day ends at midnight.
#' @noRd
hours_of_night <- function(minutes) {
  at <- sort(unique(minutes[!is.na(minutes)]))
  night <- at[at <= 420]
  if (length(at) < 5L || !length(night) || length(night) == length(at) || any(at > 420 & at < 900)) -1 else max(night)
}

# "8:05", "23:59:30", "6:49 PM"; hours beyond a day are no times of day.
read_clock <- function(text, decimal) {
  pattern <- "^([0-9]{1,2}):([0-5][0-9])(:([0-5][0-9]))?( ?([AaPp])[.]?[Mm][.]?)?$"
  given <- text[!is.na(text)]
  if (!length(given) || !all(grepl(pattern, given))) return(NULL)
  parts <- do.call(rbind, regmatches(given, regexec(pattern, given)))
  hours <- as.numeric(parts[, 2])
  half <- tolower(parts[, 7])
  if (any(hours > ifelse(nzchar(half), 12, 23)) || any(nzchar(half)) && any(hours[nzchar(half)] == 0)) return(NULL)
  hours <- ifelse(half == "p", hours %% 12 + 12, ifelse(half == "a", hours %% 12, hours))
  seconds <- ifelse(nzchar(parts[, 5]), suppressWarnings(as.numeric(parts[, 5])), 0)
  minutes <- rep(NA_real_, length(text))
  minutes[!is.na(text)] <- hours * 60 + as.numeric(parts[, 3]) + seconds / 60
  late <- hours_of_night(minutes)
  minutes <- minutes + ifelse(!is.na(minutes) & minutes <= late, 1440, 0)
  told <- if (late >= 0) template(
    "; those up to %s count to the day before",
    sprintf("%d:%02d", late %/% 60, floor(late %% 60))
  )
  list(
    values = minutes, unit = "min after midnight",
    note = joined(template("times of day read as minutes after midnight"), told)
  )
}

#' Numbers that all carry the same unit: "44 kg", "$50", "1,200 \u20ac", "30kg"
#'
#' Letters without a space before them are a unit only where they are a known one of two letters or more: "7a" is a class.
#' @noRd
read_unit <- function(text, decimal) {
  given <- text[!is.na(text)]
  # Codes of ISO 4217 lead as well; other capitals before a number name a case.
  currencies <- paste(
    "USD|EUR|GBP|CHF|JPY|CNY|INR|BRL|MXN|CAD|AUD|NZD|SEK|NOK|DKK|PLN|CZK|HUF|RON|TRY|ZAR|KRW|SGD|HKD|ILS|THB|UAH|RUB",
    "R[$]|US[$]|A[$]|C[$]|NZ[$]|S[$]|kr[.]?|Fr[.]?|Rs[.]?|\u20b9|\u20a9|\u20ba|\u20bd|\u20aa|[$\u20ac\u00a3\u00a5]",
    sep = "|"
  )
  pattern <- paste0(
    "^(", currencies, "|) ?([-+]?[0-9][0-9., '\u2019]*?)",
    "( ?)(|[$\u20ac\u00a3\u00a5\u00b0]|[[:alpha:]\u00b5\u00b0/\u00b2\u00b3]{1,12})$"
  )
  parts <- regmatches(given, regexec(pattern, given, perl = TRUE))
  if (!length(given) || any(lengths(parts) == 0L)) return(NULL)
  parts <- do.call(rbind, parts)
  units <- unique(paste0(parts[, 2], parts[, 5]))
  if (length(units) != 1L || !nzchar(units)) return(NULL)
  glued <- grepl("[[:alpha:]]", units) && any(parts[, 4] == "")
  if (glued && !(nchar(units) > 1L && is_unit(units))) return(NULL)
  bare <- rep(NA_character_, length(text))
  bare[!is.na(text)] <- trimws(parts[, 3])
  values <- plain_numbers(bare, decimal, comma = TRUE)
  if (is.numeric(values)) list(values = values, unit = units, note = template("the unit \"%s\" taken off each value", units))
}

read_dates <- function(text, decimal) {
  text <- sub("([0-9]:[0-9]{2})[.,][0-9]+", "\\1", text)
  text <- sub("((?:[0-9]|[AaPp][Mm])) ?(?:Z|GMT|UTC|[A-Z]{3,4})?(?:[-+][0-9]{1,2}:?(?:[0-9]{2})?)?$", "\\1", text,
    perl = TRUE
  )
  given <- text[!is.na(text)]
  if (all(grepl("^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}[ T][0-9]{1,2}:[0-9]{2}(:[0-9]{2})?Z?$", given))) {
    text <- sub("T", " ", sub("Z$", "", text))
    short <- grepl(" [0-9]{1,2}:[0-9]{2}$", text)
    moments <- as.POSIXct(ifelse(short, paste0(text, ":00"), text), tz = "UTC", format = "%Y-%m-%d %H:%M:%S")
    return(list(values = moments, note = template("read as dates with time")))
  }
  if (!length(given)) return(NULL)
  clock <- " +[0-9]{1,2}:[0-9]{2}(:[0-9]{2})?( ?[AaPp]\\.?[Mm]\\.?)?$"
  timed <- all(grepl(clock, given))
  days <- if (timed) sub(clock, "", text) else text
  order <- date_order(days[!is.na(text)])
  if (is.null(order)) return(NULL)
  values <- as.Date(days, order)
  if (anyNA(values[!is.na(text)])) return(NULL)
  if (timed) {
    minutes <- read_clock(regmatches(given, regexpr("[0-9]{1,2}:.*$", given)), decimal)
    if (is.null(minutes)) return(NULL)
    values <- as.POSIXct(format(values), tz = "UTC")
    values[!is.na(text)] <- values[!is.na(text)] + minutes$values * 60
  }
  told <- c(
    "%Y-%m-%d" = "year-month-day", "%Y/%m/%d" = "year/month/day", "%d.%m.%Y" = "day.month.year",
    "%d/%m/%Y" = "day/month/year",
    "%m/%d/%Y" = "month/day/year"
  )
  list(values = values, note = template("read as dates%s (%s)", if (timed) template(" with time") else "", told[[order]]))
}

#' The order of day, month and year; where slashes leave it open it is not guessed
#' @noRd
date_order <- function(given) {
  if (all(grepl("^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}$", given))) return("%Y-%m-%d")
  if (all(grepl("^[0-9]{4}/[0-9]{1,2}/[0-9]{1,2}$", given))) return("%Y/%m/%d")
  if (all(grepl("^[0-9]{1,2}[.][0-9]{1,2}[.][0-9]{4}$", given))) return("%d.%m.%Y")
  if (!all(grepl("^[0-9]{1,2}/[0-9]{1,2}/[0-9]{4}$", given))) return(NULL)
  parts <- do.call(rbind, strsplit(given, "/", fixed = TRUE))
  first <- max(as.integer(parts[, 1]))
  second <- max(as.integer(parts[, 2]))
  if (first > 12 && second <= 12) "%d/%m/%Y" else if (second > 12 && first <= 12) "%m/%d/%Y"
}
