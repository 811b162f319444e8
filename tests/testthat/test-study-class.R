test_that("what tibbles bring along comes in: lists are told, a grouping names the groups", {
  data <- data.frame(id = 101:160, town = rep(c("Hill", "Mill", "Dale"), 20), hours = c(1:30, 30:1), score = c(30:1, 2:31))
  data$answers <- lapply(1:60, seq_len)
  study <- as_study(data)
  expect_match(format(study$provenance$decisions), "answers: lists, skipped", all = FALSE)
  expect_identical(relate(study, hours, score)$r, relate(data[-5], hours, score)$r)
  grouped <- structure(data, class = c("grouped_df", "tbl_df", "tbl", "data.frame"), groups = data.frame(
    town = c("Dale", "Hill", "Mill"), .rows = I(list(1L, 2L, 3L))
  ))
  expect_identical(codebook(grouped)$role[2], "group")
  expect_identical(pool_relations(grouped, hours, score)$by, "town")
  expect_match(format(correlation_matrix(study, id, hours, score)), "names of the cases: id", all = FALSE)
})
