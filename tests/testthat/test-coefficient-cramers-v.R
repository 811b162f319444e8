tastes <- data.frame(
  town = c("Ash", "Ash", "Elm", "Elm", "Oak", "Oak", "Ash", "Elm", "Oak", "Ash", "Oak", "Elm"),
  club = c("chess", "choir", "choir", "choir", "dance", "dance", "chess", "dance", "dance", "chess", "choir", "choir")
)

# All tables of the margins by listing every order of the second column's groups.
exact_by_hand <- function(x, y) {
  chi <- function(counts) {
    expected <- outer(rowSums(counts), colSums(counts)) / sum(counts)
    sum((counts - expected)^2 / expected)
  }
  rows <- rowSums(table(x, y))
  columns <- colSums(table(x, y))
  total <- 0
  reached <- 0
  for (a in 0:columns[1]) for (b in 0:columns[1]) {
    for (c in 0:columns[2]) for (d in 0:columns[2]) {
      counts <- rbind(c(a, c), c(b, d))
      counts <- rbind(counts, columns[1:2] - colSums(counts))
      counts <- cbind(counts, rows - rowSums(counts))
      if (any(counts < 0)) next
      chance <- exp(-sum(lgamma(counts + 1)))
      total <- total + chance
      if (chi(counts) >= chi(table(x, y)) - 1e-9) reached <- reached + chance
    }
  }
  reached / total
}

test_that("V, chi-squared and the bias-corrected V are their definitions", {
  found <- relate(tastes, town, club)
  counts <- table(tastes$town, tastes$club)
  expected <- outer(rowSums(counts), colSums(counts)) / 12
  chi <- sum((counts - expected)^2 / expected)
  expect_identical(found$coefficient, "cramers-v")
  expect_equal(found$r, sqrt(chi / (12 * 2)), tolerance = 1e-14)
  expect_equal(found$value, chi, tolerance = 1e-13)
  free <- max(0, chi / 12 - 4 / 11)
  expect_equal(found$bias_corrected, sqrt(free / (3 - 4 / 11 - 1)), tolerance = 1e-13)
  expect_identical(found$counts$n, as.integer(counts))
  expect_equal(relate(tastes, club, town)$r, found$r, tolerance = 1e-14)
})

test_that("with small expected counts p counts all tables; with many cases it is that of chi-squared", {
  found <- relate(tastes, town, club)
  expect_identical(found$p_method, "exact")
  expect_equal(found$p, exact_by_hand(tastes$town, tastes$club), tolerance = 1e-11)
  learners <- demo_study("learners")
  large <- relate(learners, centre, study_partner)
  expect_identical(large$p_method, "analytic")
  expect_equal(large$p, pchisq(large$value, 4, lower.tail = FALSE), tolerance = 1e-13)
  expect_lt(abs(log(relate(learners, centre, study_partner, test = "permutation", seed = 1)$p / large$p)), 0.2)
})

test_that("too many possible tables are shuffled, the same each time, and refused where counting was asked for", {
  set.seed(7)
  wide <- data.frame(a = sample(letters[1:9], 120, TRUE), b = sample(LETTERS[1:8], 120, TRUE))
  found <- relate(wide, a, b)
  expect_identical(found$p_method, "permutation")
  expect_identical(found$p, relate(wide, a, b)$p)
  expect_error(relate(wide, a, b, test = "exact"), "too many possible tables", class = "unsere_error_usage")
  # Above its own interval, which is said.
  expect_true("chance_size" %in% found$cautions$code || found$r <= found$ci_high)
})

test_that("the limits are those at which the noncentral chi-squared leaves a twentieth beyond", {
  found <- relate(demo_study("learners"), centre, prior_course)
  lambda <- found$n * c(found$ci_low, found$ci_high)^2
  expect_equal(pchisq(found$value, 4, lambda[2]), 0.05, tolerance = 1e-9)
  expect_true(found$p > 0.05 && found$ci_low == 0)
})

test_that("groups within groups are told as made from each other, and one group alone is an error", {
  nested <- data.frame(town = rep(c("Ash", "Elm", "Oak", "Yew"), each = 6), region = rep(c("north", "south"), each = 12))
  found <- relate(nested, town, region)
  expect_identical(c(found$r, found$cautions$code[1]), c("1", "made_groups"))
  expect_error(relate(transform(nested, region = "north"), town, region), class = "unsere_error_undefined")
})

test_that("the pair goes through command, brief, figure and report with one result", {
  folder <- withr::local_tempdir()
  file.copy(c(demo_file("learners.csv"), demo_file("codebook.csv")), folder)
  writeLines(c(
    "title: Groups", "data: {file: learners.csv}",
    "pairs: [{x: centre, y: speaking_score}, {x: centre, y: study_partner}]", "report: {formats: [html], folder: out}"
  ), file.path(folder, "groups.yml"))
  run_brief(file.path(folder, "groups.yml"))
  told <- jsonlite::fromJSON(file.path(folder, "out", "results.json"), simplifyVector = FALSE)$pairs
  learners <- demo_study("learners")
  for (k in 1:2) {
    own <- relate(learners, "centre", c("speaking_score", "study_partner")[k])
    expect_equal(told[[k]]$relation$r, own$r, tolerance = 1e-15)
    expect_identical(told[[k]]$relation$sentence, in_words(own))
    expect_s3_class(ggplot2::autoplot(own), "ggplot")
  }
  page <- paste(readLines(file.path(folder, "out", "report.html"), warn = FALSE), collapse = " ")
  expect_match(page, "Speaking score differed significantly between the groups of centre", fixed = TRUE)
  expect_s3_class(draw_distribution(learners, centre), "ggplot")
})
