# Time as researchers write it, put onto an even grid of periods.

#' The grid of some times, even where they allow one
#'
#' @param values Years, dates, or text such as "2019 Q3", "2019-07", "2019-W28", "2019/20".
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
      hint = "Years, dates, or text such as 2019 Q3, 2019-07, 2019-W28, 2019/20."
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
  all_like <- function(pattern) all(grepl(pattern, given, ignore.case = TRUE))
  part <- function(pattern, k) as.numeric(sub(pattern, paste0("\\", k), text, ignore.case = TRUE))
  quarter <- "^([0-9]{4})[ ./-]*q([1-4])$"
  month <- "^([0-9]{4})[./-]([0-9]{1,2})$"
  week <- "^([0-9]{4})[ ./-]*w([0-9]{1,2})$"
  school <- "^([0-9]{4})/([0-9]{2}|[0-9]{4})$"
  day <- "^[0-9]{4}-[0-9]{2}-[0-9]{2}$"
  if (all_like("^[0-9]{4}$")) return(out(as.numeric(text), "year"))
  if (all_like(quarter)) return(out(part(quarter, 1) * 4 + part(quarter, 2), "quarter", 4L))
  if (all_like(school) && all(follows(given, school))) return(out(part(school, 1), "school year"))
  if (all_like(month)) {
    months <- part(month, 2)
    if (all(months %in% 1:12 | is.na(months))) return(out(part(month, 1) * 12 + months, "month", 12L))
  }
  if (all_like(week)) return(out(week_number(part(week, 1), part(week, 2)), "week"))
  if (all_like(day)) {
    dates <- as.Date(text, "%Y-%m-%d")
    if (!anyNA(dates[!is.na(text)])) return(periods_of_dates(dates))
  }
  NULL
}

all_years <- function(values) all(values == round(values) & values > 1000 & values < 3000, na.rm = TRUE)

# "2019/20" is a school year, "2019/07" a month.
follows <- function(text, pattern) {
  first <- as.numeric(sub(pattern, "\\1", text))
  second <- as.numeric(sub(pattern, "\\2", text))
  second == (first + 1) %% 100 | second == first + 1
}

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
