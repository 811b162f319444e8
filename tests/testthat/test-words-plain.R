learners <- demo_study("learners")
years <- demo_study("town_years")

all_results <- function() {
  line <- fit_line(learners, practice_hours, speaking_score)
  list(
    relation = relate(learners, practice_hours, speaking_score),
    matrix = correlation_matrix(learners, practice_hours, speaking_score, confidence, study_partner),
    matrices = correlation_matrix(learners, commute_min, listening_score, by = centre),
    pair_list = list_pairs(correlation_matrix(learners, practice_hours, speaking_score, study_partner)),
    line = line,
    lines = compare_lines(line, fit_line(learners, practice_hours, speaking_score, shape = "log")),
    residuals = check_residuals(line),
    predictors = rank_predictors(learners, speaking_score, practice_hours, age_years),
    flags = flag_spurious(years, warm_days, pool_visits),
    flag_table = flag_spurious(years, warm_days)
  )
}
results <- all_results()

test_that("every result is printed within 80 columns, with nothing unset in it", {
  for (name in names(results)) {
    lines <- format(results[[name]])
    expect_type(lines, "character")
    expect_lte(max(nchar(lines, "width")), 80, label = sprintf("the widest line of %s", name))
    expect_false(any(grepl("NA\\b|NULL|character\\(0\\)", lines)), label = sprintf("an unset value in %s", name))
  }
})

test_that("every result turns into JSON that reads back, with its kind", {
  kinds <- c(
    relation = "relation", matrix = "matrix", matrices = "matrices", pair_list = "pairs", line = "line",
    lines = "lines",
    residuals = "residuals", predictors = "predictors", flags = "flags", flag_table = "flag_pairs"
  )
  for (name in names(results)) {
    json <- jsonlite::fromJSON(unsere:::as_json(results[[name]]))
    expect_identical(json$kind, kinds[[name]], label = name)
    expect_identical(json$version, as.character(packageVersion("unsere")))
  }
})

test_that("every result turns into a Markdown table with as many cells in each row", {
  for (name in names(results)) {
    rows <- grep("^\\|", unsere:::as_markdown(results[[name]]), value = TRUE)
    expect_gt(length(rows), 2, label = name)
  }
  cells <- lengths(strsplit(grep("^\\|", unsere:::as_markdown(results$matrix), value = TRUE), " | ", fixed = TRUE))
  expect_length(unique(cells), 1)
})

test_that("every result turns into CSV whose numbers read back exactly", {
  for (name in setdiff(names(results), c("relation", "matrix"))) {
    data <- unsere:::csv_fields(results[[name]])
    back <- utils::read.csv(text = unsere:::as_csv(data), check.names = FALSE)
    expect_identical(names(back), names(data), label = name)
    numbers <- names(data)[vapply(data, is.double, NA)]
    for (column in numbers) expect_identical(as.numeric(back[[column]]), as.numeric(data[[column]]),
      label = paste(name, column)
    )
  }
})

test_that("no sentence accepts the null, calls it cause, or gives r a leading zero", {
  sentences <- c(vapply(results[setdiff(names(results), "pair_list")], in_words, ""), results$pair_list$sentence)
  expect_false(any(grepl("\\b(proves?|accepted|null hypothesis|causes?d? by|because of)\\b", sentences)))
  expect_false(any(grepl("\\br(s|pb)? ?(\\([0-9]+\\))? = .?0\\.", sentences)))
})

test_that("the sentence of a line says the unit of both sides, and of a flat one that none was found", {
  dial <- fit_line(demo_study("dial"), dial, level_db)
  expect_match(in_words(dial), "2.84 dB higher for each additional step of dial setting")
  set.seed(2)
  flat <- data.frame(x = 1:30 + 0, y = rnorm(30))
  expect_match(in_words(fit_line(flat, x, y, shape = "log")), "^The slope of y on the logarithm of x was not significant")
  expect_match(in_words(fit_line(flat, x, y, shape = "quadratic")), "^The quadratic term of y on x was not significant")
})

test_that("predictions and readings print apart what the mean and a single case do", {
  fit <- fit_line(learners, practice_hours, speaking_score)
  shown <- paste(capture.output(print(predict_y(fit, c(5, 40)))), collapse = "\n")
  expect_match(shown, "mean +new case")
  expect_match(shown, "outside")
  expect_match(shown, "the line is untested")
  readings <- paste(capture.output(print(estimate_x(fit_line(demo_study("dial"), dial, level_db), c(50, 90)))),
    collapse = "\n"
  )
  expect_match(readings, "outside the data")
  expect_match(readings, "95% limits")
})

test_that("a ranking that is not clear says so, and names who is not left behind", {
  set.seed(5)
  base <- rnorm(60)
  data <- data.frame(y = base + rnorm(60), a = base + rnorm(60), b = base + rnorm(60), c = rnorm(60))
  told <- in_words(rank_predictors(data, y, a, b, c))
  expect_match(told, "not significantly ahead of any other|significantly ahead of some, but not of")
  expect_match(told, "Williams' t, p adjusted \\(Holm\\), n = 60")
})

test_that("verdicts have words for every outcome", {
  set.seed(9)
  short <- data.frame(year = 2001:2006, x = rnorm(6), y = rnorm(6))
  expect_match(in_words(flag_spurious(short, x, y, time = year)), "share 6 years, too few")
  noise <- data.frame(year = 2001:2030, x = rnorm(30), y = rnorm(30))
  found <- flag_spurious(noise, x, y, time = year)
  expect_true(found$verdict %in% names(unsere:::verdict_words))
  # That of several units is asked of several units.
  for (verdict in setdiff(names(unsere:::verdict_words), "between units")) {
    found$verdict <- verdict
    expect_match(in_words(found), "^(x and y|[A-Z]).*\\.$", label = verdict)
    expect_gt(nchar(draw_over_time(found)$labels$title), 10, label = verdict)
  }
})
