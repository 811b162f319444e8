base <- data.frame(
  a = c(1, 2, 4, NA), b = c(2, 4, 5, 7), `my var` = c(3, 1, 2, 2), year = c(2003, 2001, 2002, 2004),
  check.names = FALSE
)

derived <- function(text, data = base) derive(data, new = text)$data$new

test_that("the arithmetic keeps the usual order, from sums to powers", {
  expect_equal(derived("1 + 2 * b ^ 2 / 4 - -a"), 1 + 2 * base$b^2 / 4 + base$a)
  expect_equal(derived("(1 + 2) * -b^2"), 3 * -base$b^2)
  expect_equal(derived("2^3^2 + 0*b"), rep(512, 4))
  expect_equal(
    derived("log(b) + log10(b) + exp(`my var`) + sqrt(abs(-b))"),
    log(base$b) + log10(base$b) + exp(base$`my var`) + sqrt(base$b)
  )
  expect_equal(
    derived("mean_of(a, b) + sum_of(a, b, `my var`)"),
    (base$a + base$b) / 2 + base$a + base$b + base$`my var`
  )
  expect_equal(derived("1.5e1 + .5 + 0*b"), rep(15.5, 4))
})

test_that("change follows time, since counts from the start, reverse turns a scale", {
  series <- set_variable(base, year, role = "time")
  expect_equal(derived("change(b)", series), c(2 - 5, NA, 5 - 4, 7 - 2))
  expect_equal(derived("since(year)", series), c(2, 0, 1, 3))
  expect_equal(derived("reverse(b)"), 9 - base$b)
  expect_equal(derived("reverse(a, 1, 5)"), 6 - base$a)
})

test_that("the recipe stands in the codebook and later variables use earlier ones", {
  study <- derive(base, half = "b / 2", quarter = "half / 2")
  expect_identical(codebook(study)$source[5:6], c("derived: b / 2", "derived: half / 2"))
  expect_equal(study$data$quarter, base$b / 4)
})

test_that("mistakes are named with their place, and nothing is run as code", {
  wrong <- list(
    c("a +", "place 4: something is missing"), c("a $ b", "place 3: \"\\$\" is not an arithmetic"),
    c("system(\"ls\")", "place 8|system"),
    c("sin(a)", "no function sin"), c("lgo(a)", "did you mean log"), c("aa + b", "no variable \"aa\""),
    c("(a + b", "\"\\)\" is missing"),
    c("a b", "place 3: \"b\" is not expected"), c("new + 1", "refers to itself"),
    c("mean_of(a)", "two variables or more")
  )
  for (case in wrong) expect_error(derive(base, new = case[1]), case[2], class = "unsere_error_input")
  expect_error(derive(base, new = "a / (b - 4)"), "division by zero in 1 case \\(row 2\\)",
    class = "unsere_error_undefined"
  )
  expect_error(derive(base, new = "log(b - 4)"), "logarithm .* 2 cases", class = "unsere_error_undefined")
  expect_error(derive(base, a = "b"), "already", class = "unsere_error_input")
  expect_error(derive(base, "a + b"), class = "unsere_error_usage")
})
