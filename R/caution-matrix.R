# The cautions of a matrix: those of its variables, and those of its clear pairs, gathered by code.

#' @param sample The sample that the matrix was computed on.
#' @param pairs A row a pair; `checked` which of them are looked at, from [pairs_to_check()].
#' @param pair_at From a row to its sample of two columns, `NULL` where rows are not at hand.
#' @return A table of cautions; what is about pairs holds them under `figures$pairs`, each with its own figures.
#' @noRd
find_matrix_cautions <- function(sample, pairs, checked, settings, pair_at) {
  own <- c(
    check_tests(sum(!is.na(pairs$p)), settings$multiplicity), check_codes(sample),
    check_reversed(sample, pairs, alpha_of(settings$confidence))
  )
  cautions <- lapply(checked, function(k) {
    pair <- as.list(pairs[k, ])
    if (is.null(pair_at)) return(without_rows(pair, settings$cases))
    cautions_of_pair(pair_at(k), pair, settings)
  })
  cautions <- do.call(bind_cautions, cautions)
  # What is said of a variable by itself is not said again of each of its pairs.
  cautions <- pick_cautions(cautions, cautions$severity != "note" & cautions$code != "codes_not_numbers")
  gathered <- lapply(unique(cautions$code), function(code) gather_code(pick_cautions(cautions, cautions$code == code)))
  bind_cautions(new_cautions(own), new_cautions(gathered))
}

#' The pairs worth a closer look: those that stand out or are statistically significant, the largest first
#' @noRd
pairs_to_check <- function(pairs, alpha) {
  clear <- pairs$highlighted | pairs$p_adjusted < alpha
  # Those that independent cases would make significant: why they are not is to be told.
  dependent <- or_default(pairs$ci_method, "") %in% dependent_methods
  textbook <- log_two_sided(pairs$r, (1 - pairs$r) * (1 + pairs$r), pairs$n - 2) < log(alpha)
  which_largest(pairs, which(clear | dependent & textbook))
}

which_largest <- function(pairs, which) which[order(-abs(pairs$r[which]))]

cautions_of_pair <- function(sample, pair, settings) {
  known <- Find(function(relation) is_of_pair(relation, sample, pair, settings), settings$known)
  if (!is.null(known)) return(known$cautions)
  estimate <- estimate_of_pair(sample, pair)
  # As for a relation, whose classes are found among its cautions.
  p <- if (identical(pair$ci_method, "clusters")) {
    test_student(estimate$r, estimate$unexplained, pair$n)$p
  } else {
    pair$p
  }
  evidence <- list(
    estimate = estimate, p = p, alpha = alpha_of(settings$confidence), scale = settings$scale,
    interval = as.list(pair)[c("ci_low", "ci_high", "ci_method")]
  )
  find_cautions(sample, evidence)
}

# The same question of the same cases, x and y in the same places.
is_of_pair <- function(relation, sample, pair, settings) {
  same_p <- is_same_p(relation$p, pair$p) || is_same_p(relation$textbook$p, pair$p)
  relation$x == pair$x && relation$y == pair$y && relation$coefficient == pair$coefficient &&
    identical(relation$sample$row, sample$row) && same_p &&
    relation$confidence == settings$confidence && identical(relation$scale, settings$scale)
}

is_same_p <- function(a, b) isTRUE(all.equal(a, b))

#' What can be said of a pair from its moments alone
#' @noRd
without_rows <- function(pair, cases) {
  same <- if (abs(pair$r) >= 1 - 1e-12) list(new_finding("same_measure", "serious", list(equal = FALSE, rounded = FALSE)))
  new_cautions(c(same, few_finding(pair$n), missing_finding(cases - pair$n, cases)), pair$x, pair$y)
}

gather_code <- function(rows) {
  pairs <- Map(function(x, y, figures) list(x = x, y = y, figures = figures), rows$x, rows$y, rows$figures)
  new_finding(rows$code[1], rows$severity[1], list(count = nrow(rows), pairs = unname(pairs)), next_step("relate"))
}
