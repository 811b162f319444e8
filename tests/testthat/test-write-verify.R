# What a folder of results says comes out of it again; what was changed is found.

folder_of <- function(lines, data, env = parent.frame()) {
  home <- withr::local_tempdir(.local_envir = env)
  utils::write.csv(data, file.path(home, "data.csv"), row.names = FALSE, na = "")
  share <- if (!any(grepl("^share:", lines))) "share: {names: own, rows: all}"
  writeLines(c("title: t", "data: {file: data.csv, missing_codes: [-9]}", lines, share), file.path(home, "b.yml"))
  run_brief(file.path(home, "b.yml"), out = file.path(home, "out"), quiet = TRUE)
  file.path(home, "out")
}

set.seed(90)
school <- data.frame(
  id = sprintf("P%03d", 1:60), class = rep(letters[1:12], 5), w = round(runif(60, 1, 3), 3), a = rnorm(60) / 3,
  often = sample(c("Never", "Sometimes", "Often", "Always"), 60, TRUE), right = sample(c("yes", "no"), 60, TRUE)
)
school$b <- school$a + rnorm(60)
school$a[4] <- -9
for (k in 1:4) school[[paste0("q", k)]] <- pmin(5, pmax(1, round(3 + school$b + rnorm(60))))

test_that("every kind of figure comes out again from the folder alone, random starts and cases left aside included", {
  out <- folder_of(c(
    "derive: {c: log(b + 10)}", "leave_out: {P007: ill}", "variables: {class: {role: group}}",
    "pairs: [{x: a, y: b, interval: bootstrap}, {x: often, y: c}, {x: right, y: b}, {x: a, y: c, given: [right]}]",
    "matrix: {}", "rank: {outcome: b, predictors: [a, c]}", "items: {variables: [q1, q2, q3, q4]}",
    "report: {formats: [html]}"
  ), school)
  found <- verify_results(out)
  expect_identical(nrow(found$different), 0L)
  expect_gt(found$figures, 400)
  expect_true(found$digest_same)
  expect_identical(c(found$edited, found$lacking, found$added), character())
})

test_that("a design of the brief holds again", {
  out <- folder_of(c("pairs: [{x: a, y: b}]", "design: {weight: w, cluster: class}", "report: {formats: [html]}"), school)
  expect_identical(nrow(verify_results(out)$different), 0L)
})

test_that("a figure, a row, a file that was changed is named, and the command ends with 4", {
  out <- folder_of(c("pairs: [{x: a, y: b}]", "report: {formats: [html]}"), school)
  expect_identical(suppressMessages(capture.output(status <- run_command(c("verify", out)))) |> length() > 3L, TRUE)
  expect_identical(status, 0L)
  results <- file.path(out, "results.json")
  kept <- readLines(results)
  at <- grep("\"r\":", kept)[1]
  writeLines(replace(kept, at, "        \"r\": 0.5,"), results)
  found <- verify_results(out)
  expect_identical(found$different$where, "pairs 1, relation, r")
  expect_identical(found$different$before, "0.5")
  expect_identical(found$same, found$figures - 1L)
  writeLines(kept, results)
  rows <- readLines(file.path(out, "tables", "rows_used.csv"))
  writeLines(rows[-5], file.path(out, "tables", "rows_used.csv"))
  writeLines("mine", file.path(out, "note.txt"))
  unlink(file.path(out, "report.Rmd"))
  text <- capture.output(messages <- capture_messages(status <- run_command(c("verify", out))))
  expect_identical(status, 4L)
  expect_match(paste(text, collapse = "\n"), "Edited since the run: tables/rows_used.csv")
  expect_match(paste(text, collapse = "\n"), "Missing: report.Rmd")
  expect_match(paste(text, collapse = "\n"), "not those of the run")
  expect_error(verify_results(tempdir()), "not written by a brief", class = "unsere_error_input")
})

test_that("a folder shared as moments holds no case, and what it says of Pearson kinds comes out of it again", {
  folder <- withr::local_tempdir()
  file.copy(dirname(demo_file("learners.csv")), folder, recursive = TRUE)
  place <- file.path(folder, basename(dirname(demo_file("learners.csv"))))
  brief <- file.path(place, "shared.yml")
  writeLines(c(
    "data: {file: learners.csv, codebook: codebook.csv}", "share: {rows: moments, names: numbers}",
    "pairs: [{x: practice_hours, y: speaking_score}, {x: attendance_pct, y: listening_score}, {x: confidence, y: m1}]",
    "matrix: {variables: [age_years, practice_hours, speaking_score]}"
  ), brief)
  out <- run_brief(brief, out = file.path(folder, "out"), quiet = TRUE)
  expect_false("rows_used.csv" %in% list.files(file.path(out, "tables")))
  texts <- unlist(lapply(list.files(out, "[.](json|html|csv|Rmd|txt)$", recursive = TRUE, full.names = TRUE), readLines,
    warn = FALSE
  ))
  names <- as.data.frame(demo_study("learners"))$learner
  expect_false(any(vapply(names, function(name) any(grepl(name, texts, fixed = TRUE)), NA)))
  moments <- read.csv(file.path(out, "tables", "moments.csv"))
  row <- moments[moments$x == "practice_hours" & moments$y == "speaking_score", ]
  whole <- relate(demo_study("learners"), practice_hours, speaking_score)
  expect_equal(row$sxy / sqrt(row$sxx * row$syy), whole$r, tolerance = 1e-14)
  checked <- verify_results(out)
  expect_identical(checked$same, checked$figures)
  expect_gte(checked$figures, 12L)
  expect_match(format(checked), "moments in the folder", all = FALSE)
  lines <- readLines(file.path(out, "tables", "moments.csv"))
  writeLines(sub(format(row$n), format(row$n + 1), lines, fixed = TRUE), file.path(out, "tables", "moments.csv"))
  again <- verify_results(out)
  expect_lt(again$same, again$figures)
  expect_identical(again$edited, "tables/moments.csv")
})

test_that("an edited folder does not pass by rewriting its own marks, whatever was edited", {
  out <- folder_of(c(
    "question: \"Do a and b go together?\"", "pairs: [{x: a, y: b, shape: linear}, {x: often, y: b}]",
    "share: {rows: all, names: own}", "report: {formats: [html, docx, pptx]}"
  ), school)
  data <- file.path(dirname(out), "data.csv")
  page <- folder_of(c("pairs: [{x: a, y: b, shape: linear}]", "report: {formats: [html]}"), school)
  document <- function(folder) jsonlite::fromJSON(file.path(folder, "results.json"), simplifyVector = FALSE)
  write_document <- function(folder, value) {
    text <- jsonlite::toJSON(value, auto_unbox = TRUE, null = "null", digits = NA, pretty = TRUE)
    writeLines(text, file.path(folder, "results.json"))
  }
  # What was edited, and the marks beside it as if it had been so from the first.
  tampered <- function(edit, out) {
    folder <- withr::local_tempdir()
    file.copy(list.files(out, full.names = TRUE), folder, recursive = TRUE)
    edit(folder)
    before <- document(folder)
    if (length(before$files)) {
      names <- intersect(names(before$files), list.files(folder, recursive = TRUE))
      before$files[names] <- as.list(unname(tools::md5sum(file.path(folder, names))))
      write_document(folder, before)
    }
    tryCatch(verify_results(folder), error = identity)
  }
  in_text <- function(name, from, to) {
    function(folder) {
      path <- file.path(folder, name)
      text <- readLines(path, warn = FALSE)
      edited <- sub(from, to, text)
      stopifnot(!identical(edited, text))
      writeLines(edited, path)
    }
  }
  in_archive <- function(name, change) {
    function(folder) {
      path <- normalizePath(file.path(folder, name))
      place <- withr::local_tempdir()
      utils::unzip(path, exdir = place)
      change(place)
      unlink(path)
      withr::with_dir(place, utils::zip(path, list.files(".", all.files = TRUE, recursive = TRUE), flags = "-qr9X"))
    }
  }
  # Three folders, each edited in several places at once; the last has a page only.
  kinds <- list(list(
    "report.html" = in_text("report.html", "positively|ot significantly", "o great"),
    "tables/relations.csv" = in_text("tables/relations.csv", "0[.]", "0.9"),
    "report.Rmd" = in_text("report.Rmd", "positively|ot significantly", "o great"),
    "figures/answer.png" = function(folder) {
      file.copy(file.path(folder, "figures", "pair-2.png"), file.path(folder, "figures", "answer.png"), overwrite = TRUE)
    },
    "figures/answer.svg" = in_text("figures/answer.svg", "<circle cx='[0-9.]+'", "<circle cx='99.5'"),
    "tables.xlsx" = function(folder) writeBin(as.raw(1:200), file.path(folder, "tables.xlsx")),
    "report.docx" = in_archive(
      "report.docx",
      function(place) in_text("word/document.xml", "positively|ot significantly", "o great")(place)
    ),
    "report.pptx" = in_archive("report.pptx", function(place) {
      media <- list.files(file.path(place, "ppt", "media"), full.names = TRUE)
      writeBin(as.raw(1:99), media[1])
    }),
    "list of files" = function(folder) {
      value <- document(folder)
      value$files[["../../etc/passwd"]] <- "x"
      write_document(folder, value)
    }
  ), list(
    "report.html" = in_text("report.html", "</body>", "<p style='display:none'>more</p></body>"),
    "tables.xlsx" = function(folder) {
      openxlsx::write.xlsx(data.frame(r = .99), file.path(folder, "tables.xlsx"), overwrite = TRUE)
    },
    "report.docx" = in_archive("report.docx", function(place) writeLines("x", file.path(place, "word", "vbaProject.bin"))),
    "pairs 1, relation, r" = function(folder) {
      value <- document(folder)
      value$pairs[[1]]$relation$r <- -value$pairs[[1]]$relation$r
      write_document(folder, value)
    },
    "lacking" = function(folder) unlink(file.path(folder, "report.pptx")),
    "list of files" = function(folder) {
      value <- document(folder)
      value$files <- stats::setNames(list(), character())
      write_document(folder, value)
    }
  ), list(
    # What ends the reader of workbooks ends nothing here.
    "tables.xlsx" = in_archive("tables.xlsx", function(place) {
      in_text("xl/worksheets/sheet1.xml", "</sheetData>", "<row r=\"99\"><c r=\"A-2\"><v>5</v></c></row></sheetData>")(place)
    }), "report.html" = in_text("report.html", "<circle cx='[0-9.]+'", "<circle cx='99.5'")
  ))
  skip_if_not_installed("officer")
  for (edits in kinds) {
    found <- tampered(function(folder) for (edit in edits) edit(folder), if (length(edits) > 2L) out else page)
    expect_s3_class(found, "unsere_verification")
    expect_false(unsere:::is_confirmed(found))
    told <- paste(c(found$different$where, if (length(found$lacking)) "lacking"), collapse = "; ")
    for (kind in names(edits)) expect_match(told, kind, fixed = TRUE)
  }
  # A sentence that was edited in every place agrees with itself; the data tell it.
  both <- function(folder) {
    in_text("report.html", "positively|ot significantly", "o great")(folder)
    in_text("results.json", "positively|ot significantly", "o great")(folder)
  }
  folder <- withr::local_tempdir()
  file.copy(list.files(page, full.names = TRUE), folder, recursive = TRUE)
  both(folder)
  expect_match(verify_results(folder, file.path(dirname(page), "data.csv"))$different$where, "sentence", all = FALSE)
  expect_true(unsere:::is_confirmed(verify_results(out, data)))
})

test_that("what no run writes is told as damage, and no name leads out of the folder", {
  out <- folder_of(c("pairs: [{x: a, y: b}]", "share: {rows: all}", "report: {formats: [html]}"), school)
  path <- file.path(out, "results.json")
  kept <- readLines(path)
  value <- jsonlite::fromJSON(path, simplifyVector = FALSE)
  odd <- list(
    list("files", 5), list("files", list("a", "b")), list("brief", 5), list("record", "x"), list("version", list(1)),
    list("pairs", 3), list(c("record", "brief"), 7), list(c("record", "columns"), list(1, 2)),
    list(c("record", "codebook"), "x"), list(c("record", "made"), list(date = 5)), list(c("record", "rows"), list("a"))
  )
  for (change in odd) {
    edited <- value
    edited[[change[[1]]]] <- change[[2]]
    writeLines(jsonlite::toJSON(edited, auto_unbox = TRUE, null = "null", digits = NA, pretty = TRUE), path)
    suppressMessages(expect_identical(run_command(c("verify", out)), 3L, label = toString(change[[1]])))
  }
  writeLines(sub("\"brief\": \"b.yml\"", "\"brief\": \"../../b.yml\"", kept, fixed = TRUE), path)
  expect_s3_class(verify_results(out), "unsere_verification")
  expect_false(file.exists(file.path(dirname(tempdir()), "b.yml")))
})
