# Writes inst/extdata/test_items.csv: a made-up multiple-choice placement test of twelve items, with two bad items (q5 says
# nothing, q9 asks the other way round) and one bad key (q7: the key says A, the stronger choose C). Run by hand.
# Rscript data-raw/make-test-items.R
set.seed(512)
n <- 260
able <- rnorm(n)
right <- c(
  q1 = "B", q2 = "D", q3 = "A", q4 = "C", q5 = "B", q6 = "A", q7 = "C", q8 = "D", q9 = "B", q10 = "A",
  q11 = "C", q12 = "D"
)
hard <- c(-1.4, -.9, -.5, -.2, 0, .1, .3, .5, 0, .8, 1.1, 1.6)
steep <- c(1.2, 1.4, 1.1, 1.5, 0, 1.2, 1.3, 1.1, -.9, 1.2, 1.4, 1)
answers <- lapply(seq_along(right), function(k) {
  chance <- .2 + .8 * stats::plogis(steep[k] * (able - hard[k]))
  if (k == 5) chance <- rep(.45, n)
  others <- setdiff(LETTERS[1:4], right[k])
  out <- ifelse(runif(n) < chance, right[k], sample(others, n, TRUE, c(.5, .3, .2)))
  replace(out, runif(n) < .02, "")
})
names(answers) <- names(right)
utils::write.csv(data.frame(person = sprintf("P%03d", seq_len(n)), answers), "inst/extdata/test_items.csv",
  row.names = FALSE, quote = FALSE, eol = "\n"
)
