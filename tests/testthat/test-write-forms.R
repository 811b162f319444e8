run_demo_brief <- function(name) {
  folder <- withr::local_tempdir(.local_envir = parent.frame())
  run_brief(demo_file(name), out = file.path(folder, "out"), quiet = TRUE)
}

test_that("the page has one top heading, headings in order, a text for every picture and nothing from elsewhere", {
  out <- run_demo_brief("pulse.yml")
  page <- paste(readLines(file.path(out, "report.html"), warn = FALSE), collapse = "\n")
  headings <- as.integer(gsub("[^0-9]", "", regmatches(page, gregexpr("<h[1-6]", page))[[1]]))
  expect_equal(sum(headings == 1), 1)
  expect_true(all(diff(headings) <= 1))
  figures <- lengths(regmatches(page, gregexpr("<figure>", page)))
  expect_equal(lengths(regmatches(page, gregexpr("aria-label=\"[^\"]{10,}\">\\s*<svg", page))), figures)
  without_namespaces <- gsub("xmlns(:[a-z]+)?=['\"][^'\"]*['\"]", "", page)
  expect_false(grepl("(src|href)=[\"'](https?:)?//", without_namespaces))
  # The document of the same run: headings by style, tables that stay tables, a caption for each.
  document <- officer::docx_summary(officer::read_docx(file.path(out, "report.docx")))
  expect_identical(document$text[document$style_name %in% "heading 1"], "The tutors' weekly pulse")
  expect_gt(sum(document$style_name %in% "heading 2"), 5)
  captions <- document$text[document$style_name %in% "table title"]
  tables <- length(unique(document$doc_index[document$content_type == "table cell"]))
  expect_equal(length(captions), tables)
  expect_identical(sub("^Table ([0-9]+)\\..*$", "\\1", captions), as.character(seq_along(captions)))
  # Every picture of the document has its text.
  folder <- withr::local_tempdir()
  utils::unzip(file.path(out, "report.docx"), "word/document.xml", exdir = folder)
  xml <- paste(readLines(file.path(folder, "word", "document.xml"), warn = FALSE), collapse = "")
  texts <- regmatches(xml, gregexpr("<wp:docPr [^>]*descr=\"[^\"]{10,}\"", xml))[[1]]
  expect_equal(length(texts), figures)
  # The slides: a title each, no type under 20 points.
  deck <- officer::pptx_summary(officer::read_pptx(file.path(out, "report.pptx")))
  expect_gte(length(unique(deck$slide_id)), 5)
  # The first holds the answer, r, its strip, and what it rests on.
  first <- deck[deck$slide_id == 1, ]
  said <- gsub("\u00a0", " ", paste(stats::na.omit(first$text), collapse = " "))
  expect_match(said, "higher values of energy for teaching.*rs = \\.43 \\[\\.10, \\.67\\].*38 cases")
  expect_true("image" %in% first$content_type)
  utils::unzip(file.path(out, "report.pptx"), exdir = folder)
  slides <- list.files(file.path(folder, "ppt", "slides"), "xml$", full.names = TRUE)
  sizes <- unlist(lapply(slides, function(slide) {
    text <- paste(readLines(slide, warn = FALSE), collapse = "")
    as.integer(gsub("[^0-9]", "", regmatches(text, gregexpr(" sz=\"[0-9]+\"", text))[[1]]))
  }))
  expect_true(all(sizes >= 2000))
})

test_that("page, table, workbook and JSON of one run hold the same figures", {
  out <- run_demo_brief("dial.yml")
  json <- jsonlite::fromJSON(file.path(out, "results.json"), simplifyDataFrame = FALSE)
  csv <- utils::read.csv(file.path(out, "tables", "relations.csv"))
  book <- openxlsx::read.xlsx(file.path(out, "tables.xlsx"), "relations")
  expect_identical(csv$r, json$pairs[[1]]$relation$r)
  expect_equal(book$r, csv$r, tolerance = 1e-14)
  # Each figure on a sheet of its own, as a picture.
  figures <- length(list.files(file.path(out, "figures"), "svg$"))
  expect_equal(sum(grepl("^Figure [0-9]+$", openxlsx::getSheetNames(file.path(out, "tables.xlsx")))), figures)
  parts <- utils::unzip(file.path(out, "tables.xlsx"), list = TRUE)$Name
  expect_length(grep("^xl/media/.*png$", parts), figures)
  page <- paste(readLines(file.path(out, "report.html"), warn = FALSE), collapse = " ")
  expect_match(page, unsere:::format_r(csv$r), fixed = TRUE)
  lines <- utils::read.csv(file.path(out, "tables", "lines.csv"))
  expect_identical(lines$estimate, vapply(json$pairs[[1]]$line$terms, `[[`, 0, "estimate"))
})

test_that("the source knits again into a page with the same text", {
  skip_if_not(rmarkdown::pandoc_available(), "pandoc is not there")
  out <- run_demo_brief("dial.yml")
  knitted <- rmarkdown::render(file.path(out, "report.Rmd"), output_file = "again.html", quiet = TRUE)
  text <- paste(readLines(knitted, warn = FALSE), collapse = " ")
  expect_true(grepl("How loud is each setting of the dial?", text, fixed = TRUE)) # the text is too long to be shown
  expect_true(grepl("Correlation does not show causation", text, fixed = TRUE))
})

test_that("in plain words: direction, size in units, certainty, and what it does not show", {
  learners <- demo_study("learners")
  pair <- function(x, y, ...) list(relation = relate(learners, x, y), line = fit_line(learners, x, y, ...))
  told <- unsere:::plain_answer(pair("practice_hours", "speaking_score"))
  expect_match(
    told,
    "^Higher values of weekly practice were associated with higher values of speaking score: on average 3.21 points"
  )
  expect_match(told, "large by Cohen \\(1988\\) and statistically significant. Caution: Curvilinear")
  expect_false(grepl("Keep in mind", unsere:::plain_answer(pair("practice_hours", "speaking_score", shape = "log"))))
  expect_match(
    unsere:::plain_answer(pair("age_years", "speaking_score")),
    "not significantly correlated.*cannot be ruled out"
  )
  set.seed(61)
  many <- data.frame(x = rnorm(40000), y = rnorm(40000))
  expect_match(
    unsere:::plain_answer(list(relation = relate(many, x, y))),
    "not significantly correlated; the interval excludes correlations larger than .01"
  )
  town <- demo_study("town_years")
  drift <- list(relation = relate(town, ebook_loans, hives), line = fit_line(town, ebook_loans, hives))
  expect_match(unsere:::plain_answer(drift), "a trend in each is enough.*Do not interpret r = .97")
  yes <- list(relation = relate(learners, study_partner, speaking_score), line = NULL)
  expect_match(unsere:::plain_answer(yes), "^Speaking score was higher with \"yes\" on \"Has a study partner\"")
})

test_that("every figure is in every form: drawings in the page, pictures in the document, on slides and as files", {
  out <- run_demo_brief("learners.yml")
  pictures <- list.files(file.path(out, "figures"), "png$", full.names = TRUE)
  drawings <- list.files(file.path(out, "figures"), "svg$")
  expect_identical(sub("png$", "svg", basename(pictures)), drawings)
  expect_true(all(vapply(pictures, unsere:::is_whole_figure, NA, "png")))
  expect_gt(min(file.size(pictures)), 20000)
  expect_identical(anyDuplicated(tools::md5sum(pictures)), 0L)
  held <- utils::unzip(file.path(out, "report.docx"), list = TRUE)$Name
  expect_length(grep("^word/media/", held), length(pictures))
  folder <- withr::local_tempdir()
  utils::unzip(file.path(out, "report.docx"), exdir = folder)
  expect_setequal(
    unname(tools::md5sum(list.files(file.path(folder, "word", "media"), full.names = TRUE))),
    unname(tools::md5sum(pictures))
  )
  page <- paste(readLines(file.path(out, "report.html"), warn = FALSE), collapse = "")
  expect_identical(lengths(regmatches(page, gregexpr("<svg xmlns=", page))), length(drawings))
})

test_that("a page of many sections has its contents beside it, each a way to its section", {
  folder <- withr::local_tempdir()
  page_of <- function(lines) {
    brief <- file.path(folder, "b.yml")
    writeLines(c(sprintf("data: {file: %s}", demo_file("learners.csv")), lines, "report: {formats: [html]}"), brief)
    out <- run_brief(brief, out = tempfile(tmpdir = folder), quiet = TRUE)
    xml2::read_html(file.path(out, "report.html"))
  }
  long <- page_of("pairs: [{x: practice_hours, y: speaking_score}, {x: age_years, y: speaking_score}]")
  ways <- xml2::xml_attr(xml2::xml_find_all(long, "//nav[@class='contents']//a"), "href")
  expect_gte(length(ways), 6L)
  expect_identical(sub("^#", "", ways), xml2::xml_attr(xml2::xml_find_all(long, "//section[h2]"), "id"))
  # A title that is the question stands once.
  expect_length(xml2::xml_find_all(long, "//header/*"), 1L)
  page <- withr::local_tempfile(fileext = ".html")
  write_report(demo_study("learners"), page, practice_hours, speaking_score)
  expect_length(xml2::xml_find_all(xml2::read_html(page), "//nav"), 0L)
})
