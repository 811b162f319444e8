# Each language has every sentence, with the same places; and what is shown in German holds no English.

withr::local_options(unsere.language = NULL)
german <- list(unsere.language = "de")
english <- paste0("\\b(", paste(c(
  "the", "of", "and", "is", "are", "with", "by", "from", "for", "not", "than", "each", "left", "out", "that", "this", "no",
  "were", "which", "to", "or", "it", "more", "less", "case", "cases", "data", "higher", "lower", "interval", "between",
  "mean", "missing", "used", "line", "values", "other", "all", "one", "two", "rank", "look", "strength", "evidence", "next",
  "report", "up", "down", "trend only", "levels", "changes", "groups", "share", "slope", "estimate", "holds", "cannot"
), collapse = "|"), ")\\b")
expect_german <- function(text, label) {
  text <- text[!is.na(text)]
  # What is to be typed stays as it is.
  calls <- "(compare_lines|fit_line|relate|draw_[a-z]+|derive|set_variable|check_[a-z]+)"
  typed <- paste0(calls, "\\(.*|interval = .*|[a-z_]+\\([^)]*\\)|missing = .*")
  left <- gsub(typed, "", gsub("\u00a0", " ", text))
  found <- unname(grep(english, left, value = TRUE))
  expect_identical(found, character(), label = label)
}

set.seed(3)
size <- 120
umfrage <- data.frame(
  Person = sprintf("P%03d", seq_len(size)), Gruppe = rep(LETTERS[1:6], 20), Stunden = round(rexp(size, 0.3) + 0.1, 1),
  Alter = sample(18:70, size, TRUE), Frau = sample(c("nein", "ja"), size, TRUE), Stufe = sample(5, size, TRUE)
)
umfrage$Punkte <- round(40 + 9 * log(umfrage$Stunden) + rnorm(size, 0, 5) + 5 * (umfrage$Frau == "ja"))
umfrage$Punkte[c(4, 9)] <- NA
umfrage$Alter[7] <- 400
for (k in 1:4) umfrage[[paste0("Item", k)]] <- pmin(5, pmax(1, umfrage$Stufe + sample(-1:1, size, TRUE)))
umfrage$Item4 <- 6 - umfrage$Item4
jahre <- data.frame(Jahr = 1990:2019, Leihen = cumsum(rnorm(30, 4)), Bienen = cumsum(rnorm(30, 3)), Tage = rnorm(30))

test_that("every sentence is said in every language, with the same places", {
  root <- testthat::test_path("..", "..")
  skip_if_not(file.exists(file.path(root, "tools", "language.R")), "the sources are not here")
  tool <- new.env()
  sys.source(file.path(root, "tools", "language.R"), tool)
  for (code in setdiff(languages(), "en")) {
    faults <- tool$language_faults(code, root)
    expect_identical(faults$lacking, character(), label = paste("lacking in", code))
    expect_identical(faults$uneven, character(), label = paste("other places in", code))
  }
  expect_gt(nrow(tool$said_templates(root)), 500)
})

test_that("results print in German, with its marks of numbers, and are the same numbers", {
  withr::local_options(german)
  study <- as_study(umfrage)
  asked <- list(
    relate = relate(study, Stunden, Punkte), binary = relate(study, Frau, Punkte), ranks = relate(study, Stufe, Punkte),
    tau = relate(study, Stufe, Item1, coefficient = "tau-b"), exact = relate(study[1:9, ], Stunden, Punkte, test = "exact"),
    held = relate(study, Stunden, Punkte, given = c(Alter, Frau)), boot = relate(study, Stunden, Punkte,
      interval = "bootstrap", resamples = 99, seed = 1
    ),
    corrected = relate(study, Stunden, Punkte, correct_for = c(Stunden = 0.8)),
    line = fit_line(study, Stunden, Punkte, at = c(3, 90), solve = 50),
    curve = fit_line(study, Stunden, Punkte, "quadratic"),
    log = fit_line(study, Stunden, Punkte, "log"), matrix = correlation_matrix(study),
    by = correlation_matrix(study, Stunden, Punkte, Alter, by = Gruppe),
    items = check_items(study, Item1, Item2, Item3, Item4),
    overview = overview(study), rank = rank_predictors(study, Punkte, Stunden, Alter, Stufe),
    flags = flag_spurious(as_study(jahre), Leihen, Bienen), shared = relate(as_study(jahre), Leihen, Bienen),
    levels = relate_levels(study, Stunden, Punkte, Gruppe), plan = plan_size(r = 0.3, power = 0.8),
    residuals = check_residuals(fit_line(study, Stunden, Punkte)),
    lines = compare_lines(fit_line(study, Stunden, Punkte), fit_line(study, Stunden, Punkte, "log"))
  )
  for (name in names(asked)) {
    expect_german(format(asked[[name]]), name)
    told <- tryCatch(in_words(asked[[name]]), error = function(e) "")
    expect_german(told, paste(name, "in words"))
    expect_no_match(told, "[0-9][.][0-9]{1,2}[^0-9]", label = name)
  }
  # A variable of the data keeps its name, also where the language has a word for it.
  named <- stats::setNames(data.frame(umfrage$Stunden, umfrage$Punkte), c("year", "mean"))
  expect_match(format(fit_line(named, year, mean, at = 3)), "^  year +mean +Mittel", all = FALSE)
  expect_match(
    in_words(asked$relate),
    "korreliert, r\\(116\\) = 0,[0-9]{2}, 95-%-KI \\[0,[0-9]{2}; 0,[0-9]{2}\\], p < 0,001"
  )
  withr::local_options(unsere.language = "en")
  expect_equal(relate(study, Stunden, Punkte)$r, asked$relate$r)
  expect_match(in_words(asked$relate), "positively correlated, r\\(116\\) = [.]")
  withr::local_options(unsere.language = "xx")
  expect_error(in_words(asked$relate), "no language \"xx\"", class = "unsere_error_usage")
  # One that is not there leaves the others as they were.
  withr::local_options(german)
  expect_match(in_words(asked$relate), "korreliert")
})

test_that("a brief sets its report in German: page, document, slides, figures; JSON and CSV keep their numbers", {
  for (package in c("officer", "flextable", "xml2")) skip_if_not_installed(package)
  folder <- withr::local_tempdir()
  data.table::fwrite(umfrage, file.path(folder, "umfrage.csv"))
  writeLines(c(
    "title: Schule am Abend", "question: Gehen Stunden und Punkte zusammen?", "data: {file: umfrage.csv}",
    "variables:", "  Gruppe: {role: group}", "  Person: {role: case}", "pairs:",
    "  - {x: Stunden, 'y': Punkte, predict_at: [5]}", "  - {x: Frau, 'y': Punkte}",
    "matrix: {variables: [Stunden, Punkte, Alter]}", "rank: {outcome: Punkte, predictors: [Stunden, Alter]}",
    "items: {variables: [Item1, Item2, Item3, Item4]}", "settings: {language: de}", "report: {formats: [html, docx, pptx]}"
  ), file.path(folder, "auftrag.yml"))
  out <- file.path(folder, "ergebnis")
  run_brief(file.path(folder, "auftrag.yml"), out = out, quiet = TRUE)
  page <- xml2::read_html(file.path(out, "report.html"))
  expect_identical(xml2::xml_attr(page, "lang"), "de")
  xml2::xml_remove(xml2::xml_find_all(page, "//style|//script|//pre"))
  shown <- xml2::xml_find_all(page, "//p|//td|//th|//h1|//h2|//h3|//li|//figcaption|//caption|//text")
  expect_german(setdiff(grep("Quellen|SHA", xml2::xml_text(shown), value = TRUE, invert = TRUE), "no"), "the page")
  document <- officer::docx_summary(officer::read_docx(file.path(out, "report.docx")))$text
  expect_german(grep("Quellen|SHA|:.*:", document, value = TRUE, invert = TRUE), "the document")
  slides <- officer::pptx_summary(officer::read_pptx(file.path(out, "report.pptx")))$text
  expect_german(unlist(slides), "the slides")
  found <- jsonlite::fromJSON(file.path(out, "results.json"), simplifyVector = FALSE)
  expect_equal(found$pairs[[1]]$relation$r, relate(umfrage, Stunden, Punkte)$r)
  expect_equal(data.table::fread(file.path(out, "tables", "relations.csv"))$r[1], relate(umfrage, Stunden, Punkte)$r)
  expect_identical(verify_results(out)$different, verify_results(out)$different[0, ])
  expect_identical(language_in_use(), "en")
})
