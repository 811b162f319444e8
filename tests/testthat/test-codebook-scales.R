# Whole numbers are steps of a scale only where the heading says so or several items make a battery.

level_of_heading <- function(heading, values) {
  data <- stats::setNames(data.frame(rep(values, 6), seq_len(6 * length(values))), c(heading, "other"))
  book <- codebook(as_study(data))
  book$level[1]
}

test_that("a heading says that its numbers are steps of a scale", {
  said <- c(
    "Mood (1 to 5)", "Note (1 bis 6)", "How happy are you? (0-10)", "Books at home [1-5]",
    "On a scale from 0 to 10, how likely is it that you would come again?", "Skala von 1 bis 7: Wie zufrieden sind Sie?",
    "How satisfied are you (0 = not at all, 4 = very much)", "Please rate the course from 1 to 5"
  )
  for (heading in said) expect_identical(level_of_heading(heading, 1:4), "ordinal", label = heading)
  not <- c(
    "Absences", "Children (number)", "How many books? (1 to 5)", "Midterm (100)", "Homework (20 %)", "Test (0 to 10 points)",
    "Visits 2019-2023", "Rooms"
  )
  for (heading in not) expect_identical(level_of_heading(heading, 0:4), "numeric", label = heading)
  # What does not fit the scale that is named is no step of it.
  expect_identical(level_of_heading("Mood (1 to 5)", c(1, 3, 8)), "numeric")
  expect_identical(level_of_heading("Mood (1 to 5)", c(1, 2.5, 3)), "numeric")
})

test_that("items of a battery are steps of a scale; the same count at several times is not", {
  set.seed(2)
  n <- 60
  draw <- function(values) sample(values, n, TRUE)
  levels <- function(...) codebook(as_study(data.frame(..., other = rnorm(n))))$level
  expect_identical(levels(m1 = draw(1:5), m2 = draw(1:5), m3 = draw(1:4))[1:3], rep("ordinal", 3))
  expect_identical(levels(calm = draw(1:5), support = draw(1:5), workload = draw(1:5))[1:3], rep("ordinal", 3))
  expect_identical(levels(calm = draw(1:5), hours = rnorm(n), workload = draw(1:5))[c(1, 3)], rep("numeric", 2))
  expect_identical(levels(absent_t1 = draw(0:4), absent_t2 = draw(0:4), absent_t3 = draw(0:4))[1:3], rep("numeric", 3))
  expect_identical(levels(goals = draw(0:4), cards = draw(0:4), fouls = draw(0:4))[1:3], rep("numeric", 3))
  right <- levels(q1 = draw(0:1), q2 = draw(0:1), q3 = draw(0:1))
  expect_identical(right[1:3], rep("binary", 3))
})

test_that("numbers in brackets are a maximum, a range or a weight, never a unit", {
  data <- data.frame(
    a = c(40, 77.5, 100, 62), b = c(1, 5, 3, 2), c = c(12, 20, 18, 9), d = c(3, 5, 9, 4), e = c(7, 140, 80, 20)
  )
  names(data) <- c("Midterm (100)", "Mood (1 to 5)", "Homework (20 %)", "Wait (min)", "Bonus (100)")
  book <- codebook(as_study(data))
  expect_identical(book$unit, c(NA, NA, NA, "min", NA))
  expect_identical(book$range, c("0 to 100", "1 to 5", NA, NA, NA))
  expect_identical(book$label[c(1, 3)], c(NA_character_, NA))
  line <- fit_line(as_study(rbind(data, data + 1)), "Homework (20 %)", "Midterm (100)")
  expect_no_match(format(line), "100 (100|higher|lower)|20 %[^)]")
})

test_that("a heading may name the ends of its scale by words, and the codes of its answers", {
  set.seed(9)
  data <- data.frame(
    "Trust (0 no trust - 10 full trust)" = sample(0:10, 60, TRUE), "Mood: 1 (low) to 7 (high)" = sample(1:7, 60, TRUE),
    "Member (1=Yes, 2=No)" = sample(1:2, 60, TRUE),
    "Education [1: primary; 2: secondary; 3: tertiary]" = sample(1:3, 60, TRUE),
    "Visits (2025)" = sample(0:9, 60, TRUE), check.names = FALSE
  )
  study <- as_study(data)
  book <- codebook(study)
  expect_identical(book$level, c("ordinal", "ordinal", "binary", "ordinal", "numeric"))
  expect_identical(book$short[c(3, 4)], c("Member", "Education"))
  expect_identical(book$values[4], "1 = primary < 2 = secondary < 3 = tertiary")
  found <- relate(study, "Member", "Visits (2025)")
  expect_match(in_words(found), "^Member \\(Yes\\)")
})
