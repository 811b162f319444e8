# Time as researchers write it, put onto an even grid of periods.

#' The grid of some times, even where they allow one
#'
#' @param values Years, dates, or text such as "2019 Q3", "2019-07", "Jul 2019", "2019-W28", "2019/20", "Week 3".
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
  if (!length(steps)) {
    return(list(trouble = problem("%s has fewer than two times.", name), hint = problem("Eight are needed.")))
  }
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
  year <- read$season / unit
  if (year < 2 || year != round(year)) year <- 1
  season <- if (length >= 2 * year) as.integer(year) else 1L
  list(
    place = function(v) {
      out <- rep(NA_real_, length)
      out[places] <- v[index]
      out
    },
    times = at[order][1] + unit * (seq_len(length) - 1),
    step = name_step(unit, read$step),
    season = season, seek = season == 1L,
    too_short = length < 2 * year,
    sorted = !is.unsorted(at), gaps = setdiff(seq_len(length), places),
    labels = replace(rep(NA_character_, length), places, time_labels(values[index])), index = index, uneven = FALSE
  )
}

# As they are written, but for the seconds of a time of day.
time_labels <- function(values) {
  if (inherits(values, "POSIXt")) sub(":00$", "", format(values, "%Y-%m-%d %H:%M:%S")) else as.character(values)
}

# What several periods are called together: "quarter" for three months, "2 weeks".
name_step <- function(unit, step) {
  whole <- c(
    "month 3" = "quarter", "month 6" = "half-year", "quarter 2" = "half-year", "month 12" = "year", "quarter 4" = "year",
    "half-year 2" = "year", "semester 2" = "year", "school term 3" = "year"
  )
  key <- paste(step, format(unit))
  if (unit == 1) step else if (key %in% names(whole)) whole[[key]] else sprintf("%s %ss", format(unit), step)
}

# What the steps of some units' times are called together.
step_of_times <- function(at, step) {
  steps <- diff(sort(unique(at)))
  if (max(steps) > 1.02 * min(steps)) "time" else name_step(min(steps), step)
}

# Times in uneven steps stand one after another, each at its own time.
uneven_times <- function(at, index, values, unsorted) {
  list(
    place = function(v) as.double(v[index]), times = at, step = "time", season = 1L, seek = FALSE, too_short = FALSE,
    sorted = !unsorted, gaps = integer(), labels = time_labels(values[index]), index = index, uneven = TRUE
  )
}

# What may be wrong with a time, and what to do about it.
time_trouble <- list(
  unread = function(values, name) {
    first <- as.character(values[!is.na(values)][1])
    list(
      trouble = problem("%s is no time that can be read: \"%s\".", name, first),
      hint = problem("Years, dates, or text such as 2019 Q3, 2019-07, Jul 2019, 2019-W28, 2019/20, Fall 2019, Week 3.")
    )
  },
  repeated = function(values, at, rows, name) {
    first <- which(duplicated(at) | duplicated(at, fromLast = TRUE))[1]
    same <- rows[at == at[first]]
    where <- toString(c(utils::head(same, 5), if (length(same) > 5L) "..."))
    list(
      trouble = problem("%s holds %s more than once (rows %s).", name, as.character(values[first]), where),
      hint = problem("Give one row a period, or name the groups whose rows these are (--group).")
    )
  },
  sparse = function(there, of, name) {
    list(
      trouble = problem(
        "%s lacks nearly all of its periods: %d are there, of %s.", name, there, format(of, big.mark = ",", digits = 6)
      ),
      hint = problem("Is one of the times mistyped?")
    )
  }
)
