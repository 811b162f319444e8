# A pair over waves of the same persons, as a section of the report.

sections_waves <- function(results) {
  blocks <- do.call(c, lapply(results$waves, waves_blocks))
  if (length(blocks)) list(do.call(new_section, c(list("waves", say("Over waves")), blocks)))
}

waves_blocks <- function(waves) {
  count <- format_count(length(waves$waves))
  caption <- say("%s and %s over %s waves.", waves$labels[1], small_inside(waves$labels[2]), count)
  rows <- sum(!is.na(waves$relations$r))
  c(
    list(
      block_text(in_words(waves), lagged_warning(waves)),
      stated_figure(figure_waves(waves), in_words(waves), caption, height = min(11, 2.4 + 0.3 * rows)),
      block_table(wave_cells(waves), caption, left_aligned = 2L)
    ),
    if (nrow(waves$differences)) {
      list(block_table(wave_difference_cells(waves), say("Difference of cross-lagged correlations.")))
    },
    if (nrow(waves$lost)) list(block_table(lost_cells(waves), say("Persons lost after the first wave."))),
    list(block_rows("waves", waves$relations))
  )
}
