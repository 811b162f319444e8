for (package in c("DBI", "RSQLite")) skip_if_not_installed(package)

set.seed(3)
cases <- data.frame(hours = round(rexp(60, .2), 1), score = round(rnorm(60, 60, 9)), centre = rep(c("Mill", "Quay"), 30))
cases$score <- cases$score + 2 * cases$hours

# A database file, and an entry for it in the user's file of connections.
named_connection <- function(env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  file <- file.path(folder, "learners.sqlite")
  con <- DBI::dbConnect(RSQLite::SQLite(), file)
  DBI::dbWriteTable(con, "learners", cases)
  DBI::dbExecute(con, "CREATE VIEW mill AS SELECT * FROM learners WHERE centre = 'Mill'")
  DBI::dbDisconnect(con)
  withr::local_envvar(R_USER_CONFIG_DIR = folder, .local_envir = env)
  place <- tools::R_user_dir("unsere", "config")
  dir.create(place, recursive = TRUE)
  yaml::write_yaml(list(own = list(driver = "RSQLite", dbname = file)), file.path(place, "connections.yml"))
  file
}
brief_of <- function(table, folder) {
  path <- file.path(folder, "brief.yml")
  yaml::write_yaml(list(
    data = list(file = "db:own", table = table), pairs = list(list(x = "hours", y = "score")),
    report = list(formats = "html")
  ), path)
  path
}
whole <- "SELECT hours, score FROM learners WHERE centre = 'Mill'"
hostile <- "SELECT hours, load_extension('/tmp/none.so') AS score FROM learners"

test_that("a brief, the command and the desk name a table or a view; a query only where its user allows it", {
  named_connection()
  folder <- withr::local_tempdir()
  from_r <- relate(read_study("db:own", table = whole), hours, score)$n
  expect_equal(from_r, 30)
  expect_equal(relate(read_study("db:own", table = "mill"), hours, score)$n, 30)
  run <- function(table) run_brief(brief_of(table, folder), out = file.path(folder, "out"), quiet = TRUE)
  expect_error(run(whole), "a query is not allowed", class = "unsere_error_usage")
  expect_error(run(hostile), "a query is not allowed", class = "unsere_error_usage")
  withr::with_options(list(unsere.allow_sql = TRUE), {
    expect_error(run(hostile), "calls load_extension\\(\\)", class = "unsere_error_input")
    run(whole)
  })
  expect_equal(jsonlite::fromJSON(file.path(folder, "out", "results.json"))$pairs$relation$n, 30)
  run("mill")
  command <- function(...) {
    status <- NULL
    said <- capture.output(status <- run_command(c("relate", "db:own", "hours", "score", ...)), type = "message")
    list(status = status, said = paste(said, collapse = " "))
  }
  refused <- command("--table", whole)
  expect_identical(refused$status, 2L)
  expect_match(refused$said, "--allow-sql")
  expect_output(expect_identical(command("--table", whole, "--allow-sql")$status, 0L), "30 used")
  expect_identical(command("--table", hostile, "--allow-sql")$status, 3L)
})

test_that("a query is one SELECT of tables that are there, and calls nothing but what reckons", {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "learners", cases)
  DBI::dbWriteTable(con, "odd one", cases)
  taken <- c(
    "SELECT hours, score FROM learners;", "select hours, score from main.learners where hours > 2.5e0 order by score",
    "WITH some AS (SELECT * FROM learners) SELECT hours, round(score, 1) AS score FROM some",
    "SELECT a.hours, b.score FROM learners AS a JOIN \"odd one\" AS b ON (a.rowid = b.rowid)",
    "SELECT hours, CASE WHEN score IN (60, 61) THEN 60 ELSE score END AS score FROM (learners)",
    "SELECT hours, rank() OVER (PARTITION BY centre ORDER BY score) AS score FROM learners",
    "SELECT hours, score FROM learners UNION ALL SELECT hours, score FROM `odd one`"
  )
  for (one in taken) expect_no_error(read_study(con, table = one))
  refused <- c(
    "load_extension" = "SELECT \"load_extension\"('x') AS hours FROM learners",
    "contains the character \\[" = "SELECT [abs](1) FROM learners",
    "contains the character /\\*" = "SELECT abs/**/(hours) FROM learners",
    "contains the character ;" = "SELECT hours FROM learners; DROP TABLE learners",
    "contains the character --" = "SELECT hours FROM learners -- x",
    "belongs to the database" = "SELECT * FROM sqlite_master",
    "not a table" = "SELECT * FROM learners, nowhere", "not a table" = "SELECT * FROM (learners JOIN nowhere)",
    "not a table" = "SELECT hours FROM learners WHERE 1 = (SELECT max(a) FROM (SELECT a FROM nowhere))",
    "in the place of a table name" = "SELECT * FROM '/etc/passwd'",
    "contains INTO" = "SELECT hours INTO OUTFILE 'x' FROM learners",
    "contains RECURSIVE" = "WITH RECURSIVE a AS (SELECT 1) SELECT * FROM a",
    "pg_catalog" = "SELECT pg_catalog.abs(hours) FROM learners",
    "calls load_file" = "SELECT load_file ('x') FROM learners", "bare in a call" = "SELECT max(SELECT 1) FROM learners",
    "brackets" = "SELECT hours FROM learners)", "not understood" = "SELECT hours FROM learners WHERE hours ~ 2",
    "in the place of a table name" = "WITH a AS (SELECT 1) SELECT * FROM 5"
  )
  for (k in seq_along(refused)) {
    expect_error(read_study(con, table = refused[[k]]), names(refused)[k],
      class = "unsere_error_input",
      label = refused[[k]]
    )
  }
  expect_setequal(DBI::dbListTables(con), c("learners", "odd one"))
})

test_that("a connection opened by name only reads and loads nothing; what it cannot work out is worked out here", {
  file <- named_connection()
  before <- tools::md5sum(file)
  log_of <- function(...) read_study("db:own", table = "learners", ...)
  kept <- sum(log(cases$hours + 1) > 1.5 & cases$score^2 > 4000)
  expect_equal(nrow(as.data.frame(log_of(where = "log(hours + 1) > 1.5 and score ^ 2 > 4000"))), kept)
  there <- log_of(collect = FALSE)
  here <- as_study(cases)
  for (text in c("sqrt(hours)", "log10(hours + 1)", "score ^ 2", "exp(hours / 100)")) {
    made <- function(study) relate(derive(study, made = text), made, score, coefficient = "pearson")$r
    expect_equal(made(there), made(here), tolerance = 1e-12)
  }
  withr::local_options(unsere.most_fetched = 50)
  squared <- relate(derive(log_of(collect = FALSE), made = "score ^ 2"), made, hours, coefficient = "pearson")
  expect_equal(squared$r, relate(derive(here, made = "score ^ 2"), made, hours, coefficient = "pearson")$r,
    tolerance = 1e-12
  )
  withr::local_options(unsere.most_fetched = 5)
  expect_error(
    derive(log_of(collect = FALSE), made = "sqrt(hours)"), "cannot (compute|evaluate) sqrt",
    class = "unsere_error_input"
  )
  expect_error(log_of(where = "log(hours + 1) > 1"), "too many cases to fetch", class = "unsere_error_input")
  expect_identical(tools::md5sum(file), before)
  DBI::dbDisconnect(con <- DBI::dbConnect(RSQLite::SQLite(), file)) # nothing holds it open
  expect_identical(list.files(dirname(file), "sqlite"), "learners.sqlite")
})
