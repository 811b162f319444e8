# How often what is told holds where schemes meet: Fay's replicates, plausible values in strata, whole classes that were
# treated, corrections for unreliability, panels of independent units. Coverage of the told 95 % interval and, where there is
# no relation, the share that is told as significant without a serious caution.
library(unsere)
set.seed(23)
runs <- as.integer(Sys.getenv("RUNS", "500"))
held <- function(found, truth) found$ci_low <= truth && truth <= found$ci_high
unwarned <- function(found) found$p < .05 && !any(cautions(found)$severity == "serious")

# Persons of classes in strata: two variables with the given r, alike within classes.
in_strata <- function(strata = 10, classes = 4, size = 15, r = .4, icc = .25) {
  class <- rep(seq_len(strata * classes), each = size)
  pair <- function(n) {
    shared <- stats::rnorm(n)
    cbind(shared, r * shared + sqrt(1 - r^2) * stats::rnorm(n))
  }
  both <- sqrt(icc) * pair(strata * classes)[class, ] + sqrt(1 - icc) * pair(length(class))
  data.frame(x = both[, 1], y = both[, 2], class, zone = (class - 1) %/% classes + 1, w = 1)
}

# Half samples: of each pair of classes one gets more weight and the other less, by Fay's factor.
fay <- function(r = .4, factor = .5) {
  data <- in_strata(20, 2, r = r)
  orders <- 24L
  # Of independent signs instead of a balanced set: the variance is as large on average.
  signs <- matrix(sample(c(-1, 1), orders * 20, TRUE), orders)
  first <- data$class %% 2 == 1
  copies <- vapply(seq_len(orders), function(k) {
    sign <- signs[k, data$zone] * ifelse(first, 1, -1)
    ifelse(sign > 0, 2 - factor, factor)
  }, numeric(nrow(data)))
  colnames(copies) <- paste0("rw", seq_len(orders))
  set_design(cbind(data, copies), weight = w, replicates = "rw*", method = "fay", factor = factor)
}

plausible <- function(r = .4) {
  data <- in_strata(r = r)
  seen <- data$y + stats::rnorm(nrow(data), 0, .6)
  known <- cbind(1, seen, data$x)
  fitted <- as.vector(known %*% qr.coef(qr(known), data$y))
  spread <- stats::sd(data$y - fitted)
  for (k in 1:5) data[[paste0("pv", k)]] <- fitted + stats::rnorm(nrow(data), 0, spread)
  set_plausible(set_design(data, stratum = zone, cluster = class), "score", c(pv1, pv2, pv3, pv4, pv5))
}

# Whole classes get a course or none; nobody names the design, only the column of the classes stands in the file.
treated <- function(effect = 0, classes = 12, size = 18, icc = .2) {
  class <- rep(seq_len(classes), each = size)
  given <- sample(rep(0:1, length.out = classes))
  score <- effect * given[class] + sqrt(icc) * stats::rnorm(classes)[class] + sqrt(1 - icc) * stats::rnorm(length(class))
  data.frame(class = paste("class", class), course = ifelse(given[class] == 1, "yes", "no"), score)
}

corrected <- function(n = 200, r = .5, reliability = c(.8, .7)) {
  x <- stats::rnorm(n)
  y <- r * x + sqrt(1 - r^2) * stats::rnorm(n)
  blurred <- function(v, share) v + stats::rnorm(n, 0, sqrt(1 / share - 1))
  data.frame(x = blurred(x, reliability[1]), y = blurred(y, reliability[2]))
}

# Persons over waves, each with a level of its own that two variables do not share.
panel <- function(persons = 40, waves = 5, lasting = .6) {
  person <- rep(seq_len(persons), each = waves)
  column <- function() sqrt(lasting) * stats::rnorm(persons)[person] + sqrt(1 - lasting) * stats::rnorm(length(person))
  data <- data.frame(person = paste0("p", person), wave = rep(seq_len(waves), persons), x = column(), y = column())
  set_variable(set_variable(as_study(data), "person", role = "group"), "wave", role = "time")
}

coverage <- list(
  "Fay's replicates, 20 pairs of classes" = function() held(relate(fay(), x, y), .4),
  "Fay's replicates, r = 0" = function() held(relate(fay(0), x, y), 0),
  "plausible values, 10 strata of 4 classes" = function() held(relate(plausible(), x, score), .4),
  "whole classes treated, classes named" = function() held(relate(set_design(treated(), cluster = class), course, score), 0),
  "corrected for reliabilities of .8 and .7, n = 200" = function() {
    found <- relate(corrected(), x, y, correct_for = list(x = .8, y = .7))
    found$corrected_low <= .5 && .5 <= found$corrected_high
  },
  "the same, n = 60, r = .3" = function() {
    found <- relate(corrected(60, .3), x, y, correct_for = list(x = .8, y = .7))
    found$corrected_low <= .3 && .3 <= found$corrected_high
  }
)
silent <- list(
  "whole classes treated, no effect, classes only in a column" = function() unwarned(relate(treated(), course, score)),
  "panel of 40 persons and 5 waves, nothing shared" = function() unwarned(relate(panel(), x, y)),
  "panel of 15 persons and 8 waves, nothing shared" = function() unwarned(relate(panel(15, 8), x, y))
)
rate <- function(kinds) {
  for (name in names(kinds)) cat(sprintf("%-60s %.3f\n", name, mean(replicate(runs, kinds[[name]]()))))
}
cat(sprintf("Share of %d runs in which the told 95 %% interval held the truth\n\n", runs))
rate(coverage)
cat("\nShare told as significant without a serious caution where there is no relation\n\n")
rate(silent)
