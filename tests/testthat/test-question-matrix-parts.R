learners <- demo_study("learners")

test_that("a rectangle holds only pairs of its rows with its columns, the row as x, with the figures of the square", {
  found <- correlation_matrix(learners, rows = c(speaking_score, listening_score), columns = c(
    practice_hours,
    confidence
  ))
  expect_identical(paste(found$pairs$x, found$pairs$y), c(
    "speaking_score practice_hours", "speaking_score confidence",
    "listening_score practice_hours", "listening_score confidence"
  ))
  alone <- relate(learners, practice_hours, speaking_score)
  expect_equal(found$pairs$r[1], alone$r, tolerance = 1e-14)
  expect_match(format(found), "4 pairs: 2 rows by 2 columns", all = FALSE)
  expect_equal(nrow(draw_matrix(found)$data), 4)
  expect_error(correlation_matrix(learners, rows = age_years), "columns.* is missing", class = "unsere_error_usage")
  expect_error(correlation_matrix(learners, m1, rows = age_years, columns = m2), class = "unsere_error_usage")
})

test_that("by a group: the pooled matrix and one a group, each as it would be alone; what turns round is named", {
  found <- correlation_matrix(learners, commute_min, listening_score, practice_hours, by = centre)
  kept <- learners$data[learners$data$centre %in% "Mill", ]
  alone <- correlation_matrix(as_study(kept, codebook(learners)), commute_min, listening_score, practice_hours)
  expect_equal(found$groups$Mill$pairs$r, alone$pairs$r, tolerance = 1e-14)
  expect_identical(names(as.data.frame(found))[1], "centre")
  expect_equal(nrow(as.data.frame(found)), 3 * 6)
  expect_match(in_words(found), "paradox\\): way to school and listening score")
  expect_lte(max(nchar(format(found), "width")), 80)
  expect_error(correlation_matrix(learners, m1, m2, by = age_years), "30 groups", class = "unsere_error_usage")
})

test_that("a group with one side of a binary variable only leaves that cell undefined instead of stopping", {
  data <- data.frame(g = rep(c("a", "b"), each = 6), yes = c(rep("no", 6), rep(c("no", "yes"), 3)), v = c(
    3, 1, 4, 1,
    5, 9, 2, 6, 5, 3, 5, 8
  ))
  found <- correlation_matrix(data, yes, v, by = g)
  expect_true(is.na(found$groups$a$pairs$r))
  expect_match(format(found$groups$a), "do not vary: yes", all = FALSE)
})

test_that("one coefficient by name keeps the pairs that suit it and says how many do not", {
  found <- correlation_matrix(learners, study_partner, prior_course, age_years, coefficient = "phi")
  expect_identical(found$pairs$coefficient, "phi")
  expect_identical(found$left_out$unsuited, 2L)
  expect_match(format(found), "Excluded, 2 pairs: not suitable for phi", all = FALSE)
  expect_error(correlation_matrix(learners, age_years, m1, coefficient = "phi"), class = "unsere_error_usage")
})

test_that("chunks from a file, merged in any split, say what the whole says", {
  set.seed(5)
  data <- as.data.frame(matrix(rnorm(3000 * 5), 3000))
  data$V1 <- data$V1 + 1e8
  data$V2 <- cumsum(data$V2)
  data$V3[sample(3000, 200)] <- NA
  file <- withr::local_tempfile(fileext = ".csv")
  data.table::fwrite(data, file)
  data <- data.table::fread(file, data.table = FALSE) # the digits that the file holds
  whole <- correlation_matrix(data, coefficient = "pearson")
  for (rows in c(7, 640, 5000)) {
    found <- correlation_matrix(gather_moments(file, chunk_rows = rows))
    expect_lt(max(abs(found$pairs$r - whole$pairs$r)), 1e-13)
    expect_identical(found$pairs$n, whole$pairs$n)
    expect_equal(found$pairs$ci_low, whole$pairs$ci_low, tolerance = 1e-10)
    expect_equal(found$variables$sd, whole$variables$sd, tolerance = 1e-7)
  }
  parts <- split(data, rep(1:4, length.out = 3000))
  given <- function() {
    part <- parts[[1]]
    parts[[1]] <<- NULL
    part
  }
  from_function <- gather_moments(function() if (length(parts)) given())
  expect_lt(max(abs(correlation_matrix(from_function)$pairs$r - whole$pairs$r)), 1e-13)
  expect_error(merge_moments(from_function, gather_moments(file, "V1", "V2")), class = "unsere_error_usage")
  writeLines(c("a,b", "1,2", "2,x", "3,5"), file)
  expect_error(gather_moments(file, "a", "b"), "b contains text in case 2", class = "unsere_error_input")
  expect_error(gather_moments(file, "z"), class = "unsere_error_input")
})

test_that("more variables than memory holds are refused before anything is computed", {
  expect_error(unsere:::check_memory(20000, free = 24e9), "20,000 variables make 199,990,000 pairs.*80 GB",
    class = "unsere_error_input"
  )
  expect_silent(unsere:::check_memory(2000, free = 24e9))
})

test_that("ranks of large columns are those of R's own sorting, with ties, outliers and missing values", {
  set.seed(9)
  for (values in list(
    rnorm(5000), rcauchy(5000), sample(5, 5000, TRUE) + 0, c(1e300, -1e300, rnorm(3000)),
    rep(c(1, 1 + 1e-15), 600), c(rnorm(5000), 1e9), c(1e8 + rnorm(5000), -1e12), exp(4 * rnorm(5000)), rcauchy(5000)^3,
    c(rep(c(0, -0), 900), rcauchy(900)^5), 2^-(1:1000), c(seq(5000, 1), 1e15)
  )) {
    expect_equal(unsere:::mid_ranks(values), rank(values))
  }
  x <- data.frame(a = rnorm(900), b = sample(5, 900, TRUE), c = rexp(900))
  for (k in 1:3) x[sample(900, 60), k] <- NA
  found <- correlation_matrix(x, coefficient = "spearman")
  for (k in 1:3) {
    alone <- relate(x, found$pairs$x[k], found$pairs$y[k], coefficient = "spearman")
    expect_equal(found$pairs$r[k], alone$r, tolerance = 1e-14)
    expect_equal(found$pairs$p[k], alone$p, tolerance = 1e-9)
  }
})

test_that("by groups p allows for all groups' tests, and whether r differs between them is tested", {
  set.seed(8)
  x <- rnorm(240)
  where <- rep(c("a", "b", "c"), each = 80)
  y <- ifelse(where == "c", -0.7, 0.7) * x + rnorm(240)
  found <- correlation_matrix(data.frame(x, y, z = rnorm(240), where), x, y, z, by = where, interval = "analytic")
  all_p <- unlist(lapply(found$groups, function(group) group$pairs$p))
  expect_equal(unlist(lapply(found$groups, function(group) group$pairs$p_adjusted)), p.adjust(all_p, "holm"))
  r <- vapply(found$groups, function(group) group$pairs$r[1], 0)
  expect_equal(found$differences$chi_squared[1], 77 * sum((atanh(r) - mean(atanh(r)))^2))
  expect_equal(found$differences$df, c(2, 2, 2))
  expect_lt(found$differences$p_adjusted[1], 1e-6)
  expect_match(
    gsub("\\s+", " ", paste(format(found), collapse = " ")),
    "r differs significantly between the groups, p adjusted \\(Holm\\): x and y"
  )
})

test_that("pairs of few cases never stand among the strongest and are named apart", {
  set.seed(9)
  data <- data.frame(a = rnorm(40), b = rnorm(40), c = NA_real_)
  data$c[1:6] <- data$a[1:6]
  data$c[6] <- data$c[6] + 0.1
  found <- correlation_matrix(data, a, b, c)
  text <- format(found)
  strongest <- text[seq(match("Strongest", text) + 2L, length.out = 1L)]
  expect_match(strongest, "a +b")
  expect_match(paste(text, collapse = " "), "fewer than 10 cases: a with c")
})
