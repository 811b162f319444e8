# The same persons several times, one row a person: a study of its own, with the columns of each wave.

#' Persons of a wide file: the columns of x and y, in the order of the waves
#' @return A list: `study` (a row a person), `x`, `y` (its columns), `names` and `labels` of the two, `waves`.
#' @noRd
wide_persons <- function(study, options) {
  labels <- vapply(options[c("x", "y")], function(names) {
    common <- name_of_all(label_of_variables(study, names))
    if (nchar(common) >= 3L) common else names[1]
  }, "")
  common <- vapply(options[c("x", "y")], function(names) or_default(none_if_empty(name_of_all(names)), names[1]), "")
  list(
    study = study, x = options$x, y = options$y, labels = labels, waves = wave_names(options$x), names = common,
    variables = book_entries(study, c(options$x, options$y)), steps = seq_along(options$x)
  )
}

none_if_empty <- function(text) if (nzchar(text)) text

#' Where names of one measure at several waves begin alike, differ, and end alike, by whole words and numbers
#' @return A list: `start`, `middle` (one for each), `end`.
#' @noRd
split_alike <- function(texts) {
  words <- regmatches(texts, gregexpr("[0-9]+|[[:alpha:]]+|[^[:alnum:]]+", texts))
  least <- min(lengths(words))
  alike <- function(side) {
    same <- vapply(seq_len(least), function(k) length(unique(vapply(words, function(all) side(all)[k], ""))) == 1L, NA)
    sum(cumprod(same))
  }
  front <- alike(identity)
  back <- min(alike(rev), least - front)
  part <- function(all, from, to) paste(all[seq_len(length(all)) >= from & seq_len(length(all)) <= to], collapse = "")
  list(
    start = part(words[[1]], 1L, front),
    middle = vapply(words, function(all) part(all, front + 1L, length(all) - back), ""),
    end = part(words[[1]], length(words[[1]]) - back + 1L, length(words[[1]]))
  )
}

# What the names have in common, without the word for the wave: "burnout" of burnout_t1 and burnout_t2, or of T1_burnout.
name_of_all <- function(texts) {
  parts <- split_alike(texts)
  of_waves <- "(t|w|time|wave|welle|term|occasion|messung|mzp|zeitpunkt|year|jahr)"
  start <- sub(sprintf("(^|[^[:alnum:])])[^[:alnum:])]*%s?$", of_waves), "", parts$start, ignore.case = TRUE)
  start <- sub("[^[:alnum:])]+$", "", start)
  end <- sub("^[^[:alnum:](]+", "", parts$end)
  if (nchar(end) > nchar(start)) end else start
}

# The numbers or words in which the names differ.
wave_names <- function(names) {
  middle <- split_alike(names)$middle
  if (all(nzchar(middle)) && !anyDuplicated(middle)) middle else as.character(seq_along(names))
}

#' Persons of a long file
#' @section Errors: `unsere_error_usage` without persons or waves; `unsere_error_input` where one occurs twice in a wave.
#' @noRd
long_persons <- function(study, options) {
  case <- or_default(options$case, role_variable(study, "case"))
  time <- or_default(options$time, role_variable(study, "time"))
  if (is.null(case)) abort_usage("It is not known which variable names the persons.", "Name it with `case`.")
  if (is.null(time)) abort_usage("It is not known which variable is the wave.", "Name it with `time`.")
  person <- as.character(study_column(study, case))
  wave <- study_column(study, time)
  known <- !is.na(person) & !is.na(wave)
  twice <- which(duplicated(data.frame(person, wave = as.character(wave))) & known)
  if (length(twice)) {
    abort_input(
      problem("%s %s occurs twice in wave %s.", case, person[twice[1]], as.character(wave[twice[1]])),
      "A person has one row per wave."
    )
  }
  kinds <- sort_groups(wave, as.character(wave))
  if (length(kinds) < 2L || length(kinds) > 30L) {
    abort_usage(problem("%s has %d values; waves are 2 to 30.", time, length(kinds)), "Name the variable with the wave.")
  }
  persons <- unique(person[known])
  at <- lapply(kinds, function(kind) match(persons, ifelse(as.character(wave) %in% kind, person, NA)))
  columns <- lapply(stats::setNames(options[c("x", "y")], c("x", "y")), function(name) {
    sprintf("%s_%s", name, kinds)
  })
  list(
    study = spread_waves(study, options, columns, at), x = columns$x, y = columns$y,
    labels = label_of_variables(study, c(options$x, options$y)), waves = kinds, names = c(x = options$x, y = options$y),
    variables = book_entries(study, c(options$x, options$y, time, case)),
    steps = if (is.numeric(wave)) wave[match(kinds, as.character(wave))] else seq_along(kinds)
  )
}

# What else a row tells (weights, clusters) is that of the person's first row.
spread_waves <- function(study, options, columns, at) {
  first <- Reduce(function(a, b) ifelse(is.na(a), b, a), at)
  wide <- study[first, ]
  for (side in c("x", "y")) {
    name <- options[[side]]
    entry <- study$codebook[study$codebook$variable == name, ]
    for (k in seq_along(at)) {
      wide$data[[columns[[side]][k]]] <- study$data[[name]][at[[k]]]
      added <- entry
      added$variable <- columns[[side]][k]
      wide$codebook <- rbind(wide$codebook, added)
    }
  }
  rownames(wide$codebook) <- NULL
  wide$converted <- new.env(parent = emptyenv())
  wide
}

#' A study with further columns of numbers
#' @param columns A named list.
#' @noRd
with_number_columns <- function(study, columns) {
  for (name in names(columns)) {
    study <- with_column(study, name, columns[[name]], NA_character_)
    known <- columns[[name]][!is.na(columns[[name]])]
    study$codebook$level[study$codebook$variable == name] <- if (two_valued(known)) "binary" else "numeric"
  }
  study$converted <- new.env(parent = emptyenv())
  study
}
