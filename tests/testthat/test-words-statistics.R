# Statistics set as journals set them, on pages, in documents and tables.

test_that("symbols stand in italics and what is lowered below the line, and nothing else does", {
  set <- function(text, ...) unsere:::statistics_html(text, ...)
  expect_identical(
    set("X and b were correlated, rs(178) = .36, 95% CI [.22, .48], p < .001, n = 12."),
    "X and b were correlated, <i>r</i><sub>s</sub>(178) = .36, 95% CI [.22, .48], <i>p</i> &lt; .001, <i>n</i> = 12."
  )
  expect_identical(set("rpb(20) = .3; F(4, 227) = 3.90; t(22) = 1.2"), paste0(
    "<i>r</i><sub>pb</sub>(20) = .3; <i>F</i>(4, 227) = 3.90; <i>t</i>(22) = 1.2"
  ))
  expect_identical(set("super = good, x_p = 3, map < 4 and <b>"), "super = good, x_p = 3, map &lt; 4 and &lt;b&gt;")
  expect_identical(set(c("p", "SD", "Mean", "rs"), head = TRUE), c("<i>p</i>", "<i>SD</i>", "Mean", "<i>r</i><sub>s</sub>"))
  expect_identical(set("p"), "p")
})

test_that("a page, a document and a LaTeX table carry them, and hold figures together", {
  folder <- withr::local_tempdir()
  found <- correlation_matrix(demo_study(), practice_hours, speaking_score, confidence)
  write_report(demo_study(), file.path(folder, "page.html"), practice_hours, speaking_score)
  text <- paste(readLines(file.path(folder, "page.html"), encoding = "UTF-8"), collapse = "\n")
  expect_match(text, "<i>r</i>(220)\u00a0=\u00a0.73", fixed = TRUE)
  expect_match(text, "95%\u00a0CI\u00a0[.66,\u00a0.78]", fixed = TRUE)
  write_tables(found, file.path(folder, "table.tex"))
  expect_match(readLines(file.path(folder, "table.tex")), "\\\\textit\\{(M|SD|n)\\}", all = FALSE)
})

test_that("a table too wide for a page is continued with its first column, and loses no column", {
  cells <- c(list(Variable = c("Weekly practice outside the class", "Speaking score")), stats::setNames(
    lapply(1:30, function(k) c("-.12 [-.30, .07]", ".73 [.66, .78]")), paste("column", 1:30)
  ))
  parts <- unsere:::page_parts(as.data.frame(cells, check.names = FALSE), 1L)
  expect_gt(length(parts), 2L)
  expect_true(all(vapply(parts, function(part) names(part)[1] == "Variable", NA)))
  expect_identical(unlist(lapply(parts, function(part) names(part)[-1])), paste("column", 1:30))
  narrow <- as.data.frame(cells[1:3], check.names = FALSE)
  expect_identical(unsere:::page_parts(narrow, 1L), list(narrow))
})
