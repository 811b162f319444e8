# A database that fails at one of its queries, each in turn: what is asked ends in one of the package's own errors or in the
# same figures, nothing is left in the database, and the same connection then answers as if nothing had been.
for (package in c("DBI", "RSQLite")) skip_if_not_installed(package)

failing <- new.env(parent = asNamespace("RSQLite"))
methods::setClass("FailingConnection", contains = "SQLiteConnection", slots = c(state = "environment"), where = failing)
methods::setMethod(DBI::dbSendQuery, methods::signature("FailingConnection", "character"),
  function(conn, statement, ...) {
    conn@state$asked <- conn@state$asked + 1L
    if (conn@state$asked == conn@state$fails_at) stop("disk I/O error")
    DBI::dbSendQuery(conn@state$inner, statement, ...)
  },
  where = failing
)

pupils <- local({
  set.seed(9)
  n <- 300
  hours <- round(rexp(n, .2), 1)
  data.frame(
    hours = replace(hours, 4:9, NA), score = round(50 + 2 * hours + rnorm(n, 0, 8)), grade = sample(5, n, TRUE),
    girl = sample(c("yes", "no"), n, TRUE), school = sample(c("Mill", "Brook", "Quay"), n, TRUE)
  )
})

failing_connection <- function(rows = pupils) {
  inner <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  DBI::dbWriteTable(inner, "pupils", rows)
  state <- list2env(list(inner = inner, asked = 0L, fails_at = 0L))
  methods::new(methods::getClass("FailingConnection", where = failing), inner, state = state)
}

# How many queries a work makes, and what became of it when each of them failed.
fail_each <- function(work) {
  con <- failing_connection()
  on.exit(DBI::dbDisconnect(con))
  whole <- suppressMessages(work(con))
  queries <- con@state$asked
  ends <- vapply(seq_len(queries), function(at) {
    con@state$asked <- 0L
    con@state$fails_at <- at
    found <- suppressMessages(tryCatch(work(con), error = identity))
    con@state$fails_at <- 0L
    # Afterwards: the table as it was, and, looked at every third time, no query left open and the same figures.
    expect_identical(DBI::dbListTables(con), "pupils")
    if (at %% 3 == 1 || at == queries) {
      expect_warning(again <- suppressMessages(work(con)), NA)
      expect_equal(again, whole)
    }
    if (inherits(found, "unsere_error")) return("told")
    if (inherits(found, "error")) return(conditionMessage(found))
    if (isTRUE(all.equal(found, whole))) "the same" else "another figure"
  }, "")
  list(queries = queries, ends = table(ends))
}

works <- list(
  "a pair brought in" = function(con) relate(read_study(con, table = "pupils", collect = TRUE), hours, score)$r,
  "a pair that stays" = function(con) relate(read_study(con, table = "pupils", collect = FALSE), hours, score)$r,
  "some of the cases" = function(con) {
    relate(read_study(con, table = "pupils", where = "grade >= 2 and school != 'Mill'", collect = FALSE), hours, score)$r
  },
  "a matrix that stays" = function(con) {
    correlation_matrix(read_study(con, table = "pupils", collect = FALSE), hours, score, grade)$pairs$r
  },
  "what is in it" = function(con) overview(read_study(con, table = "pupils", collect = FALSE))$variables$mean,
  "moments" = function(con) relate(gather_moments(con, table = "pupils"), hours, score)$r,
  "moments by school" = function(con) relate(gather_moments(con, table = "pupils", partition = "school"), hours, score)$r,
  "counts" = function(con) relate(gather_counts(con, "grade", "score", table = "pupils"), grade, score)$r
)
vast <- list(
  "a pair by sums" = function(study) relate(study, hours, score)[c("r", "n", "p")],
  "ranks" = function(study) relate(study, hours, score, coefficient = "spearman")$r,
  "two groups" = function(study) relate(study, girl, score)$groups,
  "others held" = function(study) relate(study, hours, score, given = c(grade, girl))$r,
  "a line" = function(study) coef(fit_line(study, hours, score)),
  "a matrix by sums" = function(study) correlation_matrix(study, hours, score, grade, coefficient = "pearson")$pairs$r,
  "counted cells" = function(study) ggplot2::layer_data(draw_scatter(study, hours, score), 1)$x,
  "made anew" = function(study) relate(derive(study, twice = "2 * hours"), twice, score)$r
)

test_that("each query of what is brought in, stays or is summed up may fail: told, or the same figures", {
  for (name in names(works)) {
    found <- fail_each(works[[name]])
    expect_gt(found$queries, 1, label = name)
    expect_identical(setdiff(names(found$ends), c("told", "the same")), character(), label = name)
    expect_true("told" %in% names(found$ends), label = name)
  }
})

test_that("so may each query of a table too large to be fetched", {
  withr::local_options(unsere.most_fetched = 100)
  for (name in names(vast)) {
    found <- fail_each(function(con) vast[[name]](read_study(con, table = "pupils", collect = FALSE)))
    expect_gt(found$queries, 2, label = name)
    expect_identical(setdiff(names(found$ends), c("told", "the same")), character(), label = name)
  }
})
