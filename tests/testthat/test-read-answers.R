codes_of <- function(values) {
  study <- as_study(data.frame(x = seq_len(40), g = rep(values, 20)))
  unsere:::study_numbers(study, "g")[c("zero", "one")]
}

test_that("the no counts as 0 and the yes as 1, in many words and signs, however they are ordered", {
  pairs <- list(
    c("no", "yes"), c("disagree", "agree"), c("unchecked", "checked"), c("nee", "ja"),
    c("\u043d\u0435\u0442", "\u0434\u0430"),
    c("hay\u0131r", "evet"), c("ei", "kyll\u00e4"), c("\u03cc\u03c7\u03b9", "\u03bd\u03b1\u03b9"), c("\u2717", "\u2713"),
    c("No", "S\u00ed"), c("n\u00e3o", "sim"), c("not selected", "selected"), c("Dissatisfied", "Satisfied"),
    c("incorrect", "correct"), c("failed", "passed"), c("nicht bestanden", "bestanden"), c("absent", "present"),
    c("I don't agree", "I agree"), c("unlikely", "likely"), c("FALSE", "TRUE"), c("pas d'accord", "d'accord")
  )
  for (pair in pairs) {
    wanted <- list(zero = pair[1], one = pair[2])
    expect_identical(codes_of(pair), wanted)
    expect_identical(codes_of(rev(pair)), wanted)
  }
  expect_identical(codes_of(c("south", "north")), list(zero = "north", one = "south"))
})

test_that("every result says which answer counts as 1, in text and in JSON", {
  file <- csv_file("g,x,y", paste(rep(c("agree", "disagree"), 15), 1:30, c(3, 9, 2), sep = ","))
  study <- read_study(file)
  results <- list(
    relate(study, g, x), correlation_matrix(study, g, x, y), fit_line(study, g, x), rank_predictors(study, x, g, y)
  )
  for (result in results) {
    expect_match(paste(format(result), collapse = " "), "\"agree\" of g counts as 1")
    coding <- jsonlite::fromJSON(unsere:::as_json(result))$intake$coding
    expect_identical(coding, data.frame(variable = "g", zero = "disagree", one = "agree"))
  }
  clear <- data.frame(g = rep(c("agree", "disagree"), 15), x = c(1, 9, 2, 8, 1, 7))
  expect_match(in_words(fit_line(clear, g, x)), "lower with \"agree\" on g than with \"disagree\"")
})

test_that("units, clock times and currency in cells are read; what may be two things is not", {
  reads <- function(cells) unsere:::convert_text(cells)
  expect_identical(reads(c("44 kg", "51.5 kg"))[1:2], list(values = c(44, 51.5), unit = "kg"))
  expect_identical(reads(c("$50", "$1,200"))[1:2], list(values = c(50, 1200), unit = "$"))
  expect_identical(reads(c("6:49 PM", "12:01 am", "7:05 AM"))$values, c(1129, 1, 425))
  kept <- list(
    "first" = c("9/12/2024", "3/4/2024"), "percent" = c("76%", "0.45"), "minutes and seconds" = c("45:30", "02:10", "31:00")
  )
  for (why in names(kept)) {
    expect_identical(reads(kept[[why]])$values, kept[[why]])
    expect_match(unsere:::fill_template(reads(kept[[why]])$note), why)
  }
  expect_identical(reads(c("44 kg", "97 lb", "3 kg"))$values, c("44 kg", "97 lb", "3 kg"))
  expect_identical(reads(c("Wave 1", "Wave 2"))$values, c("Wave 1", "Wave 2"))
})
