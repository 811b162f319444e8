for (package in c("DBI", "RSQLite", "nanoparquet")) skip_if_not_installed(package)

set.seed(41)
cases <- data.frame(a = rnorm(3000) + 1e8, b = rnorm(3000), scale = sample(5, 3000, TRUE))
cases$b <- cases$b + 0.4 * (cases$a - 1e8)
cases$b[sample(3000, 100)] <- NA
cases$yes <- as.integer(cases$scale + rnorm(3000) > 3)
for (k in 1:5) cases[[paste("more", k)]] <- rnorm(3000)
cases[["a \"quoted\" name"]] <- cases$b^2

with_database <- function(code) {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "the learners", cases)
  code(con)
}
same_r <- function(moments, data = cases) {
  pairs <- correlation_matrix(moments)$pairs
  whole <- correlation_matrix(data[moments$variables], coefficient = "pearson")$pairs
  expect_equal(pairs$r, whole$r, tolerance = 1e-12)
  expect_equal(pairs$n, whole$n)
}

test_that("moments summed up in a database, or streamed, are those of the cases to twelve digits", {
  with_database(function(con) {
    few <- gather_moments(con, "a", "b", "scale", table = "the learners")
    same_r(few)
    same_r(gather_moments(con, table = "the learners", chunk_rows = 700))
    same_r(
      gather_moments(con, "a", "b", table = "SELECT a, b FROM \"the learners\" WHERE a > 100000000"),
      cases[cases$a > 1e8, ]
    )
    found <- relate(few, a, b)
    of_cases <- relate(cases, a, b, interval = "analytic")
    figures <- c("r", "ci_low", "p", "n")
    expect_equal(unclass(found)[figures], unclass(of_cases)[figures], tolerance = 1e-12)
    expect_match(format(found), "100 excluded: b missing 100", all = FALSE)
    expect_match(in_words(found), "positively correlated")
    expect_error(relate(few, a, b, coefficient = "spearman"), "Pearson's r", class = "unsere_error_usage")
    expect_error(relate(few, a, none), "no variable", class = "unsere_error_input")
    coded <- gather_moments(con, "scale", "b", table = "the learners", missing_codes = 5)
    same_r(coded, transform(cases, scale = replace(scale, scale == 5, NA)))
  })
})

test_that("counts of a database say what the cases say, by every coefficient", {
  with_database(function(con) {
    counts <- gather_counts(con, "scale", "yes", table = "the learners")
    expect_equal(sum(counts$count), 3000)
    for (coefficient in c("auto", "pearson", "spearman", "tau-b")) {
      fields <- c("r", "ci_low", "ci_high", "p", "n")
      expect_equal(
        unclass(relate(counts, scale, yes, coefficient = coefficient))[fields],
        unclass(relate(cases, scale, yes, coefficient = coefficient))[fields]
      )
    }
  })
})

test_that("a table parted by a column is gathered part by part", {
  with_database(function(con) {
    parted <- cbind(cases[c("a", "b", "scale")], region = rep(c("North", "O'Hara \"x\"", NA), each = 1000))
    DBI::dbWriteTable(con, "parted", parted)
    for (key in c("region", "scale")) {
      found <- gather_moments(con, "a", "b", table = "parted", partition = key)
      expect_equal(found$parts, length(unique(parted[[key]])))
      same_r(found)
    }
    query <- "SELECT * FROM parted WHERE scale < 3"
    same_r(gather_moments(con, "a", "b", table = query, partition = "region"), cases[cases$scale < 3, ])
    expect_error(gather_moments(con, "a", table = "parted", partition = "regio"), "Did you mean region",
      class = "unsere_error_input"
    )
  })
})

test_that("what cannot be used is told in a line, and no name runs SQL of its own", {
  with_database(function(con) {
    refused <- function(why, ...) expect_error(gather_moments(con, ...), why, class = "unsere_error_input")
    refused("no table \"learners\"", table = "learners")
    refused("no table", table = "x\"; DROP TABLE \"the learners")
    refused("no variable \"c\"", "a", "c", table = "the learners")
    refused("not a table of the database", table = "SELECT nothing FROM nowhere")
    refused("refused the query", table = "SELECT nothing FROM \"the learners\"")
    DBI::dbExecute(con, "CREATE TABLE mixed (a, b)")
    refused("no case", table = "mixed")
    DBI::dbExecute(con, "INSERT INTO mixed VALUES (1, 2), (2, 3), (3, 5.5), ('x', 1)")
    suppressWarnings(refused("text", "a", "b", table = "mixed"))
    expect_error(gather_moments(con), "Which table", class = "unsere_error_usage")
    expect_identical(DBI::dbListTables(con), c("mixed", "the learners"))
  })
})

test_that("parts of a folder, with values in the names of folders, and several databases, join to the whole", {
  folder <- withr::local_tempdir()
  halves <- split(cases, seq_len(3000) > 1200)
  for (k in 1:2) {
    place <- file.path(folder, sprintf("year=%d", 2022 + k))
    dir.create(place)
    nanoparquet::write_parquet(halves[[k]][c("a", "b", "scale")], file.path(place, "part.parquet"))
  }
  whole <- cbind(cases[c("a", "b", "scale")], year = rep(c(2023, 2024), c(1200, 1800)))
  found <- gather_moments(folder)
  expect_identical(found$variables, c("a", "b", "scale", "year"))
  same_r(found, whole)
  same_r(gather_moments(file.path(folder, "year=*", "*.parquet"), "a", "b"), whole)
  kept <- file.path(folder, "kept")
  first <- gather_moments(file.path(folder, "*", "*.parquet"), "a", "b", keep = kept)
  expect_length(list.files(kept), 2L)
  expect_identical(gather_moments(file.path(folder, "*", "*.parquet"), "a", "b", keep = kept)$sums, first$sums)
  # A part that cannot be read stops the whole by name, or is left out and told.
  broken <- file.path(folder, "year=2025")
  dir.create(broken)
  writeLines("no parquet", file.path(broken, "part.parquet"))
  expect_error(gather_moments(folder, "a", "b"), "part.parquet", class = "unsere_error_input")
  expect_match(gather_moments(folder, "a", "b", skip_unreadable = TRUE)$skipped, "year=2025")
  files <- file.path(folder, c("one.sqlite", "two.sqlite"))
  for (k in 1:2) {
    con <- DBI::dbConnect(RSQLite::SQLite(), files[k])
    DBI::dbWriteTable(con, "learners", halves[[k]])
    DBI::dbDisconnect(con)
  }
  openers <- lapply(files, function(file) {
    force(file)
    function() DBI::dbConnect(RSQLite::SQLite(), file)
  })
  same_r(gather_moments(openers, "a", "b", table = "learners"), whole)
  joined <- gather_counts(openers, "scale", "yes", table = "learners")
  expect_equal(sum(joined$count), 3000)
  expect_equal(relate(joined, scale, yes)$r, relate(cases, scale, yes)$r)
})

test_that("workers gather the same digits as one", {
  skip_if_not_installed("future")
  folder <- withr::local_tempdir()
  for (k in 1:3) data.table::fwrite(cases[seq(k, 3000, 3), c("a", "b")], file.path(folder, sprintf("part%d.csv", k)))
  alone <- gather_moments(folder)
  before <- future::plan(future::multisession, workers = 2)
  on.exit(future::plan(before))
  expect_identical(gather_moments(folder)$sums, alone$sums)
})

test_that("daemons gather the same digits, and a part that fails is told by name", {
  skip_if_not_installed("mirai")
  folder <- withr::local_tempdir()
  for (k in 1:3) data.table::fwrite(cases[seq(k, 3000, 3), c("a", "b")], file.path(folder, sprintf("part%d.csv", k)))
  alone <- gather_moments(folder)
  libraries <- .libPaths()
  mirai::daemons(2)
  on.exit(mirai::daemons(0))
  mirai::everywhere(.libPaths(libraries), libraries = libraries)
  expect_identical(gather_moments(folder)$sums, alone$sums)
  writeLines(c("a,b", "1,2", "x,3"), file.path(folder, "part4.csv"))
  expect_error(gather_moments(folder, "a", "b"), "part4.csv.*text", class = "unsere_error_input")
})

test_that("a named connection opens from the command and from a brief; its password is in no message", {
  folder <- withr::local_tempdir()
  withr::local_envvar(R_USER_CONFIG_DIR = folder, SECRET_OF_TEST = "hush-hush")
  dir.create(file.path(folder, "R", "unsere"), recursive = TRUE)
  database <- file.path(folder, "school.sqlite")
  con <- DBI::dbConnect(RSQLite::SQLite(), database)
  DBI::dbWriteTable(con, "learners", as.data.frame(demo_study("learners")))
  DBI::dbDisconnect(con)
  writeLines(c(
    sprintf("school: {driver: RSQLite, dbname: \"%s\"}", database),
    "locked: {driver: RSQLite, dbname: \"/nowhere/hush-hush/x\", password_variable: SECRET_OF_TEST}",
    "empty: {driver: RSQLite, password_variable: NOT_SET_ANYWHERE}"
  ), file.path(folder, "R", "unsere", "connections.yml"))
  out <- capture.output(run_command(c(
    "relate", "db:school", "practice_hours", "speaking_score", "--table", "learners", "--format", "json"
  )))
  r <- relate(demo_study("learners"), practice_hours, speaking_score)$r
  expect_equal(jsonlite::fromJSON(paste(out, collapse = "\n"))$r, r)
  brief <- file.path(folder, "b.yml")
  writeLines(c("data: {database: school, table: learners}", "pairs: [{x: practice_hours, y: speaking_score}]"), brief)
  results <- jsonlite::fromJSON(file.path(run_brief(brief, quiet = TRUE), "results.json"), simplifyVector = FALSE)
  expect_equal(results$pairs[[1]]$relation$r, r)
  expect_error(read_study("db:scool", table = "learners"), "no connection", class = "unsere_error_input")
  expect_error(read_study("db:empty", table = "learners"), "NOT_SET_ANYWHERE", class = "unsere_error_input")
  told <- tryCatch(read_study("db:locked", table = "learners"), unsere_error_input = conditionMessage)
  expect_match(told, "cannot be opened")
  expect_no_match(told, "hush-hush")
})
