# A table of a database as a study: brought in, or left there, where what its columns are is learnt from a specimen.

# A table of so many cells is brought in whole.
most_cells_brought <- 5e6

#' A study whose columns stay in a database
#'
#' @param database An environment: `access` (a list: `open` gives a connection and `close` takes it; `table` and
#'   `condition` as they stand after FROM and WHERE; `name` of the table), `n` (cases), `mixed` (see `mixed_columns()`).
#' @param names Of the columns.
#' @param declared A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @noRd
study_elsewhere <- function(con, database, names, declared) {
  database$fetch <- function(names) {
    with_access(database, function(con) {
      database$mixed <- union(database$mixed, mixed_columns(con, database, setdiff(names, database$looked_at)))
      database$looked_at <- union(database$looked_at, names)
      fetch_in_database(con, database, names)
    })
  }
  database$read <- function(raw) {
    origin <- c(declared$origin, list(decimal_mark = "."))
    as.list(read_columns(list2DF(raw), declared$codebook, declared$missing_codes, origin)$data)
  }
  database$raw <- database$columns <- list()
  database$wanted <- character()
  specimen <- specimen_of(con, database, names)
  database$seen <- as.list(specimen)
  database$codes <- codes_by_variable(names, read_codebook(declared$codebook, names), declared$missing_codes)
  study <- build_study(specimen, declared$codebook, declared$missing_codes, c(declared$origin, list(decimal_mark = ".")))
  study <- without_false_cases(con, database, study, declared$codebook)
  names <- study_names(study)
  # Answers ticked in one column are several variables.
  from <- ifelse(names %in% names(specimen), names, NA)
  for (name in names[is.na(from)]) {
    from[names == name] <- names(specimen)[startsWith(name, paste0(names(specimen), ": "))][1]
  }
  database$from <- stats::setNames(from, names)
  database$book <- study$codebook
  study$data <- new_columns(database, names)
  study$provenance$n_rows <- database$n
  # What was counted among the cases of the specimen is not told of the table.
  study$provenance$rows <- study$provenance$coded <- NULL
  decisions <- study$provenance$decisions
  counted <- c("repeated", "suspicious", "coded", "summary_row", "range", "text")
  study$provenance$decisions <- c(
    decisions[!or_default(names(decisions), rep("", length(decisions))) %in% counted],
    elsewhere = template(
      "the columns stay in the database, which is queried as needed; duplicate rows are not checked"
    )
  )
  study
}

# What names each of the first thousand cases may name several further on, as persons of several waves; a table of more than
# ten million cases is not searched for it.
without_false_cases <- function(con, database, study, codebook) {
  name <- role_variable(study, "case")
  declared <- if (!is.null(codebook)) read_codebook(codebook, study_names(study))
  if (is.null(name) || database$n > 1e7 || isTRUE(declared$role[match(name, declared$variable)] == "case")) return(study)
  counted <- sprintf("COUNT(%1$s) AS n, COUNT(DISTINCT %1$s) AS kinds", column_in_database(con, database, name))
  counted_rows <- ask_database(con, from_in_database(database, counted))
  if (as.double(counted_rows$kinds) < as.double(counted_rows$n)) with_entry(study, name, list(role = "measure")) else study
}

# Rows that tell what each column holds: of one with few values all of them, each as often as it stands there up to sixty
# times; of one with many the values of the first thousand cases.
specimen_of <- function(con, database, names, size = 1000L) {
  ask <- function(what, more = "") ask_database(con, paste0(from_in_database(database, what), more))
  if (database$n == 0) abort_input(problem("%s has no case.", database$access$name), "Give a table with cases.")
  first <- fetch_in_database(con, database, names, sprintf(" LIMIT %d", size))
  columns <- lapply(names(first), function(name) {
    values <- first[[name]]
    few <- 15L
    if (length(unique(values)) > few) return(values)
    column <- column_in_database(con, database, name)
    counts <- ask(
      sprintf("%s AS unsere_value, COUNT(*) AS unsere_n", column),
      sprintf(" GROUP BY %s ORDER BY COUNT(*) DESC LIMIT %d", column, few + 1L)
    )
    specimen_values <- rep(plain_column(counts$unsere_value), pmin(as.double(counts$unsere_n), 60))
    if (class(specimen_values)[1] != class(values)[1] || nrow(counts) > few) return(values)
    database$whole[[name]] <- TRUE
    database$counts[[name]] <- list(value = plain_column(counts$unsere_value), n = as.double(counts$unsere_n))
    specimen_values
  })
  length <- max(lengths(columns))
  list2DF(stats::setNames(lapply(columns, function(values) values[seq_len(length)]), names(first)), length)
}

# Of SQLite, where each value has a type of its own: columns that hold text among numbers.
mixed_columns <- function(con, database, names, limit = "") {
  if (!database_engine(con)$typed_values || !length(names)) return(character())
  from <- sprintf("(%s%s)", from_in_database(database, "*"), limit)
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

#' Where a table is: `open` gives a connection and `close` takes it; `what` a table's name, a `DBI::Id`, or a query that
#' starts with SELECT or WITH; `where` a condition or `NULL`
#' @param from A connection, a function that opens one, or `"db:NAME"`.
#' @noRd
source_of <- function(from, what, where) {
  named <- is_word(from) && is_database(from)
  if (!named && !is.function(from) && !is_connection(from)) abort_usage(
    "A source is a connection, a function that opens one, or \"db:NAME\".", "For example list(con1, con2)."
  )
  list(
    open = if (named) function() connect_named(from) else if (is.function(from)) from else function() from,
    close = if (is_connection(from)) function(con) NULL else DBI::dbDisconnect, what = what, where = where
  )
}

#' What is known of a table before its cases: its columns, how many cases there are, which of them a condition chooses
#' @noRd
open_table <- function(con, source, declared) {
  if (is.null(source$what)) {
    tables <- toString(tables_in_database(con))
    abort_usage("Which table of the database?", problem("Give `sheet`: one of %s, or a query.", tables))
  }
  database <- new.env(parent = emptyenv())
  database$access <- list(
    open = source$open, close = source$close, table = table_in_sql(con, source$what), condition = "",
    name = paste(format_table(source$what), collapse = ".")
  )
  database$names <- names(ask_database(con, paste0(from_in_database(database, "*"), " LIMIT 0")))
  # Of the first cases for now; a column that stays is looked at as it is fetched.
  database$mixed <- mixed_columns(con, database, database$names, " LIMIT 1000")
  count <- function() as.double(ask_database(con, from_in_database(database, "COUNT(*) AS unsere_n"))$unsere_n)
  database$n <- database$all <- count()
  if (!is.null(source$where)) {
    database$access$condition <- condition_in_database(con, database, database$names, source$where, declared)
    database$n <- count()
  }
  database
}

check_some_case <- function(n, where) {
  if (!is.null(where) && n == 0) abort_input(problem("No case has %s.", where), "Check the values that it uses.")
}

fetch_whole_table <- function(con, database) {
  database$mixed <- mixed_columns(con, database, database$names)
  list2DF(fetch_in_database(con, database, database$names), database$n)
}

#' A study of a table: brought in, or its columns left where they are
#'
#' @param source From [source_of()].
#' @param declared A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @param collect Whether to bring it in; `NULL`: if it is of no more than `most_cells_brought` cells.
#' @noRd
database_study <- function(source, declared, collect = NULL) {
  need_package("DBI", "to read from a database")
  con <- source$open()
  on.exit(source$close(con))
  # What the database has no function for is worked out here, of all cases.
  where <- source$where
  here <- !is.null(where) && !isFALSE(collect) && !said_in_sql(parse_condition(where), con)
  if (here) source["where"] <- list(NULL)
  database <- open_table(con, source, declared)
  if (here && database$n * length(database$names) <= 10 * most_fetched()) {
    study <- study_of_table(fetch_whole_table(con, database), with_table_told(declared, source, database$n, database$all))
    return(keep_where(study, where))
  }
  if (here) abort_input(
    problem("This database cannot evaluate the condition %s, and it has too many cases to fetch.", where),
    "Compare the variables themselves: x > 100 instead of log10(x) > 2."
  )
  check_some_case(database$n, source$where)
  if (is.null(collect)) collect <- database$n * length(database$names) <= most_cells_brought
  if (!collect) {
    declared <- with_table_told(declared, source, database$n, database$all)
    return(study_elsewhere(con, database, database$names, declared))
  }
  study_of_table(fetch_whole_table(con, database), with_table_told(declared, source, database$n, database$all))
}

with_table_told <- function(declared, source, n, all) {
  declared$origin$table <- list(name = paste(format_table(source$what), collapse = "."))
  if (!is.null(source$where)) declared$origin$decisions <- c(where = where_told(source$where, n, all))
  declared
}

study_of_table <- function(data, declared) {
  table <- typed_table(data, declared$origin$table$name)
  table$decisions <- declared$origin$decisions
  declared$origin$decisions <- NULL
  study_from(table, declared$codebook, declared$missing_codes, declared$origin)
}

#' A study of a table whose cases lie in several databases: brought in, one after the other
#' @noRd
several_database_study <- function(sources, declared, collect = NULL) {
  need_package("DBI", "to read from a database")
  too_many <- function(n) {
    abort_input(
      problem("%s in %d databases are too many to fetch.", count_in_english(n, "case"), length(sources)),
      "gather_moments() and gather_counts() accept such a list; or select cases with where."
    )
  }
  if (identical(collect, FALSE)) abort_usage("From several databases the columns are fetched.", "Omit `collect`.")
  n <- all <- 0
  parts <- lapply(seq_along(sources), function(k) {
    con <- sources[[k]]$open()
    on.exit(sources[[k]]$close(con))
    database <- open_table(con, sources[[k]], declared)
    n <<- n + database$n
    all <<- all + database$all
    if (n * length(database$names) > 10 * most_fetched()) too_many(n)
    fetch_whole_table(con, database)
  })
  check_some_case(n, sources[[1]]$where)
  names <- names(parts[[1]])
  for (k in seq_along(parts)) if (!setequal(names(parts[[k]]), names)) {
    odd <- c(setdiff(names, names(parts[[k]])), setdiff(names(parts[[k]]), names))
    abort_input(
      problem("Source %d has other columns than the first: %s.", k, some_values(odd)),
      "Name the columns in a query."
    )
  }
  data <- list2DF(lapply(stats::setNames(names, names), function(name) do.call(c, lapply(parts, `[[`, name))))
  declared <- with_table_told(declared, sources[[1]], n, all)
  declared$origin$table$databases <- length(sources)
  study_of_table(data, declared)
}

condition_in_database <- function(con, database, names, where, declared) {
  first <- fetch_in_database(con, database, names, " LIMIT 200")
  known <- read_codebook(declared$codebook, names)
  condition_in_sql(parse_condition(where), con, list(
    kinds = lapply(first, function(column) class(column)[1]),
    codes = codes_by_variable(names, known, declared$missing_codes)
  ), where)
}
