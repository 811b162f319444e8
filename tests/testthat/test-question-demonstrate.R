# Demonstrations show what they say, whatever the seed.

test_that("each topic shows its point with any seed", {
  for (seed in c(1, 7, 99)) {
    sizes <- demonstrate("sample-size", seed = seed)$rows
    expect_equal(sizes$r, rep(.3, nrow(sizes)), tolerance = 1e-10)
    expect_false(is.unsorted(-sizes$p))
    one <- demonstrate("one-case", seed = seed)$rows
    expect_lt(abs(one$r[1]), .05)
    expect_gt(one$r[nrow(one)], .6)
    expect_lt(max(abs(one$ranks)), .45)
    range <- demonstrate("restricted-range", seed = seed)$rows
    expect_equal(range$r[1], .6, tolerance = 1e-10)
    expect_lt(range$sd[4], range$sd[1] / 2)
    expect_lt(range$r[3], .5)
    groups <- demonstrate("groups", seed = seed)$rows
    expect_gt(groups$r[1], .3)
    expect_equal(groups$r[-1], rep(-.5, 4), tolerance = 1e-10)
  }
})

test_that("a page stands alone, the command writes it too, and the figures hold their cases", {
  folder <- withr::local_tempdir()
  path <- file.path(folder, "one.html")
  demonstrate("one-case", path = path)
  page <- paste(readLines(path, encoding = "UTF-8"), collapse = "\n")
  expect_match(page, "How far does one case move r?", fixed = TRUE)
  expect_match(page, "<svg", fixed = TRUE)
  expect_false(grepl("src=\"http", page, fixed = TRUE))
  by_command <- file.path(folder, "two.html")
  expect_identical(unsere("demonstrate", "one-case", "--out", by_command)$status, 0L)
  expect_identical(readLines(by_command), readLines(path))
  expect_identical(nrow(draw_demonstration(demonstrate("groups"))$data), 120L)
  expect_error(demonstrate("nothing"), class = "unsere_error_usage")
  expect_error(demonstrate("groups", path = file.path(folder, "x.docx")), class = "unsere_error_usage")
})
