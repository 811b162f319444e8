# Dates and moments as they are written. The grammar, with [] for what may be absent:
#
#   moment   = [weekday] date [("T" | " " | ", ") time [zone]]
#   date     = year-month-day | year/month/day | year.month.day | day.month.year | day/month/year | month/day/year
#            | day-month-year | month-day-year | day month-name year | month-name day, year | year-Wweek-day
#            | yearmonthday, year-day-of-year (before "T" alone)
#   time     = hour:minute[:second[.fraction]] [am | pm] | hourminute[second[.fraction]] (after "T" alone) | hour "h" minute
#   zone     = "Z" | "UTC" | "GMT" | (+ | -)hour[[:]minute] | a name of a zone
#
# A column is read where all its cells are one moment each, and every form that it uses is settled: of 03/04/2024 the other
# cells tell whether the day or the month comes first. Else it stays text, and the reason is told.

weekday_names <- paste(
  "(?:mon|tue|wed|thu|fri|sat|sun|mo|di|mi|do|fr|sa|so|lun|mar|mer|jeu|ven|sam|dim|mie|jue|vie|sab|dom|gio|",
  "ma|wo|vr|za|zo)[[:alpha:]]{0,9}[.]?,? +",
  sep = ""
)

date_grammar <- c(
  numbers = "[0-9]{1,4}[-/.][0-9]{1,2}[-/.][0-9]{1,4}[.]?", week = "[0-9]{4}-?W[0-9]{2}-?[1-7]",
  compact = "[0-9]{7,8}(?=T)|[0-9]{4}-[0-9]{3}(?=T)",
  day_word = "[0-9]{1,2}(?:st|nd|rd|th|[.])?(?: de)?[ -]?\\p{L}{3,12}[.]?,?(?: de)?[ -]?[0-9]{4}",
  word_day = "\\p{L}{3,12}[.]? [0-9]{1,2}(?:st|nd|rd|th)?,? [0-9]{4}"
)

time_grammar <- paste0(
  "[0-9]{1,2}(?::| ?h ?)[0-9]{2}(?::[0-9]{2}(?:[.,][0-9]+)?)?(?: ?[ap][.]?m[.]?)?(?: Uhr)?",
  "|(?<=T)[0-9]{4}(?:[0-9]{2}(?:[.,][0-9]+)?)?"
)

zone_grammar <- "(?:UTC|GMT)?[-+\u2212][0-9]{1,2}(?::?[0-9]{2})?|[A-Z]{1,5}"

moment_grammar <- sprintf(
  "(*UTF)^(?i:%s)?((?i:%s))(?:(?:T|,? +)((?i:%s))(?: ?(%s))?)?$", weekday_names, paste(date_grammar, collapse = "|"),
  time_grammar, zone_grammar
)

#' A column of dates, or of dates with times
#' @return As from [convert_text()]; `NULL` where most cells are nothing of the kind.
#' @noRd
read_dates <- function(text, decimal) {
  at <- which(!is.na(text))
  some <- text[at[even_places(length(at), 300L)]]
  if (!length(at) || mean(grepl(moment_grammar, some, perl = TRUE)) < 0.9) return(NULL)
  given <- text[at]
  parts <- regmatches(given, regexec(moment_grammar, given, perl = TRUE))
  other <- lengths(parts) == 0L
  if (any(other)) return(keep_text(text, template("\"%s\" is not a date", given[other][1])))
  part <- function(k) vapply(parts, `[[`, "", k)
  days <- days_of_dates(part(2), timed = length(unique(part(3))) > 5L)
  if (isTRUE(days$open)) return(NULL)
  if (!is.null(days$trouble)) return(keep_text(text, template("\"%s\" is not a date", days$trouble)))
  timed <- nzchar(part(3))
  if (!any(timed)) {
    values <- structure(rep(NA_real_, length(text)), class = "Date")
    values[at] <- structure(days$days, class = "Date")
    return(list(values = values, note = template("read as dates (%s)", shown(days$order, "date_order"))))
  }
  seconds <- seconds_of_times(part(3))
  if (anyNA(seconds[timed])) {
    return(keep_text(text, template("\"%s\" is not a time of day", given[timed & is.na(seconds)][1])))
  }
  zones <- offsets_of_zones(part(4)[timed])
  if (!is.null(zones$trouble)) return(keep_text(text, zones$trouble))
  moments <- as.double(days$days) * 86400 + ifelse(timed, seconds, 0)
  moments[timed] <- moments[timed] - zones$offset
  values <- rep(NA_real_, length(text))
  values[at] <- moments
  notes <- list(zones$note, if (!all(timed)) template("; midnight if no time is given"))
  list(
    values = structure(values, class = c("POSIXct", "POSIXt"), tzone = "UTC"),
    note = do.call(joined, c(
      list(template("read as dates with time (%s)", shown(days$order, "date_order"))), Filter(Negate(is.null), notes)
    ))
  )
}

#' Dates as days since 1970
#' @param timed Whether they are moments at many times of the day.
#' @return A list: `days`, `order` (of what they consist, in words); or `trouble`, a cell that is no date, or
#'   `open` where nothing tells whether the day or the month comes first.
#' @noRd
days_of_dates <- function(dates, timed = FALSE) {
  kind <- rep(NA_character_, length(dates))
  for (name in names(date_grammar)) {
    open <- is.na(kind)
    pattern <- sprintf("(*UTF)^(?i:%s)$", gsub("(?=T)", "", date_grammar[[name]], fixed = TRUE))
    kind[open & grepl(pattern, dates, perl = TRUE)] <- name
  }
  days <- rep(NA_real_, length(dates))
  orders <- character()
  for (name in unique(kind)) {
    mine <- which(kind == name)
    read <- date_readers[[name]](dates[mine], timed)
    if (!is.null(read$trouble) || isTRUE(read$open)) return(read)
    if (anyNA(read$days)) return(list(trouble = dates[mine][is.na(read$days)][1]))
    days[mine] <- read$days
    orders <- c(orders, read$order)
  }
  list(days = days, order = paste(unique(orders), collapse = "; "))
}

date_readers <- list(
  numbers = function(dates, timed) days_of_numbers(dates, timed),
  week = function(dates, timed) {
    parts <- digits_of(dates, "^([0-9]{4})-?W([0-9]{2})-?([1-7])$")
    monday <- round(week_number(parts[, 1], parts[, 2]) * 7)
    last <- round(week_number(parts[, 1] + 1, 1) * 7)
    list(days = ifelse(parts[, 2] >= 1 & monday < last, monday + parts[, 3] - 1, NA), order = "year-week-day")
  },
  compact = function(dates, timed) {
    of_year <- grepl("^([0-9]{7}|[0-9]{4}-[0-9]{3})$", dates)
    days <- rep(NA_real_, length(dates))
    parts <- digits_of(dates[of_year], "^([0-9]{4})-?([0-9]{3})()$")
    long <- days_of_civil(parts[, 1] + 1, 1, 1) - days_of_civil(parts[, 1], 1, 1)
    days[of_year] <- ifelse(parts[, 2] >= 1 & parts[, 2] <= long, days_of_civil(parts[, 1], 1, 1) + parts[, 2] - 1, NA)
    parts <- digits_of(dates[!of_year], "^([0-9]{4})([0-9]{2})([0-9]{2})$")
    days[!of_year] <- days_of_civil(parts[, 1], parts[, 2], parts[, 3])
    list(days = days, order = if (all(of_year)) "year-day" else "year, month, day")
  },
  day_word = function(dates, timed) {
    pattern <- "(*UTF)^([0-9]{1,2})(?:st|nd|rd|th)?[ .-]*(?:de )?(\\p{L}{3,})[^0-9]*([0-9]{4})$"
    parts <- regmatches(dates, regexec(pattern, dates, perl = TRUE))
    days_of_words(parts, 2, 3, 4, "day month year")
  },
  word_day = function(dates, timed) {
    parts <- regmatches(dates, regexec("(*UTF)^(\\p{L}+)[. ]+([0-9]{1,2})[^0-9]*([0-9]{4})$", dates, perl = TRUE))
    days_of_words(parts, 3, 2, 4, "month day year")
  }
)

digits_of <- function(dates, pattern) {
  fields <- regmatches(dates, regexec(pattern, dates, ignore.case = TRUE))
  matrix(as.numeric(unlist(lapply(fields, `[`, -1))), ncol = 3L, byrow = TRUE)
}

days_of_words <- function(parts, day, month, year, order) {
  part <- function(k) vapply(parts, `[`, "", k)
  list(days = days_of_civil(as.numeric(part(year)), month_number(part(month)), as.numeric(part(day))), order = order)
}

#' Days since 1970 of a date of the Gregorian calendar; `NA` for one that there is not
#' @noRd
days_of_civil <- function(year, month, day) {
  leap <- year %% 4 == 0 & (year %% 100 != 0 | year %% 400 == 0)
  longest <- c(31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)[ifelse(month %in% 1:12, month, NA)] + (leap & month == 2)
  sound <- !is.na(longest) & day >= 1 & day <= longest
  # Years from March on, so that the leap day is the last.
  shifted <- year - (month <= 2)
  era <- shifted %/% 400
  of_era <- shifted - era * 400
  of_year <- (153 * (month + ifelse(month > 2, -3, 9)) + 2) %/% 5 + day - 1
  days <- era * 146097 + of_era * 365 + of_era %/% 4 - of_era %/% 100 + of_year - 719468
  ifelse(sound, days, NA)
}

#' Three numbers: year first where it has four digits; a dot puts the day first; else the cells have to tell
#' @noRd
days_of_numbers <- function(dates, timed = FALSE) {
  dates <- sub("[.]$", "", dates)
  marks <- gsub("[0-9]", "", dates)
  days <- rep(NA_real_, length(dates))
  orders <- character()
  parts <- matrix(unlist(strsplit(dates, "[-/.]")), nrow = 3)
  long <- nchar(parts)
  shape <- ifelse(long[1, ] == 4L & long[3, ] <= 2L, "first", ifelse(long[1, ] <= 2L & long[3, ] == 4L, "last", ifelse(
    long[1, ] <= 2L & long[3, ] == 2L, "short", "none"
  )))
  odd <- substr(marks, 1, 1) != substr(marks, 2, 2) | shape == "none" | shape == "short" & grepl("-", marks)
  # Three numbers of another kind are codes or versions.
  if (any(odd)) return(if (mean(odd) > 0.1) list(open = TRUE) else list(trouble = dates[odd][1]))
  values <- matrix(as.numeric(parts), nrow = 3)
  for (group in unique(paste(shape, substr(marks, 1, 1)))) {
    mine <- which(paste(shape, substr(marks, 1, 1)) == group)
    order <- order_of_numbers(values[, mine, drop = FALSE], shape[mine[1]], substr(marks[mine[1]], 1, 1), timed)
    if (is.null(order)) return(list(open = TRUE))
    year <- values[match("year", order), mine]
    if (shape[mine[1]] == "short") year <- whole_year(year)
    days[mine] <- days_of_civil(year, values[match("month", order), mine], values[match("day", order), mine])
    order_words <- paste(order, collapse = substr(marks[mine[1]], 1, 1))
    orders <- c(orders, if (shape[mine[1]] == "short") paste0(order_words, ", years from 1950 to 2049") else order_words)
  }
  list(days = days, order = paste(orders, collapse = "; "))
}

#' The order of day, month and year; where the numbers leave it open it is not guessed
#' @param values Three rows of numbers; `shape` where the year stands; `mark` between them.
#' @noRd
order_of_numbers <- function(values, shape, mark, timed = FALSE) {
  if (shape == "first") return(c("year", "month", "day"))
  if (mark == ".") return(c("day", "month", "year"))
  orders <- list(c("day", "month", "year"), c("month", "day", "year"), if (shape == "short") c("year", "month", "day"))
  possible <- Filter(function(order) {
    !is.null(order) && all(values[match("month", order), ] <= 12) && all(values[match("day", order), ] <= 31)
  }, orders)
  if (length(possible) == 1L) return(possible[[1]])
  # Moments of one day of many months, or days of as many years as a month has days: the other way they lie together.
  reach <- vapply(possible, function(order) {
    year <- values[match("year", order), ]
    days <- days_of_civil(whole_year(year), values[match("month", order), ], values[match("day", order), ])
    if (length(unique(days)) < 3L) NA_real_ else diff(range(days))
  }, 0)
  near <- which.min(reach)
  further <- vapply(possible, function(order) if (timed) 5 else if (order[1] == "year") 20 else Inf, 0)
  sure <- length(near) && ncol(values) >= 10L && !anyNA(reach) && all((reach >= further * reach[near])[-near])
  if (sure) possible[[near]]
}

whole_year <- function(year) year + ifelse(year >= 100, 0, ifelse(year < 50, 2000, 1900))

#' Times of day in seconds; `NA` for one that there is not
#' @noRd
seconds_of_times <- function(times) {
  times <- sub(" Uhr$", "", sub(" ?h ?", ":", times))
  times <- sub("^([0-9]{2})([0-9]{2})(([0-9]{2})([.,][0-9]+)?)?$", "\\1:\\2:\\4\\5", times)
  pattern <- "^([0-9]{1,2}):([0-9]{2}):?([0-9]{2}(?:[.,][0-9]+)?)?( ?([AaPp])[.]?[Mm][.]?)?$"
  parts <- regmatches(times, regexec(pattern, times, perl = TRUE))
  part <- function(k) vapply(parts, function(one) if (length(one)) one[k] else NA_character_, "")
  hour <- as.numeric(part(2))
  minute <- as.numeric(part(3))
  second <- as.numeric(sub(",", ".", ifelse(part(4) %in% "", "0", part(4)), fixed = TRUE))
  half <- tolower(part(6))
  halved <- half %in% c("a", "p")
  total <- ifelse(halved, hour %% 12 + 12 * (half %in% "p"), hour) * 3600 + minute * 60 + second
  # Midnight may be written as the end of a day, and a leap second as the sixtieth.
  sound <- minute <= 59 & second < 61 & total <= 86400 & ifelse(halved, hour >= 1 & hour <= 12, hour <= 24)
  ifelse(sound %in% TRUE, total, NA)
}

# Zones whose names tell one offset among those of their own family, in hours.
zone_families <- list(
  c(UTC = 0, GMT = 0, Z = 0), c(GMT = 0, BST = 1), c(GMT = 0, IST = 1), c(WET = 0, WEST = 1), c(CET = 1, CEST = 2),
  c(MEZ = 1, MESZ = 2), c(EET = 2, EEST = 3), c(EST = -5, EDT = -4), c(CST = -6, CDT = -5), c(MST = -7, MDT = -6),
  c(PST = -8, PDT = -7), c(AKST = -9, AKDT = -8), c(AST = -4, ADT = -3), c(AEST = 10, AEDT = 11), c(NZST = 12, NZDT = 13)
)

#' What zones take off to give one clock for all
#' @return A list: `offset` in seconds, `note`; or `trouble`, why the times are not on one clock.
#' @noRd
offsets_of_zones <- function(zones) {
  none <- !nzchar(zones)
  if (all(none)) return(list(offset = 0))
  if (any(none)) return(list(trouble = template("some of its times have a time zone and others none")))
  kinds <- unique(zones)
  numbers <- grepl("[0-9]", zones)
  offset <- rep(0, length(zones))
  if (any(numbers)) {
    written <- sub("\u2212", "-", sub("^(UTC|GMT)", "", zones[numbers]), fixed = TRUE)
    hours <- as.numeric(sub("^[-+]([0-9]{1,2}).*$", "\\1", written))
    minutes <- suppressWarnings(as.numeric(sub("^[-+][0-9]{1,2}:?", "", written)))
    minutes[is.na(minutes)] <- 0
    if (any(hours > 15 | minutes > 59)) return(list(trouble = template("\"%s\" is not a time zone", zones[numbers][1])))
    offset[numbers] <- ifelse(startsWith(written, "-"), -1, 1) * (hours * 3600 + minutes * 60)
  }
  named <- unique(zones[!numbers])
  family <- Find(function(family) all(named %in% names(family)), zone_families)
  if (length(named) && is.null(family)) {
    if (length(kinds) == 1L) return(list(offset = 0, note = template("; as they stand, in %s", named)))
    return(list(trouble = template("its times are in different time zones (%s)", paste(named, collapse = ", "))))
  }
  if (length(kinds) == 1L && !any(numbers) && all(family[named] != 0)) {
    return(list(offset = 0, note = template("; as they stand, in %s", named)))
  }
  offset[!numbers] <- family[zones[!numbers]] * 3600
  list(offset = offset, note = if (any(offset != 0)) template("; all in UTC"))
}
