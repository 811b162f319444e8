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
    sprintf("CAST(%s AS DOUBLE)", if (kind == "logical") sprintf("CAST(%s AS INTEGER)", column) else column)
  )
  if (engine == "postgres") number <- sprintf("NULLIF(%s, 'NaN')", number)
  known <- suppressWarnings(as.numeric(codes))
  known <- known[is.finite(known)]
  if (!length(known)) return(number)
  sprintf("CASE WHEN %s IN (%s) THEN NULL ELSE %s END", number, paste(sprintf("%.17g", known), collapse = ", "), number)
}

engine_of <- function(con) {
  kind <- class(con)[1]
  if (grepl("SQLite", kind)) return("sqlite")
  if (grepl("^Pq|Postgre|Redshift", kind)) return("postgres")
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

# A type of SQLite is that of each value, and text in a sum counts as zero: it is looked for.
check_text_in_table <- function(con, plan) {
  if (engine_of(con) != "sqlite") return(invisible())
  columns <- quote_names(con, plan$wanted)
  asked <- sprintf("SUM(typeof(%s) IN ('text', 'blob')) AS v%d", columns, seq_along(columns))
  abort_text_in_table(plan, unlist(ask_database(
    con, sprintf("SELECT %s FROM %s", paste(asked, collapse = ", "), table_in_sql(con, plan$table))
  )))
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

# Up to so many columns are summed up where they are; more are streamed, which is quicker then.
most_summed_there <- 6L

#' The moments of a few columns, summed up in the database: means first, then sums about them
#' @return As from the core: `columns`, `rows`, `complete`, `centre`, `scale`, `products`, `sums`, `squares`, `counts`.
#' @references Chan, Golub & LeVeque (1983), The American Statistician 37, 242-247.
#' @noRd
sums_in_database <- function(con, plan) {
  p <- length(plan$wanted)
  inner <- numbers_from(con, plan)
  pilot <- pilot_means(con, plan)
  from <- sprintf("(v%d - (%.17g))", seq_len(p), pilot$centre)
  whole <- all(pilot$counts == pilot$n)
  each <- expand.grid(i = seq_len(p), j = seq_len(p))
  upper <- which(each$i <= each$j)
  asked <- c("COUNT(*) AS n", sprintf("SUM(%s * %s) AS p%d", from[each$i], from[each$j], seq_along(each$i))[upper])
  asked <- c(asked, if (whole) sprintf("SUM(%s) AS s%d", from, seq_len(p)) else sums_where_there(each, from))
  found <- ask_database(con, sprintf("SELECT %s FROM (%s) AS numbers", paste(asked, collapse = ", "), inner))
  if (as.double(found$n) != pilot$n) abort_input("The table changed while it was read.", "Run this again.")
  part <- function(letter, places) {
    values <- vapply(places, function(k) as.double(found[[paste0(letter, k)]]), 0)
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
  text <- if (checked) sprintf("SUM(t%d) AS t%d", seq_len(p), seq_len(p))
  quoted <- quote_names(con, plan$wanted)
  inner <- numbers_from(con, plan, if (checked) sprintf("typeof(%s) IN ('text', 'blob') AS t%d", quoted, seq_len(p)))
  asked <- c(sprintf("AVG(v%d) AS m%d", seq_len(p), seq_len(p)), sprintf("COUNT(v%d) AS c%d", seq_len(p), seq_len(p)), text)
  found <- ask_database(con, sprintf("SELECT COUNT(*) AS n, %s FROM (%s) AS numbers", paste(asked, collapse = ", "), inner))
  values <- unname(vapply(found, as.double, 0)) # counts may come as 64-bit integers
  if (checked) abort_text_in_table(plan, values[-seq_len(2L * p + 1L)])
  centre <- values[1L + seq_len(p)]
  centre[is.na(centre)] <- 0
  if (any(!is.finite(centre))) abort_infinite(plan$wanted[!is.finite(centre)][1])
  list(n = values[1], centre = centre, counts = values[1L + p + seq_len(p)])
}

# Of each column over the cases where another is there: how many, their sum, the sum of their squares.
sums_where_there <- function(each, from) {
  there <- function(text) sprintf("CASE WHEN v%d IS NOT NULL THEN %s END", each$j, text)
  c(
    sprintf("COUNT(%s) AS c%d", there(sprintf("v%d", each$i)), seq_along(each$i)),
    sprintf("SUM(%s) AS s%d", there(from[each$i]), seq_along(each$i)),
    sprintf("SUM(%s) AS q%d", there(sprintf("%s * %s", from[each$i], from[each$i])), seq_along(each$i))
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
  count <- function() as.double(ask_database(con, from_there(held, "COUNT(*) AS n"))$n)
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
