set.seed(6)
n <- 120
data <- data.frame(
  x = rnorm(n), one = 1, whole = sample(1:3, n, TRUE), class = rep(1:12, each = 10),
  zone = rep(c("a", "b"), each = 60)
)
data$y <- 0.5 * data$x + rep(rnorm(12), each = 10) + rnorm(n)

test_that("weights of one change no digit, whole ones are repeated rows, each unit left out longhand gives the interval", {
  plain <- relate(data, x, y)
  expect_equal(relate(set_design(data, weight = one), x, y)$r, plain$r, tolerance = 1e-15)
  rows <- data[rep(seq_len(n), data$whole), ]
  expect_equal(relate(set_design(data, weight = whole), x, y)$r, relate(rows, x, y)$r, tolerance = 1e-14)
  found <- relate(set_design(data, cluster = class, stratum = zone), x, y)
  without <- vapply(1:12, function(k) {
    weight <- ifelse(data$class == k, 0, ifelse(data$zone == data$zone[data$class == k][1], 6 / 5, 1))
    centre <- function(v) v - sum(weight * v) / sum(weight)
    a <- centre(data$x)
    b <- centre(data$y)
    sum(weight * a * b) / sqrt(sum(weight * a^2) * sum(weight * b^2))
  }, 0)
  variance <- sum(5 / 6 * (atanh(without) - atanh(found$r))^2)
  expect_equal(found$df, 10)
  expect_equal(c(found$units, found$strata), c(12, 2))
  expect_equal(atanh(found$ci_high), atanh(found$r) + qt(.975, 10) * sqrt(variance), tolerance = 1e-10)
  expect_equal(found$design_effect, variance * (n - 3), tolerance = 1e-10)
  expect_false("clustered_cases" %in% cautions(found)$code)
})

test_that("replicate weights that leave out a unit each give the digits of the units left out", {
  weights <- vapply(1:12, function(k) ifelse(data$class == k, 0, 12 / 11), numeric(n))
  colnames(weights) <- paste0("rw", 1:12)
  by_unit <- relate(set_design(data, cluster = class), x, y)
  by_weight <- relate(set_design(cbind(data, weights), weight = one, replicates = "rw*", method = "jackknife-1"), x, y)
  fields <- c("r", "ci_low", "ci_high", "df", "p", "design_effect")
  expect_equal(unclass(by_unit)[fields], unclass(by_weight)[fields], tolerance = 1e-12)
  half <- relate(set_design(cbind(data, weights),
    weight = one, replicates = starts_with("rw"), method = "fay",
    factor = .5
  ), x, y)
  brr <- relate(set_design(cbind(data, weights), weight = one, replicates = starts_with("rw"), method = "brr"), x, y)
  expect_equal(half$design_effect, 4 * brr$design_effect)
})

test_that("with classes the interval holds the truth as often as it says, where the usual one does not", {
  set.seed(31)
  held <- replicate(300, {
    class <- rep(1:15, each = 20)
    u <- rnorm(15, 0, sqrt(.3))
    v <- .4 * u + sqrt(1 - .16) * rnorm(15, 0, sqrt(.3))
    e <- rnorm(300, 0, sqrt(.7))
    f <- .4 * e + sqrt(1 - .16) * rnorm(300, 0, sqrt(.7))
    found <- unsere:::measure_design(
      u[class] + e, v[class] + f,
      list(weight = rep(1, 300), unit = class, stratum = rep(1L, 300)), FALSE
    )
    ends <- unsere:::interval_by_design(found, .95)
    usual <- tanh(atanh(found$r) + c(-1, 1) * 1.96 / sqrt(297))
    c(ends[1] <= .4 && .4 <= ends[2], usual[1] <= .4 && .4 <= usual[2])
  })
  expect_gte(mean(held[1, ]), .91)
  expect_lt(mean(held[2, ]), .88)
})

test_that("a matrix honours the design, a line says that it does not, every door declares it", {
  study <- set_design(data, cluster = class)
  pairs <- correlation_matrix(study, x, y)$pairs
  found <- relate(study, x, y)
  expect_equal(c(pairs$r, pairs$ci_low, pairs$p), c(found$r, found$ci_low, found$p))
  expect_match(format(correlation_matrix(study, x, y)), "By the design", all = FALSE)
  expect_true("design_ignored" %in% cautions(fit_line(study, x, y))$code)
  file <- tempfile(fileext = ".csv")
  utils::write.csv(data, file, row.names = FALSE)
  out <- capture.output(run_command(c("relate", file, "x", "y", "--cluster", "class", "--format", "json")))
  told <- jsonlite::fromJSON(paste(out, collapse = "\n"))
  expect_equal(c(told$ci_low, told$units), c(found$ci_low, 12))
  brief <- tempfile(fileext = ".yml")
  writeLines(c(sprintf("data: {file: \"%s\"}", file), "design: {cluster: class}", "pairs: [{x: x, y: y}]"), brief)
  results <- jsonlite::fromJSON(file.path(run_brief(brief, out = tempfile("design"), quiet = TRUE), "results.json"),
    simplifyVector = FALSE
  )
  expect_equal(results$pairs[[1]]$relation$ci_low, found$ci_low)
  by_role <- as_study(data, codebook = data.frame(variable = "class", role = "cluster"))
  expect_equal(relate(by_role, x, y)$ci_low, found$ci_low)
})

test_that("bad designs get one clear line", {
  refused <- function(why, ..., change = identity) {
    expect_error(set_design(change(data), ...), why, class = "unsere_error_input")
  }
  refused("is -1 in row 2", weight = one, change = function(d) transform(d, one = replace(one, 2, -1)))
  refused("is missing in row 3", weight = one, change = function(d) transform(d, one = replace(one, 3, NA)))
  refused("lies in two strata",
    cluster = class, stratum = zone,
    change = function(d) transform(d, zone = replace(zone, 1, "b"))
  )
  refused("one unit in all", cluster = one)
  refused("a single unit",
    cluster = class, stratum = zone,
    change = function(d) transform(d, zone = ifelse(class == 1, "lone", zone))
  )
  refused("No variable is called like", replicates = "none*")
  expect_error(relate(set_design(data, cluster = class), x, y, test = "permutation"), "cannot honour",
    class = "unsere_error_usage"
  )
})

test_that("plausible values are combined by Rubin's rules, longhand; a brief says the same", {
  set.seed(14)
  base <- rnorm(80)
  data <- data.frame(x = base + rnorm(80), pv1 = base + rnorm(80), pv2 = base + rnorm(80), pv3 = base + rnorm(80))
  study <- set_plausible(data, "score", starts_with("pv"))
  found <- relate(study, x, score)
  z <- atanh(vapply(c("pv1", "pv2", "pv3"), function(name) relate(data, "x", name)$r, 0))
  within <- 1 / 77
  between <- var(z)
  total <- within + 4 / 3 * between
  share <- 4 / 3 * between / total
  seen <- 79 / 81 * 78 * (1 - share)
  df <- 1 / (share^2 / 2 + 1 / seen)
  expect_equal(found$r, tanh(mean(z)))
  expect_equal(found$share_between, share)
  expect_equal(found$df, df)
  expect_equal(found$ci_high, tanh(mean(z) + qt(.975, df) * sqrt(total)))
  expect_equal(found$p, 2 * pt(-abs(mean(z) / sqrt(total)), df))
  expect_identical(correlation_matrix(set_variable(study, pv1, role = "measure"))$variables$variable, c("x", "pv1"))
  same <- relate(set_plausible(transform(data, pv2 = pv1), "score", c(pv1, pv2)), x, score)
  expect_equal(same$r, relate(data, x, pv1)$r)
  expect_equal(same$share_between, 0)
  file <- tempfile(fileext = ".csv")
  data.table::fwrite(data, file)
  brief <- tempfile(fileext = ".yml")
  writeLines(c(
    sprintf("data: {file: \"%s\"}", file), "plausible: {score: [pv1, pv2, pv3]}", "pairs: [{x: x, y: score}]"
  ), brief)
  results <- jsonlite::fromJSON(
    file.path(run_brief(brief, out = tempfile("plausible"), quiet = TRUE), "results.json"),
    simplifyVector = FALSE
  )
  expect_equal(results$pairs[[1]]$relation$r, found$r)
  expect_match(format(found), "3 values combined", all = FALSE)
  expect_error(set_plausible(data, "x", c(pv1, pv2)), "already", class = "unsere_error_input")
  expect_error(set_plausible(data, "score", pv1), "two or more", class = "unsere_error_usage")
  expect_error(relate(study, x, score, test = "exact"), "usual test", class = "unsere_error_usage")
})
