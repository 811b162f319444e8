# What a variable is for, as its name and its values suggest.

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
  "pupils?", "learners?", "students?", "participants?", "respondents?", "subjects?", "subj", "ppt", "persons?", "children",
  "child", "resp", "patients?", "pat", "proband(in)?", "vpn?", "versuchsperson", "pid", "teachers?", "tutors?", "members?",
  "candidates?", "applicants?", "employees?", "customers?", "clients?", "users?", "players?", "athletes?", "runners?",
  "kandidat(in)?", "bewerber(in)?", "mitarbeiter(in)?", "kunde", "nutzer(in)?", "candidat", "employ\u00e9", "candidato",
  "sch\u00fcler(in)?", "person", "teilnehmer(in)?",
  "\u00e9l\u00e8ve", "\u00e9tudiant", "alumno", "estudiante", "alunno", "studente", "aluno", "leerling",
  "deelnemer"
)

# What only a person has, so that a file with such a column has a person in each row.
trait_words <- c(
  "ages?", "alter", "\u00e2ge", "edad", "et\u00e0", "idade", "leeftijd", "age_?(group|band|range|class)", "sex", "gender",
  "geschlecht", "altersgruppe", "sexe", "genre", "sexo", "g\u00e9nero", "sesso", "genere", "geslacht", "date_of_birth",
  "birth_?date", "dob", "birth_?year", "year_of_birth", "geburtsjahr", "marital_status", "handedness", "how old are you.*",
  "wie alt (sind sie|bist du).*"
)

total_words <- c(
  "average", "mean", "median", "avg", "share", "pct", "percent", "percentage", "rate", "ratio", "number", "total", "anteil",
  "mittler.*", "durchschnitt.*", "moyen.*", "taux", "promedio", "tasa", "population", "count"
)

#' Whether each row is a person, by a column of what only persons have
#' @param names Names and labels.
#' @noRd
tells_persons <- function(names) any(named_like(names, trait_words) & !named_like(names, total_words))

code_words <- c(
  "id", "ids", "code", "codes", "nr", "no", "n[\u00b0\u00ba]", "\u2116", "n[.][\u00b0\u00ba]", "number", "key", "zip",
  "postcode", "case", "row", "num\u00e9ro", "n\u00famero", "numero", "nummer", "volgnummer", "laufnummer"
)

#' Whether a heading says that its numbers are codes: "id", "Case No", but not "No. of pupils" or "0 no trust - 10 full"
#' @noRd
named_as_code <- function(names) {
  last <- c("nr", "no", "number", "key", "case", "row", "num\u00e9ro", "n\u00famero", "numero", "nummer")
  ends <- sprintf("(^|[_ .-])(%s)[.]?$", paste(last, collapse = "|"))
  named_like(names, setdiff(code_words, last)) | grepl(ends, tolower(names), perl = TRUE)
}

#' Whether names hold one of some words, set off by blanks, points, dashes or underscores
#' @noRd
named_like <- function(names, words) {
  grepl(paste0("(^|[_ .-])(", paste(words, collapse = "|"), ")([_ .-]|$)"), tolower(names), perl = TRUE)
}

# Whether a heading says nothing but one of some words, with "id" or its like.
is_named <- function(name, words) {
  alone <- sprintf("^(%s)([_ .-]?(id|ids|code|nr|no|number))?$", paste(words, collapse = "|"))
  grepl(alone, tolower(name), perl = TRUE)
}

#' Whether whole numbers are names for persons or groups that come several times: "participant" 1, 1, 1, 2, 2, 2
#'
#' The heading says nothing but such a word, in the singular, and the numbers do not look like a count of persons: they
#' stand in blocks, or each comes about as often and hardly one is left out.
#' @noRd
is_label <- function(name, column, words) {
  # The name first: a column may have to be fetched.
  names_one(name, words) && is.numeric(column) && names_units(column)
}

# A heading in the singular: "candidate" may name one, "candidates" counts them.
names_one <- function(name, words) is_named(name, sub("s[?]$", "", words))

# Whole numbers of which each comes several times: in blocks, or each about as often and hardly one is left out.
names_units <- function(column) {
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

plausible_forms <- c(before = "^pv_?([0-9]{1,2})_?(.*)$", after = "^(.*?)_?pv_?([0-9]{1,2})$")

#' What the plausible values of a score are called without their numbers: "math" of "PV1MATH" and "math_pv1"
#' @noRd
score_of_plausible <- function(name) {
  name <- tolower(name)
  score <- sub(plausible_forms[["after"]], "\\1", sub(plausible_forms[["before"]], "\\2", name, perl = TRUE), perl = TRUE)
  ifelse(nzchar(score), score, "score")
}

#' Variables that are called as plausible values are, three or more of a score
#' @return A list of names, by score.
#' @noRd
plausible_groups <- function(names) {
  called <- names[grepl(paste(plausible_forms, collapse = "|"), tolower(names), perl = TRUE)]
  groups <- split(called, score_of_plausible(called))
  groups[lengths(groups) >= 3L]
}
