# Extracted from test-words-numbers.R:45

# setup ------------------------------------------------------------------------
library(testthat)
test_env <- simulate_test_env(package = "unsere", path = "..")
attach(test_env, warn.conflicts = FALSE)

# test -------------------------------------------------------------------------
book <- data.frame(variable = c("a", "b", "c", "d"), label = c("Weekly practice", "IQ", NA, "E-book loans"),
    unit = c("h", NA, "m", NA))
inside <- function(name) unsere:::inside_of(book, name)
expect_identical(vapply(c("a", "b", "c", "d"), inside, "", USE.NAMES = FALSE),
    c("weekly practice", "IQ", "c", "E-book loans"))
