brief_file <- function(..., folder = withr::local_tempdir(.local_envir = parent.frame())) {
  for (name in c("dial.csv", "pulse_week_14.csv", "pulse_week_15.csv", "codebook.csv")) {
    file.copy(demo_file(name), folder)
  }
  path <- file.path(folder, "brief.yml")
  writeLines(c(...), path)
  path
}
dial_brief <- c(
  "title: Dial", "data: {file: dial.csv, codebook: codebook.csv}", "pairs:",
  "  - {x: dial, y: level_db, predict_at: [4.5]}"
)

test_that("a brief gives the page, tables, figures, JSON and source, with the figures of the functions", {
  path <- brief_file(dial_brief, "share: {rows: all}")
  folder <- run_brief(path, quiet = TRUE)
  expect_setequal(list.files(folder), c(
    "figures", "report.html", "report.qmd", "report.Rmd", "results.json", "tables",
    "tables.xlsx"
  ))
  json <- jsonlite::fromJSON(file.path(folder, "results.json"), simplifyDataFrame = FALSE)
  dial <- read_study(file.path(dirname(path), "dial.csv"))
  expect_identical(json$pairs[[1]]$relation$r, relate(dial, dial, level_db)$r)
  expect_equal(json$pairs[[1]]$line$predictions[[1]]$fit, predict_y(fit_line(dial, dial, level_db), 4.5)$fit,
    tolerance = 1e-15
  )
  page <- paste(readLines(file.path(folder, "report.html"), warn = FALSE), collapse = "\n")
  expect_equal(lengths(regmatches(page, gregexpr("class='case'", page))), nrow(dial$data))
  expect_match(page, "Correlation does not show causation")
  sizes <- openxlsx::getSheetNames(file.path(folder, "tables.xlsx"))
  expect_true(all(c("relations", "lines", "predictions", "rows_used") %in% sizes))
  expect_equal(length(list.files(file.path(folder, "figures"), "svg$")), 2)
  run_brief(path, quiet = TRUE)
  expect_no_drafts(dirname(path))
})

test_that("every mistake of a brief is told with its line and what is allowed", {
  path <- brief_file(
    "title: Dial", "data: {file: dial.csv, sheeet: 1}", "pairs:",
    "  - {x: dial, y: level_db, shape: bent}",
    "settings: {confidence: 95}", "reprot: {formats: [html]}"
  )
  said <- tryCatch(run_brief(path, quiet = TRUE), unsere_error_input = function(e) conditionMessage(e))
  expect_match(said, "4 mistakes: line 2: data.sheeet is no key here; did you mean sheet")
  expect_match(said, "line 4: pairs.1.shape cannot be \"bent\"; allowed: linear, log, quadratic")
  expect_match(said, "line 5: settings.confidence must lie between 0 and 1")
  expect_match(said, "line 6: reprot is no key here; did you mean report")
  broken <- brief_file("title: Dial", "data: {file: dial.csv", "pairs: [")
  expect_error(run_brief(broken, quiet = TRUE), "cannot be read as YAML at line", class = "unsere_error_input")
  wrong <- brief_file("data: {file: dial.csv}", "pairs:", "  - {x: dial, y: lewel}")
  expect_error(run_brief(wrong, quiet = TRUE), "line 3: pairs \"lewel\" is no variable of dial.csv",
    class = "unsere_error_input"
  )
  mixed <- brief_file(
    "data: {file: dial.csv}", "derive:", "  a: log(dail)", "  b: log((", "pairs:", "  - {x: dial, y: lewel}", "reprot: 1"
  )
  said <- tryCatch(run_brief(mixed, quiet = TRUE), unsere_error_input = function(e) conditionMessage(e))
  for (part in c(
    "4 mistakes", "line 7: reprot", "line 4: derive.b cannot be computed", "line 6: pairs \"lewel\"",
    "line 3: derive.a \"dail\" is no variable of dial.csv; did you mean dial"
  )) expect_match(said, part, fixed = TRUE)
  expect_error(run_brief(brief_file("title: *nope"), quiet = TRUE), "does not define", class = "unsere_error_input")
  expect_error(run_brief(brief_file(dial_brief), data = "nix.csv", quiet = TRUE), "no file nix.csv")
  expect_error(run_brief(brief_file("data: {file: none.csv}"), quiet = TRUE), "none.csv of the brief is not there")
  expect_error(run_brief("no-such.yml"), class = "unsere_error_input")
})

test_that("what cannot be answered is told, and the rest goes on", {
  path <- brief_file(
    dial_brief[1:2], "derive: {flat: 0 * dial}", "pairs:", "  - {x: dial, y: flat}",
    "  - {x: dial, y: level_db}"
  )
  said <- character()
  folder <- withCallingHandlers(run_brief(path, quiet = TRUE), message = function(m) {
    said <<- c(said, conditionMessage(m))
    invokeRestart("muffleMessage")
  })
  expect_match(said, "No result for dial and flat: .*a constant", all = FALSE)
  results <- jsonlite::fromJSON(file.path(folder, "results.json"))
  expect_identical(results$unanswered$asked, "dial and flat")
  expect_identical(results$pairs$relation$y, "level_db")
  alone <- brief_file(dial_brief[1:2], "derive: {flat: 0 * dial}", "pairs:", "  - {x: dial, y: flat}")
  expect_error(suppressMessages(run_brief(alone, quiet = TRUE)), class = "unsere_error_undefined")
})

test_that("a starter brief runs as it is, whatever the columns hold", {
  set.seed(88)
  column <- function(n) {
    switch(sample(7, 1),
      rnorm(n),
      rep(3, n),
      rep(NA, n),
      sample(c("yes", "no"), n, TRUE),
      c("x", rnorm(n - 1)),
      sprintf("2024-01-%02d", seq_len(n)),
      sample(5, n, TRUE)
    )
  }
  ran <- 0L
  for (round in 1:12) {
    n <- sample(c(3, 6, 20), 1)
    data <- stats::setNames(as.data.frame(lapply(1:4, function(k) column(n))), c("x", "a: b", "if", "-d"))
    file <- csv_file("x", name = "d.csv")
    utils::write.csv(data, file, row.names = FALSE, na = "")
    starter <- file.path(dirname(file), "b.yml")
    made <- tryCatch(write_brief(read_study(file), starter), unsere_error_input = function(e) NULL)
    if (is.null(made)) next
    ran <- ran + 1L
    read <- unsere:::read_brief(starter)
    expect_error(suppressMessages(unsere:::brief_results(read, unsere:::brief_study(read))), NA)
  }
  expect_gt(ran, 4)
})

test_that("a brief runs no code and writes nowhere but into its own folder", {
  trap <- withr::local_tempfile()
  code <- sprintf("!expr writeLines('x', '%s')", trap)
  path <- brief_file(paste("title:", code), dial_brief[-1])
  try(suppressWarnings(run_brief(path, quiet = TRUE)), silent = TRUE)
  derived <- brief_file(dial_brief, sprintf("derive: {z: \"system('touch %s')\"}", trap))
  expect_error(run_brief(derived, quiet = TRUE), class = "unsere_error")
  expect_false(file.exists(trap))
  for (folder in c("../elsewhere", "/tmp/elsewhere", "a/../../b")) {
    path <- brief_file(dial_brief, sprintf("report: {folder: %s}", folder))
    expect_error(run_brief(path, quiet = TRUE), "outside its own", class = "unsere_error_input")
  }
  path <- brief_file(dial_brief)
  dir.create(file.path(dirname(path), "results"))
  writeLines("mine", file.path(dirname(path), "results", "notes.txt"))
  expect_error(run_brief(path, quiet = TRUE), "not written by Unsere", class = "unsere_error_input")
  expect_identical(list.files(file.path(dirname(path), "results")), "notes.txt")
})

test_that("a run that fails leaves nothing, and the earlier results as they were", {
  path <- brief_file(dial_brief)
  folder <- run_brief(path, quiet = TRUE)
  before <- tools::md5sum(file.path(folder, "results.json"))
  target <- file.path(dirname(path), "results")
  expect_error(unsere:::write_folder(target, function(draft) {
    writeLines("half", file.path(draft, "half.txt"))
    stop("disk full")
  }), "disk full")
  expect_identical(tools::md5sum(file.path(folder, "results.json")), before)
  expect_no_drafts(dirname(path))
})

test_that("titles, labels and case names with marks of HTML, YAML and formulas come out as they are", {
  folder <- withr::local_tempdir()
  odd <- c("<b>x</b>", "=1+1", "a & b", "\"q\"", "`r 1`", "$x$", "# h", "[l](u)", "it's", "\\cmd", "@z", "p|q")
  data.table::fwrite(data.frame(who = odd, a = 1:12, b = (1:12)^1.1 + sin(1:12)), file.path(folder, "odd.csv"))
  writeLines(c(
    "title: \"<script>alert(1)</script> & =2+2\"", "data: {file: odd.csv}", "variables:",
    "  who: {role: case}", "  a: {label: \"<i>A</i> & `r 2`\"}", "pairs:", "  - {x: a, y: b}",
    "report: {formats: [html, docx, pptx]}", "share: {names: own, rows: all}"
  ), file.path(folder, "brief.yml"))
  out <- run_brief(file.path(folder, "brief.yml"), quiet = TRUE)
  page <- paste(readLines(file.path(out, "report.html"), warn = FALSE), collapse = "\n")
  expect_false(grepl("<script>alert", page, fixed = TRUE))
  expect_match(page, "&lt;i&gt;A&lt;/i&gt; &amp; `r 2`", fixed = TRUE)
  expect_identical(openxlsx::read.xlsx(file.path(out, "tables.xlsx"), "rows_used")$who, odd)
  expect_match(paste(readLines(file.path(out, "report.Rmd")), collapse = "\n"), "&#96;r 2&#96;", fixed = TRUE)
  for (file in c("report.docx", "report.pptx")) expect_gt(nrow(utils::unzip(file.path(out, file), list = TRUE)), 10)
})

test_that("next week: what changed is told from the earlier results, and another brief's are refused", {
  folder <- withr::local_tempdir()
  lines <- c(
    "share: {names: own, rows: all}", "data: {file: pulse_week_14.csv, codebook: codebook.csv}", "pairs:",
    "  - {x: support, y: energy}",
    "matrix: {variables: [energy, class_calm, support, workload], highlight: 0.4}"
  )
  path <- brief_file(lines, folder = folder)
  first <- run_brief(path, quiet = TRUE)
  second <- run_brief(path, data = file.path(folder, "pulse_week_15.csv"), since = first, out = file.path(
    folder,
    "later"
  ), quiet = TRUE)
  said <- paste(readLines(file.path(second, "changes.txt"), encoding = "UTF-8"), collapse = " ")
  a <- relate(demo_study("pulse_week_14"), support, energy)
  b <- relate(demo_study("pulse_week_15"), support, energy)
  # Over persons, longhand: each left out of both weeks.
  weeks <- lapply(c("pulse_week_14", "pulse_week_15"), function(name) as.data.frame(demo_study(name)))
  people <- unique(unlist(lapply(weeks, `[[`, "tutor")))
  gap <- function(without = "") {
    z <- vapply(weeks, function(week) {
      kept <- week[!week$tutor %in% without, ]
      atanh(relate(as_study(kept), support, energy, coefficient = a$coefficient)$r)
    }, 0)
    z[2] - z[1]
  }
  left <- vapply(people, gap, 0)
  spread <- sqrt((length(left) - 1) / length(left) * sum((left - gap())^2))
  expect_match(said, sprintf("r = %s, +before %s", unsere:::format_r(b$r), unsere:::format_r(a$r)))
  expect_match(said, sprintf("t\\([0-9]+\\) = %s", unsere:::format_decimals(gap() / spread, 2)))
  expect_match(said, "35 people are in both")
  expect_match(said, "New: 4 cases: T07, T19, T40, T41")
  expect_match(paste(readLines(file.path(second, "report.html"), warn = FALSE), collapse = " "), "What changed")
  history <- draw_history(c(first, second))
  expect_equal(history$data$r, c(a$r, b$r), tolerance = 1e-12)
  expect_error(draw_history(first), "fewer than two", class = "unsere_error_input")
  other <- file.path(folder, "other.yml")
  writeLines(lines, other)
  expect_error(run_brief(other, since = first, quiet = TRUE), "another brief", class = "unsere_error_input")
  expect_error(run_brief(path, since = folder, quiet = TRUE), "no results.json", class = "unsere_error_input")
})

test_that("a starter brief runs as it is, and the demo briefs keep to the schema", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("dial.csv"), folder)
  got <- unsere("brief", file.path(folder, "dial.csv"), "--out", file.path(folder, "brief.yml"))
  expect_equal(got$status, 0)
  expect_equal(unsere("run", file.path(folder, "brief.yml"), "--quiet")$status, 0)
  expect_true(file.exists(file.path(folder, "results", "report.html")))
  expect_error(write_brief(demo_study("dial"), file.path(folder, "brief.yml")), "left alone",
    class = "unsere_error_input"
  )
  for (name in c("learners.yml", "town_years.yml", "pulse.yml", "dial.yml", "test_items.yml")) {
    expect_type(unsere:::read_brief(demo_file(name))$brief, "list")
  }
  starter <- file.path(folder, "learners.yml")
  write_brief(demo_study("learners"), starter)
  expect_silent(unsere:::brief_study(unsere:::read_brief(starter)))
  expect_equal(unsere("run", starter, "--data", "none.csv")$status, 3)
})

test_that("values that are no numbers are refused wherever a brief takes numbers", {
  for (wrong in c("predict_at: [.nan]", "predict_at: [.inf]", "solve: [1e308]", "confidence: .nan")) {
    path <- brief_file("data: {file: dial.csv}", "pairs:", sprintf("  - {x: dial, y: level_db, %s}", wrong))
    expect_error(run_brief(path, quiet = TRUE), class = "unsere_error", label = wrong)
  }
  settings <- brief_file(dial_brief, "settings: {confidence: .nan}")
  expect_error(run_brief(settings, quiet = TRUE), class = "unsere_error_input")
})

test_that("mistakes in a plan, in groups and in the order of a report are told with their lines", {
  told <- function(...) {
    path <- brief_file(c("data: {file: dial.csv}", "pairs:", "  - {x: dial, y: level_db}", ...))
    tryCatch(run_brief(path, quiet = TRUE), unsere_error = function(e) conditionMessage(e))
  }
  expect_match(told("report: {order: [matrix, pears]}"), "line 4.*cannot be \"pears\"; allowed: pairs, matrix, rank")
  expect_match(told("plan: {r: 0.3, powr: 0.8}"), "line 4.*did you mean power")
  expect_match(told("plan: {r: 0.3, power: 8}"), "line 4.*between 0 and 1")
  expect_match(told("levels: [{x: dial, y: lvel_db, group: dial}]"), "line 4.*lvel_db")
  expect_match(told("levels: [{x: dial}]"), "line 4.*needs the key \"y\"")
  # What cannot be planned or grouped is told in the report, and the rest goes on.
  path <- brief_file(c(
    "data: {file: dial.csv}", "pairs:", "  - {x: dial, y: level_db}", "plan: {r: 0.3}",
    "levels: [{x: dial, y: level_db, group: dial}]"
  ))
  folder <- suppressMessages(run_brief(path, quiet = TRUE))
  unanswered <- jsonlite::fromJSON(file.path(folder, "results.json"))$unanswered
  expect_identical(unanswered$asked, c("dial and level_db between groups and within", "the plan"))
  expect_identical(nchar(unanswered$why) > 10, c(TRUE, TRUE))
})
