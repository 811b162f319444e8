# How periods of time are written: quarters, months, weeks, school years, half-years and terms, in seven languages.

period_read <- function(at, step, season = 1L) list(at = at, step = step, season = as.integer(season))

# How the names of the months begin in English, German, French, Spanish, Portuguese, Italian and Dutch.
month_number <- function(words) {
  starts <- strsplit(c(
    "jan ene gen", "feb fev", "mar maa mrt", "apr avr abr", "may mai mei mag", "jun juin giu", "jul juil lug",
    "aug aou ago", "sep set", "okt oct ott out", "nov", "dec dez dic"
  ), " ")
  words <- bare_words(words)
  # "juin" and "juil" are told apart by four letters, the others by three.
  vapply(words, function(word) {
    hit <- vapply(starts, function(one) any(startsWith(word, one)), NA)
    if (sum(hit) == 1L) which(hit) else NA_integer_
  }, 0L, USE.NAMES = FALSE)
}

# "2019/1" and "2019/2", "T1 2019" to "T3 2019": the last of them ends the year.
parts_of_year <- function(year, part) {
  part <- as.numeric(part)
  of_year <- max(part)
  if (!of_year %in% 2:4 || length(unique(year)) < 2L) return(NULL)
  period_read(year * of_year + part, c("half-year", "school term", "quarter")[of_year - 1L], of_year)
}

#' Spring, summer and autumn as parts of a year; the winter belongs to two
#' @noRd
season_terms <- function(year, part) {
  at <- vapply(bare_words(part), function(word) {
    which(vapply(season_words, function(words) word %in% words, NA))[1]
  }, 0L, USE.NAMES = FALSE)
  if (anyNA(at)) return(NULL)
  if (any(at == 2L)) period_read(year * 3 + at, "school term", 3L) else period_read(year * 2 + (at == 3L), "half-year", 2L)
}

season_words <- list(
  c("spring", "fruhling", "fruhjahr", "printemps", "primavera", "lente", "voorjaar"),
  c("summer", "sommer", "ete", "verano", "estate", "verao", "zomer"),
  c("fall", "autumn", "herbst", "automne", "otono", "autunno", "outono", "herfst", "najaar")
)

# "19" is 2019, "98" is 1998.
full_year <- function(text) {
  year <- as.numeric(text)
  ifelse(nchar(text) > 2L, year, year + ifelse(year < 70, 2000, 1900))
}

#' Times that come as numbers: years, 2019.25, 2019.1 (a part of the year), 201903, 20190315, or mere counts
#' @noRd
periods_of_numbers <- function(values) {
  values <- as.double(values)
  known <- values[!is.na(values)]
  if (all_years(values)) return(period_read(values, "year"))
  whole <- function(v) all(abs(v - round(v)) < 0.02)
  if (all(known > 1800 & known < 2200)) {
    part <- known * 10 - 10 * floor(known)
    if (whole(part) && all(round(part) %in% 1:4)) {
      read <- parts_of_year(floor(known), round(part))
      if (!is.null(read)) return(replace(read, "at", list(replace(values, !is.na(values), read$at))))
    }
    steps <- c("half-year" = 2L, quarter = 4L, month = 12L)
    for (step in names(steps)) {
      if (whole(known * steps[[step]])) return(period_read(round(values * steps[[step]]), step, steps[[step]]))
    }
  }
  if (all(known == round(known))) {
    months <- known %% 100
    if (all(known > 190000 & known < 220000 & months %in% 1:12)) {
      return(period_read(values %/% 100 * 12 + values %% 100, "month", 12L))
    }
    if (all(known > 19000000 & known < 22000000)) {
      dates <- as.Date(format(values, scientific = FALSE, trim = TRUE), "%Y%m%d")
      if (!anyNA(dates[!is.na(values)])) return(periods_of_dates(dates))
    }
  }
  period_read(values, "period")
}

#' Whether a column of text holds periods that can be nothing else, such as 2019 Q3 or Mar 2020
#' @noRd
holds_periods <- function(column) {
  if (!is.character(column) || length(column) < 3L) return(FALSE)
  known <- column[!is.na(column)]
  # One cell settles it for most columns. A mere number may mean anything, and so may T1, T2.
  if (!length(known) || !grepl("[0-9]", known[1]) || nchar(known[1]) > 24L || all(grepl("^[0-9]*$", known))) return(FALSE)
  read <- read_times(column)
  !is.null(read) && read$step != "period" && length(unique(read$at[!is.na(read$at)])) >= 3L
}

all_years <- function(values) all(values == round(values) & values > 1000 & values < 3000, na.rm = TRUE)

# "2019/20" is a school year, "2019/07" a month.
follows <- function(first, second) second == (first + 1) %% 100 | second == first + 1

# Weeks counted from a Monday, by the week that holds the fourth of January (ISO 8601).
week_number <- function(year, week) {
  fourth <- as.Date(sprintf("%04d-01-04", as.integer(year)))
  monday <- as.integer(fourth) - (as.integer(fourth) + 3L) %% 7L
  (monday + 7 * (week - 1)) / 7
}

periods_of_dates <- function(dates) {
  days <- as.integer(dates)
  known <- sort(unique(days[!is.na(days)]))
  month_day <- as.integer(format(dates, "%d"))
  months <- as.integer(format(dates, "%Y")) * 12L + as.integer(format(dates, "%m"))
  # The last day of a month is another one in each.
  if (all(format(dates[!is.na(dates)] + 1, "%d") == "01")) month_day <- 31L
  if (length(unique(month_day[!is.na(month_day)])) == 1L && length(known) > 1L) {
    steps <- unique(diff(sort(unique(months))))
    if (all(steps %% 12L == 0L)) return(period_read(months / 12, "year"))
    if (all(steps %% 3L == 0L)) return(period_read(months / 3, "quarter", 4L))
    return(period_read(months, "month", 12L))
  }
  if (length(known) > 1L && all(diff(known) %% 7L == 0L)) return(period_read(days / 7, "week"))
  period_read(days, "day")
}

#' Times of day as hours, minutes or seconds, where most follow one another in one step; else their days
#'
#' When somebody answered is a time, too, but no period of a series.
#' @noRd
periods_of_moments <- function(moments) {
  at <- as.double(moments)
  steps <- diff(sort(unique(at)))
  if (length(steps) < 2L || mean(steps == stats::median(steps)) < .8) return(periods_of_dates(as.Date(moments)))
  lengths <- c(hour = 3600, minute = 60, second = 1)
  fits <- vapply(lengths, function(length) all(steps %% length == 0), NA)
  if (!any(fits) || all(steps %% 86400 == 0)) return(periods_of_dates(as.Date(moments)))
  length <- lengths[fits][1]
  period_read(at %/% length, names(length), 86400 / length)
}

#' Times as whole numbers of periods
#' @return `NULL` where they are none, or a list: `at`, `step` (the name of a period), `season` (periods in a year or, of
#'   hours and less, in a day; 1 for none).
#' @noRd
read_times <- function(values) {
  if (inherits(values, "POSIXt")) return(periods_of_moments(values))
  if (inherits(values, "Date")) return(periods_of_dates(values))
  if (is.numeric(values)) return(periods_of_numbers(values))
  text <- trimws(as.character(values))
  given <- text[!is.na(text)]
  if (!length(given)) return(NULL)
  if (all(grepl("^[0-9]{4}$", given))) return(period_read(as.numeric(text), "year"))
  for (form in period_forms) {
    # Most forms are settled by one cell.
    if (!grepl(form$pattern, given[1], ignore.case = TRUE, perl = TRUE)) next
    parts <- regmatches(given, regexec(form$pattern, given, ignore.case = TRUE, perl = TRUE))
    if (any(lengths(parts) != 3L)) next
    parts <- do.call(rbind, parts)
    year <- if (!is.na(form$year)) full_year(parts[, 1L + form$year])
    read <- if (all(year > 1000 & year < 3000)) form$read(year, parts[, if (is.null(year)) 3L else 4L - form$year])
    if (is.null(read) || anyNA(read$at)) next
    read$at <- replace(rep(NA_real_, length(text)), !is.na(text), read$at)
    return(read)
  }
  if (all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", given))) {
    dates <- as.Date(text, "%Y-%m-%d")
    if (!anyNA(dates[!is.na(text)])) return(periods_of_dates(dates))
  }
  NULL
}

#' The ways to write periods: a pattern of two parts, which of them is the year, and what both say
#'
#' A `read` gives `NULL` where the parts are no such period after all.
#' @noRd
period_forms <- local({
  every <- function(step, of_year) {
    function(year, part) period_read(year * of_year + as.numeric(part), step, of_year)
  }
  school <- function(year, part) if (all(follows(year, as.numeric(part)))) period_read(year, "school year")
  alone <- function(year, part) period_read(year, "year")
  month <- function(year, part) {
    part <- as.numeric(part)
    if (all(part %in% 1:12)) period_read(year * 12 + part, "month", 12L)
  }
  named <- function(year, part) period_read(year * 12 + month_number(part), "month", 12L)
  # "Jan-20" may be a day of January: months follow one another.
  short <- function(year, part) {
    read <- named(year, part)
    if (!anyNA(read$at) && all(diff(sort(unique(read$at))) %in% c(1, 3))) read
  }
  week <- function(year, part) {
    part <- as.numeric(part)
    if (all(part %in% 1:53)) period_read(week_number(year, part), "week")
  }
  counted <- function(step) function(year, part) period_read(as.numeric(part), step)
  form <- function(pattern, read, year = 1L) list(pattern = pattern, read = read, year = year)
  between <- "[ ,'\u2019./-]*"
  full <- "([0-9]{4})"
  span <- "([0-9]{4})(?:[/\u2013-][0-9]{2,4})?"
  half <- "(?:h|hj|halbjahr|half|half-year|semester|sem|semestre)[.]?"
  era <- paste0(
    "(?:fy|ay|sy|school year|academic year|fiscal year|year|schuljahr|studienjahr|sj|jahr|ann\u00e9e|curso|a\u00f1o|",
    "ano|anno)"
  )
  starts <- "(ws|wise|wintersemester|ss|sose|sommersemester)"
  list(
    form(paste0("^", full, "[ ./-]*q([1-4])$"), every("quarter", 4L)),
    form("^q([1-4])(?:[ '\u2019./-]*(?=[0-9]{4}$)|[ '\u2019./-]+)([0-9]{4}|[0-9]{2})$", every("quarter", 4L), 2L),
    form("^([1-4])q[ '\u2019./-]*([0-9]{4}|[0-9]{2})$", every("quarter", 4L), 2L),
    form("^([1-4])[.]? ?(?:quart|trimest)\\p{L}*[ ./-]*([0-9]{4})$", every("quarter", 4L), 2L),
    form(paste0("^", span, between, half, " ?([12])$"), every("half-year", 2L)),
    form(paste0("^", half, " ?([12])", between, span, "$"), every("half-year", 2L), 2L),
    form(paste0("^([12])(?:[.]|st|nd|er?|[\u00ba\u00b0])? ?", half, between, span, "$"), every("half-year", 2L), 2L),
    form(paste0("^", span, between, "([12])(?:[.]|st|nd|er?|[\u00ba\u00b0])? ?", half, "$"), every("half-year", 2L)),
    form(paste0("^", starts, " ?([0-9]{4}|[0-9]{2})(?:[/\u2013-][0-9]{2,4})?$"), function(year, part) {
      period_read(year * 2 + startsWith(tolower(part), "w"), "semester", 2L)
    }, 2L),
    form(paste0("^", span, between, "(?:term|trimester|t) ?([1-4])$"), parts_of_year),
    form(paste0("^(?:term|trimester|t) ?([1-4])", between, span, "$"), parts_of_year, 2L),
    form(paste0("^", era, "?[ -]*", full, "[/\u2013-]([0-9]{2}|[0-9]{4})(?: school year| academic year)?$"), school),
    form(paste0("^", era, "[ -]*", full, "()$"), alone),
    form("^([0-9]{4})[/.-]([1-4])$", parts_of_year),
    form("^([0-9]{4})[ ]?[./m-]([0-9]{1,2})$", month),
    form("^([0-9]{1,2})[./-]([0-9]{4})$", month, 2L),
    form(paste0("^(\\p{L}{3,10})(?:[ -](?:term|semester))?[.]?", between, full, "$"), season_terms, 2L),
    form(paste0("^", full, between, "(\\p{L}{3,10})(?:[ -](?:term|semester))?$"), season_terms),
    form(paste0("^(\\p{L}{3,10})[.]?", between, full, "$"), named, 2L),
    form(paste0("^", full, between, "(\\p{L}{3,10})[.]?$"), named),
    form("^(\\p{L}{3,10})[.]?[ '\u2019./-]+([0-9]{2})$", short, 2L),
    form("^([0-9]{2})[ ./-]+(\\p{L}{3,10})[.]?$", short),
    form("^([0-9]{4})[ ./-]*k?w([0-9]{1,2})$", week),
    form("^(?:k?w|wk|week|woche|semaine|semana|settimana)[ ]?([0-9]{1,2})[ ,./-]+([0-9]{4})$", week, 2L),
    form("^(week|woche|semaine|semana|settimana|kw)[ .:_-]*([0-9]{1,3})$", counted("week"), NA),
    form("^(day|tag|jour|d\u00eda|dia|giorno|dag)[ .:_-]*([0-9]{1,4})$", counted("day"), NA),
    form("^(month|monat|mois|mes|mese|maand)[ .:_-]*([0-9]{1,3})$", counted("month"), NA),
    form("^(wave|welle|vague|ola|onda|golf)[ .:_-]*([0-9]{1,2})$", counted("wave"), NA),
    form("^(session|lesson|round|occasion|sitzung|runde|zeitpunkt|t)[ .:_-]*([0-9]{1,3})$", counted("period"), NA)
  )
})
