# The same questions of a database and of memory; ends in "N passed, N failed".
# Rscript tests/databases/questions.R DRIVER host port user dbname [port of a second server that holds the other half]
suppressMessages(library(unsere))
words <- commandArgs(TRUE)
made <- c(RPostgres = "Postgres", RMariaDB = "MariaDB", RSQLite = "SQLite", RClickhouse = "clickhouse")
driver <- getExportedValue(words[1], made[[words[1]]])()
told <- if (words[1] == "RSQLite") {
  list(dbname = words[2])
} else {
  list(host = words[2], port = as.integer(words[3]), user = words[4], dbname = words[5])
}
con <- do.call(DBI::dbConnect, c(list(driver), told))
access <- told
source(file.path(dirname(sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE))), "claim.R"))
refused <- function(code) inherits(tryCatch(code, error = identity), "unsere_error")
close_to <- function(a, b) isTRUE(all.equal(a, b, tolerance = 1e-12))

set.seed(21)
n <- 20000
cases <- data.frame(
  far = rnorm(n) + 1e8, near = rnorm(n), scale = sample(5L, n, TRUE), whole = sample(2e9, n, TRUE),
  yes = sample(0:1, n, TRUE)
)
cases$near <- cases$near + 0.3 * (cases$far - 1e8)
cases$near[sample(n, 900)] <- NA
cases[["Odd \"Name\" here"]] <- cases$near^2
for (k in 1:20) cases[[sprintf("m%d", k)]] <- rnorm(n) + (k > 10) * cases$near
table <- "Learners of 2024"
if (DBI::dbExistsTable(con, table)) DBI::dbRemoveTable(con, table)
DBI::dbWriteTable(con, table, cases)
before <- DBI::dbListTables(con)

in_memory <- function(names) correlation_matrix(cases[names], coefficient = "pearson")$pairs
matches <- function(moments) {
  pairs <- correlation_matrix(moments)$pairs
  memory <- in_memory(moments$variables)
  close_to(pairs$r, memory$r) && identical(pairs$n, memory$n)
}
claim("a pair of 1e8 plus noise, summed up there", matches(gather_moments(con, "far", "near", table = table)))
claim("integers whose squares overflow", matches(gather_moments(con, "whole", "scale", "far", table = table)))
claim(
  "six columns",
  matches(gather_moments(con, "far", "near", "scale", "whole", "yes", "Odd \"Name\" here", table = table))
)
claim("all columns, streamed", matches(gather_moments(con, table = table, chunk_rows = 3000)))
claim("missing codes", {
  found <- gather_moments(con, "scale", "near", table = table, missing_codes = 5)
  close_to(
    relate(found, scale, near)$r,
    relate(transform(cases, scale = replace(scale, scale == 5, NA)), scale, near, coefficient = "pearson")$r
  )
})
quoted <- as.character(DBI::dbQuoteIdentifier(con, table))
claim("a query", {
  found <- gather_moments(con, "far", "near", table = sprintf("SELECT far, near FROM %s WHERE yes = 1", quoted))
  close_to(relate(found, far, near)$r, relate(cases[cases$yes == 1, ], far, near)$r)
})
claim("counts, by every coefficient", {
  counted <- gather_counts(con, "scale", "yes", table = table)
  sum(counted$count) == n && all(vapply(c("auto", "pearson", "spearman", "tau-b"), function(one) {
    close_to(relate(counted, scale, yes, coefficient = one)$r, relate(cases, scale, yes, coefficient = one)$r)
  }, NA))
})
claim("the whole table as a study", {
  study <- read_study(con, table = table)
  close_to(relate(study, far, near)$r, relate(cases, far, near)$r)
})
claim("a study whose columns stay there", {
  study <- read_study(con, table = table, collect = FALSE)
  held <- unclass(study$data)$held
  first <- close_to(relate(study, far, near)$r, relate(cases, far, near)$r)
  few <- length(held$raw) < 5L
  second <- close_to(relate(study, m3, m15, given = near, coefficient = "spearman")$r, relate(cases, m3, m15,
    given = near,
    coefficient = "spearman"
  )$r)
  first && few && second && identical(codebook(study)$level, codebook(as_study(cases))$level)
})
claim("a study too large to fetch: sums, ranks, groups, cells", {
  large <- cbind(cases[c("far", "near", "scale", "yes")],
    word = rep(c("no", "yes", "yes"), length.out = n),
    curve = cases$near^2
  )
  large$word[sample(n, 700)] <- NA
  DBI::dbWriteTable(con, "large one", large, overwrite = TRUE)
  memory <- as_study(large, missing_codes = list(scale = 5))
  options(unsere.most_fetched = 500)
  study <- read_study(con, table = "large one", missing_codes = list(scale = 5), collect = FALSE)
  fields <- c("coefficient", "r", "n", "ci_low", "ci_high")
  same <- function(ask, from = fields) {
    good <- isTRUE(all.equal(unclass(ask(study))[from], unclass(ask(memory))[from], tolerance = 1e-9))
    if (!good) print(list(unclass(ask(study))[from], unclass(ask(memory))[from]))
    good
  }
  whole <- c(
    same(function(study) relate(study, far, near)), same(function(study) relate(study, word, near), c(fields, "groups")),
    words[1] == "RClickhouse" || same(function(study) relate(study, far, near, coefficient = "spearman")),
    same(function(study) relate(study, scale, near, coefficient = "pearson")),
    same(function(study) relate(study, far, near, given = "scale")),
    # From sums the interval is the textbook's, so it is asked of the rows as well.
    same(function(study) fit_line(study, near, curve, interval = "analytic"), c("terms", "variance", "r_squared")),
    same(function(study) relate(
      derive(study, made = "log(exp(near) + 1) + log10(abs(far)) * sqrt(yes) - near ^ 2"), made,
      far, interval = "analytic"
    )),
    same(function(study) relate(derive(study, made = "since(far) + reverse(scale) / mean_of(yes, 2)"), made, near)),
    same(function(study) overview(study)$variables, c("n", "mean", "sd", "min", "max", "distinct", "skewness")),
    sum(draw_scatter(study, near, curve)$data$count) == sum(!is.na(large$near)),
    "curved" %in% relate(study, near, curve)$cautions$code, !length(unclass(study$data)$held$raw)
  )
  options(unsere.most_fetched = NULL)
  DBI::dbRemoveTable(con, "large one")
  if (!all(whole)) cat("  of these failed:", which(!whole), "\n")
  all(whole)
})
claim("a condition on what is gathered", {
  found <- gather_moments(con, "far", "near", table = table, where = "scale > 2 and yes = 1")
  kept <- cases[cases$scale > 2 & cases$yes == 1, ]
  found$n == nrow(kept) && close_to(relate(found, far, near)$r, relate(kept, far, near)$r)
})
mixed <- data.frame(
  id = 1:60, word = rep(c("Mill", "mill", " Mill", "O'Neil \\ \"x\"", NA, ""), 10), value = c(rep(-9, 6), 7:60),
  yes = rep(c(TRUE, FALSE, NA), 20), day = as.Date("2024-01-01") + 0:59
)
DBI::dbWriteTable(con, "mixed kinds", mixed, overwrite = TRUE)
for (asked in c(
  "word = 'Mill'", "word != 'Mill'", "word is missing", "value is missing", "value / 2 > 10 and not word = 'mill'",
  "yes = 1", "yes is not missing", "value + id * 2 - 1 <= 60", "word in ('mill', 'O''Neil')"
)) claim(paste("only cases with", asked), {
  file <- tempfile(fileext = ".csv")
  data.table::fwrite(mixed, file)
  here <- tryCatch(read_study(file, missing_codes = -9, where = asked)$data$id, error = conditionMessage)
  identical(here, tryCatch(
    read_study(con, table = "mixed kinds", missing_codes = -9, where = asked, collect = FALSE)$data$id,
    error = conditionMessage
  ))
})
DBI::dbRemoveTable(con, "mixed kinds")
# The driver of ClickHouse makes none.
if (words[1] != "RClickhouse") claim("a view", {
  view <- as.character(DBI::dbQuoteIdentifier(con, "a view"))
  DBI::dbExecute(con, sprintf("CREATE VIEW %s AS SELECT far, near FROM %s", view, quoted))
  found <- relate(gather_moments(con, "far", "near", table = "a view"), far, near)$r
  DBI::dbExecute(con, sprintf("DROP VIEW %s", view))
  close_to(found, relate(cases, far, near)$r)
})
claim("an empty table is told", {
  if (words[1] == "RClickhouse") {
    DBI::dbExecute(con, "CREATE TABLE `empty one` (far Float64, near Float64) ENGINE = Memory")
  } else {
    DBI::dbWriteTable(con, "empty one", cases[0, 1:2], overwrite = TRUE)
  }
  told <- refused(gather_moments(con, "far", "near", table = "empty one"))
  DBI::dbRemoveTable(con, "empty one")
  told
})
claim("1,200 columns", {
  # Whole numbers, as a row of PostgreSQL has 8 kB; InnoDB has 1,017 columns.
  wide <- as.data.frame(matrix(sample(1000L, 300 * 1200, TRUE), 300))
  if (words[1] == "RMariaDB") DBI::dbExecute(con, "SET default_storage_engine = MyISAM")
  DBI::dbWriteTable(con, "wide one", wide, overwrite = TRUE)
  study <- read_study(con, table = "wide one", collect = FALSE)
  r <- relate(study, V7, V1190)$r
  few <- length(unclass(study$data)$held$raw) == 2L
  moments <- gather_moments(con, table = "wide one")
  DBI::dbRemoveTable(con, "wide one")
  few && close_to(r, relate(wide, V7, V1190)$r) && close_to(relate(moments, V7, V1190)$r, r) &&
    length(moments$variables) == 1200L
})
claim("part by part of a column", {
  found <- gather_moments(con, "far", "near", table = table, partition = "scale")
  matches(found) && found$parts == 5
})
claim("a hostile name runs nothing", refused(gather_moments(con, table = sprintf("x\"; DROP TABLE %s; --", quoted))))
claim("a query that reads is taken from R code, and from a brief or the command only where that is allowed", local({
  asked <- sprintf("SELECT far, near FROM %s WHERE near > 0", quoted)
  taken <- close_to(relate(read_study(con, table = asked), far, near)$r, relate(subset(cases, near > 0), far, near)$r)
  options(unsere.allow_sql = FALSE)
  on.exit(options(unsere.allow_sql = NULL))
  taken && refused(read_study(con, table = asked)) && refused(gather_moments(con, "far", "near", table = asked))
}))
claim("a query that runs, writes or reaches out is refused", {
  place <- tempfile("unsere-proof")
  hostile <- c(
    "SELECT far, load_extension('/tmp/none.so') AS near FROM %s", "SELECT far, readfile('/etc/passwd') AS near FROM %s",
    "COPY (SELECT 1) TO PROGRAM 'touch PLACE'", "SELECT far FROM %s; COPY (SELECT 1) TO PROGRAM 'touch PLACE'",
    "WITH a AS (COPY x FROM PROGRAM 'touch PLACE') SELECT * FROM a", "SELECT pg_read_file('/etc/passwd') AS far FROM %s",
    "SELECT pg_catalog.pg_read_file('/etc/passwd') AS far FROM %s", "SELECT \"pg_read_file\"('/etc/passwd') AS far FROM %s",
    "SELECT lo_import('/etc/passwd') AS far FROM %s", "SELECT lo_export(1, 'PLACE') AS far FROM %s",
    "SELECT query_to_xml('SELECT 1', true, true, '') AS far FROM %s", "SELECT dblink('host=x', 'SELECT 1') AS far FROM %s",
    "WITH gone AS (DELETE FROM %s RETURNING *) SELECT * FROM gone", "SELECT far INTO made FROM %s",
    "SELECT far FROM %s FOR UPDATE", "SELECT * FROM pg_authid", "SELECT far, pg_sleep(1) AS near FROM %s",
    "SELECT LOAD_FILE('/etc/passwd') AS far FROM %s", "SELECT LOAD_FILE ('/etc/passwd') AS far FROM %s",
    "SELECT far FROM %s INTO OUTFILE 'PLACE'", "SELECT far FROM %s INTO DUMPFILE 'PLACE'",
    "SELECT far /*!50000 INTO OUTFILE 'PLACE' */ FROM %s", "SELECT @@version AS far FROM %s", "SELECT user FROM mysql.user",
    "SELECT far, SLEEP(1) AS near FROM %s", "SELECT * FROM file('/etc/passwd', 'LineAsString')",
    "SELECT * FROM url('http://127.0.0.1:1/', 'CSV')", "SELECT far FROM %s UNION ALL SELECT 1 FROM file('x', 'CSV')",
    "SELECT far FROM %s WHERE far IN (SELECT c1 FROM url('http://127.0.0.1:1/', CSV))",
    "SELECT * FROM remote('127.0.0.1', system.one)", "SELECT * FROM executable('x', 'CSV', 'a Int')",
    "SELECT far FROM %s SETTINGS max_threads = 1", "SELECT far FROM %s FORMAT CSV", "SELECT * FROM system.users",
    "SELECT * FROM pragma_database_list", "SELECT name FROM sqlite_master", "SELECT * FROM '/etc/passwd'",
    "SELECT * FROM (VALUES (1))", "SELECT * FROM generate_series(1, 5)"
  )
  hostile <- gsub("PLACE", place, gsub("%s", quoted, hostile, fixed = TRUE), fixed = TRUE)
  let_in <- hostile[!vapply(hostile, function(one) refused(read_study(con, table = one)), NA)]
  if (length(let_in)) cat(paste("  let in:", let_in), sep = "\n")
  length(let_in) == 0L && !file.exists(place)
})
claim("a connection that is opened here only reads, and has no extension", local({
  config <- tempfile("config-")
  dir.create(file.path(config, "R", "unsere"), recursive = TRUE)
  Sys.setenv(R_USER_CONFIG_DIR = config)
  on.exit(Sys.unsetenv("R_USER_CONFIG_DIR"))
  yaml::write_yaml(list(own = c(list(driver = words[1]), access)), file.path(config, "R", "unsere", "connections.yml"))
  own <- unsere:::connect_named("db:own")
  writes <- function(sql) !inherits(try(DBI::dbExecute(own, sql), silent = TRUE), "try-error")
  wrote <- c(
    writes("CREATE TABLE written (a INTEGER)"),
    writes(sprintf("INSERT INTO %s SELECT * FROM %s", quoted, quoted)),
    writes("SELECT load_extension('/tmp/none.so')")
  )
  read <- close_to(relate(read_study("db:own", table = table), far, near)$r, relate(cases, far, near)$r)
  DBI::dbDisconnect(own)
  read && !any(wrote) && setequal(DBI::dbListTables(con), before)
}))
claim("a lacking table, a lacking column, a wrong query are told", {
  refused(gather_moments(con, table = "none")) && refused(gather_moments(con, "none", "far", table = table)) &&
    refused(gather_moments(con, table = "SELECT x FROM nowhere"))
})
if (words[1] == "RPostgres" && length(words) > 5L) {
  # One table over three servers, by region.
  ports <- as.integer(words[6:8])
  parted <- cbind(cases[c("far", "near", "scale")], region = rep_len(c("north", "south", "west"), n))
  DBI::dbExecute(con, "CREATE EXTENSION IF NOT EXISTS postgres_fdw")
  DBI::dbExecute(con, paste(
    "CREATE TABLE over_servers (far double precision, near double precision, scale integer, region text)",
    "PARTITION BY LIST (region)"
  ))
  for (k in 1:3) {
    there <- DBI::dbConnect(driver, host = words[2], port = ports[k], user = words[4], dbname = words[5])
    region <- c("north", "south", "west")[k]
    DBI::dbWriteTable(there, "part", parted[parted$region == region, ], overwrite = TRUE)
    DBI::dbDisconnect(there)
    for (sql in c(
      "CREATE SERVER server%1$d FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host '%2$s', port '%3$d', dbname '%4$s')",
      "CREATE USER MAPPING FOR CURRENT_USER SERVER server%1$d OPTIONS (user '%5$s')",
      paste(
        "CREATE FOREIGN TABLE part%1$d PARTITION OF over_servers FOR VALUES IN ('%6$s')",
        "SERVER server%1$d OPTIONS (table_name 'part')"
      )
    )) DBI::dbExecute(con, suppressWarnings(sprintf(sql, k, words[2], ports[k], words[5], words[4], region)))
  }
  DBI::dbExecute(con, "ANALYZE over_servers")
  claim("a table over three servers, part by part and as a whole", {
    found <- gather_moments(con, "far", "near", "scale", table = "over_servers", partition = "region")
    matches(found) && found$parts == 3 && matches(gather_moments(con, "far", "near", "scale", table = "over_servers"))
  })
  claim("each server adds up what it holds", {
    DBI::dbExecute(con, "SET enable_partitionwise_aggregate = on")
    plan <- DBI::dbGetQuery(con, paste(
      "EXPLAIN (VERBOSE) SELECT SUM(v1 * v1) FROM (SELECT CAST(far AS DOUBLE PRECISION) AS v1, region AS unsere_key FROM",
      "(SELECT * FROM over_servers WHERE region = 'south') AS asked) AS numbers GROUP BY unsere_key"
    ))[[1]]
    DBI::dbExecute(con, "SET enable_partitionwise_aggregate = off")
    any(grepl("Relations: Aggregate on", plan))
  })
  claim("a study over three servers", {
    study <- read_study(con, table = "over_servers", collect = FALSE)
    close_to(relate(study, far, near)$r, relate(cases, far, near)$r)
  })
  DBI::dbExecute(con, "DROP TABLE over_servers")
}
if (words[1] %in% c("RPostgres", "RMariaDB")) {
  config <- tempfile("config-")
  dir.create(config)
  Sys.setenv(R_USER_CONFIG_DIR = config, GUEST_PASSWORD = "let me in")
  dir.create(tools::R_user_dir("unsere", "config"), recursive = TRUE)
  entry <- list(
    driver = words[1], host = words[2], port = as.integer(words[3]), user = "guest", dbname = words[5],
    password_variable = "GUEST_PASSWORD"
  )
  yaml::write_yaml(list(guest = entry), file.path(tools::R_user_dir("unsere", "config"), "connections.yml"))
  invisible(DBI::dbExecute(con, if (words[1] == "RPostgres") "CREATE USER guest PASSWORD 'let me in'" else
    "CREATE USER guest@localhost IDENTIFIED BY 'let me in'"))
  asked <- table
  told <- function() tryCatch(read_study("db:guest", table = asked), unsere_error = function(e) cli::ansi_strip(conditionMessage(e)))
  claim("who may not read the table is told", grepl("denied|refused|no table", paste(told(), collapse = " ")))
  DBI::dbExecute(con, if (words[1] == "RPostgres") "GRANT SELECT ON ALL TABLES IN SCHEMA public TO guest" else
    sprintf("GRANT SELECT ON %s.* TO guest@localhost", words[5]))
  claim("who may read it reads it, and writes nothing", {
    before <- DBI::dbListTables(con)
    close_to(relate(told(), far, near)$r, relate(cases, far, near)$r) && setequal(DBI::dbListTables(con), before)
  })
  Sys.setenv(GUEST_PASSWORD = "a wrong secret")
  claim("a wrong password is told and not shown", {
    said <- told()
    is.character(said) && grepl("cannot be opened", said) && !grepl("wrong secret", said)
  })
  claim("by the command with status 3 and two lines", {
    unsere <- file.path(system.file("exec", package = "unsere"), "unsere")
    said <- suppressWarnings(system2(unsere, c("relate", "db:guest", "far", "near", "--table", shQuote(asked)),
      stdout = TRUE, stderr = TRUE
    ))
    identical(attr(said, "status"), 3L) && length(said) == 2L && !any(grepl("wrong secret", said))
  })
  DBI::dbExecute(con, if (words[1] == "RPostgres") "DROP OWNED BY guest" else "DROP USER guest@localhost")
  if (words[1] == "RPostgres") DBI::dbExecute(con, "DROP USER guest")
}
if (words[1] %in% c("RPostgres", "RMariaDB")) {
  # While a table is streamed, another session ends the query, or the connection.
  ended <- function(postgres, mariadb) {
    streamed <- do.call(DBI::dbConnect, c(list(driver), access))
    on.exit(try(DBI::dbDisconnect(streamed), silent = TRUE))
    here <- words[1] == "RPostgres"
    mine <- DBI::dbGetQuery(streamed, if (here) "SELECT pg_backend_pid()" else "SELECT CONNECTION_ID()")[[1]]
    slow <- if (here) "far + 0 * length(pg_sleep(0.002)::text)" else "far + SLEEP(0.002)"
    view <- as.character(DBI::dbQuoteIdentifier(con, "slow one"))
    slow <- sprintf("CREATE VIEW %s AS SELECT %s AS far, %s FROM %s", view, slow, paste0("m", 1:8, collapse = ", "), quoted)
    DBI::dbExecute(con, slow)
    on.exit(DBI::dbExecute(con, sprintf("DROP VIEW %s", view)), add = TRUE)
    other <- tempfile(fileext = ".R")
    writeLines(c(
      sprintf(".libPaths(%s)", paste(deparse(.libPaths()), collapse = "")), "Sys.sleep(2)",
      sprintf(
        "con <- do.call(DBI::dbConnect, c(list(%s::%s()), %s))", words[1], made[[words[1]]],
        paste(deparse(access), collapse = "")
      ),
      sprintf(
        "%s(con, %s)", if (here) "DBI::dbGetQuery" else "DBI::dbExecute",
        deparse(sprintf(if (here) postgres else mariadb, mine))
      )
    ), other)
    system2(file.path(R.home("bin"), "Rscript"), other, wait = FALSE, stdout = FALSE, stderr = FALSE)
    said <- tryCatch(
      {
        gather_moments(streamed, table = "slow one")
        "nothing"
      },
      unsere_error_input = function(e) cli::ansi_strip(conditionMessage(e))
    )
    cat("  told:", said, "\n")
    grepl("stopped answering|refused the query", said)
  }
  claim("a cancelled query is told", ended("SELECT pg_cancel_backend(%s)", "KILL QUERY %s"))
  claim("a lost connection is told", ended("SELECT pg_terminate_backend(%s)", "KILL CONNECTION %s"))
}
if (words[1] == "RPostgres") {
  claim("NaN counts as missing, infinity is told, booleans count", {
    DBI::dbExecute(con, "CREATE TEMP TABLE special (x double precision, y double precision, z boolean)")
    DBI::dbExecute(con, "INSERT INTO special SELECT i, i * i, i % 2 = 0 FROM generate_series(1, 50) i")
    DBI::dbExecute(con, "INSERT INTO special VALUES ('NaN', 1, true)")
    found <- gather_moments(con, "x", "y", "z", table = "special")
    memory <- data.frame(x = 1:50, y = (1:50)^2, z = 1:50 %% 2 == 0)
    good <- close_to(relate(found, x, y)$r, relate(memory, x, y)$r) && relate(found, x, z)$n == 50
    DBI::dbExecute(con, "INSERT INTO special VALUES ('Infinity', 1, true)")
    good && refused(gather_moments(con, "x", "y", table = "special"))
  })
}
if (words[1] == "RClickhouse") {
  second <- DBI::dbConnect(driver, host = words[2], port = as.integer(words[6]), user = words[4], dbname = words[5])
  halves <- split(cases[c("far", "near", "scale", "yes")], seq_len(n) %% 3 == 0)
  DBI::dbWriteTable(con, "shard", halves[[1]], overwrite = TRUE)
  DBI::dbWriteTable(second, "shard", halves[[2]], overwrite = TRUE)
  if (DBI::dbExistsTable(con, "all_shards")) DBI::dbRemoveTable(con, "all_shards")
  DBI::dbExecute(con, "CREATE TABLE all_shards AS shard ENGINE = Distributed(both, default, shard, rand())")
  claim("a table over two servers is added up where it lies", {
    moments <- gather_moments(con, "far", "near", "scale", table = "all_shards")
    counted <- gather_counts(con, "scale", "yes", table = "all_shards")
    matches(moments) && sum(counted$count) == n && close_to(relate(counted, scale, yes)$r, relate(cases, scale, yes)$r)
  })
  claim("two servers, each with its part, join to the same", {
    matches(gather_moments(list(con, second), "far", "near", "scale", table = "shard"))
  })
  claim("NaN counts as missing, infinity is told", {
    DBI::dbExecute(con, "CREATE TABLE special (x Float64, y Float64) ENGINE = Memory")
    DBI::dbExecute(con, "INSERT INTO special SELECT number + 1 AS x, x * x AS y FROM system.numbers LIMIT 50")
    DBI::dbExecute(con, "INSERT INTO special SELECT nan AS x, 1 AS y")
    found <- relate(gather_moments(con, "x", "y", table = "special"), x, y)
    good <- close_to(found$r, relate(data.frame(x = 1:50, y = (1:50)^2), x, y)$r) && found$n == 50
    DBI::dbExecute(con, "INSERT INTO special SELECT inf AS x, 1 AS y")
    told <- refused(gather_moments(con, "x", "y", table = "special"))
    DBI::dbRemoveTable(con, "special")
    good && told
  })
  for (name in c("all_shards", "shard")) DBI::dbRemoveTable(con, name)
  DBI::dbRemoveTable(second, "shard")
  DBI::dbDisconnect(second)
}
claim("nothing was made or lost", setequal(DBI::dbListTables(con), before) || words[1] == "RPostgres" &&
  all(before %in% DBI::dbListTables(con)))
DBI::dbRemoveTable(con, table)
DBI::dbDisconnect(con)
end_claims(words[1])
