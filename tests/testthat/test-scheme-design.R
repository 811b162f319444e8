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

test_that("replicate weights have the degrees of freedom of the units that they were made from", {
  set.seed(9)
  school <- rep(1:8, each = 15)
  stratum <- rep(1:4, each = 30)
  w <- round(runif(120, 10, 40), 2)
  data <- data.frame(x = rnorm(120), y = rnorm(120), w, school, stratum)
  per_stratum <- matrix(1:8, 2)
  # Rescaled bootstrap: one of the two schools of each stratum, twice its weight.
  bootstrap <- replicate(200, {
    drawn <- apply(per_stratum, 2, sample, 1)
    ifelse(school %in% drawn, 2 * w, 0)
  })
  hadamard <- Reduce(kronecker, rep(list(matrix(c(1, 1, 1, -1), 2)), 3))[, 2:5]
  side <- ifelse(school %% 2 == 1, 1, -1)
  fay <- vapply(1:8, function(k) w * (1 + .5 * side * hadamard[k, stratum]), numeric(120))
  calibrated <- vapply(1:200, function(k) bootstrap[, k] * exp(rnorm(120, 0, .1)), numeric(120))
  df_of <- function(replicates, ..., rounded = 8) {
    colnames(replicates) <- paste0("rw", seq_len(ncol(replicates)))
    study <- set_design(cbind(data, round(replicates, rounded)), weight = w, replicates = "rw*", ...)
    relate(study, x, y)
  }
  expect_equal(df_of(bootstrap, method = "bootstrap")$df, 4)
  expect_equal(df_of(bootstrap, method = "bootstrap", rounded = 1)$df, 4)
  expect_equal(df_of(fay, method = "fay", factor = .5)$df, 4)
  expect_equal(df_of(bootstrap, method = "bootstrap", cluster = school, stratum = stratum)$df, 4)
  expect_equal(df_of(bootstrap, method = "bootstrap", df = 3)$df, 3)
  expect_false("replicates_of_full_rank" %in% cautions(df_of(bootstrap, method = "bootstrap"))$code)
  full <- df_of(calibrated[, 1:60], method = "bootstrap")
  expect_equal(full$df, 59)
  expect_true("replicates_of_full_rank" %in% cautions(full)$code)
  told <- df_of(calibrated[, 1:60], method = "bootstrap", df = 4)
  expect_false("replicates_of_full_rank" %in% cautions(told)$code)
  expect_gt(told$ci_high, full$ci_high)
  expect_error(set_design(data, cluster = school, df = 0), class = "unsere_error_usage")
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
    ends <- unlist(unsere:::interval_from_z(found$r, found$unexplained, found$variance, .95, found$df))
    usual <- tanh(atanh(found$r) + c(-1, 1) * 1.96 / sqrt(297))
    c(ends[1] <= .4 && .4 <= ends[2], usual[1] <= .4 && .4 <= usual[2])
  })
  expect_gte(mean(held[1, ]), .91)
  expect_lt(mean(held[2, ]), .88)
})

test_that("a matrix honours the design, every door declares it", {
  study <- set_design(data, cluster = class)
  pairs <- correlation_matrix(study, x, y)$pairs
  found <- relate(study, x, y)
  expect_equal(c(pairs$r, pairs$ci_low, pairs$p), c(found$r, found$ci_low, found$p))
  expect_match(format(correlation_matrix(study, x, y)), "Sampling design", all = FALSE)
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

# A figure of weighted cases and its spread, each unit left out longhand.
by_units <- function(data, figure, weight = rep(1, nrow(data))) {
  units <- unique(data$class)
  m <- length(units)
  whole <- figure(data, weight)
  each <- vapply(units, function(k) figure(data, ifelse(data$class == k, 0, weight * m / (m - 1))), 0)
  c(whole, sqrt((m - 1) / m * sum((each - whole)^2)))
}

test_that("lines, held variables, differences and means honour the design, each unit left out longhand", {
  data$z <- rnorm(n) + data$y / 3
  study <- set_design(data, cluster = class, weight = whole)
  solved <- function(d, w, terms) {
    root <- sqrt(w)
    unname(qr.coef(qr(terms * root), d$y * root))
  }
  for (shape in c("linear", "quadratic", "log")) {
    positive <- transform(data, x = x + 5)
    line <- fit_line(set_design(positive, cluster = class, weight = whole), x, y, shape = shape, at = 4)
    terms <- function(x) {
      switch(shape,
        linear = cbind(1, x),
        log = cbind(1, log(x)),
        quadratic = cbind(1, x, x^2)
      )
    }
    slope <- by_units(positive, function(d, w) solved(d, w, terms(d$x))[2], data$whole)
    expect_equal(unlist(line$terms[2, c("estimate", "se")], use.names = FALSE), slope, tolerance = 1e-7)
    expect_equal(line$terms$df[2], 11)
    at <- by_units(positive, function(d, w) sum(solved(d, w, terms(d$x)) * terms(4)), data$whole)
    expect_equal(line$predictions$fit, at[1])
    expect_equal(line$predictions$mean_high - line$predictions$fit, qt(.975, 11) * at[2], tolerance = 1e-7)
  }
  freed <- function(v, d, w) v - as.vector(cbind(1, d$z) %*% qr.coef(qr(cbind(1, d$z) * sqrt(w)), v * sqrt(w)))
  weighted_r <- function(a, b, w) {
    a <- a - sum(w * a) / sum(w)
    b <- b - sum(w * b) / sum(w)
    sum(w * a * b) / sqrt(sum(w * a^2) * sum(w * b^2))
  }
  for (part in list(NULL, "x")) {
    held <- relate(study, x, y, given = z, part = !!part)
    z_of <- by_units(data, function(d, w) {
      atanh(weighted_r(freed(d$x, d, w), if (is.null(part)) freed(d$y, d, w) else d$y, w))
    }, data$whole)
    expect_equal(c(atanh(held$r), held$value), c(z_of[1], z_of[1] / z_of[2]), tolerance = 1e-8)
  }
  ranked <- rank_predictors(study, y, x, z)
  gap <- by_units(data, function(d, w) weighted_r(d$z, d$y, w) - weighted_r(d$x, d$y, w), data$whole)
  expect_equal(unlist(ranked$comparisons[c("difference", "value")], use.names = FALSE), c(gap[1], gap[1] / gap[2]))
  expect_match(in_words(ranked), "by the design t(11)", fixed = TRUE)
  compared <- compare_relations(relate(study, z, y), relate(study, x, y))
  expect_equal(c(compared$difference, compared$value), c(gap[1], gap[1] / gap[2]))
  apart <- compare_relations(relate(study[data$zone == "a", ], x, y), relate(study[data$zone == "b", ], x, y))
  expect_equal(apart$statistic, "t by units")
  overview <- overview(study)
  mean_y <- by_units(data, function(d, w) sum(w * d$y) / sum(w), data$whole)
  expect_equal(overview$variables$mean[overview$variables$variable == "y"], mean_y[1])
})

test_that("the semipartial r takes what is held out of one side; its test is that of the partial r", {
  data$z <- rnorm(n) + data$y / 3
  found <- relate(data, x, y, given = z, part = y)
  left <- data$y - as.vector(cbind(1, data$z) %*% qr.coef(qr(cbind(1, data$z)), data$y))
  r <- function(a, b) relate(data.frame(a, b), a, b)$r
  expect_equal(found$r, r(left, data$x))
  expect_equal(found$value, relate(data, x, y, given = z)$value)
  each <- vapply(seq_len(n), function(i) {
    d <- data[-i, ]
    r(d$y - as.vector(cbind(1, d$z) %*% qr.coef(qr(cbind(1, d$z)), d$y)), d$x)
  }, 0)
  spread <- sqrt((n - 1) / n * sum((atanh(each) - mean(atanh(each)))^2))
  moves <- (atanh(each) - mean(atanh(each)))^2
  df <- min(found$df, 2 * (n - 1) / (mean(moves^2) / mean(moves)^2 - 1))
  expect_equal(atanh(found$ci_high), atanh(found$r) + qt(.975, df) * spread)
  expect_match(in_words(found), "with z removed from y only")
  expect_error(relate(data, x, y, part = "x"), "no control variable", class = "unsere_error_usage")
  expect_error(relate(data, x, y, given = z, part = "zone"), "not one of the two", class = "unsere_error_usage")
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
  refused("only one unit", cluster = one)
  refused("a single unit",
    cluster = class, stratum = zone,
    change = function(d) transform(d, zone = ifelse(class == 1, "lone", zone))
  )
  refused("has no variable like", replicates = "none*")
  expect_error(relate(set_design(data, cluster = class), x, y, test = "permutation"), "with a sampling design",
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
  expect_error(relate(study, x, score, test = "exact"), "with plausible values", class = "unsere_error_usage")
})

test_that("a matrix under strata, weights and missing values has the figures of each pair alone", {
  set.seed(21)
  n <- 240
  data <- data.frame(
    district = rep(1:4, each = 60), class = rep(1:24, each = 10), w = runif(n, .2, 3), a = rnorm(n), b = rnorm(n)
  )
  data$c <- 1e8 + data$a + rnorm(n)
  data$d <- data$b * 1e-9 + rnorm(24, sd = 1e-9)[data$class]
  data$e <- as.numeric(rnorm(n) > .3)
  holed <- data
  for (name in c("a", "b", "c")) holed[[name]][sample(n, 25)] <- NA
  holed$a[holed$class == 7] <- NA # a class that counts in some pairs alone
  for (table in list(data, holed)) {
    study <- set_design(as_study(table), weight = w, stratum = district, cluster = class)
    found <- correlation_matrix(study, a, b, c, d, e, coefficient = "pearson")
    for (threads in 1:2) {
      again <- correlation_matrix(study, a, b, c, d, e, coefficient = "pearson", threads = threads)
      expect_identical(again$pairs$r, found$pairs$r)
      expect_identical(again$pairs$ci_low, found$pairs$ci_low)
    }
    for (k in seq_len(nrow(found$pairs))) {
      alone <- relate(study, found$pairs$x[k], found$pairs$y[k], coefficient = "pearson")
      expect_equal(found$pairs$r[k], alone$r, tolerance = 1e-9)
      expect_equal(found$pairs$ci_low[k], alone$ci_low, tolerance = 1e-7)
      expect_equal(found$pairs$p[k], alone$p, tolerance = 1e-6)
      expect_equal(found$pairs$n[k], alone$n)
    }
  }
})

test_that("sums of units taken in tiles are those of the definition, for units of any size and columns of any number", {
  set.seed(22)
  unit <- c(sample(c(1:6, 8), 700, TRUE), rep(9L, 600)) # none in unit 7, more than a block in unit 9
  for (k in c(1, 3, 11, 26)) {
    columns <- lapply(seq_len(k), function(j) rnorm(1300))
    found <- unsere:::core_unit_sums(columns, as.integer(unit), 9L, 2L)
    places <- which(upper.tri(diag(k), diag = TRUE), arr.ind = TRUE)
    expect_identical(dim(found), c(9L, nrow(places)))
    longhand <- vapply(seq_len(nrow(places)), function(at) {
      vapply(1:9, function(u) sum((columns[[places[at, 1]]] * columns[[places[at, 2]]])[unit == u]), 0)
    }, numeric(9))
    expect_equal(found, longhand, tolerance = 1e-12)
    expect_identical(found[7, ], numeric(nrow(places)))
  }
})

test_that("a matrix under replicate weights has the figures of each pair alone, missing values and threads or not", {
  set.seed(12)
  many <- as.data.frame(matrix(rnorm(600 * 9), 600))
  many$V2 <- many$V1 + many$V2
  many$V3 <- many$V3 * 1e-3 + 1e6
  many$yes <- as.integer(runif(600) < .3)
  for (missing in c(0, .3)) {
    for (j in 1:9) many[[j]][sample(600, 600 * missing)] <- NA
    weights <- data.frame(w = rexp(600))
    for (k in 1:12) weights[[paste0("rw", k)]] <- weights$w * rpois(600, 1)
    study <- set_design(cbind(many, weights), weight = w, replicates = starts_with("rw"), method = "bootstrap")
    ask <- function(threads) correlation_matrix(study, !!!rlang::syms(names(many)), threads = threads)$pairs
    found <- ask(2)
    expect_identical(ask(1), found)
    alone <- lapply(seq_len(nrow(found)), function(k) relate(study, !!found$x[k], !!found$y[k]))
    for (field in c("r", "n", "ci_low", "ci_high", "p")) {
      expect_equal(found[[field]], vapply(alone, `[[`, 0, field), tolerance = 1e-12)
    }
  }
})
