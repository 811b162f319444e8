# The marks of delimited text: what stands between fields, and what between whole numbers and decimals.

#' The delimiter that gives most records of one width
#' @noRd
find_delimiter <- function(path) {
  unparted <- logical()
  scores <- vapply(c(",", ";", "\t", "|"), function(mark) {
    seen <- core_scan_delimited(path, mark, 65536)
    width <- table_width(seen)
    if (width < 2L) return(0)
    # Headings may lack the field that a delimiter at the end of each case makes; those that are not parted at all speak
    # against it: the comma of decimals parts cases alone.
    fields <- seen$fields[seen$fields > 0L]
    begins <- which(fields > 1L)[1]
    if (is.na(begins)) return(0)
    unparted[mark] <<- begins > 1L
    doubt <- 0.05 * (begins > 1L) + 0.05 * !seen$proper # quotes that end within a field speak against it too
    mean(abs(fields - width) <= 1L & fields > 1L) + min(width, 100) / 1000 - doubt
  }, 0)
  has_delimiter <- any(scores > 0)
  best <- if (has_delimiter) names(scores)[which.max(scores)] else ","
  # Columns may be set by spaces, in which the comma is a decimal mark.
  head <- readLines(path, 200L, warn = FALSE, encoding = "UTF-8")
  if ((!has_delimiter || unparted[[best]]) && !is.null(columns_by_spaces(head))) return("spaces")
  if (has_delimiter && best != "\t" && is_aligned(head, best)) return("spaces")
  best
}

# Columns that blanks set apart in the same places of every line, with the mark inside their cells and not between them.
is_aligned <- function(lines, mark) {
  lines <- lines[nzchar(trimws(lines))]
  if (length(lines) < 3L || !all(validUTF8(lines)) || mean(grepl("[^ ] {2,}[^ ]", lines)) < 0.9) return(FALSE)
  cells <- parts_by_gaps(lines, least = 2L)
  if (length(cells[[1]]) < 2L || !are_columns(cells)) return(FALSE)
  mean(endsWith(unlist(lapply(cells, utils::head, -1)), mark)) < 0.1
}

#' The decimal mark, from cells that can be read in one way only: "1,5", "0,648" and "1.250,5" prove the comma
#'
#' "1,250" proves nothing; where nothing else does, it is not guessed.
#' @section Errors: `unsere_error_input` where both readings are possible.
#' @noRd
find_decimal <- function(cells, delimiter, shown) {
  cells <- unique(trimws(unique(cells)))
  cells <- sub("^[-+\u2212]", "", cells[grepl("^[-+\u2212]?[0-9][0-9.,]*$", cells, perl = TRUE)], perl = TRUE)
  cells <- cells[grepl("[.,]", cells)]
  proves <- function(mark, other) {
    grouped <- sprintf("^[1-9][0-9]{0,2}([%s][0-9]{3})+$", mark)
    decimal <- sprintf("^([0-9]+|[1-9][0-9]{0,2}([%s][0-9]{3})+)[%s][0-9]+$", other, mark)
    # What stands twice in a number sets its thousands apart.
    twice <- sprintf("^[1-9][0-9]{0,2}([%s][0-9]{3}){2,}$", other)
    sum(grepl(decimal, cells, perl = TRUE) & !grepl(grouped, cells, perl = TRUE)) + sum(grepl(twice, cells, perl = TRUE))
  }
  comma <- proves(",", ".")
  point <- proves(".", ",")
  if (comma != point) return(if (comma > point) "," else ".")
  # Between commas a number with one is in quotes, and one with a point what it seems; not where both stand in one file.
  forms <- sprintf("^[1-9][0-9]{0,2}%s[0-9]{3}$", c("[.]", ","))
  both <- all(vapply(forms, function(form) any(grepl(form, cells)), NA))
  if (delimiter == "," && !both) return(".")
  open <- cells[grepl("^[1-9][0-9]{0,2}([.][0-9]{3}|,[0-9]{3})$", cells)]
  if (length(open) && comma == 0) abort_both_readings(open[1], shown)
  "."
}

abort_both_readings <- function(cell, shown) {
  mark <- gsub("[0-9]", "", cell)
  other <- setdiff(c(",", "."), mark)
  large <- sub(mark, "", cell, fixed = TRUE)
  small <- sub(mark, ".", cell, fixed = TRUE)
  hint <- "Say which is the decimal mark: \"%s\" (--decimal %s) makes it %s, \"%s\" the other."
  abort_input(
    problem("%s: %s can mean %s or %s, and no other cell settles it.", file_name(shown), cell, large, small),
    sprintf(hint, other, other, large, mark)
  )
}
