# A pair under every defensible choice, as a section of the report.

sections_choices <- function(results) {
  blocks <- do.call(c, lapply(results$choices, choices_blocks))
  if (length(blocks)) list(do.call(new_section, c(list("choices", say("Under every choice")), blocks)))
}

choices_blocks <- function(choices) {
  names <- inside_of(choices$variables, c(choices$x, choices$y))
  caption <- say("%s and %s under %s choices.", begin(names[1], choices$variables), names[2], format_count(choices$k))
  c(
    list(
      block_text(in_words(choices)),
      stated_figure(figure_choices(choices), in_words(choices), caption, height = 6)
    ),
    if (nrow(choices$decisions)) list(block_table(decision_cells(choices), say("What each choice changes."))),
    list(block_rows("choices", choices$choices))
  )
}
