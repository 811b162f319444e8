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
      fetch_in_database(con, held, names)
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
  study <- without_false_cases(con, held, study, told$codebook)
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
    decisions[!or_default(names(decisions), rep("", length(decisions))) %in% counted],
    elsewhere = template(
      "the columns stay in the database, which is queried as needed; duplicate rows are not checked"
    )
  )
  study
}

# What names each of the first thousand cases may name several further on, as persons of several waves; a table of more than
# ten million cases is not searched for it.
without_false_cases <- function(con, held, study, codebook) {
  name <- role_variable(study, "case")
  told <- if (!is.null(codebook)) read_codebook(codebook, study_names(study))
  if (is.null(name) || held$n > 1e7 || isTRUE(told$role[match(name, told$variable)] == "case")) return(study)
  counted <- sprintf("COUNT(%1$s) AS n, COUNT(DISTINCT %1$s) AS kinds", column_in_database(con, held, name))
  found <- ask_database(con, from_in_database(held, counted))
  if (as.double(found$kinds) < as.double(found$n)) with_entry(study, name, list(role = "measure")) else study
}

# Rows that tell what each column holds: of one with few values all of them, each as often as it stands there up to sixty
# times; of one with many the values of the first thousand cases.
specimen_of <- function(con, held, names, size = 1000L) {
  ask <- function(what, more = "") ask_database(con, paste0(from_in_database(held, what), more))
  if (held$n == 0) abort_input(problem("%s has no case.", held$access$name), "Give a table with cases.")
  first <- fetch_in_database(con, held, names, sprintf(" LIMIT %d", size))
  columns <- lapply(names(first), function(name) {
    values <- first[[name]]
    few <- 15L
    if (length(unique(values)) > few) return(values)
    column <- column_in_database(con, held, name)
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
  if (!database_engine(con)$typed_values || !length(names)) return(character())
  from <- sprintf("(%s%s)", from_in_database(held, "*"), limit)
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
open_table <- function(con, source, told) {
  if (is.null(source$what)) {
    tables <- toString(tables_in_database(con))
    abort_usage("Which table of the database?", problem("Give `sheet`: one of %s, or a query.", tables))
  }
  held <- new.env(parent = emptyenv())
  held$access <- list(
    open = source$open, close = source$close, table = table_in_sql(con, source$what), condition = "",
    name = paste(format_table(source$what), collapse = ".")
  )
  held$names <- names(ask_database(con, paste0(from_in_database(held, "*"), " LIMIT 0")))
  # Of the first cases for now; a column that stays is looked at as it is fetched.
  held$mixed <- mixed_columns(con, held, held$names, " LIMIT 1000")
  count <- function() as.double(ask_database(con, from_in_database(held, "COUNT(*) AS unsere_n"))$unsere_n)
  held$n <- held$all <- count()
  if (!is.null(source$where)) {
    held$access$condition <- condition_in_database(con, held, held$names, source$where, told)
    held$n <- count()
  }
  held
}

check_some_case <- function(n, where) {
  if (!is.null(where) && n == 0) abort_input(problem("No case has %s.", where), "Check the values that it uses.")
}

fetch_whole_table <- function(con, held) {
  held$mixed <- mixed_columns(con, held, held$names)
  list2DF(fetch_in_database(con, held, held$names), held$n)
}

#' A study of a table: brought in, or its columns left where they are
#'
#' @param source From [source_of()].
#' @param told A list: `codebook`, `missing_codes`, `origin` (provenance).
#' @param collect Whether to bring it in; `NULL`: if it is of no more than `most_cells_brought` cells.
#' @noRd
database_study <- function(source, told, collect = NULL) {
  need_package("DBI", "to read from a database")
  con <- source$open()
  on.exit(source$close(con))
  # What the database has no function for is worked out here, of all cases.
  where <- source$where
  here <- !is.null(where) && !isFALSE(collect) && !said_in_sql(parse_condition(where), con)
  if (here) source["where"] <- list(NULL)
  held <- open_table(con, source, told)
  if (here && held$n * length(held$names) <= 10 * most_fetched()) {
    study <- study_of_table(fetch_whole_table(con, held), with_table_told(told, source, held$n, held$all))
    return(keep_where(study, where))
  }
  if (here) abort_input(
    problem("This database cannot evaluate the condition %s, and it has too many cases to fetch.", where),
    "Compare the variables themselves: x > 100 instead of log10(x) > 2."
  )
  check_some_case(held$n, source$where)
  if (is.null(collect)) collect <- held$n * length(held$names) <= most_cells_brought
  if (!collect) return(study_elsewhere(con, held, held$names, with_table_told(told, source, held$n, held$all)))
  study_of_table(fetch_whole_table(con, held), with_table_told(told, source, held$n, held$all))
}

with_table_told <- function(told, source, n, all) {
  told$origin$table <- list(name = paste(format_table(source$what), collapse = "."))
  if (!is.null(source$where)) told$origin$decisions <- c(where = where_told(source$where, n, all))
  told
}

study_of_table <- function(data, told) {
  table <- typed_table(data, told$origin$table$name)
  table$decisions <- told$origin$decisions
  told$origin$decisions <- NULL
  study_from(table, told$codebook, told$missing_codes, told$origin)
}

#' A study of a table whose cases lie in several databases: brought in, one after the other
#' @noRd
several_database_study <- function(sources, told, collect = NULL) {
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
    held <- open_table(con, sources[[k]], told)
    n <<- n + held$n
    all <<- all + held$all
    if (n * length(held$names) > 10 * most_fetched()) too_many(n)
    fetch_whole_table(con, held)
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
  told <- with_table_told(told, sources[[1]], n, all)
  told$origin$table$databases <- length(sources)
  study_of_table(data, told)
}

condition_in_database <- function(con, held, names, where, told) {
  first <- fetch_in_database(con, held, names, " LIMIT 200")
  known <- read_codebook(told$codebook, names)
  condition_in_sql(parse_condition(where), con, list(
    kinds = lapply(first, function(column) class(column)[1]),
    codes = codes_by_variable(names, known, told$missing_codes)
  ), where)
}
