# Several answers in one question, columns about the response, careless answers, cases left aside.

set.seed(40)
options <- c("Videos", "Podcasts", "Books", "Friends")
listed <- vapply(1:40, function(k) paste(options[runif(4) < .5], collapse = "; "), "")

test_that("names of people with a comma are no choices", {
  people <- paste(rep(c("Smith", "O'Hara", "de Vries"), 10), rep(c("Ann", "Bo", "Cy", "Di", "Ed"), each = 6), sep = ", ")
  expect_named(as.data.frame(as_study(data.frame(name = people, score = rep(1:6, 5)))), c("name", "score"))
  two <- c("Tea, Milk", "Tea, Sugar", "Milk, Sugar", "Milk, Honey")[rep(c(1, 2, 3, 4, 1), 6)]
  expect_length(as.data.frame(as_study(data.frame(taken = two, score = rep(1:6, 5)))), 6L)
})

test_that("a cell that lists answers becomes a variable for each, blank where nothing was answered", {
  study <- as_study(data.frame(id = sprintf("P%d", 1:40), use = listed))
  expect_setequal(names(study$data), c("id", "use", paste("use:", options)))
  expect_identical(study$data[["use: Books"]][listed != ""], ifelse(grepl("Books", listed[listed != ""]), "yes", "no"))
  expect_true(all(is.na(study$data[["use: Books"]][listed == ""])))
  expect_true(all(codebook(study)$level[codebook(study)$variable %in% paste("use:", options)] == "binary"))
  for (mark in c(", ", "|")) {
    other <- as_study(data.frame(use = gsub("; ", mark, listed, fixed = TRUE)))
    expect_identical(other$data[["use: Videos"]], study$data[["use: Videos"]])
  }
})

test_that("sentences, names, decimals and codes with marks in them are left alone", {
  alone <- function(column) expect_identical(ncol(as_study(data.frame(a = column))$data), 1L)
  alone(rep(c("flood; bridge closed", "new mayor", "all quiet", "none"), 10))
  alone(sprintf("%s, %s", rep(c("Miller", "Smith", "Jones", "Brown"), 10), sprintf("A%d", 1:40)))
  alone(sprintf("%d,%d", 1:40, (1:40 * 7) %% 10))
  alone(c("I liked it; more please", rep("", 30), "No, thanks", "Yes, and no", "well, well", "ok", "so; so", "a, b", "c"))
})

test_that("numbers with a comma and a unit are numbers, codes with three in a cell are choices", {
  hours <- rep(c("6,9 h", "4,3 h", "8 h", "5,5 h", "7,2 h"), 8)
  study <- as_study(data.frame(sleep = hours, share = sub("h", "%", hours)))
  expect_identical(study$data$sleep[1:3], c(6.9, 4.3, 8))
  expect_identical(study$data$share[1:3], c(6.9, 4.3, 8))
  ill <- as_study(data.frame(sleep = c(hours, "ill")))
  expect_identical(names(ill$data), "sleep")
  codes <- as_study(data.frame(use = rep(c("1", "1,3", "2,3,4", "4", "1,2"), 4)))
  expect_identical(names(codes$data), c("use", "use: 1", "use: 2", "use: 3", "use: 4"))
  expect_identical(codes$data[["use: 3"]][1:4], c("no", "yes", "yes", "no"))
  sizes <- as_study(data.frame(use = rep(c("less than 1,000 words", "1,000 words or more", "both, at times"), 6)))
  expect_identical(names(sizes$data), "use")
})

test_that("a block of columns with one answer each counts a blank as a no only where another is chosen", {
  data <- data.frame(
    "How? [Bus]" = c("Bus", "", "", "Bus"), "How? [Train]" = c("", "Train", "", "Train"),
    "How? [Foot]" = c("", "", "", "Foot"),
    score = 1:4, check.names = FALSE
  )
  data <- data[rep(1:4, 5), ]
  study <- as_study(data)
  expect_identical(study$data[["How? [Bus]"]][1:4], c("yes", "no", NA, "yes"))
  expect_identical(study$data[["How? [Foot]"]][1:4], c("no", "no", NA, "yes"))
  expect_match(format(study$provenance$decisions), "How?: 3 choices of one question", fixed = TRUE, all = FALSE)
})

test_that("columns about the response are known by their headings, and kept out of matrices; series keep their time", {
  form <- data.frame(
    Timestamp = as.POSIXct("2024-05-06 10:00:00", tz = "UTC") + cumsum(rep(c(60, 500, 4000), 10)),
    "IP Address" = sprintf("10.0.0.%d", 1:30),
    duration = rep(c(200, 300, 40), 10), mood = rep(1:5, 6), score = 1:30, check.names = FALSE
  )
  study <- as_study(form)
  book <- codebook(study)
  expect_identical(book$role, c("about", "about", "about", "measure", "measure"))
  expect_identical(correlation_matrix(study)$variables$variable, c("mood", "score"))
  expect_match(format(study$provenance$decisions), "about the response, not the person", all = FALSE)
  series <- as_study(data.frame(Timestamp = as.Date("2024-01-01") + 7 * 0:29, status = 1:30, progress = 30:1))
  expect_identical(codebook(series)$role, c("time", "measure", "measure"))
  lone <- as_study(data.frame(status = rep(1:3, 10), income = 1:30))
  expect_identical(codebook(lone)$role, c("measure", "measure"))
  told <- as_study(form, codebook = data.frame(variable = "duration", role = "measure"))
  expect_identical(codebook(told)$role[3], "measure")
})

test_that("date-times of many spellings are read, and serve as days since the first", {
  stamps <- list(
    "2024/05/%02d 9:12:33 AM GMT+2", "2024-05-%02dT09:12:33.123+02:00", "%02d.05.2024 09:12", "%02d/05/2024 21:12:33",
    "2024-05-%02d 09:12:33"
  )
  for (form in stamps) {
    text <- sprintf(form, 6:28)
    study <- read_study(csv_file("when,score", sprintf("%s,%d", text, seq_along(text))))
    expect_s3_class(study$data$when, "POSIXct")
    expect_identical(as.integer(format(study$data$when, "%d")), 6:28)
  }
  found <- fit_line(study, when, score)
  expect_equal(found$terms$estimate, c(1, 1), tolerance = .4)
  expect_match(paste(format(found), collapse = " "), "days since 2024-05-06")
})

test_that("durations are read where the heading says so, hours and minutes where it says that", {
  minutes <- function(name, cells) {
    read_study(csv_file(paste0("id,", name), sprintf("%d,%s", seq_along(cells), cells)))$data[[name]]
  }
  expect_equal(minutes("Time taken", c("02:30", "10:15", "45:00")), c(2.5, 10.25, 45))
  expect_equal(minutes("duration_hours", c("1:30", "2:15", "0:45")), c(90, 135, 45))
  expect_equal(minutes("Dauer", c("00:02:30", "01:00:00", "00:10:30")), c(2.5, 60, 10.5))
  expect_equal(minutes("bedtime", c("22:30", "21:15", "23:00")), c(1350, 1275, 1380))
})

test_that("careless answers are named, none is left out by itself", {
  set.seed(9)
  items <- as.data.frame(lapply(stats::setNames(1:6, paste0("q", 1:6)), function(k) sample(1:5, 40, TRUE)))
  items[7, ] <- 3
  items[8, 2:6] <- NA
  items$score <- rnorm(40)
  form <- cbind(
    sent = as.POSIXct("2024-05-06 10:00:00", tz = "UTC") + cumsum(rep(c(60, 700), 20)), seconds = c(30, rep(300, 39)), items
  )
  look <- overview(as_study(form))
  expect_identical(nrow(as_study(form)$data), 40L)
  found <- stats::setNames(look$answers$cases, look$answers$sign)
  expect_identical(found$straight, "row 7")
  expect_identical(found$fast, "row 1")
  expect_identical(found$few, "row 8")
  expect_match(format(look), "No case is excluded", all = FALSE)
})

test_that("a case is left aside with a reason, counted and said everywhere; undone by leaving the reason out", {
  learners <- demo_study("learners")
  without <- leave_out(learners, c("L001", "L137"), c("moved away", "mistyped"))
  expect_identical(nrow(without$data), 238L)
  expect_identical(without$provenance$aside$reason, c("moved away", "mistyped"))
  found <- relate(without, practice_hours, attendance_pct)
  expect_identical(found$n_dropped, relate(learners, practice_hours, attendance_pct)$n_dropped + 2L)
  text <- gsub("\\s+", " ", paste(format(found), collapse = " "))
  expect_match(text, "excluded 2")
  expect_match(text, "excluded: L001 (moved away); L137 (mistyped)", fixed = TRUE)
  again <- leave_out(without, "L002", "twice")
  expect_match(format(again$provenance$decisions), "L001.*L002 \\(twice\\)", all = FALSE)
  expect_error(leave_out(learners, "L001"), "with a reason", class = "unsere_error_usage")
  expect_error(leave_out(learners, "L999", "x"), "No case is named", class = "unsere_error_input")
  expect_error(leave_out(learners, 999, "x"), "no case 999", class = "unsere_error_input")
  brief <- tempfile(fileext = ".yml")
  write <- function(line) {
    writeLines(c(
      sprintf("data: {file: \"%s\"}", demo_file("learners.csv")), line,
      "pairs: [{x: practice_hours, y: attendance_pct}]"
    ), brief)
  }
  write("leave_out: {L137: attendance mistyped}")
  results <- jsonlite::fromJSON(file.path(run_brief(brief, out = tempfile("aside"), quiet = TRUE), "results.json"),
    simplifyVector = FALSE
  )
  expect_equal(results$pairs[[1]]$relation$r, relate(leave_out(learners, "L137", "x"), practice_hours, attendance_pct)$r)
  write("leave_out: {L1370: attendance mistyped}")
  expect_error(run_brief(brief, out = tempfile("aside"), quiet = TRUE),
    "is no case of learners.csv; did you mean L1",
    class = "unsere_error_input"
  )
})

test_that("an item of a battery that asks the other way round is pointed at, and no other", {
  found <- correlation_matrix(demo_study("feedback"), q1, q2, q3, q4, q5)
  told <- cautions(found)
  expect_identical(told$figures[[match("reversed_item", told$code)]]$name, "q3")
  turned <- derive(demo_study("feedback"), q3_turned = "reverse(q3, 1, 5)")
  expect_false("reversed_item" %in% cautions(correlation_matrix(turned, q1, q2, q4, q5))$code)
  set.seed(3)
  loose <- as.data.frame(lapply(stats::setNames(1:5, paste0("q", 1:5)), function(k) sample(1:5, 80, TRUE)))
  expect_false("reversed_item" %in% cautions(correlation_matrix(loose))$code)
})
