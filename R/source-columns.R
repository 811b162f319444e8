# Columns that are held elsewhere, behind the narrow door of a study: those that are asked for are fetched, always in one
# query, so that the values of a row belong together.

#' @param added Columns of the study's own; `formulas` those that are said in the database's words (a `tree` and its `text`).
#' @noRd
new_columns <- function(database, names, rows = NULL, added = list(), formulas = list()) {
  columns <- list(database = database, names = names, rows = rows, added = added, formulas = formulas)
  structure(columns, class = "unsere_columns")
}

most_splits_fetched <- 10L

names_at_hand <- function(book, wanted) {
  splits <- book$variable[book$role == "measure" & book$level %in% c("nominal", "binary")]
  with_role <- book$variable[book$role %in% c("case", "time", "group", "weight", "stratum", "cluster")]
  unique(c(wanted, with_role, utils::head(splits, most_splits_fetched)))
}

#' The columns that were asked for by now, and this one
#' @noRd
fetched <- function(database, name) {
  if (name %in% names(database$columns)) return(database$columns[[name]])
  database$wanted <- union(database$wanted, name)
  raw <- unique(unname(database$from[names_at_hand(database$book, database$wanted)]))
  raw <- union(names(database$raw), raw[!is.na(raw)])
  check_fetchable(database, length(raw))
  values <- database$fetch(raw)
  same <- all(lengths(values) == database$n) && all(mapply(identical, values[names(database$raw)], database$raw))
  if (!same) abort_input(
    "The table changed while it was read, or returns its rows in another order each time.",
    "Run this again, or fetch it with collect = TRUE."
  )
  database$raw <- values
  database$columns <- database$read(values)
  database$columns[[name]]
}

#' @export
names.unsere_columns <- function(x) unclass(x)$names

# Under other names they are columns of the study itself.
#' @export
`names<-.unsere_columns` <- function(x, value) {
  parts <- unclass(x)
  new_columns(parts$database, value, parts$rows, stats::setNames(as.list(x), value))
}

#' @export
dim.unsere_columns <- function(x) {
  parts <- unclass(x)
  c(if (is.null(parts$rows)) parts$database$n else length(parts$rows), length(parts$names))
}

#' @export
length.unsere_columns <- function(x) length(unclass(x)$names)

#' @export
`[[.unsere_columns` <- function(x, i, ...) {
  parts <- unclass(x)
  name <- if (is.character(i)) i else parts$names[i]
  if (!name %in% parts$names) return(NULL)
  if (name %in% names(parts$added)) return(parts$added[[name]])
  values <- if (name %in% names(parts$formulas)) parts$formulas[[name]]$compute() else fetched(parts$database, name)
  if (is.null(parts$rows)) values else values[parts$rows]
}

#' @export
`$.unsere_columns` <- function(x, name) x[[name]]

#' @export
`[[<-.unsere_columns` <- function(x, i, ..., value) {
  parts <- unclass(x)
  parts$added[i] <- list(value)
  new_columns(parts$database, union(parts$names, i), parts$rows, parts$added, parts$formulas)
}

# Without cases: a data frame of these columns. With them: the columns of these cases, which stay where they are.
#' @export
`[.unsere_columns` <- function(x, i, j, drop = FALSE) {
  parts <- unclass(x)
  if (nargs() == 2L) {
    names <- if (is.character(i)) i else parts$names[i]
    database <- parts$database
    database$wanted <- union(database$wanted, setdiff(names, names(parts$added)))
    return(list2DF(stats::setNames(lapply(names, function(name) x[[name]]), names), dim(x)[1]))
  }
  names <- if (missing(j)) parts$names else if (is.character(j)) j else parts$names[j]
  added <- parts$added[intersect(names, names(parts$added))]
  if (missing(i) || length(i) == dim(x)[1] && all(i == seq_len(dim(x)[1]))) return(
    new_columns(parts$database, names, parts$rows, added, parts$formulas[intersect(names, names(parts$formulas))])
  )
  rows <- if (is.null(parts$rows)) i else parts$rows[i]
  new_columns(parts$database, names, rows, lapply(added, function(values) values[i]))
}

#' @export
print.unsere_columns <- function(x, ...) {
  cat(sprintf("%d columns of %.0f cases, held in a database; as.data.frame() fetches them\n", length(x), dim(x)[1]))
  invisible(x)
}

#' @export
as.data.frame.unsere_columns <- function(x, ...) x[names(x)]

#' @export
as.list.unsere_columns <- function(x, ...) as.list(as.data.frame(x))

most_fetched <- function() getOption("unsere.most_fetched", 1e7)

# What sums cannot answer may fetch ten times as many.
check_fetchable <- function(database, columns) {
  if (database$n * columns <= 10 * most_fetched()) return(invisible())
  abort_input(
    problem("This question needs the cases themselves, and %s are too many to fetch.", count_in_english(database$n, "case")),
    "Select cases with where; relate(), correlation_matrix(), fit_line() and draw_scatter() use sums from the database."
  )
}

# Read once, however many columns are asked for.
specimen_read <- function(database) {
  if (is.null(database$seen_read)) database$seen_read <- database$read(database$seen)
  database$seen_read
}

with_access <- function(database, work) {
  con <- database$access$open()
  on.exit(database$access$close(con))
  work(con)
}

source_in_database <- function(database) {
  paste0(database$access$table, if (nzchar(database$access$condition)) paste(" WHERE", database$access$condition))
}

from_in_database <- function(database, what) sprintf("SELECT %s FROM %s", what, source_in_database(database))

column_in_database <- function(con, database, names) {
  columns <- quote_names(con, names)
  ifelse(names %in% database$mixed, sprintf("CAST(%s AS TEXT)", columns), columns)
}

fetch_in_database <- function(con, database, names, more = "") {
  terms <- sprintf("%s AS %s", column_in_database(con, database, names), quote_names(con, names))
  rows <- ask_database(con, paste0(from_in_database(database, paste(terms, collapse = ", ")), more))
  stats::setNames(lapply(rows, plain_column), names)
}

want_columns <- function(columns, names) {
  database <- unclass(columns)$database
  database$wanted <- union(database$wanted, intersect(names, names(database$from)))
}
