# Tables that stay in a database: their columns as numbers by its own arithmetic, streamed or summed up there. Only
# read from.

#' A connection by its entry in the user's file of connections, as `db:NAME` says
#'
#' The file is `connections.yml` in the user's configuration folder (`tools::R_user_dir("unsere", "config")`): an entry a
#' name, with `driver` (the package of a DBI driver, such as RSQLite or RPostgres) and what its connection takes (`host`,
#' `port`, `dbname`, `user`). A password comes by the driver's own means, or from the environment variable that
#' `password_variable` names; it is never in the file.
#' @noRd
connect_named <- function(source) {
  need_package("DBI", "to read from a database")
  name <- sub("^db:", "", source)
  known <- known_connections()
  entry <- known[[name]]
  if (is.null(entry)) {
    hint <- if (length(known)) suggest_names(name, names(known), "connections") else sprintf(
      "Connections stand in %s.", connections_file()
    )
    abort_input(problem("There is no connection \"%s\".", name), hint)
  }
  package <- or_default(entry$driver, "")
  if (!grepl("^[A-Za-z][A-Za-z0-9.]*$", package)) abort_input(
    problem("The connection %s names no driver.", name),
    "For example driver: RSQLite."
  )
  need_package(package, sprintf("for the connection %s", name))
  secret <- if (!is.null(entry$password_variable)) Sys.getenv(entry$password_variable, NA)
  if (isTRUE(is.na(secret))) {
    abort_input(problem("The environment variable %s is not set.", entry$password_variable), "It should hold the password.")
  }
  arguments <- guarded_entry(package, entry[setdiff(names(entry), c("driver", "password_variable", "password"))])
  driver <- driver_of(package)
  con <- tryCatch(do.call(DBI::dbConnect, c(list(driver), arguments, if (!is.null(secret)) list(password = secret))),
    error = function(e) {
      # What the driver says may repeat what it was given.
      message <- first_line(conditionMessage(e))
      if (!is.null(secret) && nzchar(secret)) message <- gsub(secret, "...", message, fixed = TRUE)
      abort_input(problem("The connection %s cannot be opened.", name), message)
    }
  )
  begin_reading(con, name)
  con
}

#' What a connection takes, with what makes it one that only reads and loads nothing: a driver fixes that as it connects
#' @noRd
guarded_entry <- function(package, entry) {
  fixed <- switch(package,
    RSQLite = list(flags = RSQLite::SQLITE_RO, loadable.extensions = FALSE),
    duckdb = list(read_only = TRUE, config = utils::modifyList(
      as.list(entry$config), list(enable_external_access = "false", autoload_known_extensions = "false")
    )),
    RMariaDB = list(load_data_local_infile = FALSE)
  )
  entry[names(fixed)] <- fixed
  entry
}

# Nothing can be written, and all that is asked is of one moment; of an engine without such, as it comes. Only of connections
# opened here: one that was handed in may be in the midst of its owner's work.
begin_reading <- function(con, name) {
  engine <- database_engine(con)
  if (!is.null(engine$read_only)) tryCatch(DBI::dbExecute(con, engine$read_only), error = function(e) {
    try(DBI::dbDisconnect(con), silent = TRUE)
    abort_input(problem("The connection %s cannot be set to read only.", name), first_line(conditionMessage(e)))
  })
  if (!is.null(engine$snapshot)) try(DBI::dbExecute(con, engine$snapshot, immediate = TRUE), silent = TRUE)
  invisible()
}

is_database <- function(source) startsWith(source, "db:")

connections_file <- function() file.path(tools::R_user_dir("unsere", "config"), "connections.yml")

known_connections <- function() {
  file <- connections_file()
  if (file.exists(file)) tryCatch(yaml::read_yaml(file), error = function(e) {
    abort_input(problem("%s is no valid YAML.", file), first_line(conditionMessage(e)))
  })
}

# The driver that a package offers: the one function of it that makes a DBIDriver.
driver_of <- function(package) {
  usual <- c(
    RSQLite = "SQLite", RPostgres = "Postgres", RMariaDB = "MariaDB", RClickhouse = "clickhouse", duckdb = "duckdb",
    odbc = "odbc"
  )
  made <- if (package %in% names(usual)) usual[[package]] else sub("^R", "", package)
  driver <- tryCatch(getExportedValue(package, made)(), error = function(e) NULL)
  if (inherits(driver, "DBIDriver")) return(driver)
  abort_input(problem("%s offers no database driver.", package), "Name the package of a DBI driver.")
}

is_connection <- function(source) inherits(source, "DBIConnection")

#' A table, or a query, as it stands after FROM
#' @noRd
table_in_sql <- function(con, table) {
  if (is.null(table)) abort_usage(
    "Which table of the database?",
    problem("Give `table`: one of %s.", toString(tables_in_database(con)))
  )
  if (inherits(table, "source_in_sql")) return(unclass(table)) # made here of a table's name, not handed in
  if (is_query(table)) return(sprintf("(%s) AS asked", check_query(con, table, tables_in_database(con))))
  if (!or_refused(DBI::dbExistsTable(con, table))) {
    abort_input(
      problem("The database has no table \"%s\".", paste(format_table(table), collapse = ".")),
      suggest_names(utils::tail(format_table(table), 1), tables_in_database(con), "tables")
    )
  }
  as.character(DBI::dbQuoteIdentifier(con, table))
}

is_query <- function(what) is.character(what) && grepl("^\\s*(select|with)\\s", what[1], ignore.case = TRUE)

# By the engine's own rules, whatever stands in a name.
quote_names <- function(con, names) vapply(names, function(name) as.character(DBI::dbQuoteIdentifier(con, name)), "")

text_in_sql <- function(con, text) database_engine(con)$text(con, text)

ask_database <- function(con, sql) {
  force(sql) # what it is made of has errors of its own
  or_refused(DBI::dbGetQuery(con, sql))
}

# Why, the database says itself.
or_refused <- function(code) {
  tryCatch(code, error = function(e) abort_input("The database refused the query.", first_line(conditionMessage(e))))
}

tables_in_database <- function(con) or_refused(DBI::dbListTables(con))

#' A column as a double in the engine's own words, missing codes and what is no number as NULL
#'
#' @param kind How the column comes in: `"logical"` or another; `codes` values that stand for "no answer".
#' @noRd
number_in_sql <- function(con, name, kind, codes) {
  column <- quote_names(con, name)
  engine <- database_engine(con)
  whole <- kind == "logical" && engine$logical_number
  number <- engine$number(double_in_sql(con, if (whole) sprintf("CAST(%s AS INTEGER)", column) else column))
  known <- suppressWarnings(as.numeric(codes))
  known <- known[is.finite(known)]
  if (!length(known)) return(number)
  sprintf("CASE WHEN %s IN (%s) THEN NULL ELSE %s END", number, paste(sprintf("%.17g", known), collapse = ", "), number)
}

double_in_sql <- function(con, what) sprintf(database_engine(con)$double, what)

wanted_numbers <- function(con, plan) {
  if (!is.null(plan$numbers)) return(unname(plan$numbers))
  vapply(seq_along(plan$wanted), function(k) {
    number_in_sql(con, plan$wanted[k], plan$kinds[[k]], plan$codes[[plan$wanted[k]]])
  }, "")
}

# What stands after FROM: a table, and of it the cases that a condition chooses.
plan_source <- function(con, plan) {
  if (!is.null(plan$from)) return(plan$from)
  where <- if (!is.null(plan$condition)) paste(" WHERE", plan$condition) else ""
  paste0(table_in_sql(con, plan$table), where)
}

#' The columns asked for as numbers, after FROM
#' @param plan From [settle_columns()].
#' @noRd
numbers_from <- function(con, plan, more = character()) {
  columns <- sprintf("%s AS v%d", wanted_numbers(con, plan), seq_along(plan$wanted))
  sprintf("SELECT %s FROM %s", paste(c(columns, more), collapse = ", "), plan_source(con, plan))
}

# A type of SQLite is that of each value, and text in a sum counts as zero: it is looked for. Text is more than any number
# there, so that the largest value tells.
beyond_numbers <- "9e999"

check_text_in_table <- function(con, plan) {
  plain <- asked_plainly(plan)
  if (!database_engine(con)$typed_values || !any(plain)) return(invisible())
  plan$wanted <- plan$wanted[plain]
  columns <- quote_names(con, plan$wanted)
  from <- plan_source(con, plan)
  ask <- function(terms) unlist(ask_database(con, sprintf("SELECT %s FROM %s", paste(terms, collapse = ", "), from)))
  holds <- ask(sprintf("MAX(%s) > %s AS v%d", columns, beyond_numbers, seq_along(columns)))
  if (any(holds %in% 1)) {
    abort_text_in_table(plan, ask(sprintf("SUM(typeof(%s) IN ('text', 'blob')) AS v%d", columns, seq_along(columns))))
  }
}

# Which of the columns are asked for as they stand, not worked out of others.
asked_plainly <- function(plan) if (is.null(plan$plain)) rep(TRUE, length(plan$wanted)) else plan$plain

abort_text_in_table <- function(plan, counts) {
  bad <- which(counts > 0)
  if (length(bad)) {
    abort_input(
      problem("%s contains text in %s.", plan$wanted[bad[1]], count_in_english(as.integer(counts[bad[1]]), "case")),
      "Correct it, or leave this variable out."
    )
  }
}

#' Blocks of a table's columns as numbers, one data frame at a time, `NULL` at the end
#' @noRd
table_chunks <- function(con, plan, chunk_rows) {
  check_text_in_table(con, plan)
  sql <- numbers_from(con, plan)
  result <- or_refused(DBI::dbSendQuery(con, sql))
  structure(function() {
    chunk <- tryCatch(DBI::dbFetch(result, chunk_rows), error = function(e) {
      message <- first_line(conditionMessage(e))
      abort_input(
        "The database stopped answering before the last case.",
        if (grepl("[[:alpha:]]", message)) message else "Check whether it is still running, and try again."
      )
    })
    if (!nrow(chunk)) return(NULL)
    stats::setNames(chunk, plan$wanted)
  }, close = function() DBI::dbClearResult(result))
}

# The parts of a table's name: of a `DBI::Id` its schema and its table.
format_table <- function(what) if (isS4(what)) as.character(what@name) else as.character(what)

# 64-bit integers as doubles, or as text where doubles do not hold them; categories as words.
plain_column <- function(column) {
  if (inherits(column, "integer64")) return(whole_numbers(as.character(column)))
  if (is.factor(column)) as.character(column) else column
}
