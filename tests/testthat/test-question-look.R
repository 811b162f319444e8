learners <- demo_study("learners")

test_that("a row a variable with the contract's fields, agreeing with longhand figures", {
  found <- as.data.frame(overview(learners))
  expect_identical(names(found), c(
    "variable", "label", "short", "unit", "level", "role", "n", "missing", "distinct", "mean",
    "sd", "min",
    "q1", "median", "q3", "max", "skewness", "outliers"
  ))
  row <- found[found$variable == "commute_min", ]
  v <- learners$data$commute_min[!is.na(learners$data$commute_min)]
  expect_equal(
    unlist(row[c("n", "missing", "mean", "sd", "min", "median", "max")], use.names = FALSE),
    c(237, 3, mean(v), sd(v), min(v), median(v), max(v))
  )
  d <- v - mean(v)
  n <- length(v)
  expect_equal(row$skewness, sqrt(n * (n - 1)) / (n - 2) * mean(d^3) / mean(d^2)^1.5)
  expect_true(is.na(found$mean[found$variable == "centre"]))
})

test_that("the printed overview says what is missing, shows scales, and fits 80 columns", {
  lines <- format(overview(learners))
  expect_match(lines, "189 of 240 cases have every value", all = FALSE)
  measures <- learners$data[codebook(learners)$role == "measure"]
  shared <- utils::combn(ncol(measures), 2, function(k) sum(stats::complete.cases(measures[k])))
  expect_equal(overview(learners)$pairs, range(shared))
  expect_match(lines, "confidence +1: 20, 2: 31, 3: 67, 4: 67, 5: 46, missing: 9", all = FALSE)
  expect_lte(max(nchar(lines, "width")), 80)
  expect_snapshot(overview(learners))
})

test_that("the typing error is found with its case and row, by the stated rule", {
  found <- find_outliers(learners, attendance_pct)
  expect_identical(found$case, "L137")
  expect_equal(found$row, 138)
  quarters <- quantile(learners$data$attendance_pct, c(.25, .75), names = FALSE)
  expect_equal(found$distance, (880 - quarters[2]) / diff(quarters))
  expect_gt(nrow(find_outliers(learners)), 5)
  expect_equal(nrow(find_outliers(data.frame(x = c(1, 2, 3, 4, 5)), x)), 0)
})

test_that("the command gives it as text, JSON and CSV", {
  json <- jsonlite::fromJSON(unsere("look", demo_file("learners.csv"), "--format", "json")$out)
  expect_identical(json$kind, "overview")
  expect_identical(json$variables$mean[3], as.data.frame(overview(learners))$mean[3])
  expect_match(json$provenance$digest, "^[0-9a-f]{64}$")
  expect_identical(nrow(utils::read.csv(text = unsere("look", demo_file("dial.csv"), "--format", "csv")$out)), 2L)
  expect_match(unsere("look", demo_file("learners.xlsx"))$out, "headings found in row 3", all = FALSE)
})

test_that("pictures of single variables: bars, marks, bands, names, and what cannot be drawn", {
  bars <- draw_distribution(learners, practice_hours, bins = 20)$data
  expect_equal(sum(bars$count), 230)
  expect_gte(nrow(bars), 15)
  expect_equal(draw_distribution(learners, confidence)$data$count, c(20, 31, 67, 67, 46))
  expect_equal(
    levels(draw_distribution(learners, practice_hours, compare_log = TRUE)$data$panel),
    c("Weekly practice (h)", "Weekly practice, natural logarithm")
  )
  points <- draw_quantiles(learners, speaking_score)$data
  expect_true(all(points$low < points$line & points$line < points$high))
  expect_match(draw_box(learners, attendance_pct)$labels$title, "1 case flagged")
  expect_error(draw_distribution(learners, practice_hours, bins = 0), class = "unsere_error_usage")
  expect_error(draw_box(data.frame(x = c(-1, 2, 3)), x, compare_log = TRUE), "no logarithm in 1 case",
    class = "unsere_error_undefined"
  )
  expect_error(draw_quantiles(data.frame(x = c(2, 2, 2, 2)), x), class = "unsere_error_undefined")
  expect_figure("distributions", draw_distribution(learners, practice_hours, confidence, study_partner))
  expect_figure("box with names", draw_box(learners, attendance_pct, practice_hours))
})

test_that("weights, plausible values and columns of periods are seen, and a score's one value is told of", {
  set.seed(2)
  n <- 120
  ability <- rnorm(n)
  data <- data.frame(
    ses = round(ability + rnorm(n), 2), w_fstuwt = round(rexp(n) + .2, 3), schools = rpois(n, 2),
    weight = 60 + round(rnorm(n), 1)
  )
  for (k in 1:4) data[[sprintf("PV%dREAD", k)]] <- round(500 + 80 * ability + rnorm(n, 0, 30))
  for (year in 2021:2023) data[[paste("Loans", year)]] <- round(rnorm(n, 100, 9))
  for (year in 2021:2023) data[[paste("Visits", year)]] <- round(rnorm(n, 100, 9))
  shown <- gsub("\\s+", " ", paste(format(overview(as_study(data))), collapse = " "))
  expect_match(shown, "w_fstuwt appears to be a case weight; set its role to weight", fixed = TRUE)
  expect_match(shown, "PV1READ, PV2READ, ..., PV4READ appear to be plausible values of one score", fixed = TRUE)
  expect_no_match(shown, "schools appears|weight appears to be a case weight; .*weight appears")
  expect_match(shown, "relate_waves(study, \"Loans *\", \"Visits *\")", fixed = TRUE)
  expect_equal(nrow(as.data.frame(relate_waves(data, "Loans *", "Visits *"))) > 0, TRUE)
  found <- cautions(relate(data, ses, PV2READ))
  expect_true("one_plausible_value" %in% found$code)
  declared <- set_plausible(data, "reading", dplyr::starts_with("PV"))
  expect_false("one_plausible_value" %in% cautions(relate(declared, ses, reading))$code)
})
