# Short labels of whole questions, and how variables are called in sentences.

form <- function(n = 40) {
  set.seed(7)
  stem <- "How far do you agree with each of these statements about the course? - "
  data <- data.frame(
    "How many hours per week do you usually spend on homework?" = round(rexp(n, .2), 1),
    "How old are you?" = sample(18:70, n, TRUE), "Beck inventory" = rnorm(n), ses = rnorm(n),
    check.names = FALSE
  )
  data[[paste0(stem, "Mistakes help me to learn")]] <- sample(1:5, n, TRUE)
  data[[paste0(stem, "The lessons are well prepared")]] <- sample(1:5, n, TRUE)
  data
}

test_that("a whole question has a short label: the item after its stem, a question without its opening words", {
  book <- codebook(as_study(form()))
  expect_identical(book$short, c(
    "Hours per week you spend", "Age", NA, NA, "Mistakes help me to learn", "The lessons are well prepared"
  ))
  short_of <- function(...) codebook(as_study(stats::setNames(as.data.frame(lapply(c(...), function(q) 1:3)), c(...))))$short
  expect_identical(
    short_of(
      "Q3. How satisfied are you with your current job?", "Wie alt sind Sie?",
      "In the last 12 months, how often did you travel?",
      "Wie zufrieden sind Sie mit Ihrem Studium?", "How.many.hours.do.you.sleep.per.night.", "Number of books at home"
    ),
    c(
      "Satisfaction with current job", "Alter", "Travelling", "Zufriedenheit mit Ihrem Studium",
      "Hours you sleep per night", NA
    )
  )
})

test_that("where one question loses its number all do, and a participle stands without its person", {
  labels <- c(
    "Q1. How many courses have you taken?", "Q2. The fees are too high", "Q3. Maths", "Q4", "Distance to school"
  )
  data <- stats::setNames(as.data.frame(lapply(labels, function(q) 1:3)), labels)
  expect_identical(codebook(as_study(data))$short, c("Courses taken", "The fees are too high", "Maths", NA, NA))
  expect_identical(codebook(as_study(data[2:4]))$short, rep(NA_character_, 3))
})

test_that("short labels are different from each other and from all other labels, and short", {
  set.seed(11)
  terms <- c("autumn", "winter", "spring", "summer")
  asked <- c(
    sprintf("How many days were you absent from the evening school for reasons of health in the %s term?", terms), "Age",
    "How old are you?", sprintf("Please tick: %s", strrep(c("long words ", "long wordz "), 9))
  )
  book <- codebook(as_study(stats::setNames(as.data.frame(lapply(asked, function(q) rnorm(5))), asked)))
  called <- ifelse(is.na(book$short), book$variable, book$short)
  expect_identical(anyDuplicated(tolower(called)), 0L)
  expect_true(all(nchar(book$short[c(6, 7)]) <= 40))
  expect_false(any(grepl("^How", book$short[1:4])))
})

test_that("sentences, titles and next steps use the short label, and every door takes it as a name", {
  study <- as_study(form())
  relation <- relate(study, "Age", "Hours per week you spend")
  expect_match(in_words(relation), "^(Age and hours per week you spend were)")
  expect_identical(relation$x, "How old are you?")
  text <- paste(format(relation), collapse = "\n")
  expect_match(text, "Questions in full\n  Age\n    How old are you?", fixed = TRUE)
  expect_match(draw_scatter(study, "Age", "Hours per week you spend")$labels$x, "^Age$")
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(form(), file, row.names = FALSE)
  told <- unsere("relate", file, "Age", "Hours per week you spend", "--format", "json")
  expect_identical(jsonlite::fromJSON(told$out)$x, "How old are you?")
})

test_that("a short label can be given, comes from and goes to every codebook, and follows a new label", {
  study <- set_variable(as_study(form()), "Age", short = "Years lived")
  for (kind in c("csv", "json", "xml")) {
    path <- withr::local_tempfile(fileext = paste0(".", kind))
    write_codebook(study, path)
    expect_identical(codebook(as_study(form(), path))$short[2], "Years lived", label = kind)
  }
  renamed <- set_variable(study, "ses", label = "How much money did your family have when you grew up?")
  expect_match(codebook(renamed)$short[4], "^Money your family")
  expect_identical(codebook(renamed)$short[2], "Years lived")
  expect_error(set_variable(study, ses, short = 3), class = "unsere_error_usage")
})

test_that("labels keep their capitals and names their letters; statements stand in quotation marks", {
  study <- as_study(form())
  expect_match(in_words(relate(study, "Beck inventory", ses)), "^Beck inventory and ses were")
  expect_match(in_words(relate(study, ses, "Beck inventory")), "^ses and Beck inventory were")
  expect_match(in_words(relate(study, "Age", "Mistakes help me to learn")), "^Age and \"Mistakes help me to learn\" were")
  study <- set_variable(study, ses, label = "Rosenberg scale")
  expect_match(in_words(relate(study, "Age", ses)), "Age and Rosenberg scale were")
  expect_match(in_words(relate(set_variable(study, ses, label = "Motivation"), "Age", ses)), "Age and motivation were")
})
