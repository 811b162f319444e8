test_that("the word for a size is that of the number as it is told, over each scale and any digits", {
  scales <- c(names(unsere:::strength_scales), list(c(little = .155, much = .4)))
  for (given in scales) {
    scale <- unsere:::strength_scale(given)
    close <- outer(unname(scale$cuts), c(-.0051, -.00051, -.00005, 0, .00005, .0051), "+")
    for (digits in 1:4) for (r in c(seq(0, .9999, by = .0021), close)) {
      told <- as.numeric(sub("\u2212", "-", unsere:::format_r(r, digits), fixed = TRUE))
      expected <- utils::tail(c(scale$below, names(scale$cuts))[c(TRUE, told >= scale$cuts - 1e-12)], 1)
      if (unsere:::strength_word(r, scale, digits) != expected) fail(sprintf("%s, %.5f, %d digits", scale$source, r, digits))
    }
  }
  succeed()
  x <- c(1, 2, 3, 4, 5, 6, 7, 8)
  y <- c(0.2, -0.5, 0.1, 0.9, -0.3, 0.35, 0.4, 0)
  found <- relate(data.frame(x, y), x, y, strength = c(some = round(relate(data.frame(x, y), x, y)$r + .004, 2)))
  expect_identical(found$strength, "some")
})
