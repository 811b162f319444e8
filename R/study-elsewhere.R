# A table of a database as a study: brought in, or left there, where what its columns are is learnt from a specimen.

# A table of so many cells is brought in whole.
most_cells_brought <- 5e6

#' A study whose columns stay in a database
#'
#' @param held An environment: `access` (a list: `open` gives a connection and `close` takes it; `table` and `condition` as
#'   they stand after FROM and WHERE; `name` of the table), `n` (cases), `mixed` (see `mixed_columns()`).
#' @param names Of the columns.
#' @param told A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @noRd
study_elsewhere <- function(con, held, names, told) {
  held$fetch <- function(names) {
    with_access(held, function(con) {
      held$mixed <- union(held$mixed, mixed_columns(con, held, setdiff(names, held$looked_at)))
      held$looked_at <- union(held$looked_at, names)
      fetch_there(con, held, names)
    })
  }
  held$read <- function(raw) {
    origin <- c(told$origin, list(decimal_mark = "."))
    as.list(read_columns(list2DF(raw), told$codebook, told$missing_codes, origin)$data)
  }
  held$raw <- held$columns <- list()
  held$wanted <- character()
  specimen <- specimen_of(con, held, names)
  held$seen <- as.list(specimen)
  held$codes <- codes_by_variable(names, read_codebook(told$codebook, names), told$missing_codes)
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
  # What was counted among the cases of the specimen is not told of the table.
  study$provenance$rows <- study$provenance$coded <- NULL
  decisions <- study$provenance$decisions
  counted <- c("repeated", "suspicious", "coded", "summary_row", "range", "text")
  study$provenance$decisions <- c(
    decisions[!or_default(names(decisions), "") %in% counted],
    elsewhere = paste(
      "the columns stay in the database, which is asked for what a question needs; repeated rows are not looked for"
    )
  )
  study
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
    if (class(found)[1] != class(values)[1] || nrow(counts) > few) return(values)
    held$whole[[name]] <- TRUE
    held$counts[[name]] <- list(value = plain_column(counts$unsere_value), n = as.double(counts$unsere_n))
    found
  })
  length <- max(lengths(columns))
  list2DF(stats::setNames(lapply(columns, function(values) values[seq_len(length)]), names(first)), length)
}

# Of SQLite, where each value has a type of its own: columns that hold text among numbers.
mixed_columns <- function(con, held, names, limit = "") {
  if (engine_of(con) != "sqlite" || !length(names)) return(character())
  from <- sprintf("(%s%s)", from_there(held, "*"), limit)
  columns <- quote_names(con, names)
  both <- sprintf(
    "MAX(%1$s) > %2$s AND MIN(%1$s) <= %2$s AS v%3$d", columns, beyond_numbers, seq_along(columns)
  )
  blocks <- split(both, (seq_along(names) - 1L) %/% 200L)
  holds <- unlist(lapply(blocks, function(some) {
    unlist(ask_database(con, sprintf("SELECT %s FROM %s", paste(some, collapse = ", "), from)))
  }))
  names[holds %in% 1]
}

#' A study of a table: brought in, or its columns left where they are
#'
#' @param source A list: `open` gives a connection and `close` takes it; `what` a table's name, a `DBI::Id`, or a query that
#'   starts with SELECT or WITH; `where` a condition or `NULL`.
#' @param told A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @param collect Whether to bring it in; `NULL`: if it is of no more than `most_cells_brought` cells.
#' @noRd
database_study <- function(source, told, collect = NULL) {
  need_package("DBI", "to read from a database")
  con <- source$open()
  on.exit(source$close(con))
  if (is.null(source$what)) {
    tables <- toString(DBI::dbListTables(con))
    abort_usage("Which table of the database?", sprintf("Give `sheet`: one of %s, or a query.", tables))
  }
  shown <- paste(format_table(source$what), collapse = ".")
  held <- new.env(parent = emptyenv())
  held$access <- list(
    open = source$open, close = source$close, table = table_in_sql(con, source$what), condition = "", name = shown
  )
  names <- names(ask_database(con, paste0(from_there(held, "*"), " LIMIT 0")))
  # Of the first cases for now; a column that stays is looked at as it is fetched.
  held$mixed <- mixed_columns(con, held, names, " LIMIT 1000")
  count <- function() as.double(ask_database(con, from_there(held, "COUNT(*) AS unsere_n"))$unsere_n)
  held$n <- all <- count()
  if (!is.null(source$where)) {
    held$access$condition <- condition_there(con, held, names, source$where, told)
    held$n <- count()
    if (held$n == 0) abort_input(sprintf("No case has %s.", source$where), "Look at the values that it asks for.")
    told$origin$decisions <- c(where = where_told(source$where, held$n, all))
  }
  if (is.null(collect)) collect <- held$n * length(names) <= most_cells_brought
  if (is.null(told$origin$file)) told$origin$table <- sprintf("Table %s", shown)
  if (!collect) return(study_elsewhere(con, held, names, told))
  held$mixed <- mixed_columns(con, held, names)
  table <- typed_table(list2DF(fetch_there(con, held, names), held$n), shown)
  table$decisions <- told$origin$decisions
  told$origin$decisions <- NULL
  study_from(table, told$codebook, told$missing_codes, told$origin)
}

condition_there <- function(con, held, names, where, told) {
  first <- fetch_there(con, held, names, " LIMIT 200")
  known <- read_codebook(told$codebook, names)
  condition_in_sql(parse_condition(where), con, list(
    kinds = lapply(first, function(column) class(column)[1]),
    codes = codes_by_variable(names, known, told$missing_codes)
  ), where)
}
