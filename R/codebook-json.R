# Codebooks in JSON: Frictionless Table Schema and Data Package, and CSV on the Web metadata (W3C).

#' The entries of a codebook in JSON
#'
#' @param names The variables of the data; `file` their file, which tells which table of several is meant.
#' @return A data frame as from a CSV codebook, with the attribute `labels`.
#' @noRd
read_codebook_json <- function(path, names = NULL, file = NULL) {
  read <- parse_json(path, simplifyVector = FALSE)
  table <- table_of(read, file, dirname(path))
  entries <- if (!is.null(table$columns)) {
    lapply(Filter(function(column) !isTRUE(column$virtual), table$columns), csvw_entry, names = names, null = table$null)
  } else {
    lapply(table$fields, field_entry, missing = table$missing)
  }
  if (!length(entries)) {
    abort_input(
      problem("%s describes no variable.", file_name(path)),
      "A Table Schema has `fields`, a Data Package `resources`, CSV on the Web `tableSchema`."
    )
  }
  book <- do.call(rbind, lapply(entries, `[[`, "entry"))
  structure(book, labels = Filter(Negate(is.null), stats::setNames(lapply(entries, `[[`, "labels"), book$variable)))
}

#' The table that is meant, of a schema, a package of several, or a group of tables
#' @noRd
table_of <- function(read, file, folder) {
  if (!is.list(read)) return(list())
  pick <- function(all, place) {
    if (is.null(file)) return(all[[1]])
    named <- vapply(all, function(one) basename(paste(unlist(one[[place]])[1])), "")
    all[[c(which(named == basename(file)), 1L)[1]]]
  }
  if (!is.null(read$resources)) {
    schema <- schema_of(pick(read$resources, "path")$schema, folder)
    return(list(fields = schema$fields, missing = schema$missingValues))
  }
  if (!is.null(read$fields)) return(list(fields = read$fields, missing = read$missingValues))
  table <- if (!is.null(read$tables)) pick(read$tables, "url") else read
  schema <- schema_of(table$tableSchema, folder)
  list(columns = schema$columns, null = or_default(schema$null, or_default(table$null, read$null)))
}

#' A schema as it stands, or from the file beside that it names
#' @noRd
schema_of <- function(schema, folder) {
  if (!is.character(schema)) return(schema)
  path <- file.path(folder, schema[1])
  # A name within the folder, and no way out of it or to another machine.
  if (!grepl("^[^/\\\\:]+$", schema[1]) || !file.exists(path)) {
    abort_input(
      problem("The schema \"%s\" is not a file beside the codebook.", schema[1]),
      "Put it there, or write it into the codebook."
    )
  }
  parse_json(path, simplifyVector = FALSE)
}

# The text of a field, which CSV on the Web may give in several languages.
plain_of <- function(value) {
  text <- unlist(value)
  if (length(text)) trimws(as.character(text[[1]])) else NA_character_
}

first_of <- function(...) {
  known <- Filter(function(one) !is.na(one) && nzchar(one), lapply(list(...), plain_of))
  if (length(known)) known[[1]] else NA_character_
}

field_entry <- function(field, missing) {
  gone <- setdiff(as.character(unlist(or_default(field$missingValues, missing))), blank_marks)
  categories <- field_categories(field)
  ordered <- isTRUE(field$categoriesOrdered)
  level <- first_of(field$level, c(number = "numeric", boolean = "binary")[paste(field$type)])
  many <- length(categories$code) > 2L
  if (is.na(level) && !is.null(categories)) level <- if (ordered) "ordinal" else if (many) "nominal" else
    "binary"
  numbers <- suppressWarnings(as.numeric(categories$code))
  apart <- if (ordered) setdiff(gone[is.na(suppressWarnings(as.numeric(gone)))], categories$code)
  gone <- setdiff(gone, apart)
  order <- if (ordered && length(categories$code) > 1L) paste(c(categories_order(categories, numbers), apart),
    collapse = "; "
  )
  list(
    entry = data.frame(
      variable = plain_of(field$name), label = first_of(field$title, field$description), short = first_of(field$short),
      unit = first_of(field$unit),
      level = level, role = first_of(field$role), missing_codes = or_na(paste(gone, collapse = ";")),
      source = if (is.null(field$title)) first_of(field$source) else first_of(field$source, field$description),
      values = or_default(order, NA_character_),
      range = ends_of(field$constraints$minimum, field$constraints$maximum)
    ),
    labels = if (!ordered && !is.null(categories$label) && !anyNA(numbers)) stats::setNames(numbers, categories$label)
  )
}

#' What a field may hold: categories with labels, or the values of a constraint that are words
#' @noRd
field_categories <- function(field) {
  given <- field$categories
  if (!length(given)) return(NULL)
  if (!is.list(given[[1]])) return(list(code = as.character(unlist(given))))
  code <- vapply(given, function(one) as.character(one$value), "")
  label <- vapply(given, function(one) as.character(or_default(one$label, one$value)), "")
  list(code = code, label = label)
}

categories_order <- function(categories, numbers) {
  if (anyNA(numbers)) return(paste(spell_words(categories$code), collapse = " < "))
  order <- order(numbers)
  words <- if (is.null(categories$label)) rep(NA_character_, length(numbers)) else
    ifelse(categories$label == categories$code, NA, categories$label)
  order_text(numbers[order], words[order])
}

csvw_entry <- function(column, names, null) {
  titles <- as.character(unlist(column$titles))
  # The heading in the file is the title; a name is for machines.
  variable <- c(intersect(c(titles, column$name), names), titles, column$name)[1]
  gone <- setdiff(as.character(unlist(or_default(column$null, null))), blank_marks)
  type <- column$datatype
  if (is.list(type)) type <- type$base
  if (is.null(type)) type <- ""
  level <- c(
    number = "numeric", decimal = "numeric", double = "numeric", float = "numeric", boolean = "binary"
  )[paste(type)]
  label <- first_of(
    column$`rdfs:label`, column$`dc:title`, column$`dcterms:title`, column$`dc:description`, column$`dcterms:description`,
    setdiff(titles, variable)
  )
  ends <- if (is.list(column$datatype)) column$datatype
  list(entry = data.frame(
    variable = variable, label = label, unit = first_of(column$`schema:unitText`, column$unit), level = unname(level),
    role = NA_character_, missing_codes = or_na(paste(gone, collapse = ";")),
    source = first_of(column$`dc:source`, column$`dcterms:source`), values = NA_character_,
    range = ends_of(or_default(ends$minimum, ends$minInclusive), or_default(ends$maximum, ends$maxInclusive))
  ), labels = NULL)
}

#' A codebook as a Table Schema; what the standard has no name for stands under names of ours, as it allows
#' @noRd
codebook_as_json <- function(book) {
  fields <- lapply(seq_len(nrow(book)), function(k) {
    entry <- Filter(Negate(is.na), as.list(book[k, ]))
    field <- list(
      name = entry$variable, title = entry$label, short = entry$short, type = "any", unit = entry$unit, level = entry$level
    )
    field$type <- switch(entry$level,
      numeric = "number",
      "any"
    )
    field$role <- entry$role
    if (!is.null(entry$range)) {
      ends <- parse_range(entry$range, entry$variable)
      field$constraints <- list(minimum = ends[1], maximum = ends[2])
    }
    field$source <- entry$source
    if (!is.null(entry$missing_codes)) {
      field$missingValues <- I(c("", trimws(strsplit(entry$missing_codes, ";", fixed = TRUE)[[1]])))
    }
    if (!is.null(entry$values)) {
      values <- parse_order(entry$values, entry$variable)
      order <- values$order
      field$categories <- if (is.null(values$codes)) I(order) else data.frame(value = values$codes, label = order)
      field$categoriesOrdered <- TRUE
      if (length(values$apart)) field$missingValues <- I(unique(c("", unlist(field$missingValues), values$apart)))
    }
    Filter(Negate(is.null), field)
  })
  jsonlite::toJSON(list(fields = fields, missingValues = I("")), auto_unbox = TRUE, pretty = 2, digits = NA)
}
