# Writes the demo data into inst/extdata: a made-up evening language school for adults with five centres.
# Run from the project's root: Rscript data-raw/make-demo.R. Seeded: two runs give the same bytes.
# Prints what it planted; tests/testthat/test-study-demo.R finds each of them.

RNGversion("4.1.0")
set.seed(19381125)
folder <- file.path("inst", "extdata")
planted <- character()
plant <- function(...) planted <<- c(planted, sprintf(...))

write_table <- function(data, name) {
  utils::write.csv(data, file.path(folder, name), row.names = FALSE, na = "", quote = FALSE, eol = "\n")
}
clamp <- function(x, low, high) pmin(pmax(x, low), high)
scale_of_five <- function(x, cuts = c(-1.2, -0.4, 0.4, 1.2)) findInterval(x, cuts) + 1L

# ---- learners -------------------------------------------------------------------------------------------------------
n <- 240
centres <- c("Brook", "Canal", "Harbour", "Mill", "Orchard")
centre <- sample(rep(centres, times = c(52, 46, 54, 40, 48)))
distance <- c(Brook = 0, Canal = 1, Harbour = 2, Mill = 3, Orchard = 4)[centre]

age <- round(clamp(stats::rgamma(n, 7, 0.19), 18, 74))
practice <- round(clamp(stats::rgamma(n, 2.1, 0.42), 0.2, 16), 1)
ability <- stats::rnorm(n)
# Each centre further out has longer ways and stronger listeners; within a centre the long way costs listening.
own_way <- stats::rnorm(n)
commute <- round(clamp(16 + 7 * distance + 5 * own_way, 3, 75))
listening <- round(clamp(50 + 5.2 * distance + 6 * ability - 4.2 * own_way + stats::rnorm(n, 0, 4), 15, 100))
plant("commute_min and listening_score: positive over all learners, negative within each of the five centres")
attendance <- round(clamp(84 - 2.6 * own_way + 2.2 * ability + stats::rnorm(n, 0, 7.5), 38, 100))
# The first hours of practice bring most: a bend.
speaking <- round(clamp(34 + 16.5 * log(practice + 0.4) + 3.2 * ability + stats::rnorm(n, 0, 8.5), 5, 100))
plant("practice_hours and speaking_score: bent, close to a line in the logarithm of practice_hours")
confidence <- scale_of_five(0.55 * as.vector(scale(speaking)) + 0.25 * ability + stats::rnorm(n, 0, 0.8) + 0.3)
partner <- ifelse(stats::runif(n) < stats::plogis(-0.5 + 0.28 * (practice - 5)), "yes", "no")
prior <- ifelse(stats::runif(n) < stats::plogis(-2.3 + 0.5 * ability), "yes", "no")

motive <- 0.6 * as.vector(scale(practice)) + 0.8 * stats::rnorm(n)
items <- lapply(1:6, function(k) scale_of_five(0.75 * motive + 0.7 * stats::rnorm(n) + c(.4, .2, 0, .3, 0, -.2)[k]))
items[[4]] <- 6L - items[[4]]
plant("m4 is reversed: it goes against the other five agreement items")

learners <- data.frame(
  learner = sprintf("L%03d", seq_len(n)), centre, age_years = age, practice_hours = practice,
  attendance_pct = attendance, commute_min = commute, listening_score = listening, speaking_score = speaking,
  confidence, study_partner = partner, prior_course = prior,
  stats::setNames(as.data.frame(items), paste0("m", 1:6))
)
blank <- function(name, count) learners[[name]][sample(n, count)] <<- NA
for (name in c("practice_hours", "listening_score", "speaking_score")) blank(
  name,
  c(10, 7, 8)[match(name, c("practice_hours", "listening_score", "speaking_score"))]
)
blank("commute_min", 3)
blank("m2", 4)
blank("m5", 6)
plant("blanks: practice_hours 10, listening_score 7, speaking_score 8, commute_min 3, m2 4, m5 6")
no_answer <- function(name, count) learners[[name]][sample(which(!is.na(learners[[name]])), count)] <<- -9
no_answer("confidence", 9)
no_answer("age_years", 5)
no_answer("m2", 3)
no_answer("m6", 4)
plant("-9 for no answer: confidence 9, age_years 5, m2 3, m6 4")
typo <- which(learners$learner == "L137")
learners$attendance_pct[typo] <- 880
plant("typing error: learner L137 has attendance_pct 880, for 88.0")
write_table(learners, "learners.csv")

# ---- town_years -----------------------------------------------------------------------------------------------------
set.seed(42)
year <- 1994:2023
t <- seq_along(year) - 1
weather <- stats::rnorm(length(t))
town <- data.frame(
  year,
  ebook_loans = round(900 + 310 * t + 4.5 * t^2 + stats::rnorm(30, 0, 520)),
  hives = round(58 + 5.1 * t + stats::rnorm(30, 0, 9)),
  cycle_path_km = round(12 + 1.35 * t + cumsum(stats::rnorm(30, 0, 0.5)), 1),
  letters_thousand = round(1240 - 31 * t + stats::rnorm(30, 0, 38)),
  warm_days = round(41 + 0.55 * t + 8.5 * weather),
  pool_visits = round(30500 + 210 * t + 3600 * weather + stats::rnorm(30, 0, 1500)),
  learners_enrolled = round(150 + 3.2 * t + cumsum(stats::rnorm(30, 0, 9)))
)
plant("ebook_loans, hives, cycle_path_km (rising) and letters_thousand (falling) only share a trend in time")
plant("warm_days and pool_visits are tied year by year, around their trends")
write_table(town, "town_years.csv")

# ---- pulse_week_14, pulse_week_15 -----------------------------------------------------------------------------------
set.seed(8)
tutors <- sprintf("T%02d", 1:42)
tutor_centre <- rep(centres, length.out = 42)
mood <- stats::rnorm(42)
pulse <- function(present, shift, tie) {
  m <- mood[present] + shift + stats::rnorm(length(present), 0, 0.35)
  data.frame(
    tutor = tutors[present], centre = tutor_centre[present],
    energy = scale_of_five(m + stats::rnorm(length(present), 0, 0.5)),
    class_calm = scale_of_five(tie * m + stats::rnorm(length(present), 0, 0.6)),
    support = scale_of_five(0.5 * m + stats::rnorm(length(present), 0, 0.8) + 0.3),
    workload = scale_of_five(-0.6 * m + stats::rnorm(length(present), 0, 0.7) + 0.4)
  )
}
week_14 <- pulse(setdiff(1:42, c(7, 19, 40, 41)), 0, 0.8)
week_15 <- pulse(setdiff(1:42, c(3, 22, 31)), -0.15, 0.2)
week_14$support[5] <- NA
week_15$energy[11] <- NA
plant("week 15 lacks tutors T03, T22, T31 and has T07, T19, T40, T41 new; energy and class_calm are tied more loosely")
write_table(week_14, "pulse_week_14.csv")
write_table(week_15, "pulse_week_15.csv")

# ---- dial -----------------------------------------------------------------------------------------------------------
dial <- rep(1:12, each = 2)
write_table(data.frame(dial, level_db = round(41.3 + 2.85 * dial + stats::rnorm(24, 0, 0.9), 1)), "dial.csv")
plant("level_db rises by 2.85 dB a step of the dial, from 41.3 dB at 0, with 0.9 dB of scatter")

# ---- codebook -------------------------------------------------------------------------------------------------------
entry <- function(file, variable, label, unit = NA, level, role = "measure", missing_codes = NA, source) {
  data.frame(file, variable, label, unit, level, role, missing_codes, source)
}
register <- "School register"
survey <- "Learner survey, spring"
test <- "Placement test, May"
hall <- "Town hall yearbook"
agree <- c(
  "I look forward to class", "I practise without being told", "Mistakes help me", "I would rather stop",
  "I speak when I can", "I plan my practice"
)
codebook <- rbind(
  entry("learners", "learner", "Learner", level = "nominal", role = "case", source = register),
  entry("learners", "centre", "Centre", level = "nominal", role = "group", source = register),
  entry("learners", "age_years", "Age", "years", "numeric", missing_codes = "-9", source = survey),
  entry("learners", "practice_hours", "Weekly practice", "h", "numeric", source = survey),
  entry("learners", "attendance_pct", "Attendance", "%", "numeric", source = register),
  entry("learners", "commute_min", "Way to school", "min", "numeric", source = survey),
  entry("learners", "listening_score", "Listening score", "points", "numeric", source = test),
  entry("learners", "speaking_score", "Speaking score", "points", "numeric", source = test),
  entry("learners", "confidence", "Confidence in speaking", "1 to 5", "ordinal", missing_codes = "-9", source = survey),
  entry("learners", "study_partner", "Has a study partner", level = "binary", source = survey),
  entry("learners", "prior_course", "Took a course before", level = "binary", source = survey),
  do.call(rbind, lapply(1:6, function(k) {
    entry("learners", paste0("m", k), agree[k], "1 to 5", "ordinal",
      missing_codes = if (k %in% c(2, 6)) "-9" else NA,
      source = survey
    )
  })),
  entry("town_years", "year", "Year", level = "numeric", role = "time", source = hall),
  entry("town_years", "ebook_loans", "E-book loans", level = "numeric", source = hall),
  entry("town_years", "hives", "Bee hives in the town", level = "numeric", source = hall),
  entry("town_years", "cycle_path_km", "Cycle paths", "km", "numeric", source = hall),
  entry("town_years", "letters_thousand", "Letters posted", "thousand", "numeric", source = hall),
  entry("town_years", "warm_days", "Warm days", "days", "numeric", source = hall),
  entry("town_years", "pool_visits", "Visits to the outdoor pool", level = "numeric", source = hall),
  entry("town_years", "learners_enrolled", "Learners enrolled", level = "numeric", source = register),
  entry("pulse_week_*", "tutor", "Tutor", level = "nominal", role = "case", source = "Weekly pulse"),
  entry("pulse_week_*", "centre", "Centre", level = "nominal", role = "group", source = "Weekly pulse"),
  entry("pulse_week_*", "energy", "Energy for teaching", "1 to 5", "ordinal", source = "Weekly pulse"),
  entry("pulse_week_*", "class_calm", "Calm in class", "1 to 5", "ordinal", source = "Weekly pulse"),
  entry("pulse_week_*", "support", "Support from colleagues", "1 to 5", "ordinal", source = "Weekly pulse"),
  entry("pulse_week_*", "workload", "Workload", "1 to 5", "ordinal", source = "Weekly pulse"),
  entry("dial", "dial", "Dial setting", "step", "numeric", source = "Listening lab"),
  entry("dial", "level_db", "Sound level", "dB", "numeric", source = "Listening lab")
)
utils::write.csv(codebook, file.path(folder, "codebook.csv"), row.names = FALSE, na = "", eol = "\n")

# ---- the twins of learners.csv --------------------------------------------------------------------------------------
twin <- learners
notes <- data.frame(Note = c("Made-up data.", "-9 stands for no answer.", "Scores from the placement test in May."))
book <- openxlsx::createWorkbook(creator = "Unsere developers")
openxlsx::addWorksheet(book, "Learners")
openxlsx::writeData(book, "Learners", "Evening language school", startRow = 1)
openxlsx::writeData(book, "Learners", "Learners, spring term", startRow = 2)
openxlsx::writeData(book, "Learners", twin, startRow = 3)
openxlsx::addWorksheet(book, "About")
openxlsx::writeData(book, "About", notes)
openxlsx::saveWorkbook(book, file.path(folder, "learners.xlsx"), overwrite = TRUE)
readODS::write_ods(twin, file.path(folder, "learners.ods"), sheet = "Learners")
nanoparquet::write_parquet(twin, file.path(folder, "learners.parquet"))
plant("learners.xlsx: the table in sheet Learners under two title rows, sheet About after it")

writeLines(c("Planted:", paste("-", planted)))
