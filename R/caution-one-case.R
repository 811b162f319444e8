#' A result that rests on one case, or on two
#' @noRd
caution_one_case <- function() {
  new_caution("one_case",
    place = 10, check = check_one_case, meaning = "Influential case.",
    evidence = function(f, pair) {
      cases <- Map(function(case, x, y) {
        joined(
          shown(case, "case"), " (", shown(x, "number", 5), ", ", shown(y, "number", 5), ")"
        )
      }, f$case, f$x, f$y)
      template(
        "Influential case: without %s, r would be %s (%s).", shown(unname(cases), "both"), shown(f$r, "r"), shown(f$p, "p")
      )
    },
    advice = function(f, pair) {
      template(
        if (length(f$case) > 1L) "Check these two cases before interpreting r." else "Check this case before interpreting r."
      )
    },
    clause = function(f, digits) {
      template(
        "Without %s (%s), r was %s (%s).", template(if (length(f$case) > 1L) "two cases" else "one case"),
        toString(f$case), shown(f$r, "r", digits), shown(f$p, "p")
      )
    }
  )
}

#' One case, or two together, that carry the relation: without them the sign, the evidence or the word for size would be
#' another
#' @noRd
check_one_case <- function(sample, evidence) {
  estimate <- evidence$estimate
  n <- estimate$n
  if (n < 6L || is.null(evidence$record$without_each)) return(NULL)
  without <- evidence$once$without
  moved <- abs(atanh(clip(evidence$r)) - atanh(clip(without))) * sqrt(n - 3)
  at <- which.max(moved)
  if (!length(at)) return(NULL)
  # In clean data the most any case moves r grows slowly with n; beyond this it is the case that speaks.
  alone <- if (moved[at] >= one_case_limit(n)) check_without(at, sample, evidence)
  if (n < 10L || !evidence$record$moments) return(alone)
  # Two far cases side by side hide each other when one is left out at a time.
  both <- farthest_two(estimate, moved)
  together <- both$moved >= two_cases_limit(n) && both$moved > 1.5 * moved[at]
  findings <- if (together) check_without(both$at, sample, evidence)
  if (is.null(findings)) alone else findings
}

one_case_limit <- function(n) 0.9 + 4 / sqrt(n)

two_cases_limit <- function(n) 1.4 + 6 / sqrt(n)

#' What relate() says without some cases, ranked anew and tested in the same direction; a doubt where it says another thing
#' @noRd
check_without <- function(at, sample, evidence) {
  rest <- tryCatch(evidence$record$estimate(sample_part(sample, -at)), unsere_error = function(e) NULL)
  if (is.null(rest)) return(NULL)
  r <- rest$r
  route_taken <- or_default(evidence$route, list(test = "auto", interval = "auto"))
  drawn <- any(unlist(route_taken) %in% c("permutation", "bootstrap", "exact"))
  if (drawn) route_taken <- list(test = "analytic", interval = "analytic")
  route <- settle_route(evidence$record, rest, route_taken)
  p <- test_estimate(route$estimate, route$test, or_default(evidence$expect, "either"), NULL)$p
  if (is.na(p)) p <- 0
  grave <- sign(r) != sign(evidence$r) || (p < evidence$alpha) != (evidence$p < evidence$alpha)
  if (!grave && strength_word(r, evidence$scale) == strength_word(evidence$r, evidence$scale)) return(NULL)
  figures <- list(case = sample_cases(sample, at), x = sample$x[at], y = sample$y[at], r = r, p = p)
  step <- next_step("relate", coefficient = resistant_record()$name)
  list(new_finding("one_case", if (grave) "serious" else "warning", figures, step))
}

#' The two cases that together move Fisher's z most, among those that move it most alone or lie farthest out
#' @param moved How far each case alone moves z, in standard errors.
#' @return A list: `at` (their places), `moved`.
#' @noRd
farthest_two <- function(estimate, moved) {
  n <- estimate$n
  x <- estimate$x - mean(estimate$x)
  y <- estimate$y - mean(estimate$y)
  sums <- c(xx = sum(x^2), yy = sum(y^2), xy = sum(x * y))
  far <- unique(c(places_of_largest(moved, 6L), places_of_largest(x^2 / sums["xx"] + y^2 / sums["yy"], 6L)))
  pairs <- utils::combn(far, 2L)
  i <- pairs[1, ]
  j <- pairs[2, ]
  # Sums of products about the mean, two cases taken out.
  rest <- function(a, b, sum) sum - a[i] * b[i] - a[j] * b[j] - (a[i] + a[j]) * (b[i] + b[j]) / (n - 2)
  squares <- rest(x, x, sums["xx"]) * rest(y, y, sums["yy"])
  r <- ifelse(squares > 0, rest(x, y, sums["xy"]) / sqrt(pmax(squares, 0)), NA)
  together <- abs(atanh(clip(estimate$r)) - atanh(clip(r))) * sqrt(n - 3)
  most <- which.max(together)
  if (!length(most)) return(list(at = integer(), moved = 0))
  list(at = pairs[, most], moved = together[most])
}

places_of_largest <- function(values, k) {
  k <- min(k, sum(!is.na(values)))
  least <- -sort(-values, partial = k)[k]
  utils::head(which(values >= least), k)
}
