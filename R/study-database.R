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
    abort_input(sprintf("There is no connection \"%s\".", name), hint)
  }
  package <- or_default(entry$driver, "")
  if (!grepl("^[A-Za-z][A-Za-z0-9.]*$", package)) abort_input(
    sprintf("The connection %s names no driver.", name),
    "For example driver: RSQLite."
  )
  need_package(package, sprintf("for the connection %s", name))
  secret <- if (!is.null(entry$password_variable)) Sys.getenv(entry$password_variable, NA)
  if (isTRUE(is.na(secret))) {
    abort_input(sprintf("The environment variable %s is not set.", entry$password_variable), "It should hold the password.")
  }
  told <- entry[setdiff(names(entry), c("driver", "password_variable", "password"))]
  driver <- driver_of(package)
  tryCatch(do.call(DBI::dbConnect, c(list(driver), told, if (!is.null(secret)) list(password = secret))),
    error = function(e) {
      # What the driver says may repeat what it was given.
      said <- first_line(conditionMessage(e))
      if (!is.null(secret) && nzchar(secret)) said <- gsub(secret, "...", said, fixed = TRUE)
      abort_input(sprintf("The connection %s cannot be opened.", name), said)
    }
  )
}

is_database <- function(source) startsWith(source, "db:")

connections_file <- function() file.path(tools::R_user_dir("unsere", "config"), "connections.yml")

known_connections <- function() {
  file <- connections_file()
  if (file.exists(file)) tryCatch(yaml::read_yaml(file), error = function(e) {
    abort_input(sprintf("%s is no valid YAML.", file), first_line(conditionMessage(e)))
  })
}

# The driver that a package offers: the one function of it that makes a DBIDriver.
driver_of <- function(package) {
  usual <- c(RSQLite = "SQLite", RPostgres = "Postgres", RMariaDB = "MariaDB", duckdb = "duckdb", odbc = "odbc")
  made <- if (package %in% names(usual)) usual[[package]] else sub("^R", "", package)
  found <- tryCatch(getExportedValue(package, made)(), error = function(e) NULL)
  if (inherits(found, "DBIDriver")) return(found)
  abort_input(sprintf("%s offers no database driver.", package), "Name the package of a DBI driver.")
}

is_connection <- function(source) inherits(source, "DBIConnection")

#' A table, or a query, as it stands after FROM
#' @noRd
table_in_sql <- function(con, table) {
  if (is.null(table)) abort_usage(
    "Which table of the database?",
    sprintf("Give `table`: one of %s.", toString(DBI::dbListTables(con)))
  )
  if (is_query(table)) return(sprintf("(%s) AS asked", sub(";\\s*$", "", table)))
  if (!DBI::dbExistsTable(con, table)) {
    abort_input(
      sprintf("The database has no table \"%s\".", paste(format_table(table), collapse = ".")),
      suggest_names(utils::tail(format_table(table), 1), DBI::dbListTables(con), "tables")
    )
  }
  as.character(DBI::dbQuoteIdentifier(con, table))
}

is_query <- function(what) is.character(what) && grepl("^\\s*(select|with)\\s", what[1], ignore.case = TRUE)

# By the engine's own rules, whatever stands in a name.
quote_names <- function(con, names) vapply(names, function(name) as.character(DBI::dbQuoteIdentifier(con, name)), "")

# A backslash is a sign like any other.
text_in_sql <- function(con, text) {
  if (engine_of(con) != "clickhouse") return(as.character(DBI::dbQuoteString(con, text)))
  sprintf("'%s'", gsub("'", "\\\\'", gsub("\\", "\\\\", text, fixed = TRUE)))
}

ask_database <- function(con, sql) {
  force(sql) # what it is made of has errors of its own
  tryCatch(DBI::dbGetQuery(con, sql), error = function(e) {
    abort_input("The database refused the query.", first_line(conditionMessage(e)))
  })
}

#' A column as a double in the engine's own words, missing codes and what is no number as NULL
#'
#' @param kind How the column comes in: `"logical"` or another; `codes` values that stand for "no answer".
#' @noRd
number_in_sql <- function(con, name, kind, codes) {
  column <- quote_names(con, name)
  engine <- engine_of(con)
  number <- switch(engine,
    postgres = sprintf(
      "CAST(%s AS DOUBLE PRECISION)",
      if (kind == "logical") sprintf("CAST(%s AS INTEGER)", column) else column
    ),
    sqlite = sprintf("CAST(%s AS REAL)", column),
    mariadb = sprintf("(%s + 0e0)", column),
    clickhouse = sprintf("toFloat64(%s)", column),
    sprintf("CAST(%s AS DOUBLE)", if (kind == "logical") sprintf("CAST(%s AS INTEGER)", column) else column)
  )
  if (engine == "postgres") number <- sprintf("NULLIF(%s, 'NaN')", number)
  if (engine == "clickhouse") number <- sprintf("CASE WHEN isNaN(%s) THEN NULL ELSE %s END", number, number)
  known <- suppressWarnings(as.numeric(codes))
  known <- known[is.finite(known)]
  if (!length(known)) return(number)
  sprintf("CASE WHEN %s IN (%s) THEN NULL ELSE %s END", number, paste(sprintf("%.17g", known), collapse = ", "), number)
}

engine_of <- function(con) {
  kind <- class(con)[1]
  if (grepl("SQLite", kind)) return("sqlite")
  if (grepl("^Pq|Postgre|Redshift", kind)) return("postgres")
  if (grepl("Clickhouse", kind, ignore.case = TRUE)) return("clickhouse")
  if (grepl("Maria|MySQL", kind)) "mariadb" else "other"
}

#' The columns asked for as numbers, after FROM
#' @param plan From [settle_columns()].
#' @noRd
numbers_from <- function(con, plan, more = character()) {
  columns <- vapply(seq_along(plan$wanted), function(k) {
    number <- number_in_sql(con, plan$wanted[k], plan$kinds[[k]], plan$codes[[plan$wanted[k]]])
    sprintf("%s AS v%d", number, k)
  }, "")
  sprintf("SELECT %s FROM %s", paste(c(columns, more), collapse = ", "), table_in_sql(con, plan$table))
}

# A type of SQLite is that of each value, and text in a sum counts as zero: it is looked for. Text is more than any number
# there, so that the largest value tells.
beyond_numbers <- "9e999"

check_text_in_table <- function(con, plan) {
  if (engine_of(con) != "sqlite") return(invisible())
  columns <- quote_names(con, plan$wanted)
  ask <- function(asked) unlist(ask_database(con, sprintf(
    "SELECT %s FROM %s", paste(asked, collapse = ", "), table_in_sql(con, plan$table)
  )))
  holds <- ask(sprintf("MAX(%s) > %s AS v%d", columns, beyond_numbers, seq_along(columns)))
  if (any(holds %in% 1)) {
    abort_text_in_table(plan, ask(sprintf("SUM(typeof(%s) IN ('text', 'blob')) AS v%d", columns, seq_along(columns))))
  }
}

abort_text_in_table <- function(plan, counts) {
  bad <- which(counts > 0)
  if (length(bad)) {
    abort_input(
      sprintf("%s holds text in %s.", plan$wanted[bad[1]], count_of(as.integer(counts[bad[1]]), "case")),
      "Correct it, or leave this variable out."
    )
  }
}

#' Blocks of a table's columns as numbers, one data frame at a time, `NULL` at the end
#' @noRd
table_chunks <- function(con, plan, chunk_rows) {
  check_text_in_table(con, plan)
  sql <- numbers_from(con, plan)
  result <- tryCatch(DBI::dbSendQuery(con, sql), error = function(e) {
    abort_input("The database refused the query.", first_line(conditionMessage(e)))
  })
  structure(function() {
    chunk <- tryCatch(DBI::dbFetch(result, chunk_rows), error = function(e) {
      abort_input("The database stopped answering before the last case.", first_line(conditionMessage(e)))
    })
    if (!nrow(chunk)) return(NULL)
    stats::setNames(chunk, plan$wanted)
  }, close = function() DBI::dbClearResult(result))
}

# Up to so many columns are summed up where they are; more are streamed, which is quicker then. MariaDB adds up slower than it
# sends; of a ClickHouse table the shards each add up what they hold.
most_summed_there <- function(con) switch(engine_of(con), mariadb = 0L, clickhouse = 12L, 6L)

#' The numbers of the columns asked for, by name, and what to select them from
#'
#' A table of ClickHouse may lie on many servers: only what is asked of the table itself is added up there, and it works out
#' the same expression once.
#' @noRd
numbers_there <- function(con, plan, more = character()) {
  places <- seq_along(plan$wanted)
  if (engine_of(con) != "clickhouse") {
    return(list(values = sprintf("v%d", places), from = sprintf("(%s) AS numbers", numbers_from(con, plan, more))))
  }
  list(values = vapply(places, function(k) {
    number_in_sql(con, plan$wanted[k], plan$kinds[[k]], plan$codes[[plan$wanted[k]]])
  }, ""), from = table_in_sql(con, plan$table))
}

#' The moments of a few columns, summed up in the database: means first, then sums about them
#' @return As from the core: `columns`, `rows`, `complete`, `centre`, `scale`, `products`, `sums`, `squares`, `counts`.
#' @references Chan, Golub & LeVeque (1983), The American Statistician 37, 242-247.
#' @noRd
sums_in_database <- function(con, plan) {
  p <- length(plan$wanted)
  there <- numbers_there(con, plan)
  pilot <- pilot_means(con, plan)
  from <- sprintf("(%s - (%.17g))", there$values, pilot$centre)
  whole <- all(pilot$counts == pilot$n)
  each <- expand.grid(i = seq_len(p), j = seq_len(p))
  upper <- which(each$i <= each$j)
  asked <- c("COUNT(*) AS unsere_n", sprintf("SUM(%s * %s) AS unsere_p%d", from[each$i], from[each$j], seq_along(each$i))[upper])
  asked <- c(asked, if (whole) sprintf("SUM(%s) AS unsere_s%d", from, seq_len(p)) else sums_where_there(each, from, there$values))
  found <- ask_database(con, sprintf("SELECT %s FROM %s", paste(asked, collapse = ", "), there$from))
  if (as.double(found$unsere_n) != pilot$n) abort_input("The table changed while it was read.", "Run this again.")
  part <- function(letter, places) {
    values <- vapply(places, function(k) as.double(found[[paste0("unsere_", letter, k)]]), 0)
    values[is.na(values)] <- 0
    values
  }
  products <- matrix(0, p, p)
  products[upper] <- part("p", upper)
  products[lower.tri(products)] <- t(products)[lower.tri(products)]
  bad <- which(!is.finite(diag(products)))
  if (length(bad)) abort_infinite(plan$wanted[bad[1]])
  all <- seq_along(each$i)
  list(
    columns = as.double(p), rows = pilot$n, complete = whole, centre = pilot$centre, scale = rep(1, p),
    products = as.vector(products), sums = part("s", if (whole) seq_len(p) else all),
    squares = if (whole) numeric() else part("q", all), counts = if (whole) numeric() else part("c", all)
  )
}

# Means and how many values each column has; and whether a column of SQLite holds text, which its sums would count as zero.
pilot_means <- function(con, plan) {
  p <- length(plan$wanted)
  checked <- engine_of(con) == "sqlite"
  text <- if (checked) sprintf("MAX(t%d) > %s AS unsere_t%d", seq_len(p), beyond_numbers, seq_len(p))
  quoted <- quote_names(con, plan$wanted)
  there <- numbers_there(con, plan, if (checked) sprintf("%s AS t%d", quoted, seq_len(p)))
  asked <- c(
    "COUNT(*) AS unsere_n", sprintf("AVG(%s) AS unsere_m%d", there$values, seq_len(p)),
    sprintf("COUNT(%s) AS unsere_c%d", there$values, seq_len(p)), text
  )
  found <- ask_database(con, sprintf("SELECT %s FROM %s", paste(asked, collapse = ", "), there$from))
  values <- unname(vapply(found, as.double, 0)) # counts may come as 64-bit integers
  if (checked && any(values[-seq_len(2L * p + 1L)] %in% 1)) check_text_in_table(con, plan)
  centre <- values[1L + seq_len(p)]
  centre[is.na(centre)] <- 0
  if (any(!is.finite(centre))) abort_infinite(plan$wanted[!is.finite(centre)][1])
  list(n = values[1], centre = centre, counts = values[1L + p + seq_len(p)])
}

# Of each column over the cases where another is there: how many, their sum, the sum of their squares.
sums_where_there <- function(each, from, values) {
  there <- function(text) sprintf("CASE WHEN %s IS NOT NULL THEN %s ELSE NULL END", values[each$j], text)
  places <- seq_along(each$i)
  c(
    sprintf("COUNT(%s) AS unsere_c%d", there(values[each$i]), places),
    sprintf("SUM(%s) AS unsere_s%d", there(from[each$i]), places),
    sprintf("SUM(%s) AS unsere_q%d", there(sprintf("%s * %s", from[each$i], from[each$i])), places)
  )
}

abort_infinite <- function(name) abort_input(sprintf(
  "%s holds an infinite value, or values too large to be squared.",
  name
), "Correct it in a copy.")

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
  held$mixed <- mixed_columns(con, held, names)
  count <- function() as.double(ask_database(con, from_there(held, "COUNT(*) AS unsere_n"))$unsere_n)
  held$n <- all <- count()
  if (!is.null(source$where)) {
    held$access$condition <- condition_there(con, held, names, source$where, told)
    held$n <- count()
    if (held$n == 0) abort_input(sprintf("No case has %s.", source$where), "Look at the values that it asks for.")
    told$origin$decisions <- c(where = where_told(source$where, held$n, all))
  }
  if (is.null(collect)) collect <- held$n * length(names) <= most_cells_brought
  if (!collect) return(study_elsewhere(con, held, names, told))
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

# The parts of a table's name: of a `DBI::Id` its schema and its table.
format_table <- function(what) if (isS4(what)) as.character(what@name) else as.character(what)

# 64-bit integers as doubles, categories as words.
plain_column <- function(column) {
  if (inherits(column, "integer64")) return(as.double(as.character(column)))
  if (is.factor(column)) as.character(column) else column
}
