# Orders found by themselves: bands, school years, rates, numbers with words at their ends, and the words of agreement,
# frequency, quality and the like in seven languages. The words stand in inst/words/scales.json.

#' The order of some words, where they tell it
#'
#' @param words Different answers of one question.
#' @return `NULL` where nothing is known of them, or a list: `order` (the words, lowest first), `apart` (those that are no
#'   answer), `family`, `language`, `codes` (where they carry numbers), `either_way` (whether the reverse is as likely); or
#'   with `readings` (two orders) where the words allow more than one.
#' @noRd
order_scale <- function(words) {
  plain <- bare_words(words)
  apart <- stand_apart(words)
  answers <- words[!apart]
  plain <- plain[!apart]
  order <- if (length(answers) >= 2L && !anyDuplicated(plain)) order_kept(answers, plain)
  if (is.null(order)) return(NULL)
  c(order, list(apart = words[apart]))
}

#' The same, looked up once for each set of words
#' @noRd
order_known <- function(words) {
  key <- paste(sort(words, method = "radix"), collapse = "\r")
  if (!exists(key, known_orders, inherits = FALSE)) {
    if (length(known_orders) > 500L) rm(list = ls(known_orders), envir = known_orders)
    assign(key, list(order_scale(words)), envir = known_orders)
  }
  get(key, known_orders, inherits = FALSE)[[1]]
}

known_orders <- new.env(parent = emptyenv())

order_kept <- function(words, plain) {
  order <- order_as_said(words, plain)
  if (!is.null(order)) return(order)
  # What all words say alike tells no order: "never true of me", "often true of me".
  own <- without_shared_end(plain)
  if (!identical(own, plain) && all(nzchar(own)) && !anyDuplicated(own)) order_as_said(words, own)
}

#' Words without those at the end that all of them share
#' @noRd
without_shared_end <- function(plain) {
  parts <- strsplit(plain, " ", fixed = TRUE)
  while (all(lengths(parts) > 1L) && length(unique(vapply(parts, utils::tail, "", 1L))) == 1L) {
    parts <- lapply(parts, function(one) one[-length(one)])
  }
  vapply(parts, paste, "", collapse = " ")
}

order_as_said <- function(words, plain) {
  numbered <- order_numbered(words)
  if (is.null(numbered)) numbered <- order_of_marks(words)
  if (!is.null(numbered)) return(numbered)
  # Single letters may be groups as well as marks.
  if (length(words) < 3L || all(nchar(words) <= 1L)) return(NULL)
  numbers <- digits_in(words)
  times <- digits_in(gsub("([0-9]) ([0-9])", "\\1-\\2", plain))
  for (language in names(scale_words())) {
    known <- scale_words()[[language]]
    score <- score_bands(numbers, plain, known)
    if (is.null(score)) score <- score_rates(times, plain, known)
    if (!is.null(score)) return(list(order = words[order(score$score)], family = score$family, language = language))
  }
  readings <- unlist(lapply(names(scale_words()), function(language) readings_in(words, plain, language)), recursive = FALSE)
  if (!length(readings)) return(NULL)
  orders <- unique(lapply(readings, `[[`, "order"))
  if (length(orders) > 1L) return(list(order = NULL, readings = orders, family = readings[[1]]$family))
  first <- readings[[1]]
  first$either_way <- first$family == "difficulty"
  first
}

#' Small letters without accents, marks and the like, for comparison
#' @noRd
bare_words <- function(words) {
  # Classes of age: U20 is under 20, \u00dc50 over 50.
  text <- sub("^u ?([0-9]{2})$", "under \\1", sub("^\u00fc ?([0-9]{2})$", "over \\1", tolower(trimws(words))))
  text <- chartr(
    paste0(
      "\u00e0\u00e1\u00e2\u00e3\u00e4\u00e5\u00e7\u00e8\u00e9\u00ea\u00eb\u00ec\u00ed\u00ee",
      "\u00ef\u00f1\u00f2\u00f3\u00f4\u00f5\u00f6\u00f9\u00fa\u00fb\u00fc\u2019\u2018",
      "\u0142\u015b\u017c\u017a\u0107\u0144\u0105\u0119\u00f8\u0131\u011f\u015f",
      "\u010d\u011b\u0161\u0159\u017e\u00fd\u016f\u0165\u010f\u0148\u0151\u0171"
    ),
    "aaaaaaceeeeiiiinooooouuuu''lszzcnaeoigscesrzyutdnou", text
  )
  text <- gsub("\u0307", "", gsub("\u00e6", "ae", gsub("\u00df", "ss", text)))
  # Marks: A*, A and A- are three.
  text <- sub("^([a-g]|[1-9]) ?[-\u2212\u2013]$", "\\1 minus", sub("^([a-g]) ?[*]$", "\\1 star", text))
  text <- gsub("n't\\b", "nt", text)
  text <- gsub("'s\\b", "s", text)
  text <- gsub("\\+", " plus ", gsub("<=?", " under ", gsub(">=?", " over ", text)))
  trimws(gsub("\\s+", " ", gsub("[^[:alnum:]]+", " ", text)))
}

is_apart <- function(plain) plain %in% unlist(lapply(scale_words(), `[[`, "apart")) | !nzchar(plain)

#' Which words are no answer, with or without a code: "don't know", "99 - don't know", "don't know (99)"
#' @noRd
stand_apart <- function(words) {
  code <- "^[(\\[]?-?[0-9]{1,4}[])]?\\s*[-\u2013=.:)]?\\s*(?=\\D)|(?<=\\D)\\s*[(\\[]-?[0-9]{1,4}[])]$"
  bare <- sub(code, "", words, perl = TRUE)
  is_apart(bare_words(words)) | bare != words & grepl("[[:alpha:]]", bare) & is_apart(bare_words(bare))
}

# Where numbers are asked for, some more words say that there is none.
says_nothing <- function(words) stand_apart(words) | bare_words(words) %in% no_number_words

no_number_words <- c(
  "absent", "missing", "null", "nan", "blank", "empty", "none given", "not available", "not tested", "not taken",
  "not graded", "did not attend", "did not sit", "excused", "exempt", "ex", "exc", "abs", "incomplete",
  "withdrawn", "no show", "ausstehend", "fehlt", "fehlend", "krank", "entschuldigt", "absente"
)

#' Words that carry numbers: `1 (not at all)`, `2`, `5 (very)`; `1 - Never`; `Agree (4)`
#' @noRd
order_numbered <- function(words) {
  leading <- "^[(\\[]?(-?[0-9]{1,3})[])]?(?:\\s*[-\u2013=.:)]\\s*|\\s+(?=\\()|\\s*$)(?![0-9])(.*)$"
  trailing <- "^(\\D.*?)\\s*[(\\[](-?[0-9]{1,3})[])]$"
  for (pattern in c(leading, trailing)) {
    parts <- regmatches(words, regexec(pattern, words, perl = TRUE))
    if (any(lengths(parts) != 3L)) next
    parts <- do.call(rbind, parts)
    side <- if (pattern == leading) 2:3 else 3:2
    codes <- as.numeric(parts[, side[1]])
    labels <- trimws(gsub("^[(\\[]|[])]$", "", trimws(parts[, side[2]])))
    if (anyDuplicated(codes) || !any(grepl("[[:alpha:]]", labels)) || any(grepl("[0-9]", labels))) next
    order <- order(codes)
    return(list(order = words[order], family = "numbers", language = "", codes = codes[order], labels = labels[order]))
  }
  NULL
}

#' Marks with a tendency: `1`, `1-`, `2+`, as schools give them where 1 is the best
#' @noRd
order_of_marks <- function(words) {
  parts <- regmatches(words, regexec("^([1-9][0-9]?)([-+\u2212\u2013]?)$", words))
  if (any(lengths(parts) != 3L) || length(words) < 3L) return(NULL)
  parts <- do.call(rbind, parts)
  # "4+" alone is a band.
  lower <- parts[, 3] %in% c("-", "\u2212", "\u2013")
  if (!any(lower)) return(NULL)
  score <- as.numeric(parts[, 2]) + ifelse(lower, 0.3, ifelse(parts[, 3] == "+", -0.3, 0))
  list(order = words[order(score)], family = "marks", language = "")
}

digits_in <- function(words) {
  text <- gsub("([0-9])[., '\u2019\u00a0](?=[0-9]{3}(?![0-9]))", "\\1", words, perl = TRUE)
  text <- gsub("([0-9])k\\b", "\\1000", text)
  for (number in 1:10) text <- gsub(paste0("\\b", number_words[number], "\\b"), number, text,
    ignore.case = TRUE,
    perl = TRUE
  )
  lapply(regmatches(text, gregexpr("[0-9]+([.,][0-9]+)?", text)), function(digits) as.numeric(sub(",", ".", digits)))
}

number_words <- c(
  "(once|one|einmal|eins|une fois|una vez)", "(twice|two|zweimal|zwei|deux)", "(three|drei|trois|tres|tre)",
  "(four|vier|quatre|cuatro|quattro)", "(five|f\u00fcnf|cinq|cinco|cinque|vijf)", "(six|sechs|seis|sei|zes)",
  "(seven|sieben|sept|siete)",
  "(eight|acht|huit|ocho)", "(nine|neun|neuf|nueve)", "(ten|zehn|dix|diez|tien)"
)

none_words <- c(
  "none", "nothing", "keine", "nichts", "aucun", "aucune", "rien", "ninguno", "ninguna", "nessuno", "nenhum", "geen"
)

school_words <- c(
  "grade", "year", "level", "klasse", "jahrgang", "jahrgangsstufe", "stufe", "stage", "semester", "star", "stars", "niveau",
  "annee", "curso", "ano", "anno", "jaar", "jahr", "leerjaar", "nivel", "livello", "point", "points", "th", "st nd rd th"
)

#' Bands such as `18-29`, `65+`, `under 1,000`, and school years such as `Grade 5`
#' @param numbers Those in each word.
#' @noRd
score_bands <- function(numbers, plain, known) {
  # "Less than a year" beside numbers.
  one <- lengths(numbers) == 0L & grepl("\\b(an?|une?|un|uno|una|eine?[mnrs]?|um|uma|een) ", plain, perl = TRUE) &
    says_any(plain, c(known$below, known$above))
  if (any(lengths(numbers) > 0L)) numbers[one] <- 1
  none <- plain %in% none_words | grepl("^(no|none|zero|keine?|aucune?|sin|nessun[ao]?|nenhuma?|geen) [[:alpha:]]+$", plain)
  if (any(lengths(numbers) == 0L & !none) || any(lengths(numbers) > 2L) || sum(!none) < 2L) return(NULL)
  # "18 bis 29" is a range, "bis 29" is not.
  below <- says_any(plain, known$below) & lengths(numbers) == 1L
  above <- says_any(plain, known$above) & !below
  if (sum(below) > 1L || sum(above) > 1L) return(NULL)
  ranges <- lengths(numbers) == 2L
  rest <- gsub(paste0("\\b(", paste(c(known$below, known$above), collapse = "|"), ")\\b"), " ", plain)
  filling <- paste0(
    "[0-9]+(st|nd|rd|th|k)?|",
    "\\b(to|bis|an?|until|and|y|e|et|und|tot|ate|bis zu|de|of|une?|una|eine?[mnrs]?|uma?|een)\\b"
  )
  rest <- trimws(gsub("\\s+", " ", gsub(filling, " ", rest)))
  lasting <- in_minutes(numbers, rest)
  if (!is.null(lasting)) {
    numbers <- lasting
    rest <- ifelse(nzchar(rest), "minute", "")
  }
  if (any(vapply(numbers[ranges], function(ends) ends[2] < ends[1], NA))) return(NULL)
  kinds <- setdiff(unique(sub("s$", "", rest[!none])), "")
  single <- !any(ranges) && !any(below) && !any(above)
  if (single && !all(kinds %in% sub("s$", "", school_words))) return(NULL)
  if (length(kinds) > 1L + !single || (single && !length(kinds))) return(NULL)
  first <- vapply(numbers, function(digits) if (length(digits)) digits[1] else 0, 0)
  score <- ifelse(below, first - 0.5, ifelse(above, first + 0.5, first))
  if (anyDuplicated(score) || (any(below) && min(score[!none]) < score[below])) return(NULL)
  if (any(above) && max(score) > score[above]) return(NULL)
  list(score = score, family = if (single) "school years" else "bands")
}

#' Numbers of minutes where several units of time stand beside them: "30-60 minutes", "1 to 2 hours", "6 months to 1 year"
#' @param numbers One or two a word, `rest` what stands beside them.
#' @return The numbers, or `NULL` where the units are not several of time.
#' @noRd
in_minutes <- function(numbers, rest) {
  units <- lapply(strsplit(rest, " ", fixed = TRUE), function(words) unname(minutes_of[words]))
  has_number <- lengths(numbers) > 0L
  apt <- lengths(units) == 1L | lengths(units) == lengths(numbers)
  if (anyNA(unlist(units)) || !all(apt[has_number]) || length(unique(unlist(units[has_number]))) < 2L) return(NULL)
  Map(function(number, unit) if (length(number)) number * unit else number, numbers, units)
}

minutes_of <- local({
  words <- c(
    "minute minutes min mins minuten minutos minuti minuto minuut",
    "hour hours hr hrs h stunde stunden std heure heures hora horas ora ore uur",
    "day days tag tage tagen jour jours dia dias giorno giorni dag dagen",
    "week weeks woche wochen semaine semaines semana semanas settimana settimane weken",
    "month months monat monate monaten mois mes meses mese mesi maand maanden",
    "year years jahr jahre jahren an ans annee annees ano anos anno anni jaar"
  )
  words <- strsplit(words, " ", fixed = TRUE)
  stats::setNames(rep(c(1, 60, 1440, 10080, 43830, 525960), lengths(words)), unlist(words))
})

#' How often in a time: `once a week`, `2-3 times a month`, `daily`
#' @param times The numbers in each word.
#' @noRd
score_rates <- function(times, plain, known) {
  # The first that is said counts.
  pick <- function(table) {
    value <- rep(NA_real_, length(plain))
    for (name in rev(names(table))) value[says_any(plain, table[[name]])] <- as.numeric(name)
    value
  }
  never <- plain %in% c(unlist(known$once[["0"]]), unlist(known$fixed$frequency[[1]]))
  once <- pick(known$once)
  period <- pick(known$period)
  often <- once
  often[lengths(times) > 0L] <- vapply(times[lengths(times) > 0L], mean, 0)
  often[!is.na(often) & often == 0.9] <- 1
  often <- often * ifelse(says_any(plain, known$below), 0.6, ifelse(says_any(plain, known$above), 1.4, 1))
  often[never] <- 0
  # "Rarely" beside "monthly" and "weekly" is less often than any of them.
  vague <- is.na(period) & is.na(often) & !never & plain %in% unlist(known$fixed$frequency[2:3])
  if (sum(vague) == 1L && sum(!is.na(period)) >= 2L) {
    often[vague] <- 0.001
    period[vague] <- 1
  }
  if (anyNA(often) || sum(!never) < 2L) return(NULL)
  if (anyNA(period[!never]) && !all(is.na(period[!never]))) return(NULL)
  # Mere numbers, as of groups, are no rates.
  counted <- !is.na(once) | grepl("\\btimes?\\b", plain)
  if (all(is.na(period)) && !any(counted[!never])) return(NULL)
  score <- ifelse(never, 0, often * ifelse(is.na(period), 1, period))
  if (anyDuplicated(score)) NULL else list(score = score, family = "frequency")
}

#' Which texts say one of some phrases, as words of its own
#' @noRd
says_any <- function(texts, phrases) {
  phrases <- unlist(phrases)
  if (!length(phrases)) return(logical(length(texts)))
  grepl(paste0(" (?:", paste(phrases, collapse = "|"), ") "), paste0(" ", texts, " "), perl = TRUE)
}

#' Letter grades from the lowest to the best: F < D < C < B- < B < B+ < A
#' @noRd
order_of_grades <- function(words) {
  if (length(words) < 3L || !all(grepl("^[A-F][+-]?$", words))) return(NULL)
  mark <- match(substr(words, 2L, 2L), c("-", "", "+"))
  words[order(-match(substr(words, 1L, 1L), LETTERS), mark)]
}

#' Words in the order of the one number that each of them holds: "Level 2 (basic)", "Year 10"
#' @noRd
order_by_number <- function(words) {
  numbers <- digits_in(words)
  if (any(lengths(numbers) != 1L)) return(NULL)
  numbers <- unlist(numbers)
  if (!anyDuplicated(numbers)) words[order(numbers)]
}
