# Writes inst/extdata/three_terms.csv: made-up learners of the evening school in three terms, a row a learner and term.
# Planted: those who practise more speak better in the next term, beyond what they did before; within a learner a
# term of more
# practice is not yet one of better speaking; and who left after the first or second term had practised less. Run by
# hand.
# Rscript data-raw/make-three-terms.R
RNGversion("4.1.0")
set.seed(310)
n <- 130
lasting <- stats::rnorm(n)
practice <- 0.6 * lasting + 0.8 * stats::rnorm(n)
speaking <- 0.5 * lasting + 0.85 * stats::rnorm(n)
there <- rep(TRUE, n)
terms <- list()
for (term in 1:3) {
  if (term > 1) {
    later <- 0.35 * lasting + 0.45 * practice + 0.65 * stats::rnorm(n)
    speaking <- 0.45 * speaking + 0.4 * practice + 0.6 * stats::rnorm(n)
    there <- there & stats::runif(n) > stats::plogis(-2.6 - 0.9 * practice)
    practice <- later
  }
  terms[[term]] <- data.frame(
    learner = sprintf("T%03d", seq_len(n)), term = term, practice_hours = round(pmax(0.2, 5 + 2.2 * practice), 1),
    speaking_score = round(58 + 10 * speaking + 2 * term)
  )[there, ]
}
rows <- do.call(rbind, terms)
rows$speaking_score[sample(nrow(rows), 6)] <- NA
# Its lines in codebook.csv were written by hand, as those of the survey.
utils::write.csv(rows, "inst/extdata/three_terms.csv", row.names = FALSE, na = "", quote = FALSE, eol = "\n")
