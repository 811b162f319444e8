# Answers of two kinds: which is the no and which the yes.

#' Pairs of a no and a yes: in words of many languages, and in signs
#' @noRd
truth_words <- list(
  c("no", "yes"), c("n", "y"), c("false", "true"), c("f", "t"), c("nein", "ja"), c("non", "oui"), c("no", "s\u00ed"),
  c("no", "si"), c("no", "s\u00ec"), c("n\u00e3o", "sim"), c("nao", "sim"), c("nee", "ja"), c("nei", "ja"), c("nej", "ja"),
  c("ei", "kyll\u00e4"), c("ei", "jah"), c("nie", "tak"), c("ne", "ano"), c("nie", "\u00e1no"), c("ne", "da"), c("nu", "da"),
  c("nem", "igen"), c("hay\u0131r", "evet"), c("\u043d\u0435\u0442", "\u0434\u0430"),
  c("\u043d\u0456", "\u0442\u0430\u043a"),
  c("\u043d\u0435", "\u0434\u0430"), c("\u03cc\u03c7\u03b9", "\u03bd\u03b1\u03b9"), c("\u05dc\u05d0", "\u05db\u05df"),
  c("\u0644\u0627", "\u0646\u0639\u0645"), c("\u5426", "\u662f"), c("\u3044\u3044\u3048", "\u306f\u3044"),
  c("\uc544\ub2c8\uc694", "\uc608"), c("\uc544\ub2c8\uc624", "\uc608"), c("\u0928\u0939\u0940\u0902", "\u0939\u093e\u0901"),
  c("tidak", "ya"), c("kh\u00f4ng", "c\u00f3"), c("na", "ie"), c("n\u00ed l", "t\u00e1"), c("nei", "j\u00e1"),
  c("n\u0113", "j\u0101"),
  c("ne", "taip"), c("jo", "po"), c("ez", "bai"), c("off", "on"), c("falso", "vero"),
  c("faux", "vrai"), c("falsch", "wahr"), c("falsch", "richtig"), c("falso", "verdadero"), c("falso", "verdadeiro"),
  c("\u2717", "\u2713"), c("\u2718", "\u2714"), c("\u2610", "\u2611"), c("\u2610", "\u2612"), c("\u274c", "\u2705"),
  c("wrong", "right"),
  c("fail", "pass"), c("failed", "passed"), c("absent", "present"), c("never", "ever"), c("reject", "accept"),
  c("rejected", "accepted"), c("oppose", "support"), c("against", "for"), c("negative", "positive"), c("low", "high"),
  c("before", "after"), c("control", "treatment"), c("control", "treated"), c("none", "some"), c("without", "with"),
  c("nicht bestanden", "bestanden"), c("dagegen", "daf\u00fcr"), c("contre", "pour"), c("d\u00e9sapprouve", "approuve")
)

# What turns a word into its contrary when it stands in front of it.
denials <- c(
  "not ", "no ", "non-", "non ", "non", "un", "dis", "in", "im", "ir", "il", "never ", "nicht ", "kein ", "keine ",
  "pas ", "pas d'", "ne ", "niet ", "geen ", "on", "n\u00e3o ", "ikke ", "inte ", "ei ", "nie ", "\u043d\u0435 ",
  "\u043d\u0435", "do not ", "don't ", "did not ", "didn't ", "does not ", "doesn't ", "i do not ", "i don't ", "des",
  "ma", "nem ", "\u4e0d", "\u975e"
)

#' The no before the yes: by the words known, by one word being the other denied, else in sort order
#' @noRd
sort_binary <- function(values) {
  if (length(values) != 2L || !is.character(values)) return(sort(values))
  order <- order_of_answers(values)
  if (is.null(order)) sort(values, method = "radix") else values[order]
}

#' @return The places of the no and of the yes, or `NULL` where the words do not tell.
#' @noRd
order_of_answers <- function(values) {
  plain <- bare_answer(values)
  for (words in truth_words) {
    if (setequal(plain, words)) return(match(words, plain))
  }
  for (no in 1:2) {
    if (plain[no] %in% denied(plain[3 - no])) return(c(no, 3L - no))
  }
  NULL
}

# A word denied: "not agree" and "disagree" of "agree"; and in place of the verb's own beginning, "I don't" of "I do".
denied <- function(word) {
  starts <- regmatches(word, regexec("^(i |we |is |was |has |ich |je |yo )?(.*)$", word))[[1]]
  c(paste0(denials, word), paste0(starts[2], denials, starts[3]))
}

bare_answer <- function(values) {
  plain <- tolower(gsub("[[:space:]]+", " ", trimws(values)))
  plain <- sub("[.!]+$", "", plain)
  # The dotless i of Turkish is written as an i by some.
  gsub("\u0130", "i", plain, fixed = TRUE)
}

#' "Yes", "Y" and "true" in one column all mean yes
#' @noRd
read_truth <- function(text) {
  kinds <- unique(text[!is.na(text)])
  words <- do.call(rbind, truth_words[1:6])
  # More spellings than the words have in capitals and small letters are names, not answers.
  if (length(kinds) <= 2L || length(kinds) > 4L * length(words) ||
    !all(tolower(kinds) %in% words)) return(list(values = text))
  yes <- kinds[tolower(kinds) %in% words[, 2]]
  list(
    values = ifelse(text %in% yes, "yes", ifelse(is.na(text), NA, "no")),
    note = template("spellings of yes and no made one")
  )
}
