# Numbers as digits with the marks of their file: the readings that all others end in.

# ".." and ":" are those of official statistics.
blank_marks <- c("", "NA", "N/A", "n/a", "na", "-", "\u2013", "\u2014", "..", "...", "\u2026", ":")

#' Without spaces around it, and without the marks that stand for a blank
#' @noRd
tidy_text <- function(text) {
  if (any(grepl("\u00a0", text, fixed = TRUE))) text <- gsub("\u00a0", " ", text, fixed = TRUE)
  text <- without_control(text)
  if (any(startsWith(text, " ") | endsWith(text, " "), na.rm = TRUE)) text <- trimws(text)
  text[text %in% blank_marks] <- NA_character_
  text
}

# Minus signs, and the digits of other scripts, as plain ones: full width, Arabic, Persian, Devanagari.
with_plain_signs <- function(text) {
  if (any(grepl("\u2212", text, fixed = TRUE))) text <- sub("\u2212", "-", text, fixed = TRUE)
  if (!any(grepl(sprintf("[%s]", other_digits), text, perl = TRUE))) return(text)
  chartr(paste0(other_digits, "\uff0e\u066b"), paste0(strrep("0123456789", 4L), ".."), text)
}

other_digits <- intToUtf8(outer(0:9, c(0xff10L, 0x0660L, 0x06f0L, 0x0966L), `+`))

complete_reading <- function(text, values) if (all(is.na(text) | !is.na(values))) values

numbers_in <- function(text) {
  plain <- grepl("^[-+\u2212]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$", text)
  out <- rep(NA_real_, length(text))
  out[plain] <- as.numeric(sub("\u2212", "-", text[plain], fixed = TRUE))
  # 1e400 is no number that can be computed with.
  out[is.infinite(out)] <- NA
  out
}

read_plain <- function(text, decimal) {
  # Beside decimal commas "1.250" is no decimal number.
  pointed <- grepl(".", text, fixed = TRUE)
  if (decimal == "," && any(pointed) && all(grepl("^[-+]?[1-9][0-9]{0,2}([.][0-9]{3})+$", text[pointed]))) return(NULL)
  values <- complete_reading(text, numbers_in(text))
  if (!is.null(values)) list(values = values)
}

#' Numbers with the marks of their file, or the text as it is: the same whatever other cells there are
#' @param comma Whether a comma may be the decimal mark.
#' @noRd
plain_numbers <- function(text, decimal, comma = decimal == ",") {
  text <- tidy_text(text)
  for (reading in c(list(read_plain, read_grouped), if (comma) read_comma)) {
    numbers <- reading(text, decimal)
    if (!is.null(numbers)) return(numbers$values)
  }
  text
}

# Thousands in groups of three: 1,234,567.8 or 1.234.567,8 or 1 234 567 or 1'234'567.
read_grouped <- function(text, decimal) {
  styles <- list(c(",", "."), c(".", ","), c(" ", decimal), c("'", decimal))
  if (decimal == ",") styles <- styles[c(2, 1, 3, 4)]
  for (style in styles) {
    mark <- if (style[1] %in% c(".", "'", ",")) paste0("[", style[1], "]") else " "
    point <- paste0("[", style[2], "]")
    grouped <- grepl(sprintf("^[-+]?[1-9][0-9]{0,2}(%s[0-9]{3})+(%s[0-9]+)?$", mark, point), text)
    plain <- grepl(sprintf("^[-+]?[0-9]+(%s[0-9]+)?$", point), text)
    if (!any(grouped) || !all(is.na(text) | grouped | plain)) next
    values <- numbers_in(sub(style[2], ".", gsub(style[1], "", text, fixed = TRUE), fixed = TRUE))
    return(list(values = values, note = template("\"%s\" read as a thousands mark", style[1])))
  }
  NULL
}

read_comma <- function(text, decimal) {
  if (!any(grepl(",", text, fixed = TRUE))) return(NULL)
  values <- complete_reading(text, numbers_in(sub(",", ".", text, fixed = TRUE)))
  if (!is.null(values)) list(values = values, note = template("\",\" read as the decimal mark"))
}

#' What a form captures in each of some texts, a column a group
#' @return A character matrix; `NULL` where there is no text, or one of another form.
#' @noRd
captured <- function(given, form) {
  if (!length(given) || !all(grepl(form, given, perl = TRUE))) return(NULL)
  do.call(rbind, regmatches(given, regexec(form, given, perl = TRUE)))[, -1, drop = FALSE]
}

# What was read of the texts that are there, in their places.
in_places <- function(text, read) {
  places <- rep(read[NA_integer_], length(text))
  places[!is.na(text)] <- read
  places
}
