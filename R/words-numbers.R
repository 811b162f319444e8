# How numbers are written, in one place: rounded for a reader, with real minus signs where the locale has them.

writes_utf8 <- function() isTRUE(l10n_info()$`UTF-8`) && !isTRUE(getOption("unsere.plain_marks"))

glyphs <- function() {
  if (writes_utf8()) {
    list(
      minus = "\u2212", times = "\u00d7", dash = "\u2013", dot = "\u25cf", bar = "\u2500", left = "\u251c",
      right = "\u2524", rail = "\u00b7", squared = "\u00b2", chi_squared = "\u03c7\u00b2", mark = "\u25c6", cut = "\u2026"
    )
  } else {
    list(
      minus = "-", times = "x", dash = "-", dot = "o", bar = "=", left = "[", right = "]", rail = ".", squared = "^2",
      chi_squared = "chi2", mark = "*", cut = "~"
    )
  }
}

#' How a coefficient is written before its value
#' @noRd
coefficient_symbol <- function(coefficient) {
  side <- if (writes_utf8()) 1L else 2L
  vapply(coefficient, function(name) coefficient_record(name)$symbol[side], "", USE.NAMES = FALSE)
}

#' What a coefficient is called in a list: its name, or the name of who found it
#' @noRd
coefficient_label <- function(coefficient) {
  vapply(coefficient, function(name) {
    label <- coefficient_record(name)$label
    if (is.null(label)) name else label[if (writes_utf8()) 1L else 2L]
  }, "", USE.NAMES = FALSE)
}

statistic_symbol <- function(statistic) {
  if (statistic == "chi-squared") glyphs()$chi_squared else statistic
}

with_minus <- function(text) sub("^-", glyphs()$minus, text)

undefined_mark <- function() glyphs()$dash

#' r without the leading zero; never rounded up to 1 unless it is 1
#' @noRd
format_r <- function(r, digits = 2) vapply(r, format_one_r, "", digits = digits, USE.NAMES = FALSE)

format_one_r <- function(r, digits) {
  if (is.na(r)) return(undefined_mark())
  if (abs(r) == 1) return(with_minus(format(r)))
  while (digits < 17 && round(abs(r), digits) == 1) digits <- digits + 1
  text <- formatC(round(r, digits), digits = digits, format = "f")
  if (round(r, digits) == 0) text <- sub("-", "", text, fixed = TRUE)
  with_minus(marked(sub("^(-?)0[.]", "\\1.", text)))
}

format_interval <- function(low, high, digits = 2, one = format_limit) {
  if (is.na(low)) return(undefined_mark())
  if (identical(one, format_limit) && is_uninformative(low, high)) return(say("too few for an interval"))
  sprintf("[%s%s%s]", one(low, digits), between_marks(), one(high, digits))
}

#' A limit of r: one that would round to 1 without being 1 is told as beyond the last figure before it
#' @noRd
format_limit <- function(r, digits = 2) {
  near <- !is.na(r) & abs(r) < 1 & round(abs(r), digits) == 1
  ifelse(near, paste0(ifelse(r > 0, "> ", "< "), format_r(sign(r) * (1 - 10^-digits), digits)), format_r(r, digits))
}

#' The digits of an r and its interval: as asked, and more where the interval is so narrow that its ends would be one
#' @noRd
digits_for <- function(result, digits = 2) {
  width <- result$ci_high - result$ci_low
  if (is.na(width) || width == 0) return(digits)
  max(digits, min(6, ceiling(-log10(width))))
}

#' p for prose: "p < .001", "p = .012"; `log10_p` serves where p is too small for a double
#' @noRd
format_p_clause <- function(p) {
  if (is.na(p)) return(paste("p", undefined_mark()))
  if (p < 0.001) return(paste("p <", marked(".001")))
  if (p > 0.999) return(paste("p >", marked(".999")))
  digits <- if (p < 0.0995 || p > 0.9949) 3 else 2
  # As many digits as keep it apart from the usual levels.
  near <- c(0.05, 0.01)
  while (digits < 8 && any(round(p, digits) == near & abs(p - near) > 1e-9)) digits <- digits + 1
  paste("p =", marked(sub("^0[.]", ".", formatC(p, digits = digits, format = "f"))))
}

#' p in full, for tables: two digits that count and a power of ten
#' @noRd
format_p_full <- function(p, log10_p = log10(p)) {
  mapply(format_one_p, p, log10_p, USE.NAMES = FALSE)
}

format_one_p <- function(p, log10_p) {
  if (is.na(p)) return(undefined_mark())
  if (p >= 0.9995 && p < 1) return(paste(">", marked(".999")))
  if (p >= 0.001) return(marked(sub(
    "^0[.]", ".",
    formatC(p, digits = if (round(p, 3) == 0.05 && p != 0.05) 4 else 3, format = "f")
  )))
  power <- floor(log10_p)
  lead <- formatC(10^(log10_p - power), digits = 1, format = "f")
  if (lead == "10.0") {
    lead <- "1.0"
    power <- power + 1
  }
  sprintf("%s %s 10^%s", marked(lead), glyphs()$times, with_minus(format(power, scientific = FALSE)))
}

#' A figure with a number of digits that count
#' @noRd
format_number <- function(x, digits = 3) {
  vapply(x, function(one) {
    if (!is.finite(one)) return(undefined_mark())
    if (one != 0 && (abs(one) >= 1e9 || abs(one) < 1e-5)) return(format_power(one, digits, drop = TRUE))
    big <- if (abs(one) >= 1e4) "," else ""
    with_minus(marked(format(signif(one, digits), scientific = FALSE, digits = 15, big.mark = big)))
  }, "", USE.NAMES = FALSE)
}

#' The least or largest value: as recorded where that is short, else in four digits, or to the whole
#' @noRd
format_end <- function(x) {
  short <- is.na(x) | signif(x, 6) == x
  # Beyond 15 digits a double holds no further ones.
  whole <- ceiling(log10(pmax(abs(x), 1)))
  digits <- ifelse(short, 6, ifelse(whole > 15, 4, pmax(4, whole)))
  mapply(format_number, x, digits, USE.NAMES = FALSE)
}

#' Degrees of freedom: whole, or with one decimal where they are not
#' @noRd
format_df <- function(df) {
  whole <- is.na(df) | df == round(df)
  ifelse(whole, format(round(df), scientific = FALSE, trim = TRUE, digits = 15), format_decimals(df, 1))
}

#' A number of cases, with marks between thousands from ten thousand on
#' @noRd
format_count <- function(n) {
  marked(vapply(n, function(one) format(one, big.mark = if (one >= 1e4) "," else "", scientific = FALSE, trim = TRUE), ""))
}

#' A test's statistic: two decimals, without them where it is large, a power of ten beyond a million
#' @noRd
format_statistic <- function(x) {
  vapply(x, function(one) {
    if (is.finite(one) && abs(one) >= 1e6) return(format_power(one, 3))
    format_decimals(one, if (is.finite(one) && abs(one) >= 1e4) 0 else 2)
  }, "", USE.NAMES = FALSE)
}

#' A figure as digits times a power of ten
#' @noRd
format_power <- function(x, digits, drop = FALSE) {
  parts <- strsplit(formatC(x, digits = max(0, digits - 1), format = "e"), "e", fixed = TRUE)[[1]]
  lead <- if (drop) sub("[.]?0+$", "", parts[1]) else parts[1]
  with_minus(sprintf("%s %s 10^%s", marked(lead), glyphs()$times, with_minus(format(as.integer(parts[2])))))
}

#' A figure with a number of decimals; where those would be zeros without end, as digits times a power of ten
#' @noRd
format_decimals <- function(x, decimals) {
  vapply(x, function(one) {
    if (!is.finite(one)) return(undefined_mark())
    if (one != 0 && (abs(one) >= 1e15 || decimals > 12)) {
      return(format_power(one, min(6, max(1, decimals + 1 + floor(log10(abs(one)))))))
    }
    text <- formatC(round(one, decimals), digits = decimals, format = "f", big.mark = if (abs(one) >= 1e4) "," else "")
    if (!grepl("[1-9]", text)) text <- sub("-", "", text, fixed = TRUE)
    with_minus(marked(text))
  }, "", USE.NAMES = FALSE)
}

#' Decimals that give the largest of some figures four digits that count
#' @noRd
decimals_for <- function(x, digits = 4) {
  size <- max(abs(x[is.finite(x) & x != 0]), 0)
  if (size == 0) return(2)
  max(0, digits - 1 - floor(log10(size)))
}

#' Figures of one column with the same decimals: three digits for the usual size, or for the least of sizes far apart
#' @noRd
format_column <- function(x) {
  size <- abs(x[is.finite(x) & x != 0])
  if (!length(size) || max(size) >= 1e6 || min(size) < 1e-4) return(format_number(x))
  apart <- max(size) / min(size) > 100
  decimals <- if (apart) min(2, 2 - floor(log10(min(size)))) else 2 - floor(log10(stats::median(size)))
  format_decimals(x, max(0, decimals))
}

# p as it stands in a table of prose: without its letter.
prose_p <- function(p) sub("^p (= )?", "", vapply(p, format_p_clause, ""))

percent <- function(share) marked(sub("[.]0+$", "", format(100 * share, trim = TRUE, digits = 4)))

# Both ends with enough digits to tell years apart, and no thousands mark in a year.
reach_words <- function(ends) {
  shown <- with_minus(marked(format(signif(ends, 6), trim = TRUE)))
  say("%s to %s", shown[1], shown[2])
}

#' "1 case", "240 cases"
#' @noRd
count_of <- function(n, one, many = paste0(one, "s")) {
  mark <- if (any(n >= 10000)) "," else ""
  paste(marked(trimws(format(n, big.mark = mark, trim = TRUE, scientific = FALSE))), say(ifelse(n == 1, one, many)))
}
