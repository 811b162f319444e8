# Cautions in words: the figures that earned each, what to make of it, and the next step for the reader's door.

#' A table of cautions in words
#'
#' @param cautions From `new_cautions()`.
#' @param variables Entries of the codebook, for the labels.
#' @return A data frame: `code`, `severity`, `evidence`, `advice`.
#' @noRd
words_of_cautions <- function(cautions, variables, door = door_r()) {
  texts <- lapply(seq_len(nrow(cautions)), function(k) {
    caution <- list(
      code = cautions$code[k], x = cautions$x[k], y = cautions$y[k], figures = cautions$figures[[k]],
      step = cautions$next_step[[k]], variables = variables
    )
    words_of_caution(caution, door)
  })
  data.frame(
    code = cautions$code, severity = cautions$severity, evidence = vapply(texts, `[[`, "", "evidence"),
    advice = vapply(texts, `[[`, "", "advice")
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
  if (!is.null(step)) step <- step_to_type(c(step, list(about = f[["name"]])), variables)
  list(
    evidence = fill_template(record$evidence(f, pair), variables),
    advice = paste(
      c(
        if (!is.null(advice)) fill_template(advice, variables),
        step_words(step, name_to_type(variables, caution$x), name_to_type(variables, caution$y), door)
      ),
      collapse = " "
    )
  )
}

#' A next step in which names that are whole questions are typed by their short labels
#' @noRd
step_to_type <- function(step, variables) {
  known <- function(value) {
    if (is.character(value)) ifelse(value %in% variables$variable, name_to_type(variables, value), value)
  }
  step[c("variables", "about")] <- lapply(step[c("variables", "about")], known)
  step$arguments <- lapply(step$arguments, function(value) or_default(known(value), value))
  step
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
  sides <- name_to_type(caution$variables, c(pairs[[1]]$x, pairs[[1]]$y))
  step <- if (!is.null(caution$step)) step_words(step_to_type(caution$step, caution$variables), sides[1], sides[2], door)
  list(evidence = evidence, advice = paste(c(meaning_of(caution$code), step), collapse = " "))
}

#' What some cautions mean in a few words, for summaries
#' @noRd
meaning_of <- function(codes) say(vapply(codes, function(code) find_caution(code)$meaning, "", USE.NAMES = FALSE))
