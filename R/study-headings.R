# What headings and values give away: units in headings, columns of codes, values that look like "no answer".

#' Label and unit of a heading such as "wait, min", "income (EUR)" or "attendance [%]"
#' @noRd
unit_in_heading <- function(name) {
  patterns <- c("^(.+?) *\\(([^()]{1,20})\\)$", "^(.+?) *\\[([^]]{1,20})\\]$", "^(.+), ([^ ,]{1,8})$")
  for (pattern in patterns) {
    parts <- regmatches(name, regexec(pattern, name, perl = TRUE))[[1]]
    if (length(parts)) return(list(label = trimws(parts[2]), unit = trimws(parts[3])))
  }
  NULL
}

code_words <- "(^|[_ .-])(id|ids|code|codes|nr|no|number|key|zip|postcode|case|row)([_ .-]|$)"

#' Whether a numeric column holds codes rather than measurements, and of which role
#' @return `"case"`, `"nominal"` or `NULL`.
#' @noRd
codes_kind <- function(name, column) {
  if (!is.numeric(column) || !grepl(code_words, tolower(name))) return(NULL)
  given <- column[!is.na(column)]
  if (!length(given) || any(given != round(given))) return(NULL)
  if (!anyDuplicated(given) && !anyNA(column)) "case" else "nominal"
}

usual_codes <- c(-999, -99, -98, -97, -9, -8, -7, 88, 98, 99, 888, 998, 999, 9999)

#' Usual codes for "no answer" that stand far outside the other values and are not declared
#' @return A data frame: `code`, `count`, `low`, `high` (of the other values); or nothing.
#' @noRd
suspicious_codes <- function(column) {
  if (!is.numeric(column) || !any(usual_codes %in% column) || length(unique(column)) < 3L) return(NULL)
  rest <- column[!is.na(column) & !column %in% usual_codes]
  if (length(rest) < 3L) return(NULL)
  ends <- range(rest)
  room <- max(diff(ends) * 0.25, 1)
  codes <- intersect(usual_codes, column)
  floor <- if (ends[1] >= 0) min(ends[1] - room, -0.5) else -Inf
  far <- codes[codes < floor & codes < 0 | codes > ends[2] + room & codes > 0]
  if (!length(far)) return(NULL)
  data.frame(code = far, count = vapply(far, function(code) sum(column %in% code), 0L), low = ends[1], high = ends[2])
}
