# Cautions as a table: in a terminal, in JSON.

#' Cautions as the terminal shows them
#' @noRd
set_cautions <- function(cautions, variables, door = door_r()) {
  if (!nrow(cautions)) return(NULL)
  texts <- words_of_cautions(cautions, variables, door)
  c(
    "", say("Cautions"),
    set_entries(stats::setNames(as.list(trimws(paste(texts$evidence, texts$advice))), say(texts$severity)))
  )
}

#' Cautions for JSON: the facts, and their words
#' @noRd
fields_of_cautions <- function(cautions, variables, door = door_r()) {
  texts <- words_of_cautions(cautions, variables, door)
  lapply(seq_len(nrow(cautions)), function(k) {
    step <- cautions$next_step[[k]]
    list(
      code = texts$code[k], severity = texts$severity[k], figures = named_list(lapply(cautions$figures[[k]], fill_template)),
      next_step = if (!is.null(step)) list(question = step$question, arguments = named_list(step$arguments)),
      evidence = texts$evidence[k], advice = texts$advice[k]
    )
  })
}

# An empty list is an empty object in JSON, not an empty array.
named_list <- function(values) if (length(values)) values else stats::setNames(list(), character())
