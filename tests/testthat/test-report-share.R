# What is handed on: who the cases are, their rows and small groups stay back unless a brief says otherwise.

set.seed(12)
people <- data.frame(
  name = sprintf("%s %s", c("Ada", "Bela", "Cleo", "Dora", "Emil"), rep(c(
    "Moreno", "Novak", "Okoye", "Peters", "Quinn", "Rossi",
    "Sato", "Tanaka", "Ueda", "Vargas", "Weber", "Xu"
  ), each = 5)),
  hours = round(rexp(60, .2), 1), reading = rep(c("no", "yes"), c(57, 3)), partner = rep(c("no", "yes"), 30)
)
people$score <- round(50 + 2 * people$hours + rnorm(60, 0, 5))
people$email <- tolower(gsub(" ", ".", paste0(people$name, "@school.example")))
people$comment <- paste("I liked the", sample(letters, 60, TRUE), "part of course number", 1:60, "most of all")

run_shared <- function(share, env = parent.frame(), formats = "[html]", leave = "leave_out: {Cleo Novak: ill on the day}") {
  home <- withr::local_tempdir(.local_envir = env)
  data.table::fwrite(people, file.path(home, "people.csv"))
  writeLines(c(
    "data: {file: people.csv}", "pairs: [{x: hours, y: score}, {x: partner, y: score}, {x: reading, y: score}]",
    "matrix: {}", paste0("report: {formats: ", formats, "}"), leave, share
  ), file.path(home, "b.yml"))
  run_brief(file.path(home, "b.yml"), out = file.path(home, "out"), quiet = TRUE)
}
# All that a reader can read in a folder: texts, tables, and the parts of documents.
texts_in <- function(folder) {
  plain <- list.files(folder, "[.](json|html|csv|Rmd|qmd|svg|txt)$", recursive = TRUE, full.names = TRUE)
  packed <- list.files(folder, "[.](docx|xlsx|pptx)$", full.names = TRUE)
  parts <- unlist(lapply(packed, function(path) {
    place <- tempfile("parts-")
    utils::unzip(path, exdir = place)
    list.files(place, "[.](xml|rels)$", recursive = TRUE, full.names = TRUE)
  }))
  paste(unlist(lapply(c(plain, parts), readLines, warn = FALSE)), collapse = "\n")
}
names_told <- function(text) {
  sum(vapply(c(people$name, people$email, people$comment), grepl, NA, text, fixed = TRUE, useBytes = TRUE))
}

test_that("by default a folder holds no name, no row, and no group of fewer than five", {
  out <- run_shared(NULL, formats = "[html, docx]")
  text <- texts_in(out)
  expect_identical(names_told(text), 0L)
  expect_identical(setdiff(list.files(file.path(out, "tables")), c(
    "relations.csv", "cautions.csv", "matrix.csv", "moments.csv",
    "lines.csv"
  )), character())
  expect_match(text, "case 8 (ill on the day)", fixed = TRUE)
  expect_match(text, "Cases are identified by their row numbers")
  expect_match(text, "fewer than 5 cases are not reported")
  # The three who read: neither their number nor their mean, nor what tells them.
  document <- jsonlite::fromJSON(file.path(out, "results.json"), simplifyVector = FALSE)
  expect_null(document$pairs[[3]]$relation$groups)
  expect_false(any(vapply(document$pairs[[3]]$relation$cautions, function(one) one$code == "rare_category", NA)))
  expect_identical(vapply(document$pairs[[2]]$relation$groups, `[[`, 0L, "n"), c(30L, 29L))
  of_reading <- Find(function(one) one$variable == "reading", document$variables)
  expect_null(of_reading$mean)
  expect_length(list.files(file.path(out, "figures"), "pair-3"), 0L)
  moments <- read.csv(file.path(out, "tables", "moments.csv"))
  expect_false("reading" %in% c(moments$x, moments$y))
  expect_no_match(readLines(file.path(out, "report.html")), "class='case'", all = TRUE)
  found <- verify_results(out)
  expect_identical(c(nrow(found$different), found$from == "moments"), c(0L, 1L))
  whole <- verify_results(out, file.path(dirname(out), "people.csv"))
  expect_identical(nrow(whole$different), 0L)
  expect_gt(length(whole$checked), 10L)
})

test_that("a brief may hand on names and rows, or nothing at all", {
  own <- run_shared("share: {names: own, rows: all, least: 1}")
  text <- texts_in(own)
  expect_gt(names_told(text), 55L)
  expect_false(any(vapply(c(people$email, people$comment), grepl, NA, text, fixed = TRUE)))
  rows <- read.csv(file.path(own, "tables", "rows_used.csv"))
  expect_identical(dim(rows), c(59L, 5L))
  expect_match(readLines(file.path(own, "report.html")), "class='case'", all = FALSE)
  document <- jsonlite::fromJSON(file.path(own, "results.json"), simplifyVector = FALSE)
  expect_identical(vapply(document$pairs[[3]]$relation$groups, `[[`, 0L, "n"), c(56L, 3L))
  none <- run_shared("share: {names: none, rows: none}")
  expect_identical(names_told(texts_in(none)), 0L)
  expect_false(any(c("moments.csv", "rows_used.csv") %in% list.files(file.path(none, "tables"))))
  expect_match(texts_in(none), "a case (ill on the day)", fixed = TRUE)
  expect_error(verify_results(none), "neither rows nor moments", class = "unsere_error_input")
  expect_identical(nrow(verify_results(none, file.path(dirname(none), "people.csv"))$different), 0L)
  expect_error(run_shared("share: {names: theirs}"), "share.names", class = "unsere_error_input")
  # A page of one pair, too.
  page <- withr::local_tempfile(fileext = ".html")
  write_report(as_study(people), page, hours, score)
  expect_identical(names_told(paste(readLines(page), collapse = "\n")), 0L)
  write_report(as_study(people), page, hours, score, names = "own")
  expect_gt(names_told(paste(readLines(page), collapse = "\n")), 50L)
})

test_that("numbers are not taken for persons from one week to the next", {
  first <- run_shared(NULL)
  second <- run_brief(file.path(dirname(first), "b.yml"),
    since = first,
    out = file.path(dirname(first), "next"), quiet = TRUE
  )
  expect_no_match(readLines(file.path(second, "changes.txt")), "person|in both", all = TRUE)
})

test_that("columns that look personal are told and are no measures", {
  with_columns <- function(...) {
    data <- data.frame(hours = people$hours, score = people$score, ...)
    study <- as_study(data)
    list(
      role = stats::setNames(codebook(study)$role, codebook(study)$variable)[-(1:2)],
      told = unname(format(study$provenance$decisions)["personal"])
    )
  }
  birth <- as.Date("2001-03-04") + sample(3000, 60)
  personal <- list(
    "first name" = sub(" .*", "", paste0(letters[1:20], people$name)), "E-Mail-Adresse" = people$email,
    kontakt = people$email,
    "date of birth" = birth, Geburtsdatum = format(birth, "%d.%m.%Y"), phone = sprintf("+44 20 7946 %04d", 1:60),
    erreichbar = sprintf("0%d 555-%04d", 300:359, 1:60), "Home address" = sprintf("%d Mill Lane", 1:60),
    wohnt = sprintf("Hauptstra\u00dfe %d", 1:60), "IP" = sprintf("10.0.%d.7", 1:60),
    device = sprintf("00:1b:44:11:3a:%02x", 1:60),
    "What could be better?" = people$comment, who = people$name
  )
  for (name in names(personal)) {
    found <- do.call(with_columns, c(stats::setNames(personal[name], name), check.names = FALSE))
    expect_true(unname(found$role) %in% c("about", "case"), label = name)
    expect_match(found$told, name, fixed = TRUE)
  }
  plain <- list(
    name = rep(c("North", "South"), 30), centre = rep(c("Mill", "Quay", "Brook"), 20), grade = sample(6, 60, TRUE),
    postcode_area = sample(20, 60, TRUE), course = rep(c("Spanish A1", "Spanish A2", "French A1"), 20),
    birth_year = 1960 + 1:60,
    income = round(rexp(60) * 1e5), "How often do you read?" = rep(c("Never", "Sometimes", "Often"), 20),
    town = rep(c("East Brook", "West Brook"), 30), date = as.Date("2024-01-01") + 1:60, code = sprintf("A%03d", 1:60)
  )
  for (name in names(plain)) {
    found <- do.call(with_columns, c(stats::setNames(plain[name], name), check.names = FALSE))
    expect_true(is.null(found$told) || is.na(found$told), label = paste(name, found$told))
  }
  expect_match(format(overview(as_study(people))), "appears personal: name", all = FALSE)
})
