answers <- c("id,mood,place,w,hours", paste(
  1:12, c(1, 2, 3, 3, 2, 9, 1, 2, 3, 2, 1, 3), rep(1:3, 4), rep(c(.8, 1.2), 6), c(1:11, -9),
  sep = ","
))

ddi <- c(
  '<?xml version="1.0" encoding="UTF-8"?>', '<codeBook xmlns="ddi:codebook:2_5" version="2.5">',
  "<stdyDscr><citation><titlStmt><titl>Evening school</titl></titlStmt></citation></stdyDscr>", "<dataDscr>",
  '<var ID="V1" name="mood" nature="ordinal" intrvl="discrete"><labl>Mood</labl>',
  "<qstn><qstnLit>How are you today?</qstnLit></qstn>", '<invalrng><item VALUE="9"/></invalrng>',
  "<catgry><catValu>1</catValu><labl>low</labl></catgry><catgry><catValu>2</catValu><labl>middling</labl></catgry>",
  "<catgry><catValu>3</catValu><labl>high</labl></catgry>",
  '<catgry missing="Y"><catValu>9</catValu><labl>refused</labl></catgry></var>',
  '<var name="place" nature="nominal"><labl>Place</labl><catgry><catValu>1</catValu><labl>Mill</labl></catgry>',
  "<catgry><catValu>2</catValu><labl>Canal</labl></catgry><catgry><catValu>3</catValu><labl>Brook</labl></catgry></var>",
  '<var name="w" wgt="wgt" nature="ratio"><labl>Weight</labl></var>',
  '<var name="hours" measUnit="h" nature="ratio"><labl>Practice</labl><invalrng><range min="-9" max="-7"/></invalrng></var>',
  '<var name="gone"><labl>Not here</labl></var>', "</dataDscr></codeBook>"
)

schema <- '{"fields": [
  {"name": "mood", "title": "Mood", "type": "integer", "categories": [{"value": 1, "label": "low"},
   {"value": 2, "label": "middling"}, {"value": 3, "label": "high"}], "categoriesOrdered": true, "missingValues": ["", "9"]},
  {"name": "place", "title": "Place", "categories": [{"value": 1, "label": "Mill"}, {"value": 2, "label": "Canal"},
   {"value": 3, "label": "Brook"}]},
  {"name": "hours", "title": "Practice", "type": "number", "unit": "h"}], "missingValues": ["", "-9"]}'

in_folder <- function(files) {
  folder <- tempfile("forms")
  dir.create(folder)
  for (name in names(files)) writeLines(files[[name]], file.path(folder, name))
  file.path(folder, "answers.csv")
}

test_that("DDI, Table Schema and Data Package describe the same data alike", {
  package <- sprintf(paste0(
    '{"name": "x", "resources": [{"path": "other.csv", "schema": {"fields": []}}, ',
    '{"path": "answers.csv", "schema": %s}]}'
  ), schema)
  forms <- list(codebook.xml = ddi, codebook.json = schema, datapackage.json = package)
  for (name in names(forms)) {
    study <- read_study(in_folder(c(list(answers.csv = answers), forms[name])))
    book <- codebook(study)
    of <- function(variable, field) book[[field]][book$variable == variable]
    expect_identical(of("mood", "level"), "ordinal")
    expect_identical(of("mood", "label"), "Mood")
    expect_identical(of("mood", "values"), "1 = low < 2 = middling < 3 = high")
    expect_identical(sum(is.na(study$data$mood)), 1L)
    expect_identical(unique(study$data$place), c("Mill", "Canal", "Brook"))
    expect_identical(of("place", "level"), "nominal")
    expect_identical(of("hours", "unit"), "h")
    expect_identical(sum(is.na(study$data$hours)), 1L)
    if (name == "codebook.xml") {
      expect_identical(of("w", "role"), "weight")
      expect_identical(of("mood", "source"), "How are you today?")
      expect_match(format(study$provenance$decisions), "not here: gone", all = FALSE)
    }
    expect_match(format(study$provenance$decisions), sprintf("not described by %s: id", name), all = FALSE)
  }
})

test_that("CSV on the Web describes by titles, datatypes and null", {
  metadata <- '{"@context": "http://www.w3.org/ns/csvw", "url": "answers.csv", "null": "9", "tableSchema": {"columns": [
    {"name": "m", "titles": "mood", "datatype": "integer", "dc:description": "Mood today"},
    {"name": "hours", "titles": ["Practice"], "datatype": {"base": "decimal"}, "null": ["-9"]}]}}'
  study <- read_study(in_folder(list(answers.csv = answers, "answers.csv-metadata.json" = metadata)))
  book <- codebook(study)
  expect_identical(book$label[book$variable %in% c("mood", "hours")], c("Mood today", "Practice"))
  expect_identical(c(sum(is.na(study$data$mood)), sum(is.na(study$data$hours))), c(1L, 1L))
  expect_identical(book$level[book$variable == "hours"], "numeric")
})

test_that("what is written comes back: a round trip loses nothing", {
  learners <- set_variable(demo_study("learners"), confidence,
    values = "1 = not at all < 2 = little < 3 = some < 4 = much < 5 = very"
  )
  words <- as_study(data.frame(mood = rep(c("Never", "Often", "Rarely", "Don't know"), 5), x = 1:20 / 3))
  for (study in list(learners, words)) {
    for (ending in c(".csv", ".json", ".xml")) {
      path <- write_codebook(study, tempfile(fileext = ending))
      raw <- as.data.frame(lapply(study$data, function(column) if (is.factor(column)) as.character(column) else column))
      names(raw) <- names(study$data)
      back <- codebook(as_study(raw, codebook = path))
      expect_identical(back, codebook(study), label = ending)
    }
  }
})

test_that("a codebook that would reach outside, is broken or says nothing is refused in a line", {
  refused <- function(text, ending, why) {
    path <- tempfile(fileext = ending)
    writeLines(text, path)
    expect_error(as_study(data.frame(a = 1:3), codebook = path), why, class = "unsere_error_input")
  }
  secret <- tempfile()
  writeLines("hidden", secret)
  outside <- sprintf(paste0(
    '<!DOCTYPE c [<!ENTITY e SYSTEM "file://%s">]><codeBook><dataDscr>',
    '<var name="a"><labl>&e;</labl></var></dataDscr></codeBook>'
  ), secret)
  refused(outside, ".xml", "defines entities")
  refused("<codeBook>", ".xml", "cannot be read as XML")
  refused("<codeBook/>", ".xml", "describes no variable")
  refused("{", ".json", "not valid JSON")
  refused("{}", ".json", "describes no variable")
  expect_error(write_codebook(data.frame(a = 1:3), "book.txt"), "ends in .csv, .json", class = "unsere_error_usage")
})

test_that("the codebook as a page shows every variable with where its values lie", {
  path <- write_codebook(demo_study("learners"), tempfile(fileext = ".html"))
  page <- paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
  for (name in codebook(demo_study("learners"))$label) expect_match(page, name, fixed = TRUE)
  expect_match(page, "mean 57.7|mean 57.8|mean 58")
  hostile <- write_codebook(
    data.frame("<script>x</script>" = 1:9, b = 9:1, check.names = FALSE),
    tempfile(fileext = ".html")
  )
  expect_false(any(grepl("<script>", readLines(hostile), fixed = TRUE)))
})

test_that("labels on the columns of a data frame come in, and are given back", {
  frame <- data.frame(id = 1:12)
  frame$mood <- structure(c(1, 2, 3, 4, 5, 9, 1, 2, 3, 4, 5, 3),
    label = "I enjoy the lessons", na_values = 9,
    labels = c("Strongly disagree" = 1, Disagree = 2, Neutral = 3, Agree = 4, "Strongly agree" = 5, "No answer" = 9)
  )
  frame$place <- structure(rep(1:3, 4), labels = c(Mill = 1, Canal = 2, Brook = 3))
  frame$ends <- structure(c(1:5, 1:5, 2, 3), labels = c("not at all" = 1, very = 5))
  frame$year <- factor(rep(c("first", "second", "third"), 4), ordered = TRUE)
  study <- as_study(frame)
  book <- codebook(study)
  expect_identical(book$level[-1], c("ordinal", "nominal", "ordinal", "ordinal"))
  expect_identical(book$values[2], "1 = Strongly disagree < 2 = Disagree < 3 = Neutral < 4 = Agree < 5 = Strongly agree")
  expect_identical(book$values[4], "1 = not at all < 2 < 3 < 4 < 5 = very")
  expect_identical(study$data$mood[6], NA_real_)
  expect_match(format(study$provenance$decisions), "place: unordered categories by their labels.*1 = Mill < 2 = Canal",
    all = FALSE
  )
  back <- as.data.frame(study)
  expect_identical(attr(back$mood, "labels"), attr(frame$mood, "labels")[1:5])
  expect_identical(attr(back$mood, "label"), "I enjoy the lessons")
  expect_identical(attr(back$mood, "na_values"), 9)
  expect_identical(codebook(as_study(back))$values, book$values)
  # Codes that run against their words stay as they are, and it is said.
  turned <- as_study(data.frame(q = structure(rep(1:3, 4), labels = c(Agree = 1, Neutral = 2, Disagree = 3))))
  expect_match(format(turned$provenance$decisions), "from \"Agree\" to \"Disagree\"", all = FALSE)
})
