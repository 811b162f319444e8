#' Neighbouring rows, or places near each other, are no independent cases
#' @noRd
caution_alike_neighbours <- function() {
  new_caution("alike_neighbours",
    place = 5, check = check_neighbours,
    meaning = "Neighbouring rows are not independent.",
    evidence = function(f, pair) {
      near <- list(shown(f$near_x, "r"), shown(f$near_y, "r"), as.integer(f$n), effective_of(f))
      text <- if (length(f$places)) {
        list(paste(
          "Autocorrelation: neighbouring places (%s, %s) are similar in both variables (r with the nearest %s and",
          "%s); %d cases have an effective sample size of %d."
        ), f$places[1], f$places[2])
      } else {
        list(paste(
          "Autocorrelation: neighbouring rows are similar in both variables (r with the next row %s and %s), and no",
          "column explains it; %d cases have an effective sample size of %d."
        ))
      }
      joined(do.call(template, c(text, near)), by_effective(f), between = " ")
    },
    advice = function(f, pair) {
      template(
        if (length(f$places)) {
          "Neighbouring places may be similar for a common reason."
        } else {
          "If the rows are in order of time or place, name that column (or add one); likewise for classes."
        }
      )
    },
    clause = effective_clause, clause_from = "warning"
  )
}

# What a result says of it whose own interval is another's.
effective_clause <- function(f, digits) {
  if (is.null(f$effective)) return(NULL)
  if (is.null(f$low)) return(template(
    "Neighbouring cases are similar: their effective sample size is %d.", effective_of(f)
  ))
  if (is_uninformative(f$low, f$high)) return(template(
    "Neighbouring cases are similar: their effective sample size is %d, too few for an interval.", effective_of(f)
  ))
  template(
    "Neighbouring cases are similar: by their effective sample size of %d the interval of r was %s.", effective_of(f),
    shown(c(f$low, f$high), "interval")
  )
}

# "By this number the interval of r is [-.10, .68] and p = .13. Report these; ..."
by_effective <- function(f) {
  if (is.null(f$low) || is_uninformative(f$low, f$high)) return(template("The textbook's p and interval are too small."))
  template(
    "By this number the interval of r is %s and %s. Report these; the textbook's p and interval are too small.",
    shown(c(f$low, f$high), "interval"), shown(f$p, "p")
  )
}

effective_of <- function(f) as.integer(max(2, round(f$effective)))

#' What the effective number of cases says of r, where there are clearly fewer than cases
#' @return Figures; of tau-b the number alone, as of concordant pairs there is no interval by it. `NULL` where there is
#'   nothing.
#' @noRd
effective_told <- function(evidence) {
  dependence <- evidence$once$dependence
  if (!length(dependence)) return(NULL)
  numbers <- dependence[c("effective", "n")]
  if (!evidence$record$products) return(numbers)
  tell_effective(evidence$r, evidence$estimate$unexplained, numbers$effective, numbers$n, 1 - evidence$alpha)
}

# The textbook would call it significant, and this number of cases does not.
is_doubtful <- function(by_it, evidence) {
  isTRUE(is_clear_by_textbook(evidence, by_it$n) && by_it$p >= evidence$alpha)
}

is_clear_by_textbook <- function(evidence, n) test_student(evidence$r, evidence$estimate$unexplained, n)$p < evidence$alpha

#' Rows or places that resemble their neighbours in both variables, though no column says why
#' @noRd
check_neighbours <- function(sample, evidence) {
  dependence <- evidence$once$dependence
  if (!length(dependence) || dependence$of == "times") return(NULL)
  by_it <- effective_told(evidence)
  figures <- c(dependence[intersect(c("near_x", "near_y", "places"), names(dependence))], by_it)
  list(new_finding("alike_neighbours", if (is_doubtful(by_it, evidence)) "serious" else "warning", figures))
}
