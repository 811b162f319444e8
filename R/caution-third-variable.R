#' A potential confounder
#' @noRd
caution_third_variable <- function() {
  new_caution("third_variable",
    place = 20, check = check_third, meaning = "Potential confounder.",
    evidence = function(f, pair) {
      template(
        "Potential confounder: %s is related to both; controlling for it, r = %s (%s).", shown(f$third, "Label"),
        shown(f$partial, "r"), shown(f$p, "p")
      )
    },
    advice = function(f, pair) template("It may be a common cause or a mediator; the data do not show which.")
  )
}

#' A third measure that goes with both, so that nothing clear is left of r when it is controlled for
#'
#' Whether it lies behind both or between them no file tells.
#' @noRd
check_third <- function(sample, evidence) {
  if (evidence$p >= evidence$alpha || is_trend_told(evidence$once$trend, evidence$alpha)) return(NULL)
  if (!is.null(sample$given)) return(NULL)
  name <- names(find_behind(sample, evidence$record, evidence$once$others))[1]
  if (is.na(or_default(name, NA))) return(NULL)
  # The others were looked at among the first cases.
  z <- as.double(sample$more$numbers_at(name, sample$row)[[1]])
  known <- which(!is.na(z))
  x <- sample$x[known]
  y <- sample$y[known]
  partial <- partial_of_three(c(r_plain(x, y), r_plain(x, z[known]), r_plain(y, z[known])))
  p <- p_of_r(partial, length(known) - 3)
  if (!isTRUE(p >= evidence$alpha)) return(NULL)
  figures <- list(third = name, partial = partial, p = p)
  list(new_finding("third_variable", "note", figures, next_step("flag", candidates = name)))
}

#' The measures that go with both of a pair, and take much of r with them when they are controlled for; three at most
#' Words of two values among them split the cases, and are looked at as that.
#' @return The partial r of each, named, the smallest first.
#' @noRd
find_behind <- function(sample, record, others = sample_others(sample, 30L)) {
  others <- utils::head(others[setdiff(names(others), names(sample$more$splits))], 30L)
  if (!length(others) || sample_size(sample) < 20L || !record$products) return(NULL)
  # Items of one set of answers stand for the same thing.
  kinds <- lapply(list(sample$x, sample$y), function(v) sort(unique(utils::head(v, 200L))))
  if (length(kinds[[1]]) <= 10L && identical(kinds[[1]], kinds[[2]])) {
    others <- Filter(function(z) !all(z %in% c(kinds[[1]], NA)), others)
  }
  partial <- vapply(others, function(z) {
    partial_behind(utils::head(sample$x, length(z)), utils::head(sample$y, length(z)), as.double(z), length(others))
  }, 0)
  partial <- partial[!is.na(partial)]
  partial <- partial[!vapply(names(partial), is_kin, NA, sample = sample, others = others)]
  utils::head(partial[order(abs(partial))], 3L)
}

# The partial r where a third column is clearly tied to both and takes half of r; `looked_at` columns in all.
partial_behind <- function(x, y, z, looked_at) {
  known <- which(!is.na(z))
  n <- length(known)
  if (n < 20L) return(NA_real_)
  columns <- list(x[known], y[known], z[known])
  if (any(vapply(columns, function(v) min(v) == max(v), NA))) return(NA_real_)
  # What is nearly one of the two takes away what it shares with it.
  tied <- function(v) {
    r <- r_plain(v, columns[[3]])
    if (is.na(r) || abs(r) > .98 || p_of_r(r, n - 2) >= .001 / looked_at) NA_real_ else r
  }
  if (is.na(first <- tied(columns[[1]])) || is.na(second <- tied(columns[[2]]))) return(NA_real_)
  r <- r_plain(columns[[1]], columns[[2]])
  if (is.na(r) || p_of_r(r, n - 2) >= .05) return(NA_real_)
  partial <- partial_of_three(c(r, first, second))
  if (abs(atanh(clip(partial))) < abs(atanh(clip(r))) / 2) partial else NA_real_
}

#' Whether a variable is kin of one of the pair: the same but for its scale, made of it or with it, or of one set by its
#' name (plausible values, items, the same thing at several times)
#' @noRd
is_kin <- function(name, sample, others) {
  stems <- name_stem(c(name, sample$names))
  if (nzchar(stems[1]) && stems[1] %in% stems[-1]) return(TRUE)
  z <- others[[name]]
  known <- which(!is.na(z))
  z <- as.double(z[known])
  for (v in list(sample$x[known], sample$y[known])) {
    if (isTRUE(abs(r_plain(rank(v), rank(z))) > .98)) return(TRUE)
    rest <- lapply(others[names(others) != name], function(column) as.double(column[known]))
    rest <- Filter(function(column) !anyNA(column), rest)
    if (!is.null(find_sum(v, z, rest)) || !is.null(find_sum(z, v, rest))) return(TRUE)
  }
  FALSE
}

# A name without the number, the letter or the time at its end: "pv3read" and "pv1read", "score_w1" and "score_w2".
name_stem <- function(names) {
  stem <- gsub("[0-9]+", "#", tolower(names))
  ifelse(grepl("#", stem, fixed = TRUE), stem, "")
}
