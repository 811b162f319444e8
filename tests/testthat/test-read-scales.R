order_of <- function(...) unsere:::order_scale(c(...))

test_that("words are put in order by stem, strength and denial, whatever their capitals, marks and accents", {
  ordered <- function(...) {
    words <- c(...)
    expect_identical(unsere:::order_scale(rev(words))$order, words, label = words[1])
  }
  ordered("STRONGLY DISAGREE", "disagree.", "Agree", "Strongly  agree!")
  ordered("Not at all useful", "Not very useful", "Useful", "Very useful")
  ordered("überhaupt nicht wichtig", "eher wichtig", "wichtig", "äußerst wichtig")
  ordered("Très insatisfait", "Insatisfait", "Satisfait", "Très satisfait")
  ordered("never", "a few times a month", "once a week", "daily")
  ordered("Under 18", "18-24", "25-34", "35 and over")
  ordered("< 1,000", "1,000-4,999", "5,000-9,999", "10,000+")
  ordered("Year 3", "Year 9", "Year 10")
  ordered("Level 1", "Level 2", "Level 11")
  ordered("U", "E", "B", "A", "A*")
  ordered("C", "B-", "B", "B+")
  ordered("1", "1-", "2+", "2", "2-", "3+")
  ordered(
    "zdecydowanie si\u0119 nie zgadzam", "raczej si\u0119 nie zgadzam", "trudno powiedzie\u0107",
    "zdecydowanie si\u0119 zgadzam"
  )
  ordered("Inte alls n\u00f6jd", "Ganska n\u00f6jd", "Mycket n\u00f6jd")
  ordered("Helt uenig", "Uenig", "Verken enig eller uenig", "Enig", "Helt enig")
  ordered(
    "Kesinlikle kat\u0131lm\u0131yorum", "Kat\u0131lm\u0131yorum", "Karars\u0131z\u0131m", "Kat\u0131l\u0131yorum",
    "Kesinlikle kat\u0131l\u0131yorum"
  )
  ordered(
    "rozhodn\u011b nesouhlas\u00edm", "sp\u00ed\u0161e nesouhlas\u00edm", "sp\u00ed\u0161e souhlas\u00edm",
    "rozhodn\u011b souhlas\u00edm"
  )
  ordered("nigdy", "rzadko", "czasami", "cz\u0119sto", "zawsze")
  # Denied words have their place beside a lower pole; durations are longer in longer units.
  ordered("gar nicht zufrieden", "eher unzufrieden", "teils/teils", "eher zufrieden", "sehr zufrieden")
  ordered("Very dissatisfied", "Not at all satisfied", "Dissatisfied", "Not very satisfied", "Satisfied")
  ordered("less than 30 minutes", "30-60 minutes", "1-2 hours", "more than 2 hours")
  ordered("unter 6 Monaten", "6 Monate bis 1 Jahr", "1 bis 2 Jahre", "\u00fcber 2 Jahre")
  ordered("Less than a year", "1 to 3 years", "4 or more years")
})

test_that("numbers that words carry are kept as codes, bands are not taken for them", {
  found <- order_of("5 - always", "3 - sometimes", "0 - never")
  expect_identical(found$codes, c(0, 3, 5))
  expect_identical(found$labels, c("never", "sometimes", "always"))
  expect_null(order_of("18-29", "30-39", "40-49")$codes)
  expect_identical(order_of("Low (1)", "High (3)", "Middle (2)")$order, c("Low (1)", "Middle (2)", "High (3)"))
})

test_that("what is no answer stands apart; what is not wholly understood is left alone", {
  found <- order_of("Never", "Often", "Always", "Prefer not to say", "N/A")
  expect_identical(found$order, c("Never", "Often", "Always"))
  expect_setequal(found$apart, c("Prefer not to say", "N/A"))
  expect_null(order_of("Never", "Often", "Purple"))
  expect_null(order_of("Good", "good", "Bad"))
  expect_null(order_of("A", "B", "C"))
  expect_null(order_of("5a", "5b", "6a"))
  expect_true(order_of("Very easy", "Easy", "Difficult")$either_way)
})

test_that("a declared order is read with and without codes, and its mistakes are named", {
  parse <- function(text) unsere:::parse_order(text, "q")
  expect_identical(parse("Never < Rarely; Don't know; No idea")$apart, c("Don't know", "No idea"))
  expect_identical(parse("0 = no < 1 < 2 = yes")[c("order", "codes")], list(order = c("no", "1", "yes"), codes = c(0, 1, 2)))
  expect_error(parse("Never"), "two words or more", class = "unsere_error_input")
  expect_error(parse("1 = a < b"), "some have none", class = "unsere_error_input")
  expect_identical(unsere:::parse_orders("a=x<y | b = low < high"), c(a = "x<y", b = "low < high"))
  expect_error(unsere:::parse_orders("x<y"), "VARIABLE=low", class = "unsere_error_usage")
})

test_that("columns of a battery share its words, also where one of them lacks some", {
  words <- c("Disagree", "Neutral", "Agree", "Strongly agree", "Strongly disagree")
  data <- data.frame(
    a = rep(words, 12), b = rep(words[1:3], 20), c = rep(c("Agree", "Strongly agree"), 30), x = seq_len(60) %% 7
  )
  study <- as_study(data)
  whole <- "Strongly disagree < Disagree < Neutral < Agree < Strongly agree"
  expect_identical(codebook(study)$values[1:3], rep(whole, 3))
  expect_identical(codebook(study)$level[1:3], rep("ordinal", 3))
  expect_identical(unique(vapply(as.data.frame(study)[1:3], nlevels, 0L)), 5L)
})
