# Cautions in words: the figures that earned each, what to make of it, and the next step for the reader's door.

#' A table of cautions in words
#'
#' @param cautions From `new_cautions()`.
#' @param variables Entries of the codebook, for the labels.
#' @return A data frame: `code`, `severity`, `evidence`, `advice`.
#' @noRd
words_of_cautions <- function(cautions, variables, door = door_r()) {
  told <- lapply(seq_len(nrow(cautions)), function(k) {
    caution <- list(
      code = cautions$code[k], x = cautions$x[k], y = cautions$y[k], figures = cautions$figures[[k]],
      step = cautions$next_step[[k]], variables = variables
    )
    words_of_caution(caution, door)
  })
  data.frame(
    code = cautions$code, severity = cautions$severity, evidence = vapply(told, `[[`, "", "evidence"),
    advice = vapply(told, `[[`, "", "advice")
  )
}

words_of_caution <- function(caution, door) {
  f <- caution$figures
  if (!is.null(f$pairs)) return(gathered_words(caution, door))
  record <- find_caution(caution$code)
  pair <- caution[c("x", "y")]
  variables <- with_others(caution$variables, attr(f, "labels"))
  advice <- record$advice(f, pair)
  step <- caution$step
  if (!is.null(step)) step$about <- f[["name"]]
  list(
    evidence = fill_template(record$evidence(f, pair), variables),
    advice = paste(
      c(if (!is.null(advice)) fill_template(advice, variables), step_words(step, caution$x, caution$y, door)),
      collapse = " "
    )
  )
}

#' Several pairs of a matrix with one caution
#' @noRd
gathered_words <- function(caution, door, most = 3L) {
  pairs <- caution$figures$pairs
  named <- vapply(pairs, function(pair) {
    say("%s with %s", inside_of(caution$variables, pair$x), inside_of(caution$variables, pair$y))
  }, "")
  more <- length(pairs) - most
  evidence <- paste0(
    count_of(length(pairs), "pair"), ": ", paste(utils::head(named, most), collapse = "; "),
    if (more > 0) say(" and %d more", more), "."
  )
  step <- step_words(caution$step, pairs[[1]]$x, pairs[[1]]$y, door)
  list(evidence = evidence, advice = paste(c(meaning_of(caution$code), step), collapse = " "))
}

#' What some cautions mean in a few words, for summaries
#' @noRd
meaning_of <- function(codes) say(vapply(codes, function(code) find_caution(code)$meaning, "", USE.NAMES = FALSE))
