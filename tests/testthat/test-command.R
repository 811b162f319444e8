learners <- demo_file("learners.csv")

test_that("each form of output says the same, JSON with every digit", {
  found <- relate(read_study(learners), practice_hours, speaking_score)
  json <- unsere("relate", learners, "practice_hours", "speaking_score", "--format", "json")
  expect_equal(json$status, 0)
  parsed <- jsonlite::fromJSON(json$out)
  expect_identical(names(parsed)[1:25], c("kind", "version", names(as.data.frame(found)), "cautions", "sentence"))
  for (field in c("r", "p", "log10_p", "ci_low", "value")) expect_identical(parsed[[field]], found[[field]])
  expect_identical(parsed$sentence, in_words(found))
  csv <- utils::read.csv(text = unsere("relate", learners, "practice_hours", "speaking_score", "--format=csv")$out)
  expect_identical(csv$r, found$r)
  expect_match(unsere("relate", learners, "practice_hours", "speaking_score", "--format=markdown")$out,
    "^\\| Weekly practice",
    all = FALSE
  )
  expect_identical(
    unsere("relate", learners, "practice_hours", "speaking_score")$out,
    format(found, door = unsere:::door_shell(learners))
  )
})

test_that("a line in JSON carries terms and variance, what is not defined as null", {
  json <- unsere("line", demo_file("dial.csv"), "dial", "level_db", "--format", "json")
  parsed <- jsonlite::fromJSON(json$out)
  fit <- fit_line(demo_study("dial"), dial, level_db)
  expect_identical(parsed$terms$estimate, fit$terms$estimate)
  expect_identical(parsed$terms$p, fit$terms$p)
  expect_identical(is.na(parsed$variance$f), c(FALSE, TRUE, TRUE))
  expect_length(parsed$predictions, 0)
})

test_that("standard input, negative values and codes work, and the file stays as it is", {
  before <- tools::md5sum(learners)
  from_input <- unsere("relate", "-", "x", "y", "--missing-codes", "-9,-8", "--format", "csv",
    input = c("x\ty", "1\t2", "2\t1", "-9\t5", "4\t4", "5\t-8", "6\t7")
  )
  expect_equal(utils::read.csv(text = from_input$out)$n, 4)
  expect_equal(unsere("relate", learners, "m1", "m2", "--missing-codes=-9", "--quiet")$status, 0)
  expect_identical(tools::md5sum(learners), before)
})

test_that("bad use and bad input get one or two lines and the right status", {
  constant <- csv_file("a,b,c", "1,5,x", "2,5,1", "3,5,2")
  cases <- list(
    list(2, "no command", "relat"), list(2, "Did you mean --format", "relate", learners, "m1", "m2", "--formt", "json"),
    list(2, "Y is missing", "relate", learners, "m1"),
    list(2, "one word too many", "relate", learners, "m1", "m2", "m3"),
    list(2, "between 0 and 1", "relate", learners, "m1", "m2", "--confidence", "95"),
    list(2, "needs a value", "relate", learners, "m1", "m2", "--format"),
    list(2, "takes one number", "relate", learners, "m1", "m2", "--confidence", "high"),
    list(2, "is the data file", "relate", constant, "a", "c", "--out", constant),
    list(3, "no file", "relate", "nowhere.csv", "a", "b"),
    list(3, "Did you mean practice_hours", "relate", learners, "practice_hour", "m1"),
    list(3, "contains text", "line", learners, "centre", "m1"), list(3, "\"x\" in row 2", "relate", constant, "a", "c"),
    list(4, "b is 5 in all 3", "relate", constant, "a", "b"),
    list(4, "complete pairs", "relate", csv_file("a,b", "1,2", "2,1"), "a", "b")
  )
  for (case in cases) {
    result <- do.call(unsere, case[-(1:2)])
    expect_identical(result$status, as.integer(case[[1]]))
    expect_match(paste(result$err, collapse = " "), case[[2]], fixed = TRUE)
    expect_lte(length(result$err), 2)
    expect_length(result$out, 0)
  }
  expect_identical(readLines(constant)[1], "a,b,c")
})

test_that("help, version and examples work on every command", {
  expect_match(unsere()$out, "unsere demo", all = FALSE)
  expect_match(unsere("--version")$out, "^unsere \\d")
  for (name in c("look", "relate", "matrix", "line", "draw", "demo")) {
    help <- unsere(name, "--help")
    expect_equal(help$status, 0)
    expect_match(help$out, "^Example", all = FALSE)
    example <- strsplit(trimws(help$out[length(help$out)]), " ")[[1]][-1]
    if (name != "demo") withr::with_tempdir(expect_equal(do.call(unsere, as.list(example))$status, 0))
  }
})

test_that("figures and the demo page are written where asked", {
  withr::with_tempdir({
    expect_equal(unsere(
      "draw", "scatter", learners, "commute_min", "listening_score", "--by", "centre", "--out",
      "a.png"
    )$status, 0)
    expect_gt(file.size("a.png"), 20000)
    expect_equal(unsere("draw", "scatter", learners, "m1", "m2", "--out", "a.gif")$status, 2)
    expect_equal(unsere("draw", "scater", learners, "m1", "m2", "--out", "a.png")$status, 2)
    demo <- unsere("demo", "--out", "here")
    expect_match(demo$out, "here/report.html", all = FALSE)
    expect_gt(file.size("here/report.html"), 20000)
    # The advice of the relation above works as it stands.
    said <- paste(trimws(demo$out), collapse = " ")
    advised <- regmatches(said, regexpr("line here/data/learners.csv [a-z_ ]+ --shape [a-z,]+", said))
    expect_equal(do.call(unsere, as.list(strsplit(advised, " ")[[1]]))$status, 0)
    # What was changed there stays.
    write("x,y\n1,2", "here/data/learners.csv")
    again <- unsere("run", demo_file("dial.yml"), "--out", "here")
    expect_match(again$err, "Kept, as they were added or edited since: data/ \\(\\d+ files\\)$", all = FALSE)
    unsere:::lay_out_demo("here/data")
    expect_identical(readLines("here/data/learners.csv"), c("x,y", "1,2"))
    expect_identical(readLines("here/data/dial.csv"), readLines(demo_file("dial.csv")))
  })
})

test_that("results go to a file on request, in every form, and only there", {
  withr::with_tempdir({
    for (form in c("text", "json", "csv", "markdown")) {
      said <- unsere("line", demo_file("dial.csv"), "dial", "level_db", "--format", form, "--out", "out.txt")
      expect_equal(said$status, 0)
      expect_length(said$out, 0)
      expect_match(said$err, "Written to out.txt")
      expect_identical(
        readLines("out.txt", encoding = "UTF-8"),
        unsere("line", demo_file("dial.csv"), "dial", "level_db", "--format", form)$out
      )
    }
    expect_length(unsere("look", demo_file("dial.csv"), "--out", "out.txt", "--quiet")$err, 0)
    expect_equal(unsere("look", demo_file("dial.csv"), "--out", "none/out.txt")$status, 3)
    expect_equal(unsere("look", demo_file("dial.csv"), "--format", "yaml")$status, 2)
  })
})

test_that("each kind of figure is drawn, and a wrong number of variables is answered", {
  withr::with_tempdir({
    for (kind in c("distribution", "quantiles", "box")) {
      expect_equal(unsere("draw", kind, learners, "practice_hours", "--compare-log", "--out", "f.svg")$status, 0)
      expect_gt(file.size("f.svg"), 3000)
    }
    wrong <- unsere("draw", "scatter", learners, "practice_hours", "--out", "f.svg")
    expect_equal(wrong$status, 2)
    expect_match(wrong$err[1], "takes 2 variables, not 1")
    expect_match(unsere("draw", "boxx", learners, "m1", "--out", "f.svg")$err[2], "Did you mean box")
  })
})

test_that("in the C locale a phi, a matrix with a pair that stands out and their tables come out in plain letters", {
  demo <- dirname(learners)
  for (words in list(
    c("relate", "learners.csv", "study_partner", "prior_course"), c("matrix", "learners.csv"),
    c("matrix", "learners.csv", "m1", "m2", "m4", "--format=markdown"), c("flag", "town_years.csv"),
    c("relate", "learners.csv", "m1", "m4", "--coefficient=tau-b")
  )) {
    words[2] <- file.path(demo, words[2])
    got <- unsere(words, env = "LC_ALL=C")
    expect_identical(got$status, 0L, label = paste(words, collapse = " "))
    expect_false(any(grepl("[^ -~]", c(got$out, got$err))), label = paste(words, collapse = " "))
  }
})

test_that("values that made faults are answered", {
  dial <- demo_file("dial.csv")
  out <- withr::local_tempfile(fileext = ".png")
  line <- c("line", dial, "dial", "level_db")
  drawn <- c("draw", "scatter", dial, "dial", "level_db", "--out", out)
  asked <- list(
    list(2, c("look", dial, "--header-row=999999999999")), list(2, c(line, "--shape=")), list(2, c(drawn, "--width=0")),
    list(2, c(drawn, "--width=-1")), list(2, c(drawn, "--width=1000")), list(2, c(drawn, "--height=1e5")),
    list(2, c(line, "--solve=1e308")), list(3, c("look", dial, "--codebook=.")), list(0, c("flag", dial, "dial", "level_db"))
  )
  for (one in asked) {
    expect_no_warning(said <- capture.output(status <- suppressMessages(run_command(one[[2]]))))
    expect_identical(status, as.integer(one[[1]]), label = paste(one[[2]], collapse = " "))
    expect_no_match(paste(said, collapse = " "), "Inf|NaN")
  }
  expect_false(file.exists(out))
})

test_that("what is not defined is an empty cell in CSV and a dash in text, never R's words for it", {
  file <- csv_file("a,b,c,d", "1,2,5,1", "2,5,5,", "3,1,5,", "4,8,5,2", "5,5,5,")
  asked <- list(
    c("matrix", file), c("matrix", file, "--list"), c("look", file), c("line", file, "a", "b", "--solve=4")
  )
  for (words in asked) {
    table <- capture.output(suppressMessages(run_command(c(words, "--format=csv", "--quiet"))))
    expect_false(any(grepl("(^|,)\"?-?(NA|NaN|Inf)\"?(,|$)", table)), label = paste(words, collapse = " "))
    text <- capture.output(suppressMessages(run_command(c(words, "--quiet"))))
    expect_false(any(grepl("(^|[ (\\[])-?(NA|NaN|Inf)([] ,)]|$)", text)), label = paste(words, collapse = " "))
  }
})
