learners <- demo_study("learners")

test_that("every pair has the figures that it has alone, whatever its coefficient", {
  found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, study_partner, prior_course, m4)
  expect_equal(nrow(found$pairs), 15)
  expect_setequal(found$pairs$coefficient, c("pearson", "spearman", "point-biserial", "phi"))
  for (k in seq_len(15)) {
    pair <- found$pairs[k, ]
    alone <- relate(learners, pair$x, pair$y)
    expect_identical(c(pair$coefficient, pair$n), c(alone$coefficient, alone$n))
    expect_equal(pair$r, alone$r, tolerance = 1e-14)
    expect_equal(c(pair$p, pair$ci_low, pair$ci_high), c(alone$p, alone$ci_low, alone$ci_high), tolerance = 1e-9)
  }
  # Pairs by the jackknife bring their own t and degrees of freedom.
  expect_true(all(c("statistic", "value", "df") %in% names(as.data.frame(found))))
  textbook <- correlation_matrix(learners, practice_hours, speaking_score, confidence, interval = "analytic")
  expect_identical(
    names(as.data.frame(textbook)),
    c(
      "x", "y", "coefficient", "r", "n", "ci_low", "ci_high", "p", "p_adjusted", "highlighted", "log10_p",
      "log10_p_adjusted", "ci_method"
    )
  )
})

test_that("kernels and threads agree: AVX-512, AVX2 and plain, with and without missing values", {
  set.seed(3)
  base <- lapply(1:37, function(j) rnorm(700) + (j == 5) * 1e8)
  base[[7]] <- 2 * base[[6]] + 1
  base[[9]] <- base[[8]] * 1e150
  holed <- lapply(base, function(v) replace(v, sample(700, 40), NA))
  wanted <- matrix(TRUE, 37, 37)
  compute <- function(columns, ranked, threads, kernel) {
    if (ranked) return(unsere:::core_rank_matrix(columns, wanted, !anyNA(unlist(columns)), threads, kernel))
    unsere:::core_matrix(columns, threads, kernel)
  }
  for (columns in list(base, holed)) for (ranked in c(FALSE, TRUE)) {
    plain <- compute(columns, ranked, 1L, 1L)
    expect_identical(compute(columns, ranked, 3L, 1L), plain)
    # A kernel that the processor lacks would be the plain one again.
    for (kernel in Filter(function(k) unsere:::core_kernel_name(k) != unsere:::core_kernel_name(1L), 2:3)) {
      other <- compute(columns, ranked, 2L, kernel)
      expect_lt(max(abs(other$r - plain$r), na.rm = TRUE), 1e-14)
      expect_identical(other$n, plain$n)
    }
    expect_identical(plain$r[6 + 6 * 37], 1)
    expect_true(all(abs(plain$r) <= 1, na.rm = TRUE))
  }
})

test_that("Holm and Benjamini-Hochberg as in their papers' steps", {
  p <- c(.01, .04, .03, .005, NA)
  adjusted <- function(how) 10^unsere:::adjust_log10_p(log10(p), how)
  expect_equal(adjusted("holm"), c(.03, .06, .06, .02, NA))
  expect_equal(adjusted("benjamini-hochberg"), c(.02, .04, .04, .02, NA))
  expect_equal(adjusted("none"), p)
})

test_that("listwise uses the cases that have every value; notes say how n varies and what is left out", {
  found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, centre, missing = "listwise")
  whole <- sum(stats::complete.cases(learners$data[c("practice_hours", "speaking_score", "confidence")]))
  expect_true(all(found$pairs$n == whole))
  expect_identical(found$left_out$nominal, "centre")
  expect_match(format(found), "Excluded, unordered categories: centre", all = FALSE)
  flat <- correlation_matrix(data.frame(a = 1:5, b = c(2, 1, 4, 3, 6), same = 2, few = c(1, NA, NA, NA, 2)))
  expect_match(format(flat), "do not vary: same", all = FALSE)
  expect_match(format(flat), "too few complete cases", all = FALSE)
  expect_equal(sum(is.na(flat$pairs$r)), 5)
  expect_match(format(flat), "\u2013", all = FALSE)
})

test_that("strong pairs are listed strongest first, and the paragraph sums up", {
  found <- correlation_matrix(learners)
  strong <- above(found)
  expect_identical(strong$x[1:2], c("practice_hours", "speaking_score"))
  expect_false(is.unsorted(-abs(strong$r)))
  expect_true(all(abs(strong$r) >= .5) && nrow(strong) == sum(found$pairs$highlighted))
  words <- in_words(found)
  expect_match(
    words,
    "^Of 105 correlations, \\d+ were significant at p < .05 \\(Holm-adjusted\\). The strongest: weekly practice"
  )
  expect_lte(max(nchar(format(found), "width")), 80)
  set.seed(1)
  many <- correlation_matrix(as.data.frame(matrix(rnorm(30 * 50), 50)))
  expect_lte(max(nchar(format(many), "width")), 80)
})

test_that("the figure holds every pair once, names uncut, and changes with the number of variables", {
  found <- correlation_matrix(learners, practice_hours, speaking_score, confidence, m1, m4)
  figure <- draw_matrix(found)
  expect_equal(nrow(figure$data), 10)
  expect_equal(sum(figure$data$highlighted), 2)
  wide <- correlation_matrix(as.data.frame(matrix(sin(1:4500), 100)))
  expect_equal(nrow(draw_matrix(wide)$data), 40)
  expect_setequal(unsere:::likeness_order(found), found$variables$variable)
  expect_figure("matrix", figure)
})

test_that("the command gives it in each form, and wrong use is answered", {
  file <- demo_file("learners.csv")
  json <- jsonlite::fromJSON(unsere("matrix", file, "practice_hours", "speaking_score", "m1", "--format", "json")$out)
  found <- correlation_matrix(learners, practice_hours, speaking_score, m1)
  expect_identical(json$pairs$r, found$pairs$r)
  expect_identical(c(json$kind, json$multiplicity), c("matrix", "holm"))
  expect_equal(nrow(utils::read.csv(text = unsere("matrix", file, "--format", "csv")$out)), 105)
  expect_equal(unsere("matrix", file, "practice_hours")$status, 2)
  expect_equal(unsere("matrix", file, "practice_hour", "m1")$status, 3)
  expect_error(correlation_matrix(learners, multiplicity = "tukey"), "holm", class = "unsere_error_usage")
  expect_error(correlation_matrix(learners, highlight = 5), class = "unsere_error_usage")
  expect_error(above(learners), class = "unsere_error_usage")
  expect_error(correlation_matrix(data.frame(a = c(1, NA, 3), b = c(NA, 2, 1)), missing = "listwise"),
    class = "unsere_error_undefined"
  )
})

test_that("cautions of a listwise matrix are of its own cases, and how many pairs were looked at is said", {
  set.seed(53)
  data <- data.frame(x = c(rnorm(40), 30), y = c(rnorm(40), 30), z = c(rnorm(40), NA))
  expect_true("one_case" %in% cautions(correlation_matrix(data))$code)
  expect_false("one_case" %in% cautions(correlation_matrix(data, missing = "listwise"))$code)
  common <- rnorm(60)
  many <- as.data.frame(replicate(12, common + rnorm(60, sd = .5)))
  found <- correlation_matrix(many)
  expect_identical(found$checked$clear, 66L)
  expect_lt(found$checked$checked, 66)
  expect_match(paste(format(found), collapse = " "), "for +the +40 +largest +of +66 +pairs")
})

test_that("a code among the numbers and a column with text reach the matrix, its figure and the page", {
  set.seed(54)
  words <- c(round(rnorm(27), 2), "viel", "viel", "etwas")
  file <- csv_file("a,b,c", sprintf("%.2f,%.2f,%s", c(rnorm(29), 99), rnorm(30), words))
  found <- correlation_matrix(read_study(file))
  expect_identical(found$left_out$spoilt, "c")
  expect_setequal(
    intersect(found$cautions$code, c("codes_not_numbers", "text_among_numbers")),
    c("codes_not_numbers", "text_among_numbers")
  )
  expect_match(paste(format(found), collapse = " "), "C is excluded: text in 3 of its 30 cells")
  expect_match(gsub("\\s+", " ", draw_matrix(found)$labels$caption), "contains 99")
  brief <- file.path(dirname(file), "own.yml")
  writeLines(c("data: {file: own.csv}", "matrix: {variables: [a, b]}"), brief)
  page <- readLines(file.path(run_brief(brief, quiet = TRUE), "report.html"), warn = FALSE)
  expect_match(page, "contains 99, far outside", all = FALSE)
  # A mark in one cell in twenty, or in one alone, is a missing value, and that is told.
  marked <- read_study(csv_file("a,b", sprintf("%.2f,%s", rnorm(30), c(round(rnorm(29), 2), "INC"))))
  expect_identical(correlation_matrix(marked, a, b)$pairs$n, 29L)
  expect_match(format(marked$provenance$decisions), "b: 1 cell of text among its numbers taken as missing", all = FALSE)
  expect_error(correlation_matrix(read_study(file), a, b, c), "text in 3 of its 30 cells", class = "unsere_error_input")
})

test_that("a matrix from moments warns of many tests and keeps labels", {
  file <- demo_file("learners.csv")
  moments <- gather_moments(file, "age_years", "practice_hours", "attendance_pct", "commute_min", "listening_score",
    "speaking_score",
    missing_codes = -9
  )
  found <- correlation_matrix(moments, multiplicity = "none")
  expect_identical(found$cautions$code, "many_tests")
  expect_identical(found$variables$label[2], "Weekly practice")
})

test_that("progress is told over several rounds of pairs, each to its end", {
  tick <- unsere:::progress_teller("pairs")
  environment(tick)$started <- Sys.time() - 5
  expect_no_error(suppressMessages(for (share in c(.5, 1, .2, 1, 1)) tick(share)))
})

test_that("the next step of what is said of one variable of a matrix runs as printed; text among numbers breaks nothing", {
  file <- withr::local_tempfile(fileext = ".csv")
  set.seed(5)
  data <- data.frame(
    "satisfied (1 = not at all, 7 = completely)" = sample(c(1:7, 9), 90, TRUE), hours = sample(30:60, 90, TRUE),
    income = round(exp(rnorm(90, 7))), sleep = sample(c(5:9, "about 8", "6-7"), 90, TRUE), check.names = FALSE
  )
  utils::write.csv(data, file, row.names = FALSE)
  told <- gsub("\\s+", " ", paste(unsere("matrix", file)$out, collapse = " "))
  expect_match(told, sprintf("Try: unsere matrix %s --missing-codes 9", file), fixed = TRUE)
  expect_identical(unsere("matrix", file, "--missing-codes", "9")$status, 0L)
  expect_match(format(correlation_matrix(read_study(file))), "set_variable(study,", fixed = TRUE, all = FALSE)
  expect_no_warning(relate(read_study(file), hours, income))
})
