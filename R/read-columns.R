# What a column holds: cleaned values, the level of measurement they have, and numbers where numbers are wanted.

#' A column in the form that the rest works with: double, logical, ordered, Date or text, blanks as NA
#'
#' @param entry The variable's entry in the codebook (no row where it has none).
#' @return A list: `values`, and where it applies `unit` and `note`.
#' @noRd
tidy_column <- function(column, entry, decimal = ".", name = "") {
  if (inherits(column, "integer64")) {
    need_package("bit64", "to read whole numbers of 64 bits")
    column <- whole_numbers(as.character(column))
  }
  if (is.ordered(column) || inherits(column, c("Date", "POSIXt")) || is.logical(column) && any(!is.na(column))) {
    return(list(values = column))
  }
  if (is.numeric(column) &&
    !is.factor(column)) return(list(values = if (is.double(column)) column else as.double(column)))
  if (is.list(column) && all(vapply(column, function(cell) is.null(cell) || is.raw(cell), NA))) {
    # Bytes, as a database keeps pictures in, are no values.
    return(list(values = rep(NA_real_, length(column)), note = template("bytes, skipped because they are not values")))
  }
  if (is.list(column)) {
    length <- if (is.data.frame(column)) nrow(column) else length(column)
    return(list(values = rep(NA_real_, length), note = template("lists, skipped because they are not values")))
  }
  text <- as.character(column)
  if (nrow(entry) == 1L && entry$level %in% "nominal") {
    text[trimws(text) %in% blank_marks] <- NA_character_
    return(list(values = trimws(text)))
  }
  convert_text(
    text, decimal,
    numbers = nrow(entry) == 1L && entry$level %in% c("numeric", "ordinal", "binary"), name = name
  )
}

find_level <- function(column) {
  if (is.logical(column)) return("binary")
  if (is.ordered(column)) return("ordinal")
  if (inherits(column, c("Date", "POSIXt"))) return("numeric")
  # More than a few different values at the start settle it without a look at all of them.
  if (is.numeric(column) && length(unique(utils::head(column, 1000L))) > 12L) return("numeric")
  values <- unique(column[!is.na(column)])
  if (is.numeric(column)) {
    if (length(values) == 2L && (all(values %in% 0:1) || all(values %in% 1:2))) return("binary")
    return("numeric")
  }
  if (length(values) == 2L) return("binary")
  if (mostly_numbers(column)) "numeric" else "nominal"
}

#' "text in 4 of its 14 cells: "x" in row 5, ..."
#' @noRd
text_cells <- function(column, rows) {
  bad <- which(!is.na(column) & is.na(numbers_in(as.character(column))))
  places <- utils::head(bad, 3)
  cells <- Map(
    function(cell, row) template("\"%s\" in row %d", cell, as.integer(row)), column[places],
    if (is.null(rows)) places else rows[places]
  )
  more <- length(bad) - length(places)
  template(
    "text in %d of its %d cells: %s%s", length(bad), length(column), shown(unname(cells), "parts", ", "),
    if (more) template(" and %d more", more) else ""
  )
}
