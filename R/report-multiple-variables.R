# The sections of questions about many variables: all pairs, predictors, trends.

sections_matrix <- function(results) {
  matrix <- results$matrix
  if (is.null(matrix)) return(NULL)
  table <- publication_table(matrix, digits = results$settings$digits)
  p <- nrow(matrix$variables)
  drawn <- figure_matrix(matrix, list(title = NA, subtitle = NA))
  figure <- block_figure(
    drawn, paste(say("Correlation matrix."), in_words(matrix)),
    say("Correlation matrix as a grid of strips."),
    width = if (p > 8) 11 else 8, height = min(max(4, 1.5 + 0.6 * p), 10),
    statement = matrix_title(matrix),
    below = slide_note(matrix$cautions, if (p > most_on_slide) strongest_of(matrix, most_rungs_on_slide)),
    slide = function() {
      if (p > most_on_slide) ladder_figure(matrix, most_rungs_on_slide, "\n") else drawn
    }
  )
  written <- matrix$pairs[setdiff(names(matrix$pairs), unwritten_columns)]
  list(new_section(
    "matrix", say("All pairs"), block_text(in_words(matrix), paste(matrix_notes(matrix), collapse = " ")), figure,
    block_table(as.list(table$cells), table$title, table$note),
    block_cautions(words_of_cautions(matrix$cautions, matrix$variables, door_page())), block_rows("matrix", written)
  ))
}

# As many variables of a matrix, and pairs of its ladder, as can be read from the back.
most_on_slide <- 8L
most_rungs_on_slide <- 5L

# A figure whose title is its statement, which stands beside it.
stated_figure <- function(figure, alt, caption, height) {
  title <- figure$labels$title
  figure$labels$title <- NULL
  block_figure(figure, alt, caption, width = 9, height = height, statement = title)
}

# What stands below a picture on a slide: some words, and the gravest caution.
slide_note <- function(cautions, words = NULL) {
  grave <- utils::head(cautions[cautions$severity != "note", ], 1)
  worst <- if (nrow(grave)) sprintf("%s: %s", capital(say(grave$severity)), meaning_of(grave$code))
  if (length(c(words, worst))) paste(c(words, worst), collapse = "    ")
}

sections_rank <- function(results) {
  rank <- results$rank
  if (is.null(rank)) return(NULL)
  rows <- rank$predictors
  cells <- list(
    rank = format(rows$rank), predictor = label_of(rank$variables, rows$x), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high), n = format(rows$n)
  )
  figure <- block_figure(
    figure_predictors(rank, list(title = NA, subtitle = NA)), in_words(rank), say("The predictors on one scale."),
    width = 10,
    height = 5.5, statement = predictors_title(rank), below = slide_note(rank$cautions)
  )
  texts <- words_of_cautions(rank$cautions, rank$variables, door_page())
  texts$evidence <- sprintf("%s: %s", rep_len(label_of(rank$variables, rank$cautions$x), nrow(texts)), texts$evidence)
  list(new_section(
    "rank", say("Correlations with %s", inside_of(rank$variables, rank$outcome)), block_text(in_words(rank)), figure,
    block_table(cells, say("The predictors, all on the same cases."), left_aligned = 2L),
    block_table(
      comparison_cells(rank), say("Differences between the correlations."),
      left_aligned = 2L,
      note = say("Absolute values of r are compared; p adjusted by Holm.")
    ),
    block_cautions(texts), block_rows("predictors", rows), block_rows("comparisons", rank$comparisons)
  ))
}

sections_items <- function(results) {
  items <- results$items
  if (is.null(items)) return(NULL)
  rows <- items$items
  cells <- item_cells(items)
  flagged <- nzchar(rows$flags)
  # Beside the items' names, where long words wrap.
  if (any(flagged)) cells <- c(cells[1], list("flagged" = flag_words(rows, items$variables)), cells[-1])
  options <- items$options
  marked <- options[options$item %in% rows$item[flagged], ]
  list(new_section(
    "items", say("Is the scale reliable?"), block_text(in_words(items)),
    stated_figure(figure_items(items), in_words(items), say("The items and their item-rest correlations."), height = 5),
    block_table(cells, say("The items."),
      left_aligned = 1L + any(flagged), note = say("item-rest r: correlation with the sum of the other items.")
    ),
    if (NROW(marked)) {
      block_table(option_cells(marked), say("Options of the flagged items; keyed options are marked *."), left_aligned = 2L)
    },
    block_rows("items", rows), if (NROW(options)) block_rows("options", options)
  ))
}

sections_spurious <- function(results) {
  blocks <- do.call(c, lapply(results$flags, flags_blocks))
  if (length(blocks)) list(do.call(new_section, c(list("trend", say("More than a shared trend?")), blocks)))
}

flags_blocks <- function(flags) {
  variables <- flags$relation$sample$variables
  cells <- without_strip(flag_cells(flags))
  names(cells)[1] <- "series"
  caption <- say("%s and %s over time.", label_of(variables, flags$x), inside_of(variables, flags$y))
  list(
    block_text(in_words(flags)), if (!is.null(flags$series)) flags_figure(flags, caption),
    if (!is.na(flags$verdict)) block_table(cells, caption), block_text(flag_notes(flags)),
    block_cautions(words_of_cautions(flags$cautions, variables, door_page())), block_rows("trends", as.data.frame(flags))
  )
}

flags_figure <- function(flags, caption) {
  figure <- figure_over_time(flags, "time", list(caption = NA))
  block_figure(figure, in_words(flags), caption, height = 6, statement = figure$labels$title, below = three_r(flags))
}

sections_levels <- function(results) {
  blocks <- do.call(c, lapply(results$levels, levels_blocks))
  if (length(blocks)) list(do.call(new_section, c(list("levels", say("Between groups and within")), blocks)))
}

levels_blocks <- function(levels) {
  names <- inside_of(levels$variables, c(levels$x, levels$y, levels$group))
  caption <- say("%s and %s, by %s.", begin(names[1], levels$variables), names[2], names[3])
  list(
    block_text(in_words(levels)),
    stated_figure(figure_levels(levels), in_words(levels), caption, height = 3.6),
    block_table(levels_cells(levels), caption),
    block_table(likeness_cells(levels), say("Intraclass correlations.")),
    block_rows("levels", levels$levels)
  )
}

sections_plan <- function(results) {
  plan <- results$plan
  if (is.null(plan)) return(NULL)
  list(new_section(
    "plan", say("Sample size"), block_text(in_words(plan)),
    stated_figure(figure_plan(plan), in_words(plan), say("Power or precision by sample size."), height = 5),
    block_table(plan_cells(plan), say("The plan."))
  ))
}
