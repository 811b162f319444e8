# The sections that tell of the data, of what it comes to, and of how it was done.

#' What the first screen says: the answer, the picture, the strip, the worst caution
#' @noRd
answer_section <- function(results) {
  if (!length(results$pairs)) {
    lead <- leading_answer(results)
    return(if (!is.null(lead)) new_section("answer", NULL, block_text(lead)))
  }
  answer <- results$pairs[[1]]
  worst <- utils::head(grave_cautions(answer), 1)
  new_section(
    "answer", NULL, block_text(plain_answer(answer)), block_strip(answer$relation),
    pair_figure(answer, tells_cases(results$brief)),
    block_cautions(words_of_cautions(worst, answer$relation$sample$variables, door_page()))
  )
}

#' The answer in a sentence or two: of the first pair, else of the first other question that the brief asks
#' @noRd
leading_answer <- function(results) {
  if (length(results$pairs)) return(plain_answer(results$pairs[[1]]))
  if (length(results$flags)) return(plain_verdict(results$flags[[1]]))
  of_pairs <- lapply(results[c("levels", "pooled", "choices", "waves")], function(several) if (length(several)) several[[1]])
  others <- Filter(Negate(is.null), c(results[c("rank", "items")], of_pairs, results[c("matrix", "plan")]))
  if (length(others)) in_words(others[[1]])
}

data_section <- function(results) {
  intake <- results$intake
  size <- say("%s: %s and %s.", intake$name, count_of(intake$cases, "case"), count_of(intake$variables, "variable"))
  new_section(
    "data", say("The data"),
    block_text(
      size, coded_sentence(intake$coded, study_book(results$study)),
      if (length(intake$decisions)) paste0(capital(intake$decisions), "."),
      say("No result for %s: %s", results$unanswered$asked, results$unanswered$why)
    ),
    if (length(results$names)) {
      described_variables(results)
    },
    questions_table(study_book(results$study), results$names)
  )
}

described_variables <- function(results) {
  cells <- variable_cells(results$study, results$names, results$withheld)
  block_table(cells, say("The variables of this report."), left_aligned = if (is.null(cells$Source)) 1L else 2L)
}

#' The whole questions, once, of the variables that go by a short label
#' @noRd
questions_table <- function(book, names) {
  whole <- whole_questions(book, names)
  if (length(whole)) {
    block_table(
      list("Short label" = names(whole), Question = unname(whole)), say("The questions in full."),
      left_aligned = 2L
    )
  }
}

coded_sentence <- function(coded, book) {
  if (!length(coded)) return(NULL)
  counts <- paste(sprintf("%s %d", label_of(book, names(coded)), unlist(coded)), collapse = ", ")
  paste0(say("Counted as missing because of a missing-value code: "), counts, ".")
}

variable_cells <- function(study, names, withheld = character()) {
  rows <- summarise_variables(study, names)
  # The mean of two values tells how many have each.
  rows[rows$variable %in% withheld, c("mean", "sd")] <- NA
  book <- book_entries(study, names)
  reach <- ifelse(is.na(rows$min), undefined_mark(), say("%s to %s", format_number(rows$min, 4), format_number(rows$max, 4)))
  cells <- list(
    Variable = heading_of(book, names),
    Source = if (!all(is.na(book$source))) ifelse(is.na(book$source), undefined_mark(), book$source),
    n = format(rows$n), missing = format(rows$missing), M = format_column(rows$mean), SD = format_column(rows$sd),
    Range = ifelse(rows$level == "nominal", say("%d groups", rows$distinct), reach)
  )
  cells[lengths(cells) > 0L]
}

variables_section <- function(results) {
  drawn <- utils::head(setdiff(results$names, results$withheld), 9)
  if (length(drawn) < 2L || results$single || !gives_rows(results$study, results$names)) return(NULL)
  none <- list(title = NA, subtitle = NA, caption = NA)
  figure <- figure_distribution(results$study, drawn, NULL, FALSE, none) +
    ggplot2::theme(strip.clip = "off", strip.text = ggplot2::element_text(size = 9))
  labels <- paste(label_of(study_book(results$study), drawn), collapse = ", ")
  new_section("variables", say("Each variable"), block_figure(
    figure, say("Distributions of %s.", labels), say("Distribution of each variable."),
    height = if (length(drawn) > 4) 7 else 4.5
  ))
}

conclusion_section <- function(results) {
  sentences <- c(unlist(lapply(results$pairs, plain_answer)), unlist(lapply(results$flags, plain_verdict)))
  if (!length(sentences) || results$single) return(NULL)
  new_section("conclusion", say("What this means"), block_conclusion(c(sentences, say(paste(
    "Correlation does not show causation: these results do not show that changing one variable would change the",
    "other. They apply to cases like these, within the observed range."
  )))))
}

# Whether the data called for it in some pair.
takes_jackknife <- function(results) {
  of_pairs <- vapply(results$pairs, function(pair) is_by_jackknife(pair$relation), NA)
  any(of_pairs) || any(results$matrix$pairs$ci_method %in% "jackknife")
}

# How the interval and p of pairs whose cases are not independent were found.
dependence_methods <- function(results) {
  methods <- c(unlist(lapply(results$pairs, function(pair) pair$relation$ci_method)), results$matrix$pairs$ci_method)
  c(
    if ("clusters" %in% methods) say(paste(
      "Where cases are clustered in classes, interval and p are by the jackknife, leaving out one class at a time",
      "(Wolter 2007)."
    )),
    if ("effective size" %in% methods) say(paste(
      "Where neighbouring times, rows or places are similar, interval and p are by Student's t with the effective",
      "sample size (Bartlett 1935; Pyper and Peterman 1998)."
    ))
  )
}

#' How it was done: the methods of the coefficients that were used, by their records
#' @noRd
method_section <- function(results) {
  records <- coefficient_records()[used_coefficients(results)]
  scale <- strength_scale(results$settings$strength)
  sources <- unique(unlist(lapply(records, `[[`, "sources")))
  lines <- any(!vapply(results$pairs, function(pair) is.null(pair$line), NA)) || !is.null(results$rank)
  several_units <- vapply(results$flags, function(flags) !is.null(flags$units), NA)
  digest <- results$intake$digest
  made <- results$made
  file <- if (!is.null(digest)) say("Data file: %s, SHA-256 %s.", results$intake$file, digest)
  new_section(
    "method", say("Method"),
    block_text(
      if (any_simple(results)) say(unname(vapply(records, `[[`, "", "method"))), scheme_sentences(results),
      if (takes_jackknife(results)) {
        say(paste(
          "Where the data do not support the textbook's standard error of r, interval and test are by the",
          "jackknife (leaving out one case at a time), with Student's t and Satterthwaite's degrees of freedom",
          "(Tukey 1958; Satterthwaite 1946)."
        ))
      },
      dependence_methods(results),
      if (lines) say("Lines by least squares through orthogonalisation (Bj\u00f6rck 1967)."),
      if (!is.null(results$rank)) {
        by_units <- "t by units" %in% results$rank$comparisons$statistic
        if (by_units) {
          say("Predictors compared over the units of the design.")
        } else {
          say("Predictors compared by Williams' t (1959).")
        }
      },
      if (any(several_units)) {
        say(paste(
          "Trends of several units: the means of units and of times were removed; p by the jackknife, leaving out",
          "one unit at a time (Wooldridge 2010; Wolter 2007)."
        ))
      },
      if (!all(several_units)) {
        say(paste(
          "Trends: changes and detrended series, tested with an effective sample size (Bartlett 1935; Pyper and",
          "Peterman 1998)."
        ))
      },
      paste(
        say("Labels for effect size: %s.", scale_clause(scale)),
        say("Cases with missing values were excluded; no other value was changed.")
      ),
      if (length(sources)) say("Sources: %s.", paste(sources, collapse = "; ")), file,
      share_sentence(results$brief, results$withheld),
      if (shares_moments(results$brief)) {
        say(paste(
          "The folder holds the moments of all pairs, not the cases: r, lines and tests of Pearson kinds follow from",
          "them."
        ))
      },
      say("Unsere %s, R %s, %s.", made$version, made$r, made$date),
      cite_words(results, digest)
    ),
    if (length(results$lines)) block_code(results$lines, say("The brief."))
  )
}

used_coefficients <- function(results) {
  used <- c(
    vapply(results$pairs, function(pair) pair$relation$coefficient, ""), results$matrix$pairs$coefficient,
    results$rank$predictors$coefficient, vapply(results$flags, function(flags) flags$relation$coefficient, "")
  )
  intersect(coefficient_names(), used)
}

#' The cases that were used, in full
#' @noRd
rows_section <- function(results) {
  study <- results$study
  share <- share_settings(results$brief)
  if (share$rows == "none") return(NULL)
  if (share$rows == "moments") {
    return(new_section("rows", NULL, block_rows("moments", moments_of_pairs(study, used_variables(results), share$least))))
  }
  used <- used_variables(results)
  new_section(
    "rows", NULL, block_rows("rows_used", study_columns(study, used)), block_rows("words", codes_of_words(study, used))
  )
}

# The words of ordinal variables with the number that stands for each.
codes_of_words <- function(study, names) {
  names <- names[level_of(study, names) == "ordinal"]
  values <- book_entries(study, names)$values
  rows <- lapply(seq_along(names), function(k) {
    steps <- steps_of(study_column(study, names[k]), values[k], names[k])
    if (!is.null(steps)) data.frame(variable = names[k], code = as.double(steps$at), word = steps$labels)
  })
  do.call(rbind, rows)
}

# What tells this analysis from any other: the version and the marks of data and brief.
cite_words <- function(results, digest) {
  marks <- c(
    if (!is.null(digest)) say("data SHA-256 %s", substr(digest, 1, 12)),
    if (!is.null(results$digest)) say("brief SHA-256 %s", substr(results$digest, 1, 12))
  )
  say(
    "To cite this analysis: %s. Computed with Unsere %s%s.", or_default(results$brief$title, results$file),
    utils::packageVersion("unsere"), if (length(marks)) sprintf(" (%s)", paste(marks, collapse = ", ")) else ""
  )
}

reported_relations <- function(results) {
  c(lapply(results$pairs, `[[`, "relation"), if (!is.null(results$rank)) results$rank$relations)
}

# Whether any test and interval are the textbook's of independent cases.
any_simple <- function(results) {
  relations <- reported_relations(results)
  !length(relations) || any(vapply(relations, function(of) or_default(of$scheme, "simple") %in% c("simple", "moments"), NA))
}

#' By which schemes other than that of independent cases tests and intervals were worked out
#' @noRd
scheme_sentences <- function(results) {
  relations <- reported_relations(results)
  of_scheme <- function(holds) Find(holds, relations)
  drawn <- of_scheme(function(of) !is.null(of$design))
  several <- of_scheme(function(of) !is.null(of$plausible))
  controlled <- of_scheme(function(of) identical(of$scheme, "controlled"))
  c(
    if (!is.null(controlled)) {
      say(paste(
        "Partial correlations: r of the residuals on the controls, with as many degrees of freedom less as there are",
        "controls."
      ))
    },
    if (length(drawn$design$replicates)) {
      say(
        paste(
          "Cases were weighted; standard errors come from the %d replicate weights (%s), with %s degrees of freedom",
          "(Wolter 2007)."
        ),
        length(drawn$design$replicates), drawn$design$method, format_df(drawn$design_df)
      )
    } else if (!is.null(drawn)) {
      say(
        paste(
          "The sampling design was used (%s): standard errors by the jackknife, leaving out one of %d units at a",
          "time within its stratum, with %s degrees of freedom (Wolter 2007)."
        ), toString(unlist(drawn$design[c("weight", "stratum", "cluster")])), as.integer(drawn$units),
        format_df(drawn$design_df)
      )
    },
    if (!is.null(several$imputed)) {
      say(
        paste(
          "Missing values were imputed; the results of the %d completed data sets were combined by Rubin's rules (Rubin",
          "1987), with the degrees of freedom of Barnard and Rubin (1999)."
        ), as.integer(several$imputed)
      )
    } else if (!is.null(several)) {
      say(
        paste(
          "Results for each of the %d plausible values were combined by Rubin's rules (Rubin 1987), with the degrees of",
          "freedom of Barnard and Rubin (1999)."
        ), as.integer(several$plausible)
      )
    }
  )
}
