# Times of day and durations as they are written.

duration_words <- c(
  "mm:ss", "durations?", "times? (taken|spent|to)", "(total|completion|response|reading|reaction|running) ?time",
  "length", "lasted", "[0-9]+ ?(m|km|mi|miles?|yd|yards|meters|metres)( (run|swim|race|walk|sprint|row))?( times?)?",
  "lap times?",
  "(race|finish(ing)?|split|chip|gun|net|best|winning|swim|run|bike|sleep|screen|travel|study|journey) ?times?", "sleep",
  "slept", "commute", "schlaf", "sommeil", "sue\u00f1o", "sonno", "slaap",
  "\\w*dauer", "\\w*zeit", "dur\u00e9e", "duraci\u00f3n", "durata", "dura\u00e7\u00e3o", "duur", "minutes?", "min"
)

hour_words <- paste0(
  "\\bh\\b|hours?|stunden|heures?|horas|\\bore\\b|\\buur\\b|\\bsle(ep|pt)|schlaf|sommeil|sue\u00f1o|sonno|slaap|",
  "(screen|study|travel) ?time|marathon"
)

# Headings of moments of the day, not of how long something took.
clock_words <- paste0(
  "\\b(bed ?times?|went|going|gone|wake|woke|waking|got up|getting up|rise|start(s|ed)?|begins?|began|ends?|ended|",
  "onset|offset|arriv\\w*|depart\\w*|leave|left|clock|o'?clock|time of day|at what time|what time|when|uhrzeit|uhr|beginn|",
  "ende|ankunft|abfahrt|heure d\\w*|hora de|ora di|um wie viel)\\b"
)

#' Minutes and seconds, or hours, minutes and seconds, that something lasted, where the heading says so
#' @noRd
lasting_as <- function(name) {
  name <- gsub("[_.]+", " ", name)
  lasting <- grepl(paste0("(^|[^[:alpha:]])(", paste(duration_words, collapse = "|"), ")([^[:alpha:]]|$)"),
    tolower(name),
    perl = TRUE
  )
  lasting <- lasting && !grepl(clock_words, tolower(name), perl = TRUE)
  hours <- grepl(hour_words, tolower(name), perl = TRUE)
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
    list(values = minutes, unit = "min", note = template("durations (%s) read as minutes", template(form)))
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

#' "8:05", "23:59:30.5", "6:49 PM", "8h05"; hours beyond a day are no times of day
#'
#' Whether 7:24 is a time of day or how long something took is said only where the heading or the cells do.
#' @noRd
clock_as <- function(name) {
  of_day <- grepl(clock_words, tolower(gsub("[_.]+", " ", name)), perl = TRUE)
  function(text, decimal) read_clock(text, of_day)
}

read_clock <- function(text, of_day) {
  at <- which(!is.na(text))
  pattern <- "^[0-9]{1,2}(:| ?h ?)[0-9]{2}(:[0-9]{2}([.,][0-9]+)?)?( ?[AaPp][.]?[Mm][.]?)?( Uhr)?$"
  if (!length(at) || !all(grepl(pattern, text[at]))) return(NULL)
  if (any(as.numeric(sub("[^0-9].*$", "", text[at])) > 24)) return(NULL)
  seconds <- seconds_of_times(text[at])
  if (anyNA(seconds)) return(keep_text(text, template("\"%s\" is not a time of day", text[at][is.na(seconds)][1])))
  minutes <- rep(NA_real_, length(text))
  minutes[at] <- seconds / 60
  late <- hours_of_night(minutes)
  minutes <- minutes + ifelse(!is.na(minutes) & minutes <= late, 1440, 0)
  note <- if (late >= 0) template(
    "; those up to %s count to the day before",
    sprintf("%d:%02d", late %/% 60, floor(late %% 60))
  )
  of_day <- of_day || late >= 0 || any(grepl("[[:alpha:]]", gsub("(?i)h", "", text[at], perl = TRUE)))
  list(
    values = minutes, unit = if (of_day) "min after midnight" else "min",
    note = if (of_day) {
      joined(template("times of day read as minutes after midnight"), note)
    } else {
      template(if (any(grepl(":.*:", text[at]))) {
        "times (hours:minutes:seconds) read as minutes"
      } else {
        "times (hours:minutes) read as minutes"
      })
    }
  )
}

# ISO 8601 (PT1H30M), and hours, minutes and seconds with their words (1 h 30 min).
duration_forms <- c(
  "^P(?=[0-9T])(?:([0-9]+)W)?(?:([0-9]+)D)?(?:T(?=[0-9])(?:([0-9]+)H)?(?:([0-9]+)M)?(?:([0-9]+(?:[.,][0-9]+)?)S)?)?$",
  paste0(
    "^(?i:()(?:([0-9]+) ?(?:d|days?|tage?))?,? ?(?:([0-9]+) ?(?:h|hrs?|hours?|std[.]?|stunden?))?,? ?",
    "(?:([0-9]+) ?(?:m|mins?|min[.]|minutes?|minuten?))?,? ?",
    "(?:([0-9]+(?:[.,][0-9]+)?) ?(?:s|secs?|seconds?|sek[.]?|sekunden?))?)$"
  )
)

#' Durations in words or by ISO 8601, as minutes; those of months and years have no fixed length and stay text
#' @noRd
read_durations <- function(text, decimal) {
  given <- text[!is.na(text)]
  if (!length(given) || !grepl("^P|[0-9] ?[[:alpha:]]", given[1])) return(NULL)
  for (form in duration_forms) {
    parts <- captured(given, form)
    if (is.null(parts)) next
    # One unit throughout is a unit and no form of its own.
    if (!startsWith(form, "^P") && !any(rowSums(parts != "") > 1L) && sum(colSums(parts != "") > 0L) == 1L) return(NULL)
    counts <- matrix(as.numeric(sub(",", ".", ifelse(parts == "", "0", parts), fixed = TRUE)), ncol = 5L)
    minutes <- in_places(text, counts %*% c(10080, 1440, 60, 1, 1 / 60))
    return(list(values = minutes, unit = "min", note = template("durations read as minutes")))
  }
  NULL
}
