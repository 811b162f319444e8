survey <- function() {
  set.seed(61)
  agree <- c("Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree")
  often <- c("Never", "Rarely", "Sometimes", "Often", "Always")
  drive <- rnorm(120)
  word <- function(words) words[cut(drive + rnorm(120), c(-Inf, -1, -.3, .3, 1, Inf), labels = FALSE)]
  data.frame(
    read = replace(word(often), 1:3, "Don't know"), q1 = word(agree), q2 = replace(word(agree), 1:40, "Agree"),
    ease = word(c("1 (very hard)", "2", "3", "4", "5 (very easy)")),
    age = sample(c("18-29", "30-44", "45-64", "65+"), 120, TRUE),
    knows = sample(c("Yes", "No", "Don't know"), 120, TRUE), town = sample(c("Mill", "Bay", "Hill"), 120, TRUE),
    score = round(50 + 8 * drive + rnorm(120))
  )
}

test_that("an untouched survey comes in with its words in order, and what was understood is said", {
  data <- survey()
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(data, file, row.names = FALSE)
  study <- read_study(file)
  book <- codebook(study)
  entry <- function(name, field) book[[field]][book$variable == name]
  expect_identical(entry("read", "level"), "ordinal")
  expect_identical(entry("read", "values"), "Never < Rarely < Sometimes < Often < Always; Don't know")
  expect_identical(entry("ease", "values"), "1 = very hard < 2 < 3 < 4 < 5 = very easy")
  expect_identical(entry("age", "values"), "18-29 < 30-44 < 45-64 < 65+")
  expect_identical(c(entry("knows", "level"), entry("town", "level")), c("binary", "nominal"))
  decided <- paste(format(study$provenance$decisions), collapse = "; ")
  expect_match(decided, "q1, q2: in the order Strongly disagree < Disagree < Neither agree nor disagree < Agree < Strongly")
  expect_match(decided, "read: in the order .*; no answer: Don't know")
  expect_match(decided, "knows: no answer: Don't know")
  places <- match(data$read, c("Never", "Rarely", "Sometimes", "Often", "Always"))
  found <- relate(study, read, score)
  expect_identical(c(found$coefficient, found$n), c("spearman", "117"))
  kept <- !is.na(places)
  expect_equal(found$r, cor_table(cbind(rank(places[kept]), rank(data$score[kept])))[1, 2], tolerance = 1e-12)
  matrix <- correlation_matrix(study)
  expect_setequal(matrix$variables$variable, c("read", "q1", "q2", "ease", "age", "knows", "score"))
  expect_equal(relate(derive(study, back = "reverse(q1)"), q1, back)$r, -1)
  expect_match(format(overview(study)), "Never: [0-9]+, Rarely: ", all = FALSE)
  axis <- ggplot2::ggplot_build(draw_scatter(study, read, score))$layout$panel_params[[1]]$x$get_labels()
  expect_identical(axis, c("Never", "Rarely", "Sometimes", "Often", "Always"))
  shown <- ggplot2::ggplot_build(draw_distribution(study, q2))$layout$panel_params[[1]]$x$get_labels()
  expect_identical(shown, c("Strongly\ndisagree", "Disagree", "Neither agree\nnor disagree", "Agree", "Strongly agree"))
})

test_that("an order can be given in each door, and one that the words do not fit is refused with what to write", {
  data <- survey()
  told <- "Always < Often < Sometimes < Rarely < Never; Don't know"
  book <- data.frame(variable = "read", values = told)
  r <- relate(as_study(data), read, score)$r
  expect_equal(relate(as_study(data, codebook = book), read, score)$r, -r)
  expect_equal(relate(set_variable(as_study(data), read, values = told), read, score)$r, -r)
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(data, file, row.names = FALSE)
  got <- unsere("relate", file, "read", "score", "--format", "json", "--values", paste0("read=", told))
  expect_equal(jsonlite::fromJSON(got$out)$r, -r, tolerance = 1e-12)
  coded <- data.frame(mood = rep(c(1, 2, 3), 20), x = rnorm(60))
  labelled <- as_study(coded, codebook = data.frame(variable = "mood", values = "1 = low < 2 = middling < 3 = high"))
  expect_identical(codebook(labelled)$level[1], "ordinal")
  expect_error(set_variable(data, read, values = "Never < Always"), "Rarely|Sometimes|Often", class = "unsere_error_input")
  expect_error(set_variable(data, read, values = "Never < Never"), "twice", class = "unsere_error_input")
  expect_error(set_variable(data, read, values = "2 = Never < 1 = Rarely"), "do not rise", class = "unsere_error_input")
  expect_equal(unsere("look", file, "--values", "read")$status, 2)
  expect_error(fit_line(data, town, score), 'values: "low < middle < high"', class = "unsere_error_input")
  brief <- withr::local_tempfile(fileext = ".yml")
  write_brief(read_study(file), brief)
  expect_match(readLines(brief), 'read: .*values: "Never < Rarely', all = FALSE)
  expect_equal(unsere("run", brief, "--out", withr::local_tempdir())$status, 0)
})

test_that("the recogniser keeps its share of scales, and leaves alone what has no order", {
  read <- function(name) {
    path <- file.path(root_of_project(), "bench", "scales", paste0(name, ".txt"))
    lines <- readLines(path, encoding = "UTF-8")
    strsplit(lines[!startsWith(lines, "#")], " | ", fixed = TRUE)
  }
  right <- function(line) {
    words <- trimws(strsplit(line[3], if (line[1] == "?") ";" else "(?<= )[<>](?= )", perl = TRUE)[[1]])
    found <- unsere:::order_scale(sort(words))$order
    if (line[1] == "?") is.null(found) else identical(found, if (grepl(" > ", line[3])) rev(words) else words)
  }
  share <- function(lines) mean(vapply(lines, right, NA))
  expect_gt(share(read("first")), .95)
  expect_gt(share(read("second")), .95)
  expect_gt(share(read("third")), .65)
  for (words in list(c("Bus", "Car", "On foot"), c("rarely", "seldom", "often"), c("Group 1", "Group 2", "Group 3"))) {
    expect_null(unsere:::order_scale(words))
  }
})

test_that("a variable that a codebook describes twice is refused where the two say different things", {
  data <- data.frame(mood = 1:9, age = 31:39)
  twice <- data.frame(variable = c("mood", "age", "mood"), unit = c("points", "years", "points"))
  expect_identical(codebook(as_study(data, codebook = twice))$unit, c("points", "years"))
  twice$unit[3] <- "steps"
  why <- "describes \"mood\" more than once, with another unit"
  expect_error(as_study(data, codebook = twice), why, class = "unsere_error_input")
  twice$file <- c("one", NA, "two")
  expect_identical(nrow(codebook(as_study(data, codebook = twice))), 2L)
})

test_that("refusals among groups are no answer, in every door, and stay groups where a codebook says so", {
  file <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(data.frame(
    gender = rep(c("Female", "Male", "Prefer not to say", "Female"), 15), score = 1:60,
    town = rep(c("Hill", "Mill", "Dale", "k. A."), 15), reason = rep(c("work", "family", "unknown"), 20)
  ), file, row.names = FALSE)
  study <- read_study(file)
  book <- codebook(study)
  expect_identical(book$level[match(c("gender", "town", "reason"), book$variable)], c("binary", "nominal", "nominal"))
  expect_identical(book$missing_codes[1:3], c("Prefer not to say", NA, "k. A."))
  expect_match(format(study$provenance$decisions), "gender: no answer: Prefer not to say", all = FALSE)
  expect_identical(relate(study, gender, score)$n, 45L)
  expect_length(unique(stats::na.omit(as.data.frame(study)$reason)), 3L)
  again <- as_study(utils::read.csv(file), codebook = book)
  expect_identical(relate(again, gender, score)$r, relate(study, gender, score)$r)
  as_group <- read_study(file, codebook = data.frame(variable = "gender", level = "nominal"))
  expect_identical(relate(as_group, gender, score)$n, 60L)
})
