# Writes inst/extdata/feedback.csv: an untouched export of the evening school's end-of-term form. Made-up data; run by hand.
# Rscript data-raw/make-feedback.R
set.seed(1406)
n <- 130
drive <- rnorm(n)
steps <- function(words, load, blank = 0.04) {
  cuts <- stats::qnorm(seq_len(length(words) - 1) / length(words)) * 1.05
  out <- words[findInterval(load * drive + sqrt(1 - load^2) * rnorm(n), cuts) + 1L]
  replace(out, runif(n) < blank, "")
}
agree <- c("Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree")
often <- c("Never", "Rarely", "Sometimes", "Often", "Always")
bands <- c("18-29", "30-44", "45-64", "65+")
materials <- c("Videos", "Podcasts", "Textbook", "Talking with friends", "Films")
chosen <- vapply(seq_len(n), function(k) {
  paste(materials[runif(5) < c(.5, .35, .6, .3 + .1 * (drive[k] > 0), .2)], collapse = "; ")
}, "")
comments <- c(
  "", "", "", "", "", "More evening dates, please", "The room was cold in March", "Thank you!",
  "Less homework; more games", ""
)
seconds <- round(exp(rnorm(n, log(260), 0.35)))
turned <- steps(agree, -0.6)
items <- list(steps(agree, 0.75), steps(agree, 0.7), turned, steps(agree, 0.65), steps(agree, 0.6))
# Three who clicked straight through, and fast.
straight <- c(23, 71, 104)
for (k in seq_along(items)) items[[k]][straight] <- "Agree"
seconds[straight] <- c(41, 38, 55)
start <- as.POSIXct("2024-06-17 18:05:00", tz = "UTC") + cumsum(round(stats::rexp(n, 1 / 2400)))
table <- data.frame(
  format(start, "%Y-%m-%d %H:%M:%S"), sprintf("%02d:%02d", seconds %/% 60, seconds %% 60), sprintf("F%03d", seq_len(n)),
  sample(bands, n, TRUE, c(.3, .35, .25, .1)), steps(often, 0.7), items[[1]], items[[2]], items[[3]], items[[4]], items[[5]],
  chosen, sample(c("Yes", "No", "Not sure"), n, TRUE, c(.6, .25, .15)),
  pmax(0, round(4 + 1.6 * drive + rnorm(n, 0, 1.2), 1)), sample(comments, n, TRUE)
)
codes <- c(
  "sent", "time_taken", "learner", "age", "practice", "q1", "q2", "q3", "q4", "q5", "materials", "again",
  "hours", "comment"
)
questions <- c(
  "Sent at", "Time taken (mm:ss)", "Learner", "How old are you?", "How often do you practise between lessons?",
  "My tutor explains things clearly", "I dare to speak in class", "The lessons are too fast for me",
  "I can use what I learn in daily life", "I would recommend the school",
  "Which materials do you use at home? Choose all that apply",
  "Will you come again next term?", "How many hours a week do you practise?", "Anything you would like to tell us?"
)
quoted <- function(cells) {
  odd <- grepl("[\",\n]", cells)
  ifelse(odd, paste0("\"", gsub("\"", "\"\"", cells), "\""), cells)
}
lines <- c(
  paste(codes, collapse = ","), paste(quoted(questions), collapse = ","),
  do.call(paste, c(lapply(table, function(column) quoted(as.character(column))), sep = ","))
)
writeLines(lines, "inst/extdata/feedback.csv")
