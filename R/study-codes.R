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
  for_all <- if (is.list(missing_codes)) NULL else missing_codes
  codes <- lapply(names, function(name) {
    declared <- known$missing_codes[known$variable == name]
    declared <- if (length(declared) && !is.na(declared)) trimws(strsplit(declared, ";", fixed = TRUE)[[1]])
    own <- if (is.list(missing_codes)) missing_codes[[name]]
    unique(c(declared, as.character(for_all), as.character(own)))
  })
  stats::setNames(codes, names)
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
