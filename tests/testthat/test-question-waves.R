# A pair over waves: each r is relate()'s, long and wide files say the same, differences are tested.

r_of <- function(x, y) {
  known <- !is.na(x) & !is.na(y)
  x <- x[known] - mean(x[known])
  y <- y[known] - mean(y[known])
  sum(x * y) / sqrt(sum(x^2) * sum(y^2))
}

terms <- demo_study("three_terms")
long <- utils::read.csv(demo_file("three_terms.csv"))
wide <- merge(
  merge(long[long$term == 1, -2], long[long$term == 2, -2], by = "learner", suffixes = c("_1", "_2"), all = TRUE),
  stats::setNames(long[long$term == 3, -2], c("learner", "practice_hours_3", "speaking_score_3")),
  by = "learner", all = TRUE
)
found <- relate_waves(terms, practice_hours, speaking_score, case = learner, time = term)
row_of <- function(kind, first, from, to, of = found) {
  rows <- of$relations
  rows[rows$kind == kind & rows$first == first & rows$from == from & rows$to == to, ]
}

test_that("waves, stability, cross-lagged r and changes are those of the columns", {
  expect_identical(found$waves, c("1", "2", "3"))
  expect_equal(row_of("wave", "x", 2, 2)$r, r_of(wide$practice_hours_2, wide$speaking_score_2), tolerance = 1e-12)
  expect_equal(row_of("stability", "y", 1, 3)$r, r_of(wide$speaking_score_1, wide$speaking_score_3), tolerance = 1e-12)
  expect_identical(row_of("stability", "y", 1, 3)$distance, 2)
  expect_equal(row_of("cross-lagged", "x", 1, 2)$r, r_of(wide$practice_hours_1, wide$speaking_score_2), tolerance = 1e-12)
  expect_equal(row_of("cross-lagged", "y", 2, 3)$r, r_of(wide$speaking_score_2, wide$practice_hours_3), tolerance = 1e-12)
  expect_equal(
    row_of("change", "x", 1, 2)$r,
    r_of(wide$practice_hours_2 - wide$practice_hours_1, wide$speaking_score_2 - wide$speaking_score_1),
    tolerance = 1e-12
  )
  pair <- relate(wide, practice_hours_1, speaking_score_1)
  expect_equal(row_of("wave", "x", 1, 1)$ci_low, pair$ci_low, tolerance = 1e-12)
})

test_that("within and between persons are those of deviations and means", {
  rows <- long[!is.na(long$speaking_score), ]
  rows <- rows[rows$learner %in% names(which(table(rows$learner) > 1)), ]
  away <- function(v) v - stats::ave(v, rows$learner)
  within <- found$relations[found$relations$kind == "within", ]
  expect_equal(within$r, r_of(away(rows$practice_hours), away(rows$speaking_score)), tolerance = 1e-10)
  means <- stats::aggregate(cbind(practice_hours, speaking_score) ~ learner, rows, mean)
  between <- found$relations[found$relations$kind == "between", ]
  expect_equal(between$r, r_of(means$practice_hours, means$speaking_score), tolerance = 1e-10)
})

test_that("the difference of cross-lagged r is that of compare_relations(), and what it does not show is said", {
  compared <- compare_relations(
    relate(wide, practice_hours_1, speaking_score_2), relate(wide, speaking_score_1, practice_hours_2), "same"
  )
  expect_equal(found$differences$difference[1], compared$difference, tolerance = 1e-12)
  expect_equal(found$differences$p[1], compared$p, tolerance = 1e-10)
  expect_false(anyNA(found$differences$ci_low))
  expect_match(gsub(" +", " ", paste(format(found), collapse = " ")), "comes first: one that is more stable")
})

test_that("a wide file gives the same, and who was lost is compared", {
  by_columns <- relate_waves(
    wide, c(practice_hours_1, practice_hours_2, practice_hours_3), c(speaking_score_1, speaking_score_2, speaking_score_3)
  )
  expect_equal(by_columns$relations[-(1:6)], found$relations[-(1:6)], tolerance = 1e-12)
  expect_identical(by_columns$x, "practice_hours")
  stayed <- !is.na(wide$practice_hours_3) | !is.na(wide$speaking_score_3)
  first <- !is.na(wide$practice_hours_1)
  expect_equal(found$lost$mean_lost[1], mean(wide$practice_hours_1[first & !stayed]), tolerance = 1e-12)
  expect_identical(found$lost$n_stayed[1], sum(first & stayed))
  expect_identical(found$attrition$n, as.integer(table(long$term)))
  expect_lt(found$lost$p[1], .05)
  expect_match(in_words(found), "lost after the first wave differed")
})

test_that("a design, too few waves and doubled persons are dealt with by name", {
  classes <- long
  classes$class <- as.integer(substr(classes$learner, 3, 4)) %/% 6
  drawn <- relate_waves(
    set_design(as_study(classes), cluster = class), practice_hours, speaking_score,
    case = learner, time = term
  )
  expect_equal(row_of("wave", "x", 1, 1, drawn)$r, row_of("wave", "x", 1, 1)$r, tolerance = 1e-12)
  expect_false(isTRUE(all.equal(row_of("wave", "x", 1, 1, drawn)$p, row_of("wave", "x", 1, 1)$p)))
  expect_error(relate_waves(long, practice_hours, speaking_score), class = "unsere_error_usage")
  expect_error(
    relate_waves(rbind(long, long[1, ]), practice_hours, speaking_score, case = learner, time = term), "occurs twice",
    class = "unsere_error_input"
  )
  expect_error(
    relate_waves(wide, c(practice_hours_1, practice_hours_2), speaking_score_1),
    class = "unsere_error_usage"
  )
  expect_s3_class(draw_waves(found), "ggplot")
})

test_that("a brief of waves alone has a report with its answer", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("three_terms.csv"), folder)
  brief <- file.path(folder, "brief.yml")
  writeLines(c(
    "data: {file: three_terms.csv}", "waves: [{x: practice_hours, \"y\": speaking_score, case: learner, time: term}]",
    "report: {formats: [html], folder: results}"
  ), brief)
  run_brief(brief, quiet = TRUE)
  page <- paste(readLines(file.path(folder, "results", "report.html"), encoding = "UTF-8"), collapse = " ")
  expect_match(page, "Over waves", fixed = TRUE)
  expect_match(page, "Difference of cross-lagged correlations", fixed = TRUE)
})

test_that("columns of waves are named by a pattern or a list, in R and on the command line, wherever the wave stands", {
  file <- withr::local_tempfile(fileext = ".csv")
  named <- stats::setNames(wide, sub("^practice_hours_(.)$", "T\\1_practice", names(wide)))
  utils::write.csv(named, file, row.names = FALSE, na = "")
  study <- read_study(file)
  said <- relate_waves(study, "T*_practice", "speaking_score_*")
  expect_identical(said$relations$r, found$relations$r)
  expect_identical(c(said$x, said$y), c("practice", "speaking_score"), ignore_attr = TRUE)
  expect_identical(said$waves, c("1", "2", "3"))
  asked <- unsere("waves", file, "T1_practice,T2_practice,T3_practice", "speaking_score_*", "--format", "json")
  expect_identical(jsonlite::fromJSON(asked$out)$relations$r, said$relations$r)
  expect_identical(unsere("relate", file, "T1_practice,T2_practice", "speaking_score_1")$status, 3L)
  names <- unsere:::name_of_all
  expect_identical(names(c("burnout1", "burnout2")), "burnout")
  expect_identical(names(c("Wave 1: Stress at work", "Wave 2: Stress at work")), "Stress at work")
  expect_identical(names(c("Score (T1)", "Score (T2)")), "Score")
  expect_identical(unsere:::wave_names(c("score_pre", "score_post")), c("pre", "post"))
})
