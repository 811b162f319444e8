# Time as researchers write it, put onto an even grid of periods.

#' The grid of some times, even where they allow one
#'
#' @param values Years, dates, or text such as "2019 Q3", "2019-07", "Jul 2019", "2019-W28", "2019/20".
#' @param name The variable's name, `rows` the rows in the file, for messages.
#' @return A list: `place(v)` (puts values onto the grid in order of time, `NA` where a period lacks one), `times` (of
#'   the grid), `step` (the name of a period), `season` (periods in a year to be taken out, 1 for none), `seek` (whether
#'   one may be looked for), `too_short` (for two of its years), `sorted` (whether the rows were in order), `gaps` (the
#'   places of periods missing), `labels`, `uneven` (whether the steps differ). Or a list with `trouble` (a sentence) and
#'   `hint`.
#' @noRd
time_grid <- function(values, name, rows = seq_along(values)) {
  read <- read_times(values)
  if (is.null(read)) return(time_trouble$unread(values, name))
  known <- which(!is.na(read$at))
  at <- read$at[known]
  if (anyDuplicated(at)) return(time_trouble$repeated(values[known], at, rows[known], name))
  order <- order(at)
  steps <- diff(at[order])
  if (!length(steps)) return(list(trouble = sprintf("%s has fewer than two times.", name), hint = "Eight are needed."))
  unit <- min(steps)
  whole <- steps / unit
  uneven <- abs(whole - round(whole)) > pmin(0.02 * whole, 0.2)
  if (any(uneven) && max(steps) > 300 * stats::median(steps)) {
    return(time_trouble$sparse(length(at), (max(at) - min(at)) / stats::median(steps), name))
  }
  if (any(uneven)) return(uneven_times(at[order], known[order], values, is.unsorted(at)))
  places <- c(1, 1 + cumsum(round(whole)))
  length <- places[length(places)]
  if (length > 1000 + 10 * length(places)) return(time_trouble$sparse(length(places), length, name))
  index <- known[order]
  season <- if (unit == 1 && length >= 2 * read$season) read$season else 1L
  list(
    place = function(v) {
      out <- rep(NA_real_, length)
      out[places] <- v[index]
      out
    },
    times = at[order][1] + unit * (seq_len(length) - 1),
    step = if (unit == 1) read$step else sprintf("%s %ss", format(unit), read$step),
    season = season, seek = season == 1L,
    too_short = unit == 1 && length < 2 * read$season,
    sorted = !is.unsorted(at), gaps = setdiff(seq_len(length), places),
    labels = replace(rep(NA_character_, length), places, as.character(values[index])), index = index, uneven = FALSE
  )
}

# Times in uneven steps stand one after another, each at its own time.
uneven_times <- function(at, index, values, unsorted) {
  list(
    place = function(v) as.double(v[index]), times = at, step = "time", season = 1L, seek = FALSE, too_short = FALSE,
    sorted = !unsorted, gaps = integer(), labels = as.character(values[index]), index = index, uneven = TRUE
  )
}

# What may be wrong with a time, and what to do about it.
time_trouble <- list(
  unread = function(values, name) {
    first <- as.character(values[!is.na(values)][1])
    list(
      trouble = sprintf("%s is no time that can be read: \"%s\".", name, first),
      hint = "Years, dates, or text such as 2019 Q3, 2019-07, Jul 2019, 2019-W28, 2019/20."
    )
  },
  repeated = function(values, at, rows, name) {
    first <- which(duplicated(at) | duplicated(at, fromLast = TRUE))[1]
    where <- paste(rows[at == at[first]], collapse = ", ")
    list(
      trouble = sprintf("%s holds %s more than once (rows %s).", name, as.character(values[first]), where),
      hint = "Give one row a period, or name the groups whose rows these are (--group)."
    )
  },
  sparse = function(there, of, name) {
    text <- "%s lacks nearly all of its periods: %d are there, of %s."
    list(
      trouble = sprintf(text, name, there, format(of, big.mark = ",", digits = 6)),
      hint = "Is one of the times mistyped?"
    )
  }
)

#' Times as whole numbers of periods, or `NULL`
#' @noRd
read_times <- function(values) {
  out <- function(at, step, season = 1L) list(at = at, step = step, season = season)
  if (inherits(values, "POSIXt")) values <- as.Date(values)
  if (inherits(values, "Date")) return(periods_of_dates(values))
  if (is.numeric(values)) return(out(as.double(values), if (all_years(values)) "year" else "period"))
  text <- trimws(as.character(values))
  given <- text[!is.na(text)]
  if (!length(given)) return(NULL)
  if (all(grepl("^[0-9]{4}$", given))) return(out(as.numeric(text), "year"))
  for (form in period_forms) {
    parts <- regmatches(given, regexec(form$pattern, given, ignore.case = TRUE, perl = TRUE))
    if (any(lengths(parts) != 3L)) next
    parts <- do.call(rbind, parts)
    year <- as.numeric(parts[, 1L + form$year])
    at <- if (all(year > 1000 & year < 3000)) form$at(year, parts[, 4L - form$year])
    if (is.null(at) || anyNA(at)) next
    return(out(replace(rep(NA_real_, length(text)), !is.na(text), at), form$step, form$season))
  }
  if (all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", given))) {
    dates <- as.Date(text, "%Y-%m-%d")
    if (!anyNA(dates[!is.na(text)])) return(periods_of_dates(dates))
  }
  NULL
}

#' How periods are written: a pattern of two parts, which of them is the year, and the place in time of both
#' @noRd
period_forms <- local({
  quarter <- function(year, part) year * 4 + as.numeric(part)
  school <- function(year, part) if (all(follows(year, as.numeric(part)))) year
  month <- function(year, part) if (all(as.numeric(part) %in% 1:12)) year * 12 + as.numeric(part)
  named <- function(year, part) year * 12 + month_number(part)
  week <- function(year, part) if (all(as.numeric(part) %in% 1:53)) week_number(year, as.numeric(part))
  form <- function(pattern, step, at, year = 1L, season = 1L) {
    list(pattern = pattern, step = step, at = at, year = year, season = season)
  }
  list(
    form("^([0-9]{4})[ ./-]*[qt]([1-4])$", "quarter", quarter, season = 4L),
    form("^[qt]([1-4])[ ./-]*([0-9]{4})$", "quarter", quarter, 2L, 4L),
    form("^([1-4])[.]? ?(?:quart|trimest)\\p{L}*[ ./-]*([0-9]{4})$", "quarter", quarter, 2L, 4L),
    form("^([0-9]{4})[/\u2013-]([0-9]{2}|[0-9]{4})$", "school year", school),
    form("^([0-9]{4})[ ]?[./m-]([0-9]{1,2})$", "month", month, season = 12L),
    form("^([0-9]{1,2})[./-]([0-9]{4})$", "month", month, 2L, 12L),
    form("^(\\p{L}{3,10})[.]?[ ./-]*([0-9]{4})$", "month", named, 2L, 12L),
    form("^([0-9]{4})[ ./-]*(\\p{L}{3,10})[.]?$", "month", named, season = 12L),
    form("^([0-9]{4})[ ./-]*k?w([0-9]{1,2})$", "week", week),
    form("^k?w[ ]?([0-9]{1,2})[ ./-]+([0-9]{4})$", "week", week, 2L)
  )
})

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

#' Whether a column of text holds periods that can be nothing else, such as 2019 Q3 or Mar 2020
#' @noRd
holds_periods <- function(column) {
  if (!is.character(column) || length(column) < 3L) return(FALSE)
  read <- if (looks_periodic(column[!is.na(column)][1])) read_times(column)
  !is.null(read) && read$step != "year" && length(unique(read$at[!is.na(read$at)])) >= 3L
}

# One cell settles it for most columns.
looks_periodic <- function(cell) !is.na(cell) && grepl("[0-9]{4}", cell) && nchar(cell) <= 16L

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
  out <- function(at, step, season = 1L) list(at = at, step = step, season = season)
  days <- as.integer(dates)
  known <- sort(unique(days[!is.na(days)]))
  month_day <- as.integer(format(dates, "%d"))
  months <- as.integer(format(dates, "%Y")) * 12L + as.integer(format(dates, "%m"))
  if (length(unique(month_day[!is.na(month_day)])) == 1L && length(known) > 1L) {
    steps <- unique(diff(sort(unique(months))))
    if (all(steps %% 12L == 0L)) return(out(months / 12, "year"))
    if (all(steps %% 3L == 0L)) return(out(months / 3, "quarter", 4L))
    return(out(months, "month", 12L))
  }
  if (length(known) > 1L && all(diff(known) %% 7L == 0L)) return(out(days / 7, "week"))
  out(days, "day")
}
