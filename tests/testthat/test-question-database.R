for (package in c("DBI", "RSQLite")) skip_if_not_installed(package)

set.seed(77)
size <- 1500
national <- data.frame(
  pupil = sprintf("p%04d", 1:size), hours = round(rexp(size, .2), 2), score = rnorm(size, 60, 12),
  grade = sample(6, size, TRUE),
  girl = sample(c("yes", "no"), size, TRUE), agree = sample(c("Disagree", "Neither", "Agree"), size, TRUE),
  school = sample(c("Mill", "Brook", "Quay"), size, TRUE), far = rnorm(size) + 1e8
)
national$score <- national$score + 7 * sqrt(national$hours) + 4 * (national$girl == "yes")
national$twice <- 7 - 2 * national$hours
national$hours[5:80] <- NA
national$score[60:140] <- NA
national$grade[900:930] <- 9

with_vast <- function(code) {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  RSQLite::initExtension(con, "math") # its owner's choice: roots and logarithms of the database's own
  DBI::dbWriteTable(con, "national", national)
  withr::local_options(unsere.most_fetched = 100)
  there <- read_study(con, table = "national", missing_codes = list(grade = 9), collect = FALSE)
  code(there, con)
  expect_length(unclass(there$data)$database$raw, 0L)
}
here <- as_study(national, missing_codes = list(grade = 9))

test_that("of cases too many to fetch a pair is worked out from the database's sums, and equals that of the cases", {
  with_vast(function(there, con) {
    same <- function(ask, fields = c("r", "n", "n_dropped", "ci_low", "ci_high", "df")) {
      a <- ask(there)
      b <- ask(here)
      # Sums give the textbook's interval and test, whatever the cases say.
      b <- utils::modifyList(unclass(b), as.list(b$textbook))
      expect_equal(a[fields], b[fields], tolerance = 1e-11)
      expect_equal(a$sample$dropped, b$sample$dropped, ignore_attr = "names")
      a
    }
    bent <- same(function(study) relate(study, hours, score))
    expect_equal(bent$p, relate(here, hours, score, interval = "analytic")$p, tolerance = 1e-9)
    # The bend is told of the sums, other doubts are not looked for, and that is said.
    expect_equal(
      bent$cautions$figures[[1]]$t, Find(function(f) !is.null(f$direction), relate(here, hours, score)$cautions$figures)$t,
      tolerance = 1e-9
    )
    expect_match(paste(format(bent), collapse = " "), "by the database from sums over all cases")
    same(function(study) relate(study, far, score, coefficient = "pearson"))
    # What sums of fifteen digits leave of a perfect relation is not taken for evidence.
    expect_identical(same(function(study) relate(study, hours, twice))$p, NA_real_)
    for (study in list(there, here)) expect_error(relate(study, hours, hours), "given twice", class = "unsere_error_usage")
    binary <- same(function(study) relate(study, girl, score))
    expect_equal(binary$groups, relate(here, girl, score)$groups, tolerance = 1e-11)
    expect_identical(binary$coefficient, "point-biserial")
    ranked <- same(function(study) relate(study, agree, hours))
    expect_identical(ranked$coefficient, "spearman")
    same(function(study) relate(study, hours, score, coefficient = "spearman"))
    partial <- same(function(study) relate(study, hours, score, given = c(grade, girl)))
    expect_equal(partial$unheld, relate(here, hours, score, given = c(grade, girl))$unheld, tolerance = 1e-11)
    expect_match(in_words(partial), "grade and girl|grade, girl")
    expect_error(relate(there, hours, school), "not analysed in the database", class = "unsere_error_input")
    expect_error(relate(there, hours, score, coefficient = "tau-b"), "tau-b is not computed", class = "unsere_error_usage")
    expect_error(relate(there, hours, score, interval = "bootstrap"), "textbook test", class = "unsere_error_usage")
    expect_error(check_items(there, grade, hours, score), "too many to fetch", class = "unsere_error_input")
  })
})

test_that("classes that are alike are told from sums as from the cases", {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  level <- rnorm(40)[rep(1:40, 30)]
  classed <- data.frame(class = sprintf("c%02d", rep(1:40, 30)), a = level + rnorm(1200), b = level + rnorm(1200), far = 1e6)
  classed$far <- classed$b + 1e6
  DBI::dbWriteTable(con, "classed", classed)
  withr::local_options(unsere.most_fetched = 100)
  there <- read_study(con, table = "classed", collect = FALSE)
  for (y in c("b", "far")) {
    told <- relate(there, a, !!y)$cautions
    whole <- relate(as_study(classed[c("class", "a", y)]), a, !!y)$cautions
    expect_true("clustered_cases" %in% told$code)
    figures <- function(cautions) cautions$figures[[which(cautions$code == "clustered_cases")]]
    expect_equal(figures(told), figures(whole), tolerance = 1e-8)
  }
})

test_that("lines, matrices, derived variables, conditions and figures of such cases are those of memory", {
  with_vast(function(there, con) {
    line <- fit_line(there, hours, score, at = c(3, 900))
    whole <- fit_line(here, hours, score, at = c(3, 900), interval = "analytic")
    same <- c("terms", "variance", "predictions", "residual_sd", "r", "adj_r_squared", "n")
    expect_equal(unclass(line)[same], unclass(whole)[same], tolerance = 1e-10)
    expect_true("outside_range" %in% line$cautions$code || any(grepl("outside", line$cautions$code)))
    expect_match(paste(format(line), collapse = " "), "which the data reach|outside the data", ignore.case = TRUE)
    pairs <- function(study, ...) {
      correlation_matrix(study, hours, score, far, girl, coefficient = "pearson", interval = "analytic", ...)$pairs
    }
    expect_equal(pairs(there)[c("r", "n", "p")], pairs(here)[c("r", "n", "p")], tolerance = 1e-10)
    expect_equal(pairs(there, missing = "listwise")$n, pairs(here, missing = "listwise")$n)
    expect_error(correlation_matrix(there, hours, agree), "agree has no equal steps", class = "unsere_error_usage")
    recipes <- list(
      a = "log(hours + 1) - log10(score)", b = "mean_of(hours, score) * 2 ^ 2 / 3", d = "reverse(grade) + since(far)",
      e = "reverse(grade, 1, 6) + sqrt(abs(-hours)) + exp(grade / 10)", f = "sum_of(grade, score, hours)"
    )
    for (name in names(recipes)) {
      asked <- stats::setNames(recipes[name], name)
      told <- relate(do.call(derive, c(list(there), asked)), name, "far", coefficient = "pearson")
      expect_equal(
        told[c("r", "n")], relate(do.call(derive, c(list(here), asked)), name, "far", coefficient = "pearson")[c("r", "n")],
        tolerance = 1e-9, label = recipes[[name]]
      )
    }
    expect_error(derive(there, z = "log(hours - 5)"), "no finite value in [0-9]+ cases", class = "unsere_error_undefined")
    expect_error(derive(there, z = "change(hours)"), "cannot (compute|evaluate) change", class = "unsere_error_input")
    some <- read_study(con, table = "national", where = "school = 'Mill' and grade < 4", collect = FALSE)
    kept <- national[national$school == "Mill" & national$grade < 4, ]
    expect_equal(relate(some, hours, score)[c("r", "n")], relate(kept, hours, score)[c("r", "n")], tolerance = 1e-11)
    figure <- draw_scatter(there, hours, score)
    expect_equal(sum(figure$data$count), line$n)
    expect_equal(sum(figure$data$x * figure$data$count) / line$n, mean(line$sample$x <- relate(here, hours, score)$sample$x))
    scale <- draw_scatter(there, grade, score)$data
    expect_true(all(scale$x %in% 1:6))
    expect_error(draw_scatter(there, hours, score, by = girl), "cannot show groups", class = "unsere_error_usage")
  })
})

test_that("what is in such a table is counted and summed up there", {
  with_vast(function(there, con) {
    told <- overview(there)
    whole <- overview(here)
    expect_equal(told$variables[names(told$variables) != "source"], whole$variables, tolerance = 1e-11)
    expect_equal(told$counts, whole$counts)
    expect_equal(told$complete, whole$complete)
    expect_no_match(format(told), "draw_box")
  })
})

test_that("what sums cannot answer fetches the cases, where they are not too many for that", {
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "national", national)
  withr::local_options(unsere.most_fetched = 2000)
  there <- read_study(con, table = "national", missing_codes = list(grade = 9), collect = FALSE)
  fetched <- function() length(unclass(there$data)$database$raw)
  relate(there, hours, score)
  expect_identical(fetched(), 0L)
  derived <- derive(there, log_hours = "log(hours + 1)", step = "change(score)")
  expect_gt(fetched(), 0L)
  same <- function(ask) expect_equal(ask(derived), ask(derive(here, log_hours = "log(hours + 1)", step = "change(score)")))
  same(function(study) relate(study, log_hours, score, coefficient = "tau-b")$r)
  same(function(study) relate(study, step, score)$r)
  same(function(study) check_items(study, grade, hours, score)$alpha)
  same(function(study) fit_line(study, log_hours, score, "quadratic")$terms)
  same(function(study) relate(study, hours, score, interval = "jackknife")$ci_low)
})

test_that("moments serve a line, a partial r and a condition as the cases do", {
  file <- withr::local_tempfile(fileext = ".csv")
  complete <- national[stats::complete.cases(national), ]
  data.table::fwrite(complete, file)
  moments <- gather_moments(file, "hours", "score", "grade", where = "girl = 'yes' and grade < 9", chunk_rows = 400)
  kept <- complete[complete$girl == "yes" & complete$grade < 9, ]
  expect_equal(fit_line(moments, hours, score)$terms, fit_line(kept, hours, score)$terms, tolerance = 1e-10)
  expect_equal(range(fit_line(moments, hours, score)$sample$x), range(kept$hours))
  expect_equal(
    relate(moments, hours, score, given = "grade")$r, relate(kept, hours, score, given = "grade")$r,
    tolerance = 1e-11
  )
  gaps <- gather_moments(national, "hours", "score", "grade") |> tryCatch(error = function(e) NULL)
  expect_null(gaps)
  data.table::fwrite(national, file)
  expect_error(
    relate(gather_moments(file, "hours", "score", "grade"), hours, score, given = "grade"), "complete cases",
    class = "unsere_error_usage"
  )
  expect_error(fit_line(moments, hours, score, shape = "log"), "only a straight line", class = "unsere_error_usage")
})
