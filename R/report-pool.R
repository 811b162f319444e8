# Correlations pooled over groups, waves or studies, as a section of the report.

sections_pool <- function(results) {
  blocks <- do.call(c, lapply(results$pooled, pooled_blocks))
  if (length(blocks)) list(do.call(new_section, c(list("pooled", say("The same everywhere?")), blocks)))
}

pooled_blocks <- function(pooled) {
  caption <- say("%s.", pooled_title(pooled)())
  rows <- pooled$k + 1L
  c(
    list(
      block_text(in_words(pooled)),
      stated_figure(figure_pooled(pooled), in_words(pooled), caption, height = min(11, max(3.4, 1.6 + 0.32 * rows))),
      block_table(pooled_cells(pooled), caption)
    ),
    if (!is.null(pooled$moderator)) list(block_table(moderator_cells(pooled), say("The moderator."))),
    if (length(pooled_notes(pooled))) list(block_text(pooled_notes(pooled))),
    list(block_rows("pooled", pooled$groups))
  )
}
