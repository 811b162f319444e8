# What headings and values give away: units in headings, columns of codes, values that look like "no answer".

#' Label and unit of a heading such as "wait, min", "income (EUR)" or "attendance [%]"
#'
#' What stands in brackets or after a comma is a unit where it is one, alone, per something or of thousands; "(reversed)"
#' is none.
#' @noRd
unit_in_heading <- function(name) {
  if (!grepl("[]),]|, ", name)) return(NULL)
  patterns <- c("^(.+?) *\\(([^()]{1,20})\\)$", "^(.+?) *\\[([^]]{1,20})\\]$", "^(.+), ([^ ,]{1,8})$")
  for (pattern in patterns) {
    parts <- regmatches(name, regexec(pattern, name, perl = TRUE))[[1]]
    if (length(parts) && is_unit(parts[3])) return(list(label = trimws(parts[2]), unit = sub("^in ", "", trimws(parts[3]))))
  }
  NULL
}

known_units <- strsplit(paste(
  "% percent per_cent \u2030 ppm ppb s sec secs second seconds ms \u00b5s min mins minute minutes h hr hrs hour",
  "hours d day days week weeks wk month months mo quarter quarters year years yr yrs a school_years semesters",
  "terms lessons periods mm cm dm m km metre metres meter meters mile miles ft in inch inches yd mg g kg t",
  "tonne tonnes ton tons lb lbs oz ml cl dl l litre litres liter liters hl m2 m\u00b2 m3 m\u00b3 km2 km\u00b2",
  "ha acres \u00b0c \u00b0f \u00b0 degc degf deg psu psi c k hz khz mhz ghz db dba lux lx lm cd w kw mw gw wh kwh",
  "mwh gwh j kj mj cal",
  "kcal v mv kv a ma ohm \u03c9 n kn pa hpa kpa bar mbar mmhg mol mmol bpm rpm mph kph knots eur usd gbp chf",
  "jpy cny inr aud cad nzd sek nok dkk pln czk huf ron try rub brl zar mxn krw \u20ac $ us$ \u00a3 \u00a5 euro",
  "euros dollar dollars pounds cents thousand thousands million millions billion points pts score count number",
  "n words pages items marks credits grade grades persons people pupils students cases visits times sd z",
  "stunden std tage wochen monate jahre punkte prozent minuten sekunden anzahl ans heures jours mois a\u00f1os",
  "horas d\u00edas meses uur dagen jaar bits bytes kb mb gb px dots fte vz\u00e4"
), " ", fixed = TRUE)[[1]]

# "EUR", "km/h", "g per day", "1,000 EUR", "thousand EUR", "in minutes".
is_unit <- function(text) {
  plain <- tolower(trimws(text))
  plain <- sub("^(in|of) ", "", plain)
  plain <- sub("^(1[0 .,']*0{2,}|10\\^?[0-9]|thousands?|millions?|tsd\\.?|mio\\.?) (of )?", "", plain)
  parts <- trimws(strsplit(plain, "/|\\bper\\b|\u00b7|\\*", perl = TRUE)[[1]])
  parts <- parts[nzchar(parts)]
  # A number alone is a maximum, with a percent sign a weight: "(100)", "(20 %)"; "(1000)" may be thousands.
  if (grepl("^[0-9]+([.,][0-9]+)? ?%$", plain) || grepl("^[0-9]{1,3}([.,][0-9]+)?$", plain) && !grepl("^1[.,]000$", plain)) {
    return(FALSE)
  }
  known <- parts %in% sub("_", " ", known_units) | grepl("^[a-z\u00b5]{1,3}[23\u00b2\u00b3]$", parts) |
    grepl("^1?[0 ,.]+[a-z]* ?[a-z]*$", parts)
  # Of "per 1000 inhabitants" or "visits per week" the one side tells.
  length(parts) > 0L && if (grepl("/|\\bper\\b", plain, perl = TRUE)) any(known) else all(known)
}

# Names of codes in one word: idstud, idclass, schoolid, personid.
glued_names <- paste0(
  "^id_?(st?ud\\w*|pers\\w*|pupil|learner|child|class|cls|school|sch|teach\\w*|region|resp\\w*|case|hh|household|",
  "family|unit)$|",
  "^(st?ud\\w*|person|pupil|learner|child|class|school|teacher|region|resp\\w*|case|household|user|member|unit)_?id$|",
  "^(start|matrikel|kunden|personal|mitglieds|teilnehmer|probanden|patienten|bib|runner|customer|member|employee|staff|",
  "patient|matriculation)[ _-]?(nr|no|nummer|number|num)[.]?$"
)

# What programs call a column that had no name: as a rule the count of the rows.
nameless_words <- paste0(
  "^(unnamed.*|index|row ?(names?|number)?|column ?1|[.]{2,}1|rownames|lfd.?( ?nr[.]?)?|#|no[.]?|nr[.]?|num[.]?|",
  "id_?(no|nr|num|number)[.]?|s[rl]?[. /]*no[.]?|lp[.]?|l[.] ?p[.]?|",
  "n[.]?[\u00b0\u00ba]|\u2116|\u756a\u53f7|\u5e8f\u53f7|\u7f16\u53f7|\u7de8\u865f|\ubc88\ud638|",
  "\u043d\u043e\u043c\u0435\u0440|",
  "num\u00e9ro|n\u00famero|numero|nummer|volgnummer|laufnummer|ordre|orden)$"
)

counting_words <- paste0(
  "\\b(how many|how much|number of|hours?|count|wie viele?|anzahl|combien|cu[a\u00e1]nt[oa]s?|quant[oaie]+s?|",
  "hoeveel)\\b"
)

#' Whether a numeric column holds codes rather than measurements, and of which role
#' @return `"case"`, `"nominal"` or `NULL`.
#' @noRd
codes_kind <- function(name, column) {
  if (!is.numeric(column)) return(NULL)
  # Names are asked after values, as tables of very many columns are mostly of measurements.
  is_glued <- function() grepl(glued_names, tolower(name))
  names_persons <- function() {
    is_glued() || named_like(name, person_words) || grepl(nameless_words, tolower(name))
  }
  # From 10,000 on nothing is measured that counts on from row to row for long.
  from_far <- function() column[1] >= 10000 && length(column) >= 30L
  if (is_running(column) && (names_persons() || is_named(name, group_words) || from_far())) return("case")
  if (is_label(name, column, person_words)) return("nominal")
  # "candidate" over numbers of four digits or more, each once.
  if (names_one(name, person_words) && is_all_once(column) && min(column) >= 1000) return("case")
  first <- utils::head(column, 100L)
  if (!all(first == round(first), na.rm = TRUE) || !(named_as_code(name) || is_glued())) return(NULL)
  given <- column[!is.na(column)]
  if (!length(given) || any(given != round(given))) return(NULL)
  if (!anyDuplicated(given) && !anyNA(column)) "case" else "nominal"
}

is_all_once <- function(column) {
  first <- utils::head(column, 50L)
  !anyNA(first) && !anyDuplicated(first) && !anyNA(column) && all(column == round(column)) && !anyDuplicated(column)
}

usual_codes <- c(
  -9999, -999, -99, -98, -97, -9, -8, -7, 88, 98, 99, 888, 998, 999, 8888, 9998, 9999, 88888, 99998, 99999, 888888, 999999
)

# Codes where one of the usual ones of as many digits stands beside them; elsewhere values.
codes_beside <- c(66, 77, 96, 97, 666, 777, 996, 997, 6666, 7777, 9996, 9997, 77777, 99997, 777777, 999997)

usual_with <- function(values) {
  beside <- intersect(codes_beside, values)
  c(usual_codes, beside[nchar(beside) %in% nchar(intersect(usual_codes[usual_codes > 0], values))])
}

# Codes that are values elsewhere: of a short scale and of ages they are none.
further_codes <- c(-1, 0, 9)

age_words <- c("age", "ages", "alter", "\u00e2ge", "edad", "et\u00e0", "idade", "leeftijd")

#' The codes that may stand for "no answer" among these values
#' @noRd
codes_for <- function(values, name) {
  usual <- usual_with(values)
  rest <- values[!values %in% c(usual, further_codes)]
  if (length(rest) < 3L) return(usual)
  kinds <- sort(unique(rest))
  # What begins at 0 is a count, of which 9 is a value.
  steps <- length(kinds) <= 7L && min(kinds) == 1 && max(kinds) %in% 4:7 && all(kinds == seq_along(kinds))
  short <- steps && !any(values == 0) && !thins_out(rest, kinds, sum(values == 9))
  age <- named_like(name, age_words) && min(rest) >= 4
  c(usual, if (short) c(-1, 9), if (age) c(-1, 0))
}

#' Whether the highest steps hold fewer and fewer cases, as of a count without a zero, whose tail a 9 may belong to; one
#' alone always may
#' @noRd
thins_out <- function(rest, kinds, nines) {
  if (max(kinds) < 6 || nines == 0) return(FALSE)
  last <- tabulate(rest, max(kinds))[utils::tail(kinds, 3)]
  nines == 1 || all(diff(last) <= 0) && nines <= last[3]
}

#' Codes that columns of one short scale share: three columns or more, whole numbers over seven steps at most, hold the same
#' 7, 8 or 9, at least three steps beyond the scale
#' @return As [suspicious_codes()], by column.
#' @noRd
shared_codes <- function(columns) {
  codes <- c(7, 8, 9)
  short <- lapply(columns, function(column) {
    if (!is.numeric(column) || length(unique(utils::head(column, 1000L))) > 10L) return(NULL)
    values <- sort(unique(column[!is.na(column)]))
    rest <- setdiff(values, codes)
    shared <- intersect(values, codes)
    fits <- length(rest) >= 2L && length(shared) && all(rest == round(rest)) && diff(range(rest)) <= 6 &&
      min(shared) >= max(rest) + 3
    if (fits) list(ends = paste(range(rest), collapse = " "), low = min(rest), high = max(rest), codes = shared)
  })
  short <- Filter(Negate(is.null), short)
  shared <- unlist(lapply(short, function(one) paste(one$ends, one$codes)))
  common <- names(which(table(shared) >= 3L))
  out <- Map(function(one, column) {
    code <- one$codes[paste(one$ends, one$codes) %in% common]
    if (!length(code)) return(NULL)
    counts <- vapply(code, function(value) sum(column %in% value), 0L)
    data.frame(code = code, count = counts, low = one$low, high = one$high)
  }, short, columns[names(short)])
  Filter(Negate(is.null), out)
}

#' Usual codes for "no answer" that stand far outside the other values and are not declared
#' @return A data frame: `code`, `count`, `low`, `high` (of the other values); or nothing.
#' @noRd
suspicious_codes <- function(column, name = "") {
  if (!is.numeric(column)) return(NULL)
  # Codes of short scales and of ages are sought where the first values may be of either.
  further <- length(unique(utils::head(column, 1000L))) <= 25L || named_like(name, age_words)
  if (!core_holds_any(as.double(column), c(usual_codes, if (further) further_codes))) return(NULL)
  known <- !is.na(column)
  wanted <- if (further) codes_for(column[known], name) else usual_with(column)
  usual <- column %in% wanted
  rest <- column[!usual & known]
  if (!any(usual) || length(rest) < 3L || length(unique(column)) < 3L) return(NULL)
  ends <- range(rest)
  room <- max(diff(ends) * 0.25, 1)
  codes <- intersect(wanted, column)
  floor <- if (ends[1] >= 0) min(ends[1] - room, -0.5) else -Inf
  # One value alone may be the largest of a measure: it must lie farther off than several that are alike.
  counts <- vapply(codes, function(code) sum(column %in% code), 0L)
  room <- ifelse(counts == 1L, max(diff(ends) * 0.5, 1), room)
  far <- codes[codes < floor & codes < 0 | codes > ends[2] + room & codes > 0]
  # Of a scale from 1 on, or of ages, a lone -1 or 0 is far enough.
  far <- union(far, intersect(codes, setdiff(wanted, c(usual_codes, codes_beside))))
  if (!length(far)) return(NULL)
  data.frame(code = far, count = counts[match(far, codes)], low = ends[1], high = ends[2])
}
