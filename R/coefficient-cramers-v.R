#' Cramer's V: two variables of groups without an order
#' @references Cramer (1946), Mathematical Methods of Statistics; Pearson (1900), Philosophical Magazine 50; Cochran (1954),
#'   Biometrics 10; Bergsma (2013), Journal of the Korean Statistical Society 42; Steiger (2004), Psychological Methods 9.
#' @noRd
record_cramers_v <- function() {
  new_coefficient(
    name = "cramers-v", place = 7, symbol = c("V", "V"), adjective = "Cramer's", label = c("Cram\u00e9r's V", "Cramer's V"),
    suits = function(levels) "nominal" %in% levels && all(levels %in% c("nominal", "binary")),
    why = "both variables have unordered categories",
    categories = 2L, signed = FALSE, one_scale = FALSE, products = FALSE, without_each = NULL,
    estimate = estimate_v,
    tests = list(
      analytic = function(e, expect, draws) test_table(e), exact = function(e, expect, draws) test_all_tables(e),
      permutation = function(e, expect, draws) test_shuffled_table(e, draws)
    ),
    intervals = list(analytic = function(e, confidence, draws) {
      interval_noncentral_chi(e$table$value, e$table$df, e$n, e$table$steps, confidence)
    }),
    matrix = NULL, statistic = NULL, z_variance = NULL, scale = v_scale, details = details_of_v,
    words = list(
      r_squared = NULL, mixture = "Cramer's V among %s", mixture_level = "nominal", counts = TRUE,
      look_also = c(
        "Check the table of counts: V shows how strong the association is, not which categories it involves.",
        "In small samples V is biased upwards; the bias-corrected V beside it allows for that."
      )
    ),
    method = paste(
      "Cram\u00e9r's V from chi-squared without continuity correction; if expected counts are small (one below 1,",
      "or more than a fifth below 5), an exact test or, for larger tables, 10,000 random permutations; 90% interval",
      "by the noncentral chi-squared distribution, which corresponds to a test at 5%."
    ),
    sources = c(
      "Cram\u00e9r (1946), Mathematical Methods of Statistics", "Cochran (1954), Biometrics 10",
      "Bergsma (2013), Journal of the Korean Statistical Society 42", "Steiger (2004), Psychological Methods 9"
    )
  )
}

#' @section Errors: `unsere_error_undefined` where a variable has one group alone.
#' @noRd
estimate_v <- function(sample) {
  sides <- lapply(1:2, function(at) {
    side <- c("x", "y")[at]
    groups_of_column(sample[[side]], sample$coding[[side]], sample$names[at])
  })
  check_pair(sample$x, sample$y, sample$names)
  table <- compare_counts(sides[[1]]$code, sides[[2]]$code)
  r <- min(1, sqrt(table$value / (table$n * table$steps)))
  new_estimate(
    "cramers-v", as.double(sides[[1]]$code), as.double(sides[[2]]$code), r, (1 - r) * (1 + r),
    sides = sides, table = table
  )
}

#' Chi-squared where its distribution holds; else all tables counted, or shuffled where they are too many
#' @noRd
test_table <- function(estimate) {
  if (!are_counts_small(estimate$table$expected)) return(test_chi_squared(estimate))
  counted <- test_all_tables(estimate, refuse = FALSE)
  if (is.null(counted)) test_shuffled_table(estimate, list(resamples = 10000, seed = 1, threads = 1L)) else counted
}

test_chi_squared <- function(estimate) {
  about <- estimate$table
  log_p <- stats::pchisq(about$value, about$df, lower.tail = FALSE, log.p = TRUE)
  new_test("chi-squared", about$value, about$df, log_p)
}

#' @param refuse Whether too many tables are an error, or `NULL`.
#' @references Freeman & Halton (1951), Biometrika 38, 141-149, with chi-squared as the order of the tables.
#' @noRd
test_all_tables <- function(estimate, refuse = TRUE, most = 3e6) {
  sides <- estimate$sides
  p <- core_exact_tables(
    sides[[1]]$code, sides[[2]]$code, length(sides[[1]]$kinds), length(sides[[2]]$kinds), most
  )
  if (is.nan(p)) {
    if (!refuse) return(NULL)
    abort_usage("These groups have too many possible tables to enumerate.", "Use test = \"permutation\".")
  }
  utils::modifyList(test_chi_squared(estimate), list(p = p, log10_p = log10(p), p_method = "exact"))
}

test_shuffled_table <- function(estimate, draws) {
  sides <- estimate$sides
  reached <- core_shuffle_table(
    sides[[1]]$code, sides[[2]]$code, length(sides[[1]]$kinds), length(sides[[2]]$kinds), draws$resamples, draws$seed,
    draws$threads
  )
  c(
    shuffled_share(reached, test_chi_squared(estimate), draws$resamples),
    resamples = draws$resamples, seed = draws$seed
  )
}

details_of_v <- function(estimate) {
  about <- estimate$table
  kinds <- lapply(estimate$sides, `[[`, "kinds")
  at <- expand.grid(x = seq_along(kinds[[1]]), y = seq_along(kinds[[2]]))
  list(
    counts = data.frame(
      x = kinds[[1]][at$x], y = kinds[[2]][at$y], n = as.vector(about$counts), expected = as.vector(about$expected)
    ),
    bias_corrected = corrected_v(about)
  )
}

# Cohen's w of .10, .30 and .50 as V of a table of this size.
v_scale <- function(scale, estimate) {
  if (!identical(scale$name, "cohen")) return(scale)
  utils::modifyList(scale, list(cuts = scale$cuts / sqrt(estimate$table$steps)))
}
