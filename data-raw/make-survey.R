# Writes inst/extdata/survey_2024.csv: a made-up survey of evening schools: eight districts, five classes drawn in each, all
# learners of a class asked; weights, forty replicate weights that leave out a class each, and five plausible values of a
# reading score. Planted: classes are alike (an intraclass correlation of about .3 in both), so that 95 % intervals that take
# learners as drawn one by one are too narrow; and districts that were drawn more thinly read better. Run by hand.
# Rscript data-raw/make-survey.R
RNGversion("4.1.0")
set.seed(2024)
districts <- c("Alder", "Birch", "Cedar", "Dogwood", "Elm", "Fir", "Grove", "Hazel")
classes_there <- c(20, 24, 28, 32, 40, 48, 56, 64) # classes of each district, five of which were drawn
classes <- data.frame(district = rep(districts, each = 5), there = rep(classes_there, each = 5))
classes$class <- sprintf("%s%d", substr(classes$district, 1, 1), 1:5)
classes$size <- sample(8:24, 40, TRUE)
classes$asked <- pmax(5L, round(classes$size * stats::runif(40, .6, 1)))
shared <- stats::rnorm(40)
classes$for_practice <- .55 * (.5 * shared + sqrt(.75) * stats::rnorm(40))
classes$for_reading <- .55 * (.5 * shared + sqrt(.75) * stats::rnorm(40)) + .12 * (match(
  classes$district,
  districts
) - 4.5) / 2.3
of <- rep(seq_len(40), classes$asked)
n <- length(of)
own <- stats::rnorm(n)
practice <- classes$for_practice[of] + .84 * own
reading <- classes$for_reading[of] + .84 * (.35 * own + sqrt(1 - .35^2) * stats::rnorm(n))
weight <- classes$there[of] / 5 * classes$size[of] / classes$asked[of]
survey <- data.frame(
  learner = sprintf("S%04d", seq_len(n)), district = classes$district[of], class = classes$class[of],
  w_final = round(weight, 3), age_years = round(pmin(pmax(stats::rgamma(n, 8, .21), 18), 76)),
  practice_hours = round(pmax(0.2, 4.5 + 2.2 * practice), 1),
  books_at_home = findInterval(.5 * reading + .9 * stats::rnorm(n), c(-1.1, -.3, .4, 1.2)) + 1L
)
for (k in 1:5) survey[[paste0("pv", k)]] <- round(500 + 90 * (.94 * reading + .34 * stats::rnorm(n)), 1)
for (k in 1:40) {
  others <- classes$district[of] == classes$district[k]
  factor <- ifelse(of == k, 0, ifelse(others, 5 / 4, 1))
  survey[[sprintf("rw%d", k)]] <- round(survey$w_final * factor, 4)
}
blank <- function(name, count) replace(survey[[name]], sample(n, count), NA)
survey$practice_hours <- blank("practice_hours", 12)
survey$books_at_home <- blank("books_at_home", 9)
utils::write.csv(survey, file.path("inst", "extdata", "survey_2024.csv"),
  row.names = FALSE, na = "", quote = FALSE,
  eol = "\n"
)
cat(n, "learners\n")
