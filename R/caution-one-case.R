#' One case that carries the relation: without it, the sign, the evidence or the word for size would be another
#' @noRd
doubt_one_case <- function(sample, found) {
  estimate <- found$estimate
  n <- estimate$n
  if (n < 6L || is.null(found$record$without_each)) return(NULL)
  without <- found$record$without_each(estimate)
  moved <- (atanh(clip(found$r)) - atanh(clip(without))) * sqrt(n - 3)
  at <- which.max(abs(moved))
  # In clean data the most any case moves r grows slowly with n; beyond this it is the case that speaks.
  if (!length(at) || abs(moved[at]) < one_case_limit(n)) return(NULL)
  # What relate() says without this case, ranked anew and tested in the same direction.
  rest <- tryCatch(found$record$estimate(sample_part(sample, -at)), unsere_error = function(e) NULL)
  if (is.null(rest)) return(NULL)
  r <- rest$r
  p <- test_estimate(rest, names(found$record$tests)[1], or_default(found$expect, "either"), NULL)$p
  if (is.na(p)) p <- 0
  grave <- sign(r) != sign(found$r) || (p < found$alpha) != (found$p < found$alpha)
  if (!grave && strength_word(r, found$scale) == strength_word(found$r, found$scale)) return(NULL)
  figures <- list(case = sample_cases(sample, at), x = sample$x[at], y = sample$y[at], r = r, p = p)
  step <- next_step("relate", coefficient = resistant_record()$name)
  list(new_doubt("one_case", if (grave) "serious" else "warning", figures, step))
}

one_case_limit <- function(n) 0.9 + 4 / sqrt(n)
