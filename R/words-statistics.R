# Statistics as journals set them: symbols in italics, what is lowered below the line.

# "r(220) = ", "rs = ", "p < ", "t(22) = ", "n = ": a symbol with its degrees of freedom before a sign.
statistic_pattern <- paste0(
  "(?<![[:alnum:]_.\"'\u201c\u201e-])(rs|rpb|\u03c4b|[a-z]{3}-b|r|p|t|F|z|n|N|M|SD|b|d|k|V|\u03b7|\u03c6|\u03c7|\u03b5|R|W)",
  "(?=\u00b2?(\\([0-9][0-9., ;\u00a0]*\\))?[ \u00a0][=<>\u2264\u2265][ \u00a0])"
)

# A symbol and what stands lowered behind it.
lowered_pattern <- "^(r|\u03c4|[a-z]{3}(?=-))-?(s|pb|b)$"

# Heads of columns that are a symbol and nothing else.
statistic_heads <- c("r", "p", "t", "F", "z", "n", "N", "M", "SD", "b", "k", "df", "V")

is_statistic_head <- function(head) head %in% statistic_heads | grepl(lowered_pattern, head, perl = TRUE)

#' A text in runs: what is set in italics and what is lowered
#' @param head Whether it is the head of a column, which may be a symbol alone.
#' @return A list: `text`, `italic` and `lowered`, as long as there are runs.
#' @noRd
statistic_runs <- function(text, head = FALSE) {
  text <- enc2utf8(text)
  at <- if (head && is_statistic_head(text)) structure(1L, match.length = nchar(text)) else
    gregexpr(statistic_pattern, text, perl = TRUE)[[1]]
  if (at[1] < 0L) return(list(text = text, italic = FALSE, lowered = FALSE))
  ends <- at + attr(at, "match.length") - 1L
  runs <- list(text = character(), italic = logical(), lowered = logical())
  add <- function(text, italic = FALSE, lowered = FALSE) {
    if (!nzchar(text)) return()
    runs$text <<- c(runs$text, text)
    runs$italic <<- c(runs$italic, italic)
    runs$lowered <<- c(runs$lowered, lowered)
  }
  from <- 1L
  for (k in seq_along(at)) {
    add(substr(text, from, at[k] - 1L))
    symbol <- substr(text, at[k], ends[k])
    parts <- regmatches(symbol, regexec(lowered_pattern, symbol, perl = TRUE))[[1]][-1]
    if (!length(parts)) parts <- symbol
    # Greek letters stand upright.
    add(parts[1], italic = !grepl("^[\u03b1-\u03c9]$", parts[1]))
    if (length(parts) > 1L) add(parts[2], lowered = TRUE)
    from <- ends[k] + 1L
  }
  add(substring(text, from))
  runs
}

#' Texts as HTML, with their statistics set
#' @noRd
statistics_html <- function(texts, head = FALSE) {
  vapply(texts, function(text) {
    runs <- statistic_runs(text, head)
    parts <- htmltools::htmlEscape(runs$text)
    parts <- ifelse(runs$italic, sprintf("<i>%s</i>", parts), ifelse(runs$lowered, sprintf("<sub>%s</sub>", parts), parts))
    paste(parts, collapse = "")
  }, "", USE.NAMES = FALSE)
}
