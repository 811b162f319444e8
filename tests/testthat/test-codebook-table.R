data <- data.frame(pupil = c("a", "b", "c"), hours = c(1, 2, 3), score = c(5, 7, 6))

test_that("missing codes are taken as people write them, and a codebook that serves nothing is told", {
  for (codes in c("98;99", "98,99", "98-99", "98 = no answer; 99=refused", "98 to 99")) {
    file <- csv_file("a,b", "1,2", "2,4", "98,3", "99,1", "5,5")
    writeLines(c("variable,missing_codes", sprintf("a,\"%s\"", codes), "bb,1"), file.path(dirname(file), "codebook.csv"))
    study <- read_study(file)
    expect_identical(study$data$a, c(1, 2, NA, NA, 5), label = codes)
    expect_match(format(study$provenance$decisions), "described by codebook.csv: 1 of 2 variables; not here: bb \\(b\\?\\)",
      all = FALSE
    )
    expect_match(paste(format(relate(study, a, b)), collapse = " "), "described by codebook.csv: 1 of 2")
  }
  other <- csv_file("a,b", "1,2", "2,4", "3,3")
  writeLines(c("variable,label", "zz,Other"), file.path(dirname(other), "codebook.csv"))
  expect_match(format(read_study(other)$provenance$decisions), "not used: codebook.csv in the same folder", all = FALSE)
  expect_error(read_study(other, codebook = file.path(dirname(other), "codebook.csv")), "describes none",
    class = "unsere_error_input"
  )
})

test_that("what is declared nominal has no numbers, at any door", {
  data <- data.frame(score = c(3, 1, 4, 1, 5, 9, 2, 6), party = rep(1:4, 2), z = 1:8)
  study <- set_variable(as_study(data), party, level = "nominal")
  expect_error(
    relate(study, score, party, coefficient = "pearson"), "unordered categories|without an order",
    class = "unsere_error_input"
  )
  expect_error(fit_line(study, party, score), "unordered categories|without an order", class = "unsere_error_input")
  expect_error(
    rank_predictors(study, score, party, z), "unordered categories|without an order",
    class = "unsere_error_input"
  )
  expect_match(paste(format(correlation_matrix(study)), collapse = " "), "Excluded, unordered categories: party")
})

test_that("entries may be for one file, by its name or a pattern", {
  folder <- tempfile()
  dir.create(folder)
  writeLines(c("h,s", "1,2", "2,1", "3,5"), file.path(folder, "week_1.csv"))
  writeLines(c("h,s", "1,2", "2,1", "3,5"), file.path(folder, "other.csv"))
  writeLines(
    c("file,variable,label", "week_*,h,Hours a week", "other,h,Other hours", ",s,Score"),
    file.path(folder, "codebook.csv")
  )
  labels <- function(file) codebook(read_study(file.path(folder, file)))$label
  expect_identical(labels("week_1.csv"), c("Hours a week", "Score"))
  expect_identical(labels("other.csv"), c("Other hours", "Score"))
})

test_that("a codebook given takes the place of the one beside the file", {
  folder <- tempfile()
  dir.create(folder)
  writeLines(c("h,s", "1,2", "2,1", "3,5"), file.path(folder, "d.csv"))
  writeLines(c("variable,label", "h,Beside"), file.path(folder, "codebook.csv"))
  given <- data.frame(variable = "h", label = "Given", unit = "h")
  expect_identical(codebook(read_study(file.path(folder, "d.csv"), codebook = given))$label[1], "Given")
})

test_that("wrong entries are named with what is allowed", {
  refused <- function(book, text) expect_error(as_study(data, codebook = book), text, class = "unsere_error_input")
  refused(data.frame(variable = "hours", level = "metric"), "gives hours the level \"metric\"")
  refused(data.frame(variable = "hours", role = "axis"), "role \"axis\"")
  refused(data.frame(name = "hours"), "no column `variable`")
  refused("nowhere.csv", "no codebook")
  refused(data.frame(variable = c("x", "y")), "describes none")
  expect_identical(as_study(data, codebook = data.frame(variable = c("hours", "gone"), label = c(
    "H",
    "G"
  )))$codebook$label[2], "H")
})

test_that("set_variable() changes one entry, keeps the rest, and takes bare names, strings and labels", {
  study <- set_variable(data, hours, label = "Weekly hours", unit = "h", source = "Diary")
  study <- set_variable(study, "Weekly hours", role = "measure", level = "ordinal")
  entry <- codebook(study)[2, ]
  expect_identical(unlist(entry, use.names = FALSE), c(
    "hours", "Weekly hours", NA, "h", "ordinal", "measure", NA, "Diary", NA, NA
  ))
  expect_identical(codebook(study)[c(1, 3), ], codebook(as_study(data))[c(1, 3), ])
  expect_error(set_variable(data, hour, label = "x"), "Did you mean hours", class = "unsere_error_input")
})

test_that("labels and units stand in every output", {
  study <- set_variable(data, hours, label = "Weekly hours", unit = "h")
  expect_match(format(relate(study, hours, score))[1], "Weekly hours \\(h\\) and score")
  expect_match(equation(fit_line(study, hours, score)), "Weekly hours$")
  expect_identical(draw_scatter(study, hours, score)$labels$x, "Weekly hours (h)")
  expect_match(in_words(fit_line(study, hours, score)), "additional h of weekly hours|slope of score on weekly hours")
})

test_that("the first complete column of different texts names the cases, unless the codebook names another", {
  expect_identical(codebook(as_study(data))$role[1], "case")
  numbered <- as_study(data.frame(nr = 11:13, x = c(1, 5, 2), y = c(2, 1, 3)))
  expect_identical(names(residuals(fit_line(numbered, x, y))), c("11", "12", "13"))
  plain <- as_study(data.frame(x = c(1, 5, 2), y = c(2, 1, 3)))
  expect_identical(names(residuals(fit_line(plain, x, y))), paste("row", 1:3))
})

test_that("a codebook declares plausible values, and one that is written declares them again", {
  folder <- tempfile("plausible-")
  dir.create(folder)
  set.seed(12)
  score <- rnorm(60, 500, 90)
  drawn <- function() score + rnorm(60, 0, 30)
  data <- data.frame(hours = round(score / 100 + rnorm(60), 1), pv1 = drawn(), pv2 = drawn())
  file <- file.path(folder, "data.csv")
  utils::write.csv(data, file, row.names = FALSE)
  book <- file.path(folder, "known.csv")
  writeLines(c(
    "variable,label,role,values", "hours,Weekly practice,measure,", "reading,Reading,plausible,pv1 | pv2",
    "maths,Maths,plausible,pv7 | pv8"
  ), book)
  study <- read_study(file, codebook = book)
  by_hand <- set_plausible(read_study(file), "reading", c(pv1, pv2))
  found <- relate(study, hours, reading)
  expect_identical(found$plausible, 2L)
  fields <- c("r", "ci_low", "p", "share_between")
  expect_equal(found[fields], relate(by_hand, hours, reading)[fields])
  expect_identical(codebook(study)$label[codebook(study)$variable == "reading"], "Reading")
  expect_match(paste(format(study$provenance$decisions), collapse = " "), "not here: maths")
  expect_identical(relate(as_study(read_study(file), codebook = utils::read.csv(book)), hours, reading)$r, found$r)
  again <- file.path(folder, "again.csv")
  write_codebook(study, again)
  expect_identical(relate(read_study(file, codebook = again), hours, reading)$r, found$r)
  # A brief that says the same as the codebook changes nothing.
  brief <- file.path(folder, "b.yml")
  writeLines(c(
    "data: {file: data.csv, codebook: known.csv}", "plausible: {reading: [pv1, pv2]}", "pairs: [{x: hours, y: reading}]"
  ), brief)
  out <- run_brief(brief, out = file.path(folder, "out"), quiet = TRUE)
  expect_equal(jsonlite::fromJSON(file.path(out, "results.json"))$pairs$relation$r, found$r)
  expect_identical(nrow(verify_results(out)$different), 0L)
  writeLines(c("data: {file: data.csv, codebook: known.csv}", "pairs: [{x: hours, y: reading}]"), brief)
  bare <- run_brief(brief, out = file.path(folder, "bare"), quiet = TRUE)
  expect_identical(nrow(verify_results(bare)$different), 0L)
})
