# Panels, waves, samples, tests, diaries and registers, as their makers would send them.

shelf_panel <- function(folder, regions = 12, years = 2008:2023) {
  level <- stats::rnorm(regions, 0, 2)
  data <- do.call(rbind, lapply(seq_len(regions), function(k) {
    trend <- seq_along(years) * stats::runif(1, .2, .5)
    data.frame(
      region = paste("Region", LETTERS[k]), year = years, income = round(20 + level[k] + trend + stats::rnorm(length(years), 0, .6), 2),
      visits = round(50 + 3 * level[k] + 4 * trend + stats::rnorm(length(years), 0, 3)), schools = 10L + k, area_km2 = 100 + 7 * k
    )
  }))
  new_set("panel", write_csv(data, folder, "regions.csv"),
    pairs = list(c("income", "visits"), c("income", "schools"), c("schools", "area_km2"), c("visits", "area_km2")), time = "year"
  )
}

wave_data <- function(n, waves) {
  drive <- stats::rnorm(n)
  home <- round(20 + 5 * drive + stats::rnorm(n, 0, 5))
  do.call(rbind, lapply(seq_len(waves), function(w) {
    score <- round(50 + 3 * w + 6 * drive + stats::rnorm(n, 0, 5), 1)
    data.frame(
      person = sprintf("P%03d", seq_len(n)), wave = w, books_at_home = home, female = as.integer(seq_len(n) %% 2L),
      hours = round(pmax(0, 3 + drive + .2 * w + stats::rnorm(n)), 1), score = score
    )
  }))
}

shelf_waves_long <- function(folder, n = 90, waves = 3) {
  data <- wave_data(n, waves)
  data <- data[!(data$wave == waves & data$person %in% unique(data$person)[seq_len(n %/% 8)]), ]
  new_set("waves, long", write_csv(data, folder, "waves_long.csv"),
    pairs = list(c("hours", "score"), c("books_at_home", "score"), c("books_at_home", "female"), c("female", "score"))
  )
}

shelf_waves_wide <- function(folder, n = 90) {
  wide <- stats::reshape(wave_data(n, 3), idvar = c("person", "books_at_home", "female"), timevar = "wave", direction = "wide", sep = "_w")
  new_set("waves, wide", write_csv(wide, folder, "waves_wide.csv"),
    pairs = list(c("score_w1", "score_w3"), c("hours_w1", "score_w1"), c("books_at_home", "score_w3"))
  )
}

pupil_data <- function(classes = 30, size = 18) {
  n <- classes * size
  class <- rep(seq_len(classes), each = size)
  u <- stats::rnorm(classes, 0, 30)
  hours <- round(pmax(0, 4 + stats::rnorm(n, 0, 2) + stats::rnorm(classes, 0, .7)[class]), 1)
  ability <- 500 + 12 * (hours - 4) + u[class] + stats::rnorm(n, 0, 70)
  data <- data.frame(
    idstud = seq_len(n), idclass = 100 + class, region = ifelse(class <= classes / 2, "town", "country"),
    weight = round(stats::runif(classes, 5, 20), 2)[class], hours = hours, books = sample(5, n, TRUE)
  )
  for (k in 1:5) data[[paste0("pv", k, "read")]] <- round(ability + stats::rnorm(n, 0, 35), 1)
  data
}

shelf_plausible <- function(folder) {
  data <- pupil_data()
  book <- data.frame(
    variable = c("idstud", "idclass", "region", "weight", "hours", "books", "reading"),
    label = c("Pupil", "Class", "Region", "Weight", "Hours of reading a week", "Books at home (1 to 5)", "Reading"),
    level = c("nominal", "nominal", "nominal", "numeric", "numeric", "ordinal", ""),
    role = c("case", "cluster", "stratum", "weight", "measure", "measure", "plausible"),
    values = c(rep("", 6), "pv1read | pv2read | pv3read | pv4read | pv5read")
  )
  path <- write_csv(data, folder, "pupils.csv")
  write_csv(book, folder, "codebook.csv")
  new_set("classes, plausible values", path, pairs = list(c("hours", "reading"), c("books", "reading"), c("hours", "books")))
}

shelf_replicates <- function(folder) {
  data <- pupil_data(20, 12)[1:7]
  names(data)[7] <- "score"
  for (k in 1:20) data[[paste0("rwgt", k)]] <- data$weight * ifelse(data$idclass == 100 + k, 0, 20 / 19)
  new_set("replicate weights", write_csv(data, folder, "sample.csv"), pairs = list(c("hours", "score"), c("books", "score")),
    design = list(weight = "weight", replicates = "rwgt*", method = "jackknife-1")
  )
}

shelf_test <- function(folder, n = 250, items = 24) {
  ability <- stats::rnorm(n)
  answers <- vapply(seq_len(items), function(k) as.integer(stats::runif(n) < stats::plogis(ability - stats::rnorm(1))), integer(n))
  reached <- sample(items - 6:0, n, TRUE)
  coded <- answers
  coded[matrix(stats::runif(n * items) < .03, n)] <- 9L
  for (i in seq_len(n)) if (reached[i] < items) coded[i, (reached[i] + 1):items] <- 8L
  data <- data.frame(pupil = sprintf("T%03d", seq_len(n)), coded, school_grade = sample(5:7, n, TRUE))
  names(data)[1 + seq_len(items)] <- sprintf("item_%02d", seq_len(items))
  new_set("test, right and wrong", write_csv(data, folder, "test.csv"), pairs = list(c("item_01", "item_02"), c("school_grade", "item_03")),
    missing_codes = c(8, 9), items = list(names = sprintf("item_%02d", 1:12))
  )
}

shelf_options <- function(folder, n = 160, items = 10) {
  ability <- stats::rnorm(n)
  key <- sample(c("A", "B", "C", "D"), items, TRUE)
  data <- data.frame(pupil = seq_len(n), vapply(seq_len(items), function(k) {
    right <- stats::runif(n) < stats::plogis(ability - (k - 5) / 3)
    ifelse(right, key[k], sample(setdiff(c("A", "B", "C", "D"), key[k]), n, TRUE))
  }, character(n)))
  names(data)[-1] <- paste0("q", seq_len(items))
  new_set("test by options", write_csv(data, folder, "options.csv"), pairs = list(c("q1", "q2"), c("q5", "q9")),
    items = list(names = paste0("q", seq_len(items)), key = stats::setNames(key, paste0("q", seq_len(items))))
  )
}

shelf_diary <- function(folder, n = 25, days = 14) {
  data <- do.call(rbind, lapply(seq_len(n), function(i) {
    base <- stats::rnorm(1)
    rows <- sort(sample(days, days * 2, TRUE))
    data.frame(
      participant = sprintf("D%02d", i), date = format(as.Date("2026-02-01") + rows), minutes = round(pmax(0, 30 + 10 * base + stats::rnorm(length(rows), 0, 12))),
      mood = pmin(7, pmax(1, round(4 + base + stats::rnorm(length(rows))))), alone = sample(c("yes", "no"), length(rows), TRUE)
    )
  }))
  new_set("diary", write_csv(data, folder, "diary.csv"), pairs = list(c("minutes", "mood"), c("alone", "mood")))
}

shelf_register <- function(folder, n = 2e5) {
  data <- data.frame(
    person_id = 7000000 + seq_len(n), birth_year = sample(1950:2008, n, TRUE), district = sample(1:23, n, TRUE),
    course_code = sample(c("E101", "E102", "12E3", "F201"), n, TRUE), fee = round(stats::rexp(n, 1 / 90), 2)
  )
  data$attended <- pmin(30L, stats::rpois(n, 14 + data$fee / 60))
  data$completed <- ifelse(data$attended > 12, "yes", "no")
  new_set("register", write_csv(data, folder, "register.csv"), pairs = list(c("fee", "attended"), c("birth_year", "attended"), c("completed", "fee"), c("course_code", "fee")))
}

shelf_labels <- function(folder, n = 200) {
  pleased <- stats::rnorm(n)
  data <- data.frame(
    id = seq_len(n), q1 = pmin(5, pmax(1, round(3 + pleased + stats::rnorm(n, 0, .7)))), q2 = pmin(4, pmax(1, round(2.5 + .7 * pleased + stats::rnorm(n, 0, .7)))),
    sex = sample(1:2, n, TRUE), income = round(exp(stats::rnorm(n, 7.5, .5) + .1 * pleased))
  )
  data$q1[sample(n, 9)] <- 99
  labels <- data.frame(
    variable = c("q1", "q2", "sex", "income"), label = c("Satisfaction with the course", "Wish to go on", "Sex", "Income a month"),
    values = c("1 = very poor < 2 = poor < 3 = fair < 4 = good < 5 = very good", "1 = no < 2 = rather no < 3 = rather yes < 4 = yes", "", ""),
    missing_codes = c("99", "", "", "")
  )
  path <- write_csv(data, folder, "export.csv")
  write_csv(labels, folder, "codebook.csv")
  new_set("labels in a second file", path, pairs = list(c("q1", "q2"), c("q1", "income"), c("sex", "income")))
}

shelf_experiment <- function(folder, n = 120) {
  group <- sample(c("control", "feedback", "feedback and goals"), n, TRUE)
  pre <- round(stats::rnorm(n, 50, 10))
  data <- data.frame(
    vp = seq_len(n), condition = group, pre = pre, post = round(.7 * pre + 15 + 4 * (group != "control") + stats::rnorm(n, 0, 7)),
    time_s = round(stats::rlnorm(n, 4, .4), 1), age_group = sample(c("18-29", "30-44", "45-59", "60+"), n, TRUE)
  )
  data$gain <- data$post - data$pre
  new_set("experiment", write_csv(data, folder, "experiment.csv"), pairs = list(c("pre", "post"), c("time_s", "post"), c("pre", "gain"), c("age_group", "post"), c("condition", "post")))
}

shelf_authority <- function(folder) {
  years <- 2012:2023
  rows <- list(
    Pupils = 20000 + cumsum(stats::rnorm(12, 150, 80)), Teachers = 1500 + cumsum(stats::rnorm(12, 9, 6)),
    Classes = 900 + cumsum(stats::rnorm(12, 5, 4)), "Evening learners" = 3000 + cumsum(stats::rnorm(12, 40, 60))
  )
  data <- data.frame(Indicator = names(rows), do.call(rbind, lapply(rows, round)), check.names = FALSE)
  names(data)[-1] <- years
  new_set("authority's table", write_csv(data, folder, "authority.csv"), pairs = list(c("Pupils", "Teachers"), c("Classes", "Evening learners")))
}
