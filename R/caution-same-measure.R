#' Both variables are one measure
#' @noRd
caution_same_measure <- function() {
  new_caution("same_measure",
    place = 1, check = check_same_measure, meaning = "Both are the same measure.",
    evidence = function(f, pair) {
      if (!is.null(f$by)) {
        other <- if (f$made == pair$x) pair$y else pair$x
        return(template(
          "%s is the %s of %s, or a linear copy of that.", shown(f$made, "Label"), template(f$by), shown(other, "label")
        ))
      }
      joined(
        template(if (f$equal) "Both variables hold the same values" else "One variable is a linear copy of the other"),
        if (!isTRUE(f$rounded)) "." else template(if (f$equal) ", one with fewer digits." else ", rounded.")
      )
    },
    advice = function(f, pair) template("This r says nothing about a relationship. Remove one of them."),
    clause = function(f,
                      digits) {
      template("Both variables are the same measure, so this r says nothing about a relationship.")
    }
  )
}

#' Both variables one measure: the values equal, a linear copy, such a copy up to rounding, or one the other's logarithm,
#' root, square or reciprocal
#' @noRd
check_same_measure <- function(sample, evidence) {
  if (!evidence$record$one_scale || abs(evidence$r) < .5) return(NULL)
  bent <- find_bent_copy(sample$x, sample$y)
  if (!is.null(bent)) {
    figures <- list(equal = FALSE, rounded = FALSE, made = sample$names[bent$side], by = bent$by)
    return(list(new_finding("same_measure", "serious", figures)))
  }
  straight <- abs(r_plain(sample$x, sample$y))
  if (abs(evidence$r) < .9 || straight < .9) return(NULL)
  if (straight >= 1 - 1e-12) {
    equal <- isTRUE(all.equal(sample$x, sample$y, tolerance = 1e-12))
    return(list(new_finding("same_measure", "serious", list(equal = equal, rounded = FALSE))))
  }
  rounded <- is_rounded_copy(sample$x, sample$y)
  if (rounded) list(new_finding("same_measure", "serious", list(equal = straight_copy(sample$x, sample$y), rounded = TRUE)))
}

# The same numbers with fewer decimals, and not in another unit.
straight_copy <- function(x, y) {
  isTRUE(max(abs(x - y)) <= .51 * max(unit_written(x), unit_written(y)))
}
