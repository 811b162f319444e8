# Values that stand for "no answer".

# A declared code among text is taken out before the rest is read as numbers.
blank_codes <- function(column, codes) {
  if (length(codes) && (is.character(column) || is.factor(column))) {
    column <- as.character(column)
    column[trimws(column) %in% codes] <- NA
  }
  column
}

codes_by_variable <- function(names, known, missing_codes) {
  for_all <- if (!is.list(missing_codes)) spell_codes(as.character(missing_codes))
  declared <- known$missing_codes[match(names, known$variable)]
  codes <- lapply(seq_along(names), function(k) {
    own <- if (is.list(missing_codes)) spell_codes(as.character(missing_codes[[names[k]]]))
    unique(c(if (!is.na(declared[k])) code_entry(declared[k]), for_all, own))
  })
  stats::setNames(codes, names)
}

#' The codes of an entry in a codebook: separated by semicolons, or by commas where all of them are numbers
#' @noRd
code_entry <- function(text) {
  codes <- trimws(strsplit(text, ";", fixed = TRUE)[[1]])
  spell_codes(unlist(lapply(codes, function(code) {
    parts <- trimws(strsplit(code, ",", fixed = TRUE)[[1]])
    if (length(parts) > 1L && all(grepl("^[-+]?[0-9.]+( *[-=:\u2013].*)?$", parts))) parts else code
  })))
}

#' Codes as people write them: "97-99" is each of 97 to 99, "99 = refused" is 99; what is meant as it stands stays as well
#' @noRd
spell_codes <- function(codes) {
  codes <- trimws(codes)
  span <- "^(-?[0-9]{1,6}) *(-|\u2013|to|\\.\\.+) *(-?[0-9]{1,6})$"
  labelled <- "^([-+]?[0-9]+[.]?[0-9]*) *[=:] *[^ ].*$"
  unique(unlist(lapply(codes, function(code) {
    if (grepl(span, code)) {
      ends <- sort(as.numeric(regmatches(code, regexec(span, code))[[1]][c(2, 4)]))
      if (diff(ends) <= 1000) return(c(code, as.character(seq(ends[1], ends[2]))))
    }
    if (grepl(labelled, code)) return(c(code, sub(labelled, "\\1", code)))
    code
  })))
}

matches_code <- function(column, codes) {
  if (!length(codes)) return(FALSE)
  if (is.numeric(column)) {
    numbers <- suppressWarnings(as.numeric(codes))
    !is.na(column) & column %in% numbers[!is.na(numbers)]
  } else {
    !is.na(column) & as.character(column) %in% codes
  }
}
