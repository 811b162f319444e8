# The sections of pairs: relation, line, predictions.

sections_pairs <- function(results) {
  lapply(seq_along(results$pairs), function(k) pair_section(results$pairs[[k]], k, results))
}

pair_section <- function(answer, k, results) {
  relation <- answer$relation
  variables <- relation$sample$variables
  heading <- say("%s and %s", label_of(variables, relation$x), inside_of(variables, relation$y))
  texts <- words_of_cautions(relation$cautions, variables, door_page())
  line <- answer$line
  outside <- if (!is.null(line)) line$cautions[line$cautions$code == "outside_data", ]
  blocks <- c(
    list(
      block_text(in_words(relation, answer$digits)), if (k > 1L) block_strip(relation),
      if (k > 1L) pair_figure(answer, tells_cases(results$brief)),
      block_text(pairs_sentence(relation)),
      block_text(say("Strength: %s. Test: %s.", strength_clause(relation), evidence_clause(relation))),
      block_table(
        relation_cells(relation), relation_caption(relation),
        left_aligned = 2L,
        note = if (!takes_groups(relation)) {
          say(paste(
            "r is the size of the correlation; p is the probability of an r at least this large if there were no",
            "correlation."
          ))
        }
      ),
      groups_block(relation), block_cautions(texts)
    ),
    line_blocks(line, answer$digits),
    list(
      if (!is.null(outside)) block_cautions(words_of_cautions(outside, variables, door_page())),
      block_rows("relations", as.data.frame(relation)),
      if (nrow(texts)) block_rows("cautions", data.frame(x = relation$x, y = relation$y, texts))
    )
  )
  do.call(new_section, c(list(sprintf("pair-%d", k), heading), blocks))
}

pairs_sentence <- function(relation) say("Pairs: %s.", pairs_clause(relation$n, relation$sample))

relation_caption <- function(relation) {
  variables <- relation$sample$variables
  say("%s and %s.", label_of(variables, relation$x), inside_of(variables, relation$y))
}

groups_block <- function(relation) {
  if (takes_groups(relation)) {
    cells <- groups_cells(relation)
    return(if (!is.null(cells)) block_table(cells, groups_caption(relation)))
  }
  groups <- relation$groups
  if (is.null(groups)) return(NULL)
  decimals <- decimals_for(groups$sd, 3)
  cells <- list(
    group = groups$value, counts = format(groups$code), n = format(groups$n),
    mean = format_decimals(groups$mean, decimals), sd = format_decimals(groups$sd, decimals)
  )
  names(cells)[2] <- say("effective n")
  block_table(cells, say("The two groups."))
}

line_blocks <- function(line, digits) {
  if (is.null(line)) return(NULL)
  variables <- line$sample$variables
  y <- inside_of(variables, line$y)
  predictions <- if (nrow(line$predictions)) {
    caption <- say("Predicted values, with %s%% confidence intervals of the mean and prediction intervals for a new case.")
    block_table(prediction_cells(line$predictions, line), say(caption, percent(line$confidence)))
  }
  solutions <- if (nrow(line$solutions)) {
    caption <- say("Values of %s estimated from y (inverse prediction).", inside_of(variables, line$x))
    block_table(solution_cells(line$solutions, line), caption)
  }
  named <- function(rows) if (nrow(rows)) data.frame(x = line$x, y = line$y, rows)
  list(
    block_text(in_words(line, digits), paste0(line_equation(line), ".")),
    block_table(line_term_cells(line), say("Regression line of %s on %s.", y, inside_of(variables, line$x))),
    block_table(line_variance_cells(line), say("Variance of %s explained and unexplained.", y)),
    predictions, solutions,
    block_rows("lines", data.frame(x = line$x, y = line$y, shape = line$shape, line$terms)),
    block_rows("predictions", named(line$predictions))
  )
}

#' The scatter plot of a pair, with its line where that is worth drawing; none where it would show a group that is too small
#' @noRd
pair_figure <- function(answer, with_cases = TRUE) {
  relation <- answer$relation
  if (isTRUE(relation$withheld)) return(NULL)
  variables <- relation$sample$variables
  if (takes_groups(relation)) return(groups_figure(relation))
  drawn <- if (!any(variables$level == "binary")) answer$line
  alt <- say(
    "Scatter plot of %s against %s, %d dots. %s", heading_of(variables, relation$y), heading_of(variables, relation$x),
    relation$n, in_words(relation)
  )
  caption <- paste(c(relation_caption(relation), scatter_caption(relation, if (!is.null(drawn)) TRUE)), collapse = " ")
  grave <- utils::head(grave_cautions(answer), 1)
  worst <- if (nrow(grave)) sprintf("%s: %s", capital(say(grave$severity)), meaning_of(grave$code))
  block_figure(
    figure_scatter(relation, drawn, texts = list(caption = NA)), alt, caption,
    statement = seen_title(relation, relation$sample), below = paste(c(short_figures(relation), worst), collapse = "    "),
    relation = if (with_cases) relation, slide = function() figure_scatter(relation, drawn, labels = FALSE)
  )
}

groups_figure <- function(relation) {
  alt <- say("Figure of %s. %s", groups_caption(relation), in_words(relation))
  block_figure(
    figure_groups(relation, texts = list(caption = NA)), alt,
    paste(groups_caption(relation), groups_drawn(relation)),
    statement = groups_seen(relation),
    below = short_figures(relation)
  )
}

short_figures <- function(relation) sprintf("%s, n = %s", r_label(relation), format_count(relation$n))
