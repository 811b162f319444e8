library(testthat)
library(unsere)

test_check("unsere")
