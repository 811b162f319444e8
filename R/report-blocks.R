# A report is a list of sections, each a heading and blocks: the one source that every form of the report is set from.

new_section <- function(id, heading, ...) list(id = id, heading = heading, blocks = Filter(Negate(is.null), list(...)))

block_text <- function(...) list(kind = "text", text = c(...))

#' @param caption Set above; `note` below; `left` the number of columns set to the left.
#' @noRd
block_table <- function(cells, caption, note = NULL, left = 1L) {
  list(kind = "table", cells = cells, caption = caption, note = note, left = left)
}

#' @param alt What the picture shows, for those who cannot see it.
#' @param relation Whose cases the dots are, where they are to answer to the pointer.
#' @noRd
block_figure <- function(plot, alt, caption = NULL, width = 8, height = 5, relation = NULL) {
  list(kind = "figure", plot = plot, alt = alt, caption = caption, width = width, height = height, relation = relation)
}

block_code <- function(lines, caption) list(kind = "code", lines = lines, caption = caption)

block_strip <- function(relation) list(kind = "strip", relation = relation)

block_cautions <- function(cautions) if (nrow(cautions)) list(kind = "cautions", cautions = cautions)

#' The sections about one pair, in the order people work
#' @noRd
pair_sections <- function(study, relation, fitted) {
  pair <- relation$pair
  figure <- scatter_of(relation, fitted, texts = list(caption = NA))
  list(
    answer = new_section("answer", NULL, block_text(in_words(relation)), block_strip(relation),
      block_figure(figure, alt = scatter_alt(relation, fitted), caption = scatter_caption(relation, TRUE)),
      block_cautions(relation$cautions)
    ),
    data = data_section(study, relation),
    relation = new_section("relation", "The relation",
      block_text(sprintf("Strength: %s. Evidence: %s.", strength_clause(relation), evidence_clause(relation))),
      block_table(relation_cells(relation), relation_caption(pair), left = 2L,
        note = "r and p say different things: r is the size of the relation, p how surprising it would be without one."
      )
    ),
    line = new_section("line", "The line",
      block_text(in_words(fitted), paste0(fitted$equation, ".")),
      block_table(line_term_cells(fitted), sprintf("The line of %s in %s.", inside_of(pair$variables, pair$y_name),
        inside_of(pair$variables, pair$x_name)
      )),
      block_table(line_variance_cells(fitted),
        sprintf("How the variance of %s divides.", inside_of(pair$variables, pair$y_name)))
    ),
    method = method_section(study, relation)
  )
}

relation_caption <- function(pair) {
  sprintf("%s and %s.", label_of(pair$variables, pair$x_name), inside_of(pair$variables, pair$y_name))
}

scatter_alt <- function(relation, fitted) {
  variables <- relation$pair$variables
  sprintf(
    "Scatter plot of %s against %s, %d dots. %s", heading_of(variables, relation$y), heading_of(variables, relation$x),
    relation$n, in_words(relation)
  )
}

data_section <- function(study, relation) {
  pair <- relation$pair
  variables <- pair$variables
  from <- study$provenance$file
  spread <- lapply(list(pair$x, pair$y), measure_spread)
  cells <- list(
    Variable = heading_of(variables, variables$variable),
    Source = ifelse(is.na(variables$source), undefined_mark(), variables$source),
    Mean = vapply(spread, function(s) format_decimals(s$mean, decimals_for(s$sd, 3)), ""),
    SD = vapply(spread, function(s) format_decimals(s$sd, decimals_for(s$sd, 3)), ""),
    Range = vapply(list(pair$x, pair$y), function(v) {
      sprintf("%s to %s", format_number(min(v), 4), format_number(max(v), 4))
    }, "")
  )
  new_section("data", "The data",
    block_text(
      sprintf("%s: %s and %s. Pairs: %s.", if (is.null(from)) "A data frame" else file_name(from),
        count_of(nrow(study$data), "case"), count_of(ncol(study$data), "variable"), pairs_clause(relation$n, pair)
      ),
      coded_sentence(study, variables$variable)
    ),
    block_table(cells, "The two variables, over the pairs used.", left = 2L)
  )
}

coded_sentence <- function(study, names) {
  coded <- study$provenance$coded
  coded <- coded[names(coded) %in% names]
  if (!length(coded)) return(NULL)
  paste0("Counted as missing because of a missing code: ",
    paste(sprintf("%s %d", label_of(study$codebook, names(coded)), coded), collapse = ", "), "."
  )
}

method_section <- function(study, relation) {
  from <- study$provenance$file
  file_line <- if (!is.null(from) && file.exists(from)) {
    sprintf("Data file: %s, SHA-256 %s.", file_name(from), digest::digest(from, "sha256", file = TRUE))
  }
  new_section("method", "How it was done",
    block_text(
      paste(
        "Pearson's r with two-pass sums in twice the usual number of digits; Student's t with n \u2212 2 degrees of",
        "freedom; the interval by Fisher's z; the line by least squares through orthogonalisation. Cases that lack",
        "either value were left out; no other value was changed."
      ),
      paste(
        "Sources: Pearson (1895), Proceedings of the Royal Society of London 58; Student (1908), Biometrika 6; Fisher",
        "(1921), Metron 1; Bj\u00f6rck (1967), BIT 7; words for size by", paste0(relation$scale$source, ".")
      ),
      file_line,
      sprintf("Unsere %s, R %s, %s.", utils::packageVersion("unsere"), getRversion(), format(Sys.Date(), "%Y-%m-%d"))
    )
  )
}
