test_that("the core holds its claims without R", {
  root <- root_of_project()
  program <- tempfile()
  compiler <- strsplit(system2(file.path(R.home("bin"), "R"), c("CMD", "config", "CXX17"), stdout = TRUE), " ")[[1]]
  built <- system2(compiler[1], c(
    compiler[-1], "-std=c++17", "-O1", "-Wall", "-Wextra", "-Wpedantic", "-Werror",
    shQuote(file.path(root, "tests/core/test_core.cpp")), "-o", program, "-pthread"
  ))
  expect_equal(built, 0)
  said <- suppressWarnings(system2(program, stdout = TRUE))
  expect_match(said[length(said)], "claims, 0 broken")
})
