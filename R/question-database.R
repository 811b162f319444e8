# Questions of a study that stays in a database and is too large to be fetched: answered from sums and counts taken there.

#' @param names The variables of the pair, those controlled for after them.
#' @return A list: `moments` of the cases, or of their ranks, and `facts`, as [relation_of_moments()] takes it.
#' @noRd
sums_of_columns <- function(study, names, record, complete = FALSE) {
  if (has_design(study)) {
    abort_usage(
      "With so many cases the design is not computed in the database.",
      "Select fewer with where, or omit the roles."
    )
  }
  check_two(names[1], names[2])
  with_access(held_elsewhere(study), function(con) {
    plan <- plan_in_database(con, study, names)
    settled <- told_in_database(study, plan, names)
    if (record$resistant) {
      settled$ends <- pilot_means(con, complete_in_database(plan))$ends
      plan <- ranks_in_database(con, plan)
    }
    if (length(names) == 2L && record$resistant || length(names) > 2L && complete) {
      settled$dropped <- dropped_in_database(con, plan_in_database(con, study, names[1:2]))
    }
    if (complete) plan <- complete_in_database(plan)
    plan[c("chunk_rows", "threads")] <- list(1e6, sound_threads(NULL))
    moments <- gather_table(con, plan)
    binary <- which(lengths(lapply(plan$coding[1:2], `[[`, "one")) > 0L)
    if (identical(record$two_valued, 1L) && length(binary) == 1L && length(names) == 2L) {
      centre <- pair_of_moments(moments, names[1], names[2])$mean[3 - binary]
      settled$groups <- groups_in_database(con, plan, binary, centre)
    }
    if (record$moments && length(names) == 2L) settled$findings <- findings_in_database(con, study, plan, moments)
    list(moments = moments, facts = settled)
  })
}

# What sums of all cases tell of doubts: whether the points bend, and whether cases of a class are alike.
findings_in_database <- function(con, study, plan, moments) {
  pair <- pair_of_moments(moments, plan$wanted[1], plan$wanted[2])
  numeric <- all(plan$book$level == "numeric")
  findings <- list(
    r = pair$r, estimate = pair, alpha = 0.05, p = test_student(pair$r, pair$unexplained, pair$n)$p
  )
  classes <- unique(c(names_with(study, "group"), utils::head(names_with(study, "measure", "nominal"), most_splits_fetched)))
  clustered <- NULL
  for (name in setdiff(classes, plan$wanted)) {
    sums <- class_sums_in_database(con, study, plan, name, pair$mean)
    if (!is.null(sums) && pair$unexplained > 0) clustered <- clusters_of_sums(sums, name, findings)
    if (!is.null(clustered)) break
  }
  c(
    if (numeric) bend_in_database(con, plan, pair, findings),
    if (!is.null(clustered)) list(clusters_finding(clustered, findings))
  )
}

# A bend that is statistically significant, as sums of all cases tell it: what the square of x goes with once x is
# controlled for.
bend_in_database <- function(con, plan, pair, findings) {
  mean <- pair$mean[1]
  name <- plan$wanted[2]
  plan <- complete_in_database(plan)
  plan$numbers <- c(plan$numbers[1:2], square = sprintf("(%1$s - (%2$.17g)) * (%1$s - (%2$.17g))", plan$numbers[1], mean))
  plan$wanted <- names(plan$numbers)
  plan$plain <- rep(FALSE, 3L)
  plan$book <- plan$book[c(1, 2, 1), ]
  plan$book$variable <- plan$wanted
  moments <- gather_table(con, plan)
  products <- products_of_moments(moments, plan$wanted[c(3, 2, 1)])
  bend <- tryCatch(measure_partial_products(products, moments$n), unsere_error_undefined = function(e) NULL)
  if (is.null(bend) || moments$n < 12) return(NULL)
  test <- test_student(bend$r, bend$unexplained, moments$n - 1)
  if (is.na(test$p) || test$p >= 0.002) return(NULL)
  figures <- list(t = test$value, df = test$df, p = test$p, direction = if (bend$r > 0) "up" else "down")
  explained <- 1 - pair$unexplained * bend$unexplained
  list(curve_finding(figures, explained, findings$p < findings$alpha, name, next_step("draw scatter")))
}

told_in_database <- function(study, plan, names) {
  more <- new.env(parent = emptyenv())
  delayedAssign("cells", count_cells_in_database(study, names), assign.env = more)
  decisions <- study_provenance(study)$decisions
  decisions[["elsewhere"]] <- template(
    "computed by the database from sums over all cases; cautions that need single cases are not checked"
  )
  list(
    coding = stats::setNames(unname(plan$coding[1:2]), c("x", "y")), codings = plan$coding, decisions = decisions,
    more = more,
    given_labels = if (length(names) > 2L) label_of_variables(study, names[-(1:2)])
  )
}

count_cells_in_database <- function(study, names) {
  with_access(held_elsewhere(study), function(con) {
    plan <- complete_in_database(plan_in_database(con, study, names[1:2]))
    ends <- pilot_means(con, plan)$ends
    cells_in_database(con, plan, list(x = ends[, 1], y = ends[, 2]))
  })
}
