# Columns that stay in a database: what they are is learnt from a specimen, and those that are asked for are fetched,
# always in one query, so that the values of a row belong together.

# A table of so many cells is brought in whole.
most_cells_brought <- 5e6

#' A study whose columns stay in a database
#'
#' @param held An environment: `access` (a list: `open` gives a connection and `close` takes it; `table` and `condition` as they
#'   stand after FROM and WHERE; `name` of the table), `n` (cases), `mixed` (see `mixed_columns()`); `names` of the columns.
#' @param told A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @noRd
study_elsewhere <- function(con, held, names, told) {
  held$told <- told
  held$raw <- held$columns <- list()
  held$wanted <- character()
  specimen <- specimen_of(con, held, names)
  study <- build_study(specimen, told$codebook, told$missing_codes, c(told$origin, list(decimal_mark = ".")))
  names <- study_names(study)
  # Answers ticked in one column are several variables.
  from <- ifelse(names %in% names(specimen), names, NA)
  for (name in names[is.na(from)]) {
    from[names == name] <- names(specimen)[startsWith(name, paste0(names(specimen), ": "))][1]
  }
  held$from <- stats::setNames(from, names)
  held$book <- study$codebook
  study$data <- new_columns(held, names)
  study$provenance$n_rows <- held$n
  study$provenance$rows <- NULL
  study$provenance$decisions <- c(
    grep("repeat|far outside", study$provenance$decisions, value = TRUE, invert = TRUE),
    elsewhere = "the columns stay in the database; those asked for are fetched, and repeated rows are not looked for"
  )
  study
}

new_columns <- function(held, names, rows = NULL, added = list()) {
  structure(list(held = held, names = names, rows = rows, added = added), class = "unsere_columns")
}

is_elsewhere <- function(study) inherits(study$data, "unsere_columns")

with_access <- function(held, work) {
  con <- held$access$open()
  on.exit(held$access$close(con))
  work(con)
}

from_there <- function(held, what) {
  where <- if (nzchar(held$access$condition)) paste(" WHERE", held$access$condition) else ""
  sprintf("SELECT %s FROM %s%s", what, held$access$table, where)
}

# Rows that tell what each column holds: of one with few values all of them, each as often as it stands there up to sixty
# times; of one with many the values of the first thousand cases.
specimen_of <- function(con, held, names, size = 1000L) {
  ask <- function(what, more = "") ask_database(con, paste0(from_there(held, what), more))
  if (held$n == 0) abort_input(sprintf("%s has no case.", held$access$name), "Give a table with cases.")
  first <- fetch_there(con, held, names, sprintf(" LIMIT %d", size))
  columns <- lapply(names(first), function(name) {
    values <- first[[name]]
    few <- 15L
    if (length(unique(values)) > few) return(values)
    column <- column_there(con, held, name)
    counts <- ask(
      sprintf("%s AS unsere_value, COUNT(*) AS unsere_n", column),
      sprintf(" GROUP BY %s ORDER BY COUNT(*) DESC LIMIT %d", column, few + 1L)
    )
    found <- rep(plain_column(counts$unsere_value), pmin(as.double(counts$unsere_n), 60))
    if (class(found)[1] != class(values)[1] || nrow(counts) > few) values else found
  })
  length <- max(lengths(columns))
  list2DF(stats::setNames(lapply(columns, function(values) values[seq_len(length)]), names(first)), length)
}

# Of SQLite, where each value has a type of its own: columns that hold text among numbers.
mixed_columns <- function(con, held, names) {
  if (engine_of(con) != "sqlite") return(character())
  columns <- quote_names(con, names)
  both <- sprintf(
    "MAX(%1$s) > %2$s AND MIN(%1$s) <= %2$s AS v%3$d", columns, beyond_numbers, seq_along(columns)
  )
  blocks <- split(both, (seq_along(names) - 1L) %/% 200L)
  holds <- unlist(lapply(blocks, function(some) unlist(ask_database(con, from_there(held, paste(some, collapse = ", "))))))
  names[holds %in% 1]
}

column_there <- function(con, held, names) {
  columns <- quote_names(con, names)
  ifelse(names %in% held$mixed, sprintf("CAST(%s AS TEXT)", columns), columns)
}

fetch_there <- function(con, held, names, more = "") {
  asked <- sprintf("%s AS %s", column_there(con, held, names), quote_names(con, names))
  found <- ask_database(con, paste0(from_there(held, paste(asked, collapse = ", ")), more))
  stats::setNames(lapply(found, plain_column), names)
}

#' Some variables that are going to be asked for, so that one query brings them all
#' @noRd
note_wanted <- function(study, names) {
  if (!is_elsewhere(study)) return(invisible())
  held <- unclass(study$data)$held
  held$wanted <- union(held$wanted, intersect(names, names(held$from)))
  invisible()
}

#' A study as far as its other variables are looked through for doubts: all, or, where they stay in a database, those asked
#' for, those with a role and some that split the cases
#' @noRd
study_at_hand <- function(study) {
  if (!is_elsewhere(study)) return(study)
  names <- names_at_hand(study_book(study), unclass(study$data)$held$wanted)
  study[, intersect(study_names(study), c(names, names(unclass(study$data)$added)))]
}

most_splits_fetched <- 10L

names_at_hand <- function(book, wanted) {
  splits <- book$variable[book$role == "measure" & book$level %in% c("nominal", "binary")]
  with_role <- book$variable[book$role %in% c("case", "time", "group", "weight", "stratum", "cluster")]
  unique(c(wanted, with_role, utils::head(splits, most_splits_fetched)))
}

#' The columns that were asked for by now, and this one
#' @noRd
fetched <- function(held, name) {
  if (name %in% names(held$columns)) return(held$columns[[name]])
  held$wanted <- union(held$wanted, name)
  raw <- unique(unname(held$from[names_at_hand(held$book, held$wanted)]))
  raw <- union(names(held$raw), raw[!is.na(raw)])
  found <- with_access(held, function(con) fetch_there(con, held, raw))
  same <- all(lengths(found) == held$n) && all(mapply(identical, found[names(held$raw)], held$raw))
  if (!same) abort_input(
    "The table changed while it was read, or gives its rows in another order each time.",
    "Run this again, or bring it in with collect = TRUE."
  )
  told <- held$told
  held$raw <- found
  held$columns <- as.list(read_columns(
    list2DF(found, held$n), told$codebook, told$missing_codes, c(told$origin, list(decimal_mark = "."))
  )$data)
  held$columns[[name]]
}

#' @export
names.unsere_columns <- function(x) unclass(x)$names

#' @export
dim.unsere_columns <- function(x) {
  parts <- unclass(x)
  c(if (is.null(parts$rows)) parts$held$n else length(parts$rows), length(parts$names))
}

#' @export
length.unsere_columns <- function(x) length(unclass(x)$names)

#' @export
`[[.unsere_columns` <- function(x, i, ...) {
  parts <- unclass(x)
  name <- if (is.character(i)) i else parts$names[i]
  if (!name %in% parts$names) return(NULL)
  if (name %in% names(parts$added)) return(parts$added[[name]])
  values <- fetched(parts$held, name)
  if (is.null(parts$rows)) values else values[parts$rows]
}

#' @export
`$.unsere_columns` <- function(x, name) x[[name]]

#' @export
`[[<-.unsere_columns` <- function(x, i, ..., value) {
  parts <- unclass(x)
  parts$added[i] <- list(value)
  new_columns(parts$held, union(parts$names, i), parts$rows, parts$added)
}

# Without cases: a data frame of these columns. With them: the columns of these cases, which stay where they are.
#' @export
`[.unsere_columns` <- function(x, i, j, drop = FALSE) {
  parts <- unclass(x)
  if (nargs() == 2L) {
    names <- if (is.character(i)) i else parts$names[i]
    held <- parts$held
    held$wanted <- union(held$wanted, setdiff(names, names(parts$added)))
    return(list2DF(stats::setNames(lapply(names, function(name) x[[name]]), names), dim(x)[1]))
  }
  names <- if (missing(j)) parts$names else if (is.character(j)) j else parts$names[j]
  added <- parts$added[intersect(names, names(parts$added))]
  if (missing(i) || length(i) == dim(x)[1] && all(i == seq_len(dim(x)[1]))) return(
    new_columns(parts$held, names, parts$rows, added)
  )
  rows <- if (is.null(parts$rows)) i else parts$rows[i]
  new_columns(parts$held, names, rows, lapply(added, function(values) values[i]))
}

#' @export
as.data.frame.unsere_columns <- function(x, ...) x[names(x)]

#' @export
as.list.unsere_columns <- function(x, ...) as.list(as.data.frame(x))
