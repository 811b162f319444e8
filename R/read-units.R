# Numbers with their unit in each cell: of money, of measures, and thousands and millions by a letter.

# Codes of ISO 4217 lead as well; other capitals before a number name a case.
currencies <- paste(
  "USD|EUR|GBP|CHF|JPY|CNY|INR|BRL|MXN|CAD|AUD|NZD|SEK|NOK|DKK|PLN|CZK|HUF|RON|TRY|ZAR|KRW|SGD|HKD|ILS|THB|UAH|RUB",
  "R[$]|US[$]|A[$]|C[$]|NZ[$]|S[$]|kr[.]?|Fr[.]?|Rs[.]?|\u20b9|\u20a9|\u20ba|\u20bd|\u20aa|[$\u20ac\u00a3\u00a5]",
  sep = "|"
)

#' Numbers that all carry the same unit: "44 kg", "$50", "1,200 \u20ac", "30kg"
#'
#' Letters without a space before them are a unit only where they are a known one of two letters or more: "7a" is a class.
#' @noRd
read_unit <- function(text, decimal) {
  given <- text[!is.na(text)]
  pattern <- paste0(
    "^([-+]?)(", currencies, "|) ?([-+]?[0-9][0-9., '\u2019]*?)",
    "( ?)(|[$\u20ac\u00a3\u00a5\u00b0]|[[:alpha:]\u00b5\u00b0/\u00b2\u00b3]{1,12})$"
  )
  parts <- captured(given, pattern)
  if (is.null(parts)) return(NULL)
  units <- unique(paste0(parts[, 2], parts[, 5]))
  if (length(units) != 1L || !nzchar(units)) return(NULL)
  glued <- grepl("[[:alpha:]]", units) && any(parts[, 4] == "")
  if (glued && !(nchar(units) > 1L && is_unit(units))) return(NULL)
  # "-$300": the sign may stand before the unit.
  bare <- in_places(text, trimws(paste0(parts[, 1], parts[, 3])))
  note <- template("the unit \"%s\" removed from each value", units)
  # No amount of money has three decimals, and nothing else: "24.300" is 24,300.
  if (grepl(sprintf("^(%s)$", currencies), units) && are_thousands(bare)) {
    bare <- gsub(".", "", bare, fixed = TRUE)
    note <- joined(note, "; ", template("\"%s\" read as a thousands mark", "."))
  }
  values <- plain_numbers(bare, decimal, comma = TRUE)
  if (is.numeric(values)) list(values = values, unit = units, note = note)
}

are_thousands <- function(bare) {
  bare <- bare[!is.na(bare)]
  pointed <- grepl(".", bare, fixed = TRUE)
  any(pointed) && all(grepl("^[-+]?[1-9][0-9]{0,2}([.][0-9]{3})+$", bare[pointed])) && all(grepl("^[-+]?[0-9.]+$", bare))
}

#' "812.3k", "1.2M", "45 Tsd.": thousands and millions; an M alone may be something else, unless it is money
#' @noRd
multiples_as <- function(name) {
  words <- "revenue|income|sales|profit|cost|price|budget|spend|value|population|followers|views|umsatz|einkommen|gewinn"
  money <- grepl(words, name, TRUE)
  sizes <- c(
    k = 1e3, tsd = 1e3, thousand = 1e3, m = 1e6, mn = 1e6, mio = 1e6, million = 1e6, bn = 1e9, b = 1e9, mrd = 1e9,
    billion = 1e9
  )
  function(text, decimal) {
    given <- text[!is.na(text)]
    form <- sprintf("^(%s|) ?([-+]?[0-9][0-9.,]*) ?(k|K|M|B|mn|bn|Mio|Mrd|Tsd|thousand|million|billion|)[.]?$", currencies)
    parts <- if (length(given) >= 3L) captured(given, form)
    if (is.null(parts)) return(NULL)
    letters <- tolower(parts[, 3])
    signs <- setdiff(unique(letters), "")
    unit <- unique(parts[, 1])
    if (!length(signs) || mean(nzchar(letters)) < .3 || length(unit) > 1L) return(NULL)
    if (all(signs %in% c("m", "b")) && !money && !nzchar(unit)) return(NULL)
    bare <- in_places(text, parts[, 2])
    values <- plain_numbers(bare, decimal, comma = TRUE)
    if (!is.numeric(values)) return(NULL)
    values[!is.na(text)] <- values[!is.na(text)] * ifelse(nzchar(letters), sizes[ifelse(nzchar(letters), letters, "k")], 1)
    list(
      values = values, unit = if (nzchar(unit)) unit,
      note = template("%s multiplied out", paste(sprintf("\"%s\"", setdiff(unique(parts[, 3]), "")), collapse = ", "))
    )
  }
}
