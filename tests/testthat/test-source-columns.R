for (package in c("DBI", "RSQLite")) skip_if_not_installed(package)

set.seed(51)
size <- 1500
survey <- data.frame(
  pupil = sprintf("p%04d", 1:size), school = sample(c("Mill", "Brook", "mill", "Canal", "Quay"), size, TRUE),
  hours = round(rexp(size, .2), 1), score = round(rnorm(size, 60, 12)), girl = sample(c("yes", "no"), size, TRUE),
  agree = sample(c("Strongly disagree", "Disagree", "Agree", "Strongly agree"), size, TRUE), grade = sample(6, size, TRUE)
)
survey$score <- round(survey$score + 2 * survey$hours)
survey$score[3:40] <- -9
survey$hours[41:60] <- NA
for (k in 1:9) survey[[paste("item", k)]] <- sample(5, size, TRUE)

with_table <- function(code, data = survey) {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "survey", data)
  code(con)
}
stays <- function(con, ...) read_study(con, table = "survey", missing_codes = -9, collect = FALSE, ...)
fetched <- function(study) names(unclass(study$data)$database$raw)

test_that("a study whose columns stay in a database answers as one in memory, and fetches what is asked for", {
  with_table(function(con) {
    there <- stays(con)
    here <- as_study(survey, missing_codes = -9)
    expect_identical(codebook(there), codebook(here))
    expect_length(fetched(there), 0L)
    # Of the table nothing is told that was counted among its first cases.
    expect_false(any(grepl("with a missing-value code|far outside|repeats", format(there$provenance$decisions))))
    expect_match(format(there), "columns stay in the database", all = FALSE)
    same <- function(ask) expect_equal(ask(there), ask(here))
    same(function(study) as.data.frame(relate(study, hours, score)))
    expect_setequal(fetched(there), c("hours", "score", "pupil", "school", "girl"))
    same(function(study) as.data.frame(relate(study, hours, score, given = grade, coefficient = "spearman")))
    same(function(study) relate(study, hours, score)$cautions$code)
    same(function(study) relate(study, girl, score)[c("r", "p", "coefficient")])
    same(function(study) relate(study, agree, grade)[c("r", "p", "coefficient")])
    same(function(study) correlation_matrix(study, hours, score, agree, grade)$pairs)
    same(function(study) fit_line(study, hours, score)$terms)
    same(function(study) check_items(study, "item 1", "item 2", "item 3")$alpha)
    same(function(study) relate(derive(study, log_hours = "log(hours + 1)"), log_hours, score)$r)
    same(function(study) relate(set_design(study, cluster = "school"), hours, score)[c("ci_low", "df")])
    same(function(study) relate(leave_out(study, c("p0100", "p0200"), "moved away"), hours, score)[c("r", "n")])
    same(function(study) relate(study[100:900, ], hours, score)[c("r", "n")])
    same(function(study) as.data.frame(study))
    renamed <- stays(con)
    names(renamed$data)[3] <- "weekly hours"
    expect_equal(renamed$data[["weekly hours"]], survey$hours)
    expect_equal(dim(renamed$data), dim(survey))
    expect_output(print(renamed$data), "16 columns of 1500 cases")
  })
})

test_that("cases are chosen by a condition, there as here", {
  with_table(function(con) {
    for (asked in c(
      "grade >= 3", "school = 'Mill'", "school in ('Mill', 'Canal') and not (grade < 2 or girl = 'no')", "score is missing",
      "hours is not missing and hours * 2 + 1 > 10", "(hours + 1) / 2 > 3", "school != 'Brook' and -grade < -2", "score < 60"
    )) {
      here <- as.data.frame(as_study(survey, missing_codes = -9))
      file <- withr::local_tempfile(fileext = ".csv")
      data.table::fwrite(survey, file)
      there <- stays(con, where = asked)
      kept <- read_study(file, missing_codes = -9, where = asked)
      expect_identical(there$data$pupil, kept$data$pupil, label = asked)
      expect_identical(
        read_study(con, table = "survey", missing_codes = -9, where = asked)$data$pupil, kept$data$pupil,
        label = asked
      )
      expect_match(format(there$provenance$decisions)[["where"]], sprintf(": %d of 1500", nrow(kept$data)))
    }
    brief <- withr::local_tempfile(fileext = ".yml")
    file <- withr::local_tempfile(fileext = ".csv")
    data.table::fwrite(survey, file)
    write_brief(read_study(file, where = "school != 'Mill' and grade < 3"), brief)
    expect_identical(yaml::read_yaml(brief)$data$where, "school != 'Mill' and grade < 3")
    count <- nrow(stays(con, where = "grade = 2 or grade = 3 and school = 'Quay'")$data)
    expect_equal(count, sum(survey$grade == 2 | survey$grade == 3 & survey$school == "Quay"))
    refused <- function(why, asked) expect_error(stays(con, where = asked), why, class = "unsere_error_input")
    refused("no variable \"ages\"", "ages > 3")
    refused("at place 7: \"\\)\" is not expected", "grade )")
    refused("a comparison is expected", "grade")
    refused("at place 7", "grade ; DROP TABLE survey")
    expect_match(tryCatch(stays(con, where = "grade ~ 3"), error = function(e) e$hint), "A condition compares")
    refused("No case has", "school = 'x\" OR 1=1 --'")
    refused("cannot (compute|evaluate) change", "change(hours) > 1")
    expect_error(stays(con, where = ""), class = "unsere_error_usage")
    expect_identical(DBI::dbListTables(con), "survey")
  })
})

test_that("a table that changes, or has no order of its own, is told; text among numbers is named", {
  with_table(function(con) {
    there <- stays(con)
    expect_equal(relate(there, hours, score)$n, 1442)
    DBI::dbExecute(con, "DELETE FROM survey WHERE grade = 1")
    expect_error(relate(there, hours, grade), "changed while it was read", class = "unsere_error_input")
    DBI::dbExecute(con, "CREATE VIEW shuffled AS SELECT * FROM survey ORDER BY random()")
    shuffled <- read_study(con, table = "shuffled", collect = FALSE)
    relate(shuffled, hours, score)
    expect_error(relate(shuffled, hours, grade), "another order", class = "unsere_error_input")
    DBI::dbExecute(con, "CREATE TABLE mixed (a, b)")
    DBI::dbExecute(con, "INSERT INTO mixed VALUES (1, 2), (2, 3), (3, 5.5), ('x', 1), (5, 7)")
    expect_error(
      relate(read_study(con, table = "mixed", collect = FALSE), a, b), "text in 1 of its 5 cells: \"x\" in row 4",
      class = "unsere_error_input"
    )
    expect_error(read_study(con, table = "none", collect = FALSE), "no table", class = "unsere_error_input")
    expect_error(read_study(con, collect = FALSE), "Which table", class = "unsere_error_usage")
  })
})

test_that("a quote within quotes is written twice, in the file as in the database", {
  with_table(function(con) {
    DBI::dbWriteTable(con, "named", data.frame(g = c("a", "b'c", "d"), x = 1:3))
    for (from in list(csv_file("g,x", "a,1", "\"b'c\",2", "d,3"), con)) {
      study <- read_study(from, table = if (!is.character(from)) "named", where = "g = 'b''c'")
      expect_identical(as.double(as.data.frame(study)$x), 2)
    }
  })
  stray <- "\"'b'\" is not expected"
  expect_error(read_study(csv_file("g,x", "a,1"), where = "g = 'a' 'b'"), stray, class = "unsere_error_input")
})

test_that("a table whose cases lie in several databases is one study", {
  halves <- lapply(list(survey[1:600, ], survey[601:1500, rev(names(survey))]), function(part) {
    con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
    DBI::dbWriteTable(con, "survey", part)
    con
  })
  on.exit(lapply(halves, DBI::dbDisconnect))
  joined <- read_study(list(halves[[1]], function() {
    other <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
    RSQLite::sqliteCopyDatabase(halves[[2]], other)
    other
  }), table = "survey", missing_codes = -9)
  here <- as_study(survey, missing_codes = -9)
  expect_equal(as.data.frame(joined), as.data.frame(here))
  expect_match(format(overview(joined)), "Table survey of 2 databases: 1500 cases", all = FALSE)
  some <- read_study(halves, table = "survey", missing_codes = -9, where = "grade > 4")
  expect_equal(nrow(some$data), sum(survey$grade > 4))
  expect_match(format(some$provenance$decisions)[["where"]], "of 1500")
  expect_error(read_study(halves, table = "survey", where = "grade > 9"), "No case has", class = "unsere_error_input")
  withr::with_options(list(unsere.most_fetched = 100), expect_error(
    read_study(halves, table = "survey"), "too many to fetch",
    class = "unsere_error_input"
  ))
  DBI::dbExecute(halves[[2]], "ALTER TABLE survey RENAME COLUMN grade TO mark")
  expect_error(read_study(halves, table = "survey"), "Source 2 has other columns.*grade", class = "unsere_error_input")
  expect_error(read_study(list(3), table = "survey"), "A source is", class = "unsere_error_usage")
})

test_that("a table that is locked, dropped or laid out anew between two questions is told; nothing is lost", {
  file <- tempfile(fileext = ".sqlite")
  con <- DBI::dbConnect(RSQLite::SQLite(), file)
  other <- DBI::dbConnect(RSQLite::SQLite(), file)
  on.exit(for (one in list(con, other)) DBI::dbDisconnect(one))
  rows <- data.frame(x = sqrt(1:40), y = sin(1:40), z = exp(-(1:40)))
  DBI::dbWriteTable(con, "t", rows)
  there <- read_study(con, table = "t", collect = FALSE)
  DBI::dbExecute(other, "BEGIN EXCLUSIVE")
  expect_error(relate(there, x, y), "locked", class = "unsere_error_input")
  DBI::dbExecute(other, "COMMIT")
  expect_equal(relate(there, x, y)$r, relate(rows, x, y)$r)
  expect_match(paste(format(overview(read_study(con, table = "t", collect = FALSE))), collapse = " "), "40 cases")
  DBI::dbWriteTable(other, "t", rows[c("x", "y")], overwrite = TRUE)
  expect_error(relate(there, x, z), "no such column", class = "unsere_error_input")
  DBI::dbExecute(other, "DROP TABLE t")
  expect_error(relate(read_study(con, table = "t", collect = FALSE), x, y), "no table", class = "unsere_error_input")
})
