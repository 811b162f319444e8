# Completed data sets: combined by Rubin's rules, whichever way they come.

set.seed(21)
whole <- data.frame(person = sprintf("p%03d", 1:150), x = rnorm(150))
whole$y <- .5 * whole$x + rnorm(150)
steps <- findInterval(whole$x + rnorm(150), c(-1, 0, 1))
whole$step <- factor(steps, labels = c("low", "some", "much", "most"), ordered = TRUE)
gaps <- sort(sample(150, 45))
sets <- lapply(1:5, function(k) {
  whole$y[gaps] <- .5 * whole$x[gaps] + rnorm(45)
  whole
})
original <- replace(whole, "y", replace(whole$y, gaps, NA))
long <- do.call(rbind, Map(function(set, k) cbind(set, imp = k), c(list(original), sets), 0:5))
study <- set_imputed(set_variable(as_study(long), "person", role = "case"), imp)

test_that("r, its interval and the missing information are Rubin's, with Barnard and Rubin's df", {
  found <- relate(study, x, y)
  r <- vapply(sets, function(set) relate(set, x, y)$r, 0)
  z <- atanh(r)
  within <- 1 / 147
  between <- var(z)
  total <- within + 1.2 * between
  share <- 1.2 * between / total
  free <- 148
  old <- 4 / share^2
  observed <- (free + 1) / (free + 3) * free * (1 - share)
  df <- 1 / (1 / old + 1 / observed)
  expect_equal(found$r, tanh(mean(z)), tolerance = 1e-12)
  expect_equal(found$df, df, tolerance = 1e-10)
  expect_equal(c(found$ci_low, found$ci_high), tanh(mean(z) + c(-1, 1) * qt(.975, df) * sqrt(total)), tolerance = 1e-10)
  increase <- 1.2 * between / within
  expect_equal(found$missing_information, (increase + 2 / (df + 3)) / (1 + increase), tolerance = 1e-10)
  expect_identical(found$imputed, 5L)
  expect_match(in_words(found), "(imputed data)", fixed = TRUE)
  expect_match(paste(format(found), collapse = " "), "5 completed data sets combined; fraction of missing information")
})

test_that("a list, a folder and a long table in any order are one study", {
  figures <- function(study) unlist(relate(study, x, y)[c("r", "ci_low", "p", "n")])
  expect_equal(figures(set_imputed(sets)), figures(study), tolerance = 1e-14)
  folder <- withr::local_tempdir()
  for (k in 1:5) utils::write.csv(sets[[k]], file.path(folder, sprintf("set_%d.csv", k)), row.names = FALSE)
  expect_equal(figures(set_imputed(folder)), figures(study), tolerance = 1e-12)
  shuffled <- set_variable(as_study(long[sample(nrow(long)), ]), "person", role = "case")
  expect_equal(figures(set_imputed(shuffled, imp)), figures(study), tolerance = 1e-14)
  expect_match(paste(capture.output(print(overview(study))), collapse = " "), "5 completed data sets")
})

test_that("every question that combines values combines these: controls, matrix, line, rank, groups", {
  held <- relate(study, x, step, given = y)
  each <- vapply(sets, function(set) relate(set, x, step, given = y)$r, 0)
  expect_equal(held$r, tanh(mean(atanh(each))), tolerance = 1e-12)
  expect_identical(held$given, "y")
  pair <- relate(study, x, y)
  matrix <- correlation_matrix(study)$pairs
  row <- matrix[matrix$x == "x" & matrix$y == "y", ]
  expect_equal(c(row$r, row$ci_low, row$p), c(pair$r, pair$ci_low, pair$p), tolerance = 1e-12)
  expect_equal(rank_predictors(study, y, x, step)$predictors$r[1], pair$r, tolerance = 1e-12)
  slopes <- vapply(sets, function(set) fit_line(set, x, y)$terms$estimate[2], 0)
  expect_equal(fit_line(study, x, y)$terms$estimate[2], mean(slopes), tolerance = 1e-12)
})

test_that("the command and a brief take them, and what does not fit is refused", {
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(long, file, row.names = FALSE, na = "")
  by_command <- jsonlite::fromJSON(json_of(c("relate", file, "x", "y", "--imputed", "imp")))
  expect_identical(by_command$imputed, 5L)
  folder <- withr::local_tempdir()
  brief <- file.path(folder, "brief.yml")
  writeLines(c(
    sprintf("data: {file: %s}", file), "imputed: imp", "pairs: [{x: x, \"y\": \"y\"}]", "report: {formats: [html]}"
  ), brief)
  out <- file.path(folder, "results")
  run_brief(brief, out = out, quiet = TRUE)
  told <- jsonlite::fromJSON(file.path(out, "results.json"), simplifyVector = FALSE)$pairs[[1]]$relation
  expect_equal(told$r, by_command$r, tolerance = 1e-14)
  expect_identical(nrow(verify_results(out)$different), 0L)
  expect_error(set_imputed(list(sets[[1]], sets[[2]][-1, ])), class = "unsere_error_input")
  expect_error(set_imputed(as_study(sets[[1]]), x), class = "unsere_error_input")
  expect_error(set_imputed(as_study(whole)), class = "unsere_error_usage")
})

test_that("sets of which some go the jackknife's route have an interval", {
  set.seed(4)
  skewed <- data.frame(x = rexp(40)^2)
  skewed$y <- .4 * skewed$x + rexp(40)^2
  gone <- sample(40, 18)
  for (seed in 1:10) {
    set.seed(seed)
    found <- relate(set_imputed(lapply(1:5, function(k) {
      skewed$y[gone] <- sample(skewed$y[-gone], 18, replace = TRUE)
      skewed
    })), x, y)
    expect_false(anyNA(c(found$ci_low, found$ci_high, found$p)))
    expect_gte(found$df, 1)
  }
})
