# Files as people export them from forms and gradebooks: each function writes its files into a folder and gives the set: `file`,
# `truth` (relations that must lie in their intervals), and what is asked of it.

new_set <- function(name, file, pairs, truth = list(), ...) {
  list(name = name, file = file, pairs = pairs, truth = truth, ...)
}

write_csv <- function(data, folder, name) {
  path <- file.path(folder, name)
  data.table::fwrite(data, path, na = "")
  path
}

r_longhand <- function(x, y) {
  x <- x - mean(x)
  y <- y - mean(y)
  sum(x * y) / sqrt(sum(x^2) * sum(y^2))
}

likert <- function(latent, words, noise = .8) {
  cuts <- stats::qnorm(seq_along(words) / length(words))
  words[findInterval(latent + stats::rnorm(length(latent), 0, noise), utils::head(cuts, -1) * sqrt(1 + noise^2)) + 1L]
}

agree <- c("Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree")
often <- c("Never", "Rarely", "Sometimes", "Often", "Always")

form_data <- function(n, later = FALSE) {
  mood <- stats::rnorm(n)
  drive <- .5 * mood + sqrt(.75) * stats::rnorm(n)
  stems <- c(
    "I look forward to the evening class", "I practise without being told", "Mistakes help me to learn",
    "I would rather stop the course", "I speak whenever I can"
  )
  items <- lapply(seq_along(stems), function(k) likert(if (k == 4L) -drive else drive, agree))
  names(items) <- sprintf("How far do you agree with each of these statements about your course? - %s", stems)
  uses <- c("Flash cards", "A partner", "The library app", "Films")
  picked <- replicate(n, paste(uses[stats::runif(4) < c(.5, .3, .4, .2)], collapse = ";"))
  hours <- pmax(0, round(4 + 2 * drive + stats::rnorm(n, 0, 1.5), 1))
  out <- c(
    list(
      Timestamp = format(as.POSIXct("2026-03-02 17:00:00", tz = "UTC") + sort(stats::runif(n, 0, 9e5)), "%Y-%m-%d %H:%M:%S"),
      "Which centre do you attend?" = sample(c("Mill", "Harbour", "Brook", "Canal"), n, TRUE),
      "How old are you?" = sample(c(18:70), n, TRUE),
      "On a scale from 0 to 10, how likely is it that you would recommend the evening school to a friend?" =
        pmin(10, pmax(0, round(6.5 + 1.5 * mood + stats::rnorm(n)))),
      "How many hours a week do you practise outside the class, counting everything from films to flash cards?" = hours
    ), items,
    list(
      "Which of these do you use to practise? (tick all that apply)" = picked,
      "How often do you come late?" = likert(-mood, often),
      "What should we change?" = sample(c("", "More time to speak", "Nothing", "Earlier start, please; the last bus leaves at 9"), n, TRUE)
    )
  )
  if (later) {
    out[["Would you come on a Saturday?"]] <- sample(c("Yes", "No", "Don't know"), n, TRUE)
    names(out)[names(out) == "How old are you?"] <- "How old are you (in years)?"
  }
  list(data = as.data.frame(out, check.names = FALSE), drive = drive, mood = mood)
}

shelf_form <- function(folder, n = 180) {
  later <- write_csv(form_data(n, later = TRUE)$data, folder, "Evening class survey April.csv")
  made <- form_data(n)
  names <- names(made$data)
  new_set("form", write_csv(made$data, folder, "Evening class survey (Responses).csv"),
    pairs = list(names[c(4, 5)], names[c(3, 5)], names[c(6, 5)], names[c(6, 7)], names[c(12, 4)], names[c(2, 5)]),
    items = list(names = names[6:10], reverse = names[9]), later = later
  )
}

shelf_form_later <- function(folder, n = 160) {
  made <- form_data(n, later = TRUE)
  names <- names(made$data)
  new_set("form later", write_csv(made$data, folder, "Evening class survey April.csv"),
    pairs = list(names[c(4, 5)], names[c(3, 5)])
  )
}

gradebook <- function(n) {
  ability <- stats::rnorm(n)
  marks <- data.frame(
    Student = sprintf("Learner %02d", seq_len(n)), "Homework (20 %)" = round(pmin(100, pmax(0, 78 + 10 * ability + stats::rnorm(n, 0, 9)))),
    "Midterm (100)" = round(pmin(100, pmax(5, 66 + 11 * ability + stats::rnorm(n, 0, 9)))),
    "Final (100)" = round(pmin(100, pmax(5, 64 + 12 * ability + stats::rnorm(n, 0, 9)))), check.names = FALSE
  )
  total <- .2 * marks[[2]] + .3 * marks[[3]] + .5 * marks[[4]]
  marks$Total <- round(total)
  marks$Grade <- as.character(cut(total, c(-Inf, 50, 60, 70, 80, Inf), c("F", "D", "C", "B", "A"), right = FALSE))
  marks$Absences <- stats::rpois(n, exp(.4 - .4 * ability))
  marks
}

shelf_gradebook <- function(folder, n = 42) {
  marks <- gradebook(n)
  rows <- rbind(
    c("Points possible", "100", "100", "100", "100", "", ""), unname(as.matrix(format_marks(marks))),
    c("", "", "", "", "", "", ""),
    c("Average", vapply(marks[2:5], function(v) format(round(mean(v), 1)), ""), "", ""),
    c("Highest", vapply(marks[2:5], function(v) format(max(v)), ""), "", ""),
    c("Lowest", vapply(marks[2:5], function(v) format(min(v)), ""), "", "")
  )
  data <- as.data.frame(rows)
  names(data) <- names(marks)
  new_set("gradebook", write_csv(data, folder, "gradebook.csv"),
    pairs = list(c("Midterm (100)", "Final (100)"), c("Homework (20 %)", "Final (100)"), c("Absences", "Final (100)")),
    cases = n, truth_r = list(list(pair = c("Midterm (100)", "Final (100)"), r = r_longhand(marks[[3]], marks[[4]])))
  )
}

format_marks <- function(marks) as.data.frame(lapply(marks, as.character))

shelf_gradebook_book <- function(folder, n = 36) {
  marks <- format_marks(gradebook(n))
  marks[4, 3] <- "INC"
  marks[9, 4] <- "absent"
  path <- file.path(folder, "Course marks.xlsx")
  book <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(book, "Cover")
  openxlsx::writeData(book, "Cover", c("Evening school", "Marks of the spring term", "Prepared by the office"), colNames = FALSE)
  openxlsx::addWorksheet(book, "Marks")
  openxlsx::writeData(book, "Marks", "Intermediate course, spring term", startRow = 1)
  sheet <- as.data.frame(lapply(marks, utils::type.convert, as.is = TRUE))
  names(sheet) <- names(gradebook(3))
  openxlsx::writeData(book, "Marks", sheet, startRow = 4)
  openxlsx::saveWorkbook(book, path, overwrite = TRUE)
  names <- names(sheet)
  new_set("gradebook in a workbook", path, pairs = list(names[c(3, 4)], names[c(2, 4)], names[c(7, 4)]), cases = n)
}

shelf_bilingual <- function(folder, n = 120) {
  pleased <- stats::rnorm(n)
  data <- data.frame(
    Sprache = sample(c("Deutsch", "English"), n, TRUE),
    "Wie zufrieden sind Sie mit dem Kurs? / How satisfied are you with the course?" =
      likert(pleased, c("gar nicht / not at all", "wenig / a little", "mittel / moderately", "ziemlich / fairly", "sehr / very")),
    "Alter / Age" = sample(18:75, n, TRUE),
    "Stunden pro Woche / Hours a week" = gsub(".", ",", format(round(pmax(0, 3 + pleased + stats::rnorm(n)), 1), nsmall = 1, trim = TRUE), fixed = TRUE),
    "Note (1 bis 6)" = pmin(6, pmax(1, round(3 - pleased + stats::rnorm(n)))), check.names = FALSE
  )
  path <- file.path(folder, "Umfrage.csv")
  utils::write.table(data, path, sep = ";", row.names = FALSE, quote = TRUE, fileEncoding = "UTF-8")
  new_set("bilingual", path, pairs = list(names(data)[c(3, 4)], names(data)[c(2, 4)], names(data)[c(5, 4)]))
}

# A staff survey of the school authority: windows-1252, decimal commas, German agreement, refusals, a code among the days
# absent, the day of arrival many times.
shelf_staff <- function(folder, n = 190) {
  mood <- stats::rnorm(n)
  agreed <- c("trifft gar nicht zu", "trifft eher nicht zu", "teils/teils", "trifft eher zu", "trifft voll zu")
  hours <- round(38 + 4 * stats::rnorm(n), 1)
  data <- data.frame(
    "Lfd. Nr." = seq_len(n), Eingang = format(as.Date("2026-03-02") + sample(0:30, n, TRUE), "%d.%m.%Y"),
    "Ich fühle mich in meiner Abteilung wohl." = likert(.8 * mood, agreed),
    "Meine Vorgesetzte hört mir zu." = likert(.7 * mood, agreed),
    "Ich denke oft an Kündigung." = likert(-.7 * mood, agreed),
    "Wie viele Stunden arbeiten Sie pro Woche?" = gsub(".", ",", format(hours, nsmall = 1, trim = TRUE), fixed = TRUE),
    "Tage abwesend" = ifelse(seq_len(n) %in% sample(n, 4), -99, stats::rnbinom(n, 1, mu = 8 * exp(-.3 * mood))),
    Geschlecht = sample(c("weiblich", "männlich", "keine Angabe"), n, TRUE, c(.55, .4, .05)),
    Standort = sample(c("Mill", "Hill", "Dale"), n, TRUE), check.names = FALSE
  )
  data[[3]][sample(n, 8)] <- "weiß nicht"
  path <- file.path(folder, "Personal.csv")
  lines <- utils::capture.output(utils::write.table(data, row.names = FALSE, sep = ";"))
  writeLines(iconv(enc2utf8(lines), "UTF-8", "windows-1252"), path, useBytes = TRUE)
  new_set("staff survey", path,
    pairs = list(names(data)[c(3, 5)], names(data)[c(6, 7)], names(data)[c(8, 7)]),
    truth = list(list(x = names(data)[6], y = names(data)[4], r = 0, coefficient = "spearman"))
  )
}
