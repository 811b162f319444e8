# The sections of a brief's report, in the order people work. Sections without content are not there.

brief_sections <- function(results, changes = NULL) {
  relation <- if (length(results$pairs)) results$pairs[[1]]$relation
  Filter(function(section) length(section$blocks) > 0L, c(
    if (!is.null(changes)) list(changes_section(changes)), list(answer_section(results, relation)),
    list(study_section(results), variables_section(results)),
    lapply(seq_along(results$pairs), function(k) pair_section(results$pairs[[k]], k)),
    list(matrix_section(results), rank_section(results), flags_section(results), conclusion_section(results),
      how_section(results))
  ))
}

answer_section <- function(results, relation) {
  if (is.null(relation)) return(new_section("answer", NULL))
  pair <- results$pairs[[1]]
  figure <- pair_figure(pair)
  worst <- utils::head(grave_cautions(pair), 1)
  new_section("answer", NULL, block_text(plain_answer(pair)), block_strip(relation),
    block_figure(figure, alt = scatter_alt(relation, pair$line), caption = scatter_caption(relation,
      if (!is.null(pair$line)) TRUE),
      relation = relation), block_cautions(worst))
}

pair_figure <- function(pair, texts = list(caption = NA), labels = TRUE) {
  numeric <- all(pair$relation$pair$variables$level == "numeric")
  scatter_of(pair$relation, if (numeric || pair$relation$coefficient == "spearman") pair$line, texts = texts,
    labels = labels)
}

figure_caption <- function(relation, line) {
  paste(c(relation_caption(relation$pair), scatter_caption(relation, if (!is.null(line)) TRUE)), collapse = " ")
}

#' The cautions that are more than notes; a bend is none where the line follows it
#' @noRd
grave_cautions <- function(pair) {
  told <- pair$relation$cautions
  bent <- !is.null(pair$line) && pair$line$shape != "linear"
  told[told$severity != "note" & !(bent & told$code == "curved"), ]
}

study_section <- function(results) {
  study <- results$study
  # Missing codes have a sentence of their own, by label.
  decisions <- grep("^cells that held a missing code", study$provenance$decisions, value = TRUE, invert = TRUE)
  new_section("data", "The data",
    block_text(
      sprintf("%s: %s and %s.", study_file(study), count_of(nrow(study$data), "case"), count_of(ncol(study$data),
        "variable")),
      coded_sentence(study, results$names), if (length(decisions)) paste0(capital(decisions), ".")
    ),
    block_table(variable_cells(study, results$names), "The variables of this report.", left = 2L)
  )
}

variable_cells <- function(study, names) {
  rows <- overview(study)$variables
  rows <- rows[match(names, rows$variable), ]
  list(
    Variable = heading_of(study$codebook, names), Source = ifelse(is.na(study$codebook$source[match(names,
      study$codebook$variable)]),
      undefined_mark(), study$codebook$source[match(names, study$codebook$variable)]), n = format(rows$n),
    missing = format(rows$missing), Mean = format_number(rows$mean), SD = format_number(rows$sd),
    Range = ifelse(is.na(rows$min), undefined_mark(), sprintf("%s to %s", format_number(rows$min, 4),
      format_number(rows$max, 4)))
  )
}

variables_section <- function(results) {
  drawn <- utils::head(results$names, 9)
  if (!length(drawn)) return(new_section("variables", NULL))
  figure <- distribution_of(results$study, drawn, NULL, FALSE, list(title = NA, subtitle = NA, caption = NA)) +
    ggplot2::theme(strip.clip = "off", strip.text = ggplot2::element_text(size = 9))
  new_section("variables", "Each variable", block_figure(figure, alt = sprintf("Distributions of %s.",
    paste(label_of(results$study$codebook, drawn), collapse = ", ")), height = if (length(drawn) > 4) 7 else 4.5,
    caption = "How the values of each variable are spread."))
}

pair_section <- function(pair, k) {
  relation <- pair$relation
  variables <- relation$pair$variables
  line <- pair$line
  new_section(sprintf("pair-%d", k), sprintf("%s and %s", label_of(variables, relation$x), inside_of(variables,
    relation$y)),
    block_text(in_words(relation, pair$digits)), if (k > 1) block_strip(relation),
    if (k > 1) block_figure(pair_figure(pair), alt = scatter_alt(relation, line), relation = relation,
      caption = figure_caption(relation, line)),
    block_text(sprintf("Strength: %s. Evidence: %s.", strength_clause(relation), evidence_clause(relation))),
    block_table(relation_cells(relation), relation_caption(relation$pair), left = 2L,
      note = "r and p say different things: r is the size of the relation, p how surprising it would be without one."),
    block_cautions(relation$cautions),
    if (!is.null(line)) block_text(in_words(line, pair$digits), paste0(line$equation, ".")),
    if (!is.null(line)) block_table(line_term_cells(line), sprintf("The line of %s in %s.", inside_of(variables,
      line$y),
      inside_of(variables, line$x))),
    if (!is.null(line) && nrow(line$predictions)) block_table(prediction_cells(line$predictions, line),
      sprintf("What the line predicts, with %s %% intervals of the mean and of one new case.",
        percent(line$confidence)))
  )
}

matrix_section <- function(results) {
  matrix <- results$matrix
  if (is.null(matrix)) return(new_section("matrix", NULL))
  table <- publication_table(matrix, digits = results$settings$digits)
  p <- nrow(matrix$variables)
  new_section("matrix", "All pairs", block_text(in_words(matrix), paste(matrix$notes, collapse = " ")),
    block_figure(matrix_figure(matrix, list(title = NA, subtitle = NA)), caption = "The pairs as cells.",
      alt = paste("Matrix of correlations.",
      in_words(matrix)),
      width = if (p > 8) 11 else 8, height = min(max(4, 1.5 + 0.6 * p), 10)),
    block_table(as.list(table$cells), table$title, table$note), block_cautions(matrix$cautions))
}

rank_section <- function(results) {
  rank <- results$rank
  if (is.null(rank)) return(new_section("rank", NULL))
  rows <- rank$predictors
  cells <- list(rank = format(rows$rank), predictor = label_of(rank$variables, rows$x), r = format_r(rows$r),
    interval = mapply(format_interval, rows$ci_low, rows$ci_high), n = format(rows$n))
  new_section("rank", sprintf("What goes best with %s", inside_of(rank$variables, rank$outcome)),
    block_text(in_words(rank)),
    block_figure(predictors_figure(rank, list(title = NA, subtitle = NA)), alt = in_words(rank),
      caption = "The predictors at one scale.", width = 10,
      height = 5.5),
    block_table(cells, "The predictors, on the same cases.", left = 2L),
    block_table(comparison_cells(rank), "The differences between their r.", left = 2L,
      note = "Sizes are compared; p is adjusted by Holm."))
}

flags_section <- function(results) {
  blocks <- lapply(results$flags, function(flags) {
    cells <- flag_cells(flags)[1:5]
    names(cells)[1] <- "series"
    caption <- sprintf("%s and %s over time.", label_of(flags$relation$pair$variables, flags$x), inside_of(
      flags$relation$pair$variables, flags$y))
    list(block_text(in_words(flags)), if (!is.null(flags$series)) block_figure(over_time_figure(flags, "time",
      list(caption = NA)),
      alt = in_words(flags), height = 6), if (!is.na(flags$verdict)) block_table(cells, caption),
        block_cautions(flags$cautions))
  })
  do.call(new_section, c(list("trend", "More than a shared trend?"), do.call(c, blocks)))
}

#' The conclusion for a reader without statistics, from the results
#' @noRd
conclusion_section <- function(results) {
  told <- c(unlist(lapply(results$pairs, plain_answer)), unlist(lapply(results$flags, plain_verdict)))
  if (!length(told)) return(new_section("conclusion", NULL))
  new_section("conclusion", "What this means", block_text(told, paste(
    "Going together is not cause: these figures do not show that changing the one would change the other.",
    "They hold for cases like these, within the range that was observed.")))
}

plain_verdict <- function(flags) {
  if (is.na(flags$verdict)) return(NULL)
  variables <- flags$relation$pair$variables
  text <- c(holds = "%s and %s move together from period to period, not only because both drift.",
    weakened = "Whether %s and %s go together beyond their drift is uncertain.",
    "trend only" = "%s and %s both drift over time; nothing more ties them here.",
    "no relation" = "%s and %s show no clear tie over time.",
      "too little data" = "%s and %s cover too few periods to tell.")
  capital(sprintf(text[[flags$verdict]], inside_of(variables, flags$x), inside_of(variables, flags$y)))
}

#' Direction, size in units, certainty, and what to keep in mind
#' @noRd
plain_answer <- function(pair) {
  relation <- pair$relation
  line <- pair$line
  variables <- relation$pair$variables
  x <- inside_of(variables, relation$x)
  y <- inside_of(variables, relation$y)
  if (!is_clear(relation)) {
    return(sprintf(paste("These data show no clear tie between %s and %s;",
      "a small one in either direction cannot be ruled out."), x, y))
  }
  first <- if (!is.null(relation$groups)) {
    paste0(capital(group_claim(relation)), ".")
  } else {
    sprintf("Higher %s went with %s %s%s.", x, if (relation$r > 0) "higher" else "lower", y, size_in_units(line,
      variables))
  }
  grave <- grave_cautions(pair)
  if (any(grave$code == "shared_trend" & grave$severity == "serious")) {
    return(sprintf(paste("%s and %s went %s over time, but a trend in each is enough for that: what is left when the",
      "trends are taken out does not go together. Do not read r = %s as a tie between them."), capital(x), y,
      if (relation$r > 0) "the same way" else "opposite ways", format_r(relation$r)))
  }
  paste(first, sprintf("The tie is %s by %s and clear of chance.", relation$strength, relation$scale$source),
    if (nrow(grave)) paste("Keep in mind:", grave$evidence[1]) else "")
}

size_in_units <- function(line, variables) {
  if (is.null(line)) return("")
  if (line$shape == "linear") {
    slope <- line$terms$estimate[2]
    return(sprintf(": on average %s%s %s for each additional %s", format_number(abs(slope)), unit_after(variables,
      line$y),
      if (slope > 0) "more" else "less", unit_or_one(variables, line$x)))
  }
  if (line$shape == "log") {
    doubling <- line$terms$estimate[2] * log(2)
    return(sprintf(": on average %s%s %s with each doubling", format_number(abs(doubling)), unit_after(variables, line$y),
      if (doubling > 0) "more" else "less"))
  }
  ""
}

how_section <- function(results) {
  study <- results$study
  scale <- strength_scale(results$settings$strength)
  new_section("method", "How it was done",
    block_text(
      paste("Pearson's r by two-pass sums (Pearson 1895), Spearman's by mid-ranks (1904), point-biserial and phi with the",
        "later",
        "value as 1. Tests: Student's t (1908), the exact or matched permutation distribution for ranks (Pitman 1937),",
        "chi-squared for phi. Intervals: Fisher's z (1921), Bonett and Wright (2000), the noncentral t, the delta method."),
      if (any(!vapply(results$pairs, function(pair) is.null(pair$line), NA))) paste("Lines by least squares through",
        "orthogonalisation (Bj\u00f6rck 1967)."),
      if (!is.null(results$rank)) "Predictors compared by Williams' t (1959).",
      if (length(results$flags)) paste("Trends: changes and what is left after a trend, with an effective number of cases",
        "(Bartlett 1935; Pyper and Peterman 1998)."),
      sprintf("Words for size by %s. Cases that lack a value were left out; no other value was changed.",
        scale_clause(scale)),
      sprintf("Data file: %s, SHA-256 %s.", study_file(study), digest::digest(study$provenance$file, "sha256",
        file = TRUE)),
      sprintf("Unsere %s, R %s, %s.", utils::packageVersion("unsere"), getRversion(), format(Sys.Date(), "%Y-%m-%d"))
    ),
    block_code(results$lines, "The brief."))
}
