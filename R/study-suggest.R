# What a file itself suggests a variable is for: told where the data are looked at, and taken up by one line of a codebook.

time_words <- c(
  "years?", "jahre?", "ann[e\u00e9]es?", "a\u00f1os?", "anno", "anni", "anos?", "jaar", "school_?years?",
  "schuljahr", "dates?", "datum", "fecha", "data", "months?", "monate?", "mois", "mes", "mese", "maand", "weeks?",
  "wochen?", "semaines?", "semanas?", "settimana", "quarters?", "quartal", "trimestre", "periods?", "waves?",
  "terms?", "semesters?", "days?", "tage?"
)

group_words <- c(
  "class(es|room)?", "groups?", "schools?", "teams?", "centres?", "centers?", "regions?", "districts?",
  "courses?", "sections?", "clusters?", "departments?", "town", "pairs?", "dyads?", "couples?", "family", "families",
  "households?", "sites?", "clinics?", "hospitals?", "wards?", "villages?", "blocks?", "plots?", "paar", "familie",
  "haushalt", "klinik", "station", "klassen?", "gruppen?", "schulen?", "kurse?",
  "groupe", "\u00e9cole", "classe", "cours", "grupo", "clase", "escuela", "gruppo", "scuola", "turma", "escola",
  "groep", "school", "klas"
)

person_words <- c(
  "pupils?", "learners?", "students?", "participants?", "respondents?", "subjects?", "persons?", "children",
  "child", "resp", "patients?", "proband(in)?", "vpn?", "versuchsperson", "pid", "teachers?", "tutors?", "members?",
  "sch\u00fcler(in)?", "person", "teilnehmer(in)?",
  "\u00e9l\u00e8ve", "\u00e9tudiant", "alumno", "estudiante", "alunno", "studente", "aluno", "leerling",
  "deelnemer"
)

code_words <- c("id", "ids", "code", "codes", "nr", "no", "number", "key", "zip", "postcode", "case", "row")

#' Whether names hold one of some words, set off by blanks, points, dashes or underscores
#' @noRd
named_like <- function(names, words) {
  grepl(paste0("(^|[_ .-])(", paste(words, collapse = "|"), ")([_ .-]|$)"), tolower(names), perl = TRUE)
}

#' Whether whole numbers are names for persons or groups that come several times: "participant" 1, 1, 1, 2, 2, 2
#'
#' The heading says nothing but such a word, in the singular, and the numbers do not look like a count of persons: they
#' stand in blocks, or each comes about as often and hardly one is left out.
#' @noRd
is_label <- function(name, column, words) {
  alone <- sprintf("^(%s)([_ .-]?(id|ids|code|nr|no|number))?$", paste(sub("s[?]$", "", words), collapse = "|"))
  # The name first: a column may have to be fetched.
  if (!grepl(alone, tolower(name), perl = TRUE) || !is.numeric(column)) return(FALSE)
  given <- column[!is.na(column)]
  if (!length(given) || any(given != round(given))) return(FALSE)
  kinds <- match(given, unique(given))
  counts <- tabulate(kinds)
  if (length(counts) < 5L || stats::median(counts) < 2) return(FALSE)
  compact <- max(given) - min(given) < 1.5 * length(counts) && min(counts) >= max(counts) / 2
  compact || sum(diff(kinds) != 0) == length(counts) - 1L
}

#' Whole numbers that count on by one from row to row
#' @noRd
is_running <- function(column) {
  counts_on <- function(column) !anyNA(column) && column[1] == round(column[1]) && all(diff(column) == 1)
  # The first ten settle it for most columns.
  length(column) >= 10L && is.numeric(column) && counts_on(utils::head(column, 10L)) && counts_on(column)
}

#' Whether a column is the time: dates, or periods that come once, or once in each of some units
#' @noRd
is_time <- function(column, columns) {
  if (inherits(column, c("Date", "POSIXt"))) return(TRUE)
  holds_periods(column) && (!anyDuplicated(column[!is.na(column)]) || !is.null(units_of_times(column, columns)))
}

#' The column whose values, at least three times each, come once in every period
#' @param at Times, some of them more than once; `columns` a list to look in, `named` those to look at first.
#' @return A name, or `NULL`.
#' @noRd
units_of_times <- function(at, columns, named = character()) {
  if (anyNA(at)) return(NULL)
  for (name in union(intersect(named, names(columns)), names(columns))) {
    unit <- columns[[name]]
    if (!(is.character(unit) || is.factor(unit) || name %in% named) || anyNA(unit) || identical(unit, at)) next
    kinds <- match(unit, unique(unit))
    if (max(kinds) < 2L || stats::median(tabulate(kinds)) < 3) next
    if (!anyDuplicated(list2DF(list(kinds, match(at, unique(at)))))) return(name)
  }
  NULL
}

#' The variable that is the time, or looks like it where none is declared, and what looks like the units that have it
#'
#' By its name, and by values that can be read as times and come once, or once in each unit.
#' @return `NULL`, or a list: `time` and `unit` (or `NULL`), their names.
#' @noRd
guess_time <- function(data, book) {
  if (nrow(data) < 8L) return(NULL)
  declared <- book$variable[book$role == "time"]
  if (length(declared)) {
    values <- data[[declared[1]]]
    return(list(time = declared[1], unit = if (anyDuplicated(values)) guess_units(values, data, book, declared)))
  }
  measures <- book$variable[book$role == "measure"]
  for (name in measures[named_like(measures, time_words)]) {
    values <- data[[name]]
    if (anyNA(values)) next
    kinds <- unique(values)
    once <- length(kinds) == length(values)
    counted <- is.numeric(values) && if (once) is_running(sort(kinds)) else all(diff(sort(kinds)) == 1)
    read <- if (!is.numeric(values) || all_years(values) || counted) read_times(kinds)
    if (is.null(read) || anyNA(read$at)) next
    if (once) return(list(time = name))
    unit <- guess_units(values, data, book, name)
    if (!is.null(unit)) return(list(time = name, unit = unit))
  }
  NULL
}

# The group that is declared, where it is one, else what is named like groups or persons, else a column of words.
guess_units <- function(at, data, book, time) {
  declared <- book$variable[book$role == "group"]
  told <- if (length(declared)) units_of_times(at, as.list(data[declared]), declared)
  if (!is.null(told)) return(told)
  open <- setdiff(book$variable[book$role %in% c("measure", "case") & book$level != "binary"], time)
  named <- open[named_like(open, c(group_words, person_words, code_words))]
  units_of_times(at, as.list(data[open]), named)
}

#' What is said of variables that look like more than a measure
#' @noRd
role_sentences <- function(data, book) {
  time <- if (!any(book$role == "time")) guess_time(data, book)$time
  open <- book$role == "measure" & is.na(book$values) & !book$variable %in% time
  open <- book$variable[open & named_like(book$variable, group_words)]
  group <- if (!any(book$role == "group")) Filter(function(name) looks_like_group(data[[name]]), open)
  c(
    if (!is.null(time)) role_sentence(time, say("the time"), "time"),
    if (length(group)) role_sentence(group[1], say("a group"), "group")
  )
}

role_sentence <- function(name, like, role) {
  c(role = say("%s looks like %s; say so by its role, %s (in a codebook or a brief)", name, like, role))
}

looks_like_group <- function(column) {
  if (is.numeric(column) && any(column != round(column), na.rm = TRUE)) return(FALSE)
  kinds <- length(unique(column[!is.na(column)]))
  kinds >= 2L && kinds <= length(column) / 3
}

#' How many rows repeat an earlier one in everything but the case's name, where chance does not make that many; up to 50,000
#' cases
#'
#' @return A list: `rows` (places of the repeats), `of` (places of the first ones), `named` (whether names differ); or
#'   `NULL`.
#' @noRd
repeated_rows <- function(data, book) {
  columns <- as.list(data)[book$variable[book$role != "case"]]
  n <- nrow(data)
  if (length(columns) < 2L || n < 8L || n > 5e4) return(NULL)
  codes <- lapply(columns, function(column) match(column, unique(column)))
  # What two rows share by chance, were the columns unrelated; related ones share more, so that many are asked for.
  log_chance <- sum(vapply(codes, function(code) log(sum((tabulate(code) / n)^2)), 0))
  # Columns go together, which makes likeness likelier: a quarter less allows for that.
  if (log(choose(n, 2)) + 0.75 * log_chance > log(0.05)) return(NULL)
  key <- Reduce(function(key, code) match(pair <- key * (n + 1) + code, unique(pair)), codes, rep(0, n))
  empty <- rowSums(vapply(columns, function(column) !is.na(column), logical(n))) < 2L
  again <- which(duplicated(key) & !empty)
  if (!length(again) || !beyond_likeness(columns, codes, again)) return(NULL)
  list(rows = again, of = match(key[again], key), named = any(book$role == "case"))
}

#' Whether more rows are alike than chance makes of answers that go together
#'
#' The items of a tight scale make many rows alike, and more that differ in one answer or two; what was entered twice has
#' none of those. From the least number of differences that is common one extrapolates to none: the counts of pairs fall
#' at least as fast towards it as there. Rows of one answer throughout say nothing.
#' @param again The places of rows that repeat another.
#' @noRd
beyond_likeness <- function(columns, codes, again, most = 500L) {
  again <- again[!are_straight(columns, again)]
  if (!length(again)) return(FALSE)
  n <- length(codes[[1]])
  rows <- even_places(n, most)
  differ <- Reduce(`+`, lapply(codes, function(code) outer(code[rows], code[rows], `!=`)))
  counts <- tabulate(differ[upper.tri(differ)], length(codes))
  common <- which(counts >= min(50L, max(counts) / 2))[1]
  if (is.na(common) || common == length(codes) || counts[common + 1L] <= counts[common]) return(TRUE)
  fall <- counts[common] / counts[common + 1L]
  # How the fall steepens counts by half.
  before <- if (common + 2L <= length(codes)) counts[common + 1L] / counts[common + 2L] else fall
  steeper <- min(1, sqrt(fall / before))^(common * (common + 1) / 2)
  expected <- counts[common] * fall^common * steeper * choose(n, 2) / choose(length(rows), 2)
  stats::ppois(length(again) - 1, expected, lower.tail = FALSE) < .01
}

# Seven in ten answers the same, as of who ticks one column down, or has everything.
are_straight <- function(columns, rows) {
  if (length(columns) < 5L) return(logical(length(rows)))
  cells <- vapply(columns, function(column) as.character(column[rows]), character(length(rows)))
  apply(matrix(cells, length(rows)), 1L, function(row) max(table(row, useNA = "ifany"))) >= .7 * length(columns)
}
