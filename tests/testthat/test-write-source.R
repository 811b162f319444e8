# What data, labels and briefs say stays text in every form: nothing of it runs, and nothing breaks the form.

hostile <- function(mark) {
  c(
    sprintf("`r file.create('%s')`", mark), sprintf("`r file.create('%s')#`", mark), "</script><script>alert(1)</script>",
    "\\input{x} $x^2$ %", "{=html} | a | b |", "\" onload=\"x", "]] ```{r} stop() ```", "\033[31mred\007"
  )
}

test_that("no text of data, labels or briefs runs when the source is knit, or breaks the page or the tables", {
  for (k in c(1, 4, 7)) {
    folder <- withr::local_tempdir()
    mark <- file.path(folder, "ran")
    text <- rep(hostile(mark), 2)[k + 0:3]
    plain <- gsub("[[:cntrl:]]", "", text)
    data <- data.frame(paste0(text[1], 1:12), c(3, 1, 4, 1, 5, 9, 2, 6, 5, 3, 5, 8), b = 1:12)
    names(data)[1:2] <- c("name", text[2])
    data.table::fwrite(data, file.path(folder, "own.csv"))
    heading <- names(read_study(file.path(folder, "own.csv"))$data)[2]
    brief <- c(
      paste("title:", unsere:::yaml_word(plain[3])), paste("question:", unsere:::yaml_word(plain[4])),
      "data: {file: own.csv}", paste("# ", plain[1]),
      sprintf("variables: {b: {label: %s}}", unsere:::yaml_word(plain[3])),
      sprintf("pairs: [{x: %s, \"y\": b}]", unsere:::yaml_word(heading)), "share: {names: own, rows: all}"
    )
    writeLines(enc2utf8(brief), file.path(folder, "own.yml"), useBytes = TRUE)
    out <- run_brief(file.path(folder, "own.yml"), quiet = TRUE)
    page <- paste(readLines(file.path(out, "report.html"), warn = FALSE, encoding = "UTF-8"), collapse = "\n")
    expect_no_match(page, "<script>alert", fixed = TRUE)
    expect_false(grepl("[\001-\010\013\014\016-\037]", page, perl = TRUE))
    expect_no_error(xml2::read_html(page))
    source <- readLines(file.path(out, "report.Rmd"), warn = FALSE, encoding = "UTF-8")
    expect_false(any(grepl("`r|```", source)))
    quarto <- readLines(file.path(out, "report.qmd"), warn = FALSE, encoding = "UTF-8")
    expect_false(any(grepl("`r|```|{{<", quarto, perl = TRUE)))
    expect_identical(quarto[-(1:6)], source[-(1:6)])
    rows <- utils::read.csv(file.path(out, "tables", "rows_used.csv"))
    expect_identical(nrow(rows), 12L)
    knitr::knit(file.path(out, "report.Rmd"), file.path(folder, "knit.md"), quiet = TRUE, envir = new.env())
    expect_false(file.exists(mark))
  }
})

test_that("titles and lines of a brief stay text when the source is rendered, too", {
  skip_if(!nzchar(Sys.which("pandoc")), "no pandoc")
  folder <- withr::local_tempdir()
  script <- "<script>alert(1)</script><img src=x onerror=alert(1)> [a](javascript:alert(1)) **b**"
  data.table::fwrite(data.frame(a = c(3, 1, 4, 1, 5, 9), b = 1:6), file.path(folder, "own.csv"))
  writeLines(c(
    sprintf("title: %s", unsere:::yaml_word(script)), sprintf("question: %s", unsere:::yaml_word(paste("Is it", script))),
    "data: {file: own.csv}", "pairs: [{x: a, \"y\": b}]", "report: {formats: [html]}", "variables:", "  a:",
    "    label: |", "      a",
    "      ~~~", "      <script>alert(1)</script>"
  ), file.path(folder, "own.yml"))
  out <- run_brief(file.path(folder, "own.yml"), quiet = TRUE)
  for (name in c("report.Rmd", "report.qmd")) {
    page <- file.path(folder, "page.html")
    system2("pandoc", c("-f", "markdown", "-s", shQuote(file.path(out, name)), "-o", shQuote(page)), stderr = FALSE)
    text <- paste(readLines(page, warn = FALSE), collapse = "\n")
    expect_match(text, "alert(1)", fixed = TRUE)
    expect_no_match(text, "<script>alert|<img src=x|href=\"javascript|<strong>b")
  }
})

test_that("tables in Markdown carry neither tags nor code nor links of the data's own", {
  data <- data.frame(a = c(3, 1, 4, 1, 5, 9, 2), b = 1:7)
  names(data) <- c("<img src=x onerror=alert(1)>", "`r 1` [x](javascript:1)")
  study <- as_study(data)
  path <- withr::local_tempfile(fileext = ".md")
  for (result in list(correlation_matrix(study), relate(study, !!names(data)[1], !!names(data)[2]), overview(study))) {
    write_tables(result, path)
    text <- c(readLines(path), unsere:::as_markdown(result))
    expect_no_match(text, "<img|`|\\]\\(", all = TRUE)
  }
})

test_that("cells that a spreadsheet would compute are led by an apostrophe, numbers stay as they are", {
  table <- data.frame(name = c("=1+1", "+x", "@a", "-b", "plain"), value = c(-1.5, 2, NA, 4, 5))
  lines <- unsere:::as_csv(table)
  expect_identical(lines, c("name,value", "'=1+1,-1.5", "'+x,2", "'@a,", "'-b,4", "plain,5"))
  cells <- c("-2+3+cmd|' /C calc'!A0", " =1", "\uff1d1+1", "-5", "-5.5e-3", "+44 20", "-9; -8", "-5 to 5", "2-1")
  guarded <- unsere:::as_csv(data.frame(a = cells))[-1]
  expect_identical(guarded, c(
    "'-2+3+cmd|' /C calc'!A0", "' =1", "'\uff1d1+1", "-5", "-5.5e-3", "'+44 20",
    "\"-9; -8\"", "-5 to 5", "2-1"
  ))
  expect_identical(unsere:::unguard_text(unsere:::guard_text(cells)), cells)
  # A codebook, too, and it comes back as it was.
  study <- set_variable(as_study(data.frame(a = c(1:9, -9), b = 10:1), missing_codes = -9), "a",
    label = "-2+3+cmd|x", source = "=1"
  )
  book <- withr::local_tempfile(fileext = ".csv")
  write_codebook(study, book)
  expect_match(readLines(book), "'-2+3+cmd", fixed = TRUE, all = FALSE)
  expect_identical(codebook(as_study(data.frame(a = 1:9, b = 9:1), book))$label[1], "-2+3+cmd|x")
})

test_that("an archive that names files outside of it writes none, and the terminal gets no steering", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("learners.xlsx"), folder)
  victim <- file.path(folder, "victim.txt")
  writeLines("mine", victim)
  evil <- file.path(folder, "learners.xlsx")
  code <- sprintf("import zipfile; zipfile.ZipFile('%s', 'a').writestr('%s%s', 'theirs')", evil, strrep("../", 20), victim)
  skip_if(system2("/usr/bin/python3", c("-c", shQuote(code))) != 0, "no Python")
  expect_identical(nrow(read_study(evil)$data), 240L)
  expect_identical(readLines(victim), "mine")
  file <- csv_file("na\033[2Jme,x,y", "\033[31mA\033[0m,1,2", "B,2,1", "C,4,5", "D,3,3", "E,90,80")
  said <- c(
    capture.output(run_command(c("look", file))), capture.output(run_command(c("relate", file, "x", "y")))
  )
  expect_false(any(grepl("\033", said)))
})
