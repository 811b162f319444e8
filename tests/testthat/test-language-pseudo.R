# A made-up language, each template within marks, shows what a reader can read and no translation reaches.

with_marked_language <- function(code) {
  spoken <- getFromNamespace("spoken", "unsere")
  before <- as.list(spoken)
  option <- options(unsere.language = "xx")
  on.exit({
    options(option)
    for (name in names(before)) assign(name, before[[name]], spoken)
  })
  keys <- names(yaml::read_yaml(system.file("languages", "de.yml", package = "unsere"))$sentences)
  spoken$words <- stats::setNames(paste0("\u27e6", keys, "\u27e7"), keys)
  spoken$marks <- list(decimal = ".", thousands = ",", between = ", ", leading_zero = FALSE)
  spoken$code <- "xx"
  force(code)
}

# Words of three letters or more outside all marks.
words_outside <- function(text) {
  text <- gsub("\\s+", " ", paste(unlist(text), collapse = " "))
  repeat {
    inner <- gsub("\u27e6[^\u27e6\u27e7]*\u27e7", " ", text)
    if (identical(inner, text)) break
    text <- inner
  }
  unique(tolower(regmatches(text, gregexpr("[[:alpha:]]{3,}", text))[[1]]))
}

test_that("nothing readable of results and figures bypasses the language", {
  learners <- demo_study()
  years <- demo_study("town_years")
  books <- do.call(rbind, lapply(list(learners, years, demo_study("dial"), demo_study("test_items")), function(study) {
    codebook(study)[c("variable", "label", "source", "unit")]
  }))
  kinds <- vapply(as.data.frame(learners), is.character, NA)
  own <- c(
    unlist(books), unlist(lapply(as.data.frame(learners)[kinds], unique)), "learners.csv dial.csv town_years.csv csv study",
    # What is typed is English in every language, and so are names of persons and of coefficients.
    getNamespaceExports("unsere"), "shape linear log quadratic step point",
    "Pearson Spearman Kendall Williams Durbin Watson Cohen Bonett Wright Eta Phi biserial"
  )
  own <- unique(tolower(unlist(regmatches(own, gregexpr("[[:alpha:]]{3,}", own)))))
  expect_said <- function(name, code) {
    text <- with_marked_language(code())
    expect_identical(setdiff(words_outside(text), own), character(), label = name)
  }
  found <- relate(learners, practice_hours, speaking_score)
  line <- fit_line(learners, practice_hours, speaking_score)
  key <- c(q1 = "B", q2 = "A", q3 = "C", q4 = "D")
  expect_said("overview", function() format(overview(learners)))
  expect_said("relation", function() format(found))
  expect_said("sentence", function() in_words(found))
  expect_said("cautions", function() format(cautions(found)))
  expect_said("matrix", function() format(correlation_matrix(learners)))
  expect_said("groups", function() format(correlation_matrix(learners, practice_hours, speaking_score, by = centre)))
  expect_said("line", function() format(line))
  expect_said("residuals", function() format(check_residuals(line)))
  expect_said("ranking", function() format(rank_predictors(learners, speaking_score, practice_hours, age_years)))
  expect_said("flag", function() format(flag_spurious(years, ebook_loans, hives)))
  expect_said("levels", function() format(relate_levels(learners, practice_hours, speaking_score, centre)))
  expect_said("demonstrations", function() {
    lapply(c("sample-size", "one-case", "restricted-range", "groups"), function(topic) format(demonstrate(topic)))
  })
  expect_said("waves", function() {
    format(relate_waves(demo_study("three_terms"), practice_hours, speaking_score, case = learner, time = term))
  })
  expect_said("choices", function() {
    format(vary_choices(learners, practice_hours, speaking_score, given = age_years, permutations = 99, seed = 1))
  })
  expect_said("pooled", function() format(pool_relations(learners, practice_hours, speaking_score, by = centre)))
  expect_said("items", function() format(check_items(demo_study("test_items"), q1, q2, q3, q4, key = key)))
  expect_said("plan", function() format(plan_size(r = .3, power = .8)))
  expect_said("eta", function() format(relate(learners, centre, speaking_score)))
  expect_said("advice", function() format(advise(learners, practice_hours, speaking_score)))
  expect_said("figures", function() {
    lapply(list(
      draw_scatter(learners, practice_hours, speaking_score), draw_matrix(correlation_matrix(learners)),
      draw_box(learners, practice_hours), draw_residuals(line), draw_over_time(flag_spurious(years, ebook_loans, hives))
    ), function(figure) figure$labels[c("title", "subtitle", "caption")])
  })
})

test_that("every command takes a language, for its results and for its errors", {
  file <- demo_file("learners.csv")
  told <- unsere("relate", file, "practice_hours", "speaking_score", "--language", "de", "--quiet")
  expect_identical(told$status, 0L)
  expect_match(told$out, "korrelier", all = FALSE)
  wrong <- unsere("relate", file, "nobody", "speaking_score", "--language=de")
  expect_identical(wrong$status, 3L)
  expect_match(wrong$err, "keine Variable", all = FALSE)
  expect_match(wrong$err, "Die Variablen: ", all = FALSE)
  expect_match(unsere("look", file, "--language", "tlh")$err, "tlh", all = FALSE)
})
