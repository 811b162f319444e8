# What a panel of persons shows: the relations of its waves, in one table.

#' @param persons From [wide_persons()] or [long_persons()].
#' @noRd
wave_relations <- function(persons, options) {
  relate_two <- function(a, b) {
    settings <- settle_arguments(question_relate(), list(
      x = a, y = b, coefficient = options$coefficient, confidence = options$confidence
    ))
    settings$undoubted <- TRUE
    tryCatch(relate_study(persons$study, a, b, settings), unsere_error_undefined = function(error) NULL)
  }
  table <- wave_table(persons)
  relations <- Map(relate_two, table$a, table$b)
  enough <- vapply(relations, function(one) !is.null(one) && one$n >= 4L, NA)
  at_wave <- table$kind == "wave"
  if (sum(enough[at_wave]) < 2L) {
    abort_undefined("Fewer than two waves have enough persons with both values.", "Check how persons and waves are named.")
  }
  rows <- rows_of_relations(table, relations)
  changes <- change_rows(persons, options)
  levels <- person_levels(persons, options)
  coefficient <- Find(Negate(is.null), relations)$coefficient
  list(
    x = persons$names[["x"]], y = persons$names[["y"]], waves = persons$waves, persons = study_size(persons$study),
    confidence = options$confidence, coefficient = coefficient, relations = rbind(rows, changes, levels),
    differences = wave_differences(table, relations, persons), attrition = attrition_of(persons), lost = lost_of(persons),
    lost_difference = lost_difference(persons, options), labels = unname(persons$labels), variables = persons$variables
  )
}

# What each completed data set shows as one, where there are several.
combine_waves <- function(results) {
  one <- results[[1]]
  if (length(results) == 1L) return(one)
  of <- function(name) lapply(results, `[[`, name)
  one$relations <- combine_tables(of("relations"), one$relations$n - 2, one$confidence)
  one$differences <- combine_tables(
    of("differences"), one$differences$n - 3, one$confidence, "difference",
    c(value = "difference", low = "ci_low", high = "ci_high", df = "df", p = "p")
  )
  if (nrow(one$differences)) {
    for (name in c("r_x_first", "r_y_first")) {
      one$differences[[name]] <- tanh(mean_of_sets(lapply(of("differences"), function(rows) atanh(clip(rows[[name]])))))
    }
    half <- (one$differences$ci_high - one$differences$ci_low) / 2
    reach <- suppressWarnings(stats::qt((1 + one$confidence) / 2, one$differences$df))
    one$differences[c("statistic", "value")] <- list("t", one$differences$difference / half * reach)
  }
  for (name in c("mean_stayed", "mean_lost", "r")) {
    one$lost[[name]] <- mean_of_sets(lapply(of("lost"), `[[`, name))
  }
  one$lost$p <- apply(do.call(cbind, lapply(of("lost"), `[[`, "p")), 1, stats::median)
  one$lost_difference <- stats::median(vapply(results, `[[`, 0, "lost_difference"))
  one
}

# The pairs of columns to relate.
wave_table <- function(persons) {
  k <- length(persons$x)
  ahead <- utils::combn(k, 2L)
  row <- function(kind, first, second, from, to) {
    columns <- list(x = persons$x, y = persons$y)
    data.frame(
      kind = kind, first = first, second = second, from_at = from, to_at = to, a = columns[[first]][from],
      b = columns[[second]][to]
    )
  }
  table <- rbind(
    row("wave", "x", "y", seq_len(k), seq_len(k)),
    row("stability", "x", "x", ahead[1, ], ahead[2, ]), row("stability", "y", "y", ahead[1, ], ahead[2, ]),
    row("cross-lagged", "x", "y", ahead[1, ], ahead[2, ]), row("cross-lagged", "y", "x", ahead[1, ], ahead[2, ])
  )
  with_wave_names(table, persons)
}

with_wave_names <- function(table, persons) {
  table$from <- persons$waves[table$from_at]
  table$to <- persons$waves[table$to_at]
  table$distance <- persons$steps[table$to_at] - persons$steps[table$from_at]
  table
}

rows_of_relations <- function(table, relations) {
  field <- function(name) vapply(relations, function(one) if (is.null(one)) NA_real_ else as.double(one[[name]]), 0)
  data.frame(
    table[c("kind", "first", "second", "from", "to", "distance")],
    n = as.integer(field("n")), r = field("r"), ci_low = field("ci_low"), ci_high = field("ci_high"), p = field("p"),
    row.names = NULL
  )
}

#' The correlation of the changes from one wave to the next
#' @noRd
change_rows <- function(persons, options) {
  k <- length(persons$x)
  numbers <- lapply(persons[c("x", "y")], function(names) {
    lapply(names, function(name) study_numbers(persons$study, name)$values)
  })
  study <- persons$study
  relations <- lapply(seq_len(k - 1L), function(from) {
    changed <- lapply(numbers, function(columns) columns[[from + 1L]] - columns[[from]])
    part <- with_number_columns(study, list(change_in_x = changed$x, change_in_y = changed$y))
    settings <- settle_arguments(question_relate(), list(
      x = "change_in_x", y = "change_in_y", confidence = options$confidence,
      coefficient = if (options$coefficient %in% product_coefficients()) options$coefficient else straight_record()$name
    ))
    settings$undoubted <- TRUE
    tryCatch(relate_study(part, "change_in_x", "change_in_y", settings), unsere_error = function(error) NULL)
  })
  table <- data.frame(kind = "change", first = "x", second = "y", from_at = seq_len(k - 1L), to_at = 2:k)
  rows_of_relations(with_wave_names(table, persons), relations)
}

#' r of the persons' means, and within persons over all waves
#' @noRd
person_levels <- function(persons, options) {
  numbers <- lapply(persons[c("x", "y")], function(names) {
    unlist(lapply(names, function(name) study_numbers(persons$study, name)$values))
  })
  person <- rep(seq_len(study_size(persons$study)), length(persons$x))
  known <- !is.na(numbers$x) & !is.na(numbers$y)
  several <- tabulate(person[known], study_size(persons$study)) >= 2L
  used <- which(known & several[person])
  group <- match(person[used], unique(person[used]))
  if (length(used) < 8L || max(group) < 4L) return(NULL)
  levels <- measure_between(numbers$x[used], numbers$y[used], group, options$confidence)$levels
  levels <- levels[levels$level != "all", ]
  data.frame(
    kind = levels$level, first = "x", second = "y", from = persons$waves[1], to = persons$waves[length(persons$waves)],
    distance = NA_real_, n = as.integer(levels$n), r = levels$r,
    ci_low = levels$ci_low, ci_high = levels$ci_high, p = levels$p
  )
}

#' The two cross-lagged r of neighbouring waves, compared
#' @noRd
wave_differences <- function(table, relations, persons) {
  of <- function(first, from) {
    which(table$kind == "cross-lagged" & table$first == first & table$from_at == from & table$to_at == from + 1L)
  }
  rows <- lapply(seq_len(length(persons$waves) - 1L), function(from) {
    two <- relations[c(of("x", from), of("y", from))]
    compared <- if (!any(vapply(two, is.null, NA))) {
      tryCatch(compare_relations(two[[1]], two[[2]], cases = "same"), unsere_error = function(error) NULL)
    }
    if (is.null(compared)) return(NULL)
    # Where the test gives no interval, that of the jackknife over persons stands.
    limits <- if (is.na(compared$ci_low)) compared$jackknife else compared
    data.frame(
      from = persons$waves[from], to = persons$waves[from + 1L], n = as.integer(compared$n_a), r_x_first = compared$r_a,
      r_y_first = compared$r_b, difference = compared$difference, ci_low = limits$ci_low, ci_high = limits$ci_high,
      statistic = compared$statistic, value = compared$value, df = compared$df, p = compared$p
    )
  })
  rows <- do.call(rbind, rows)
  if (is.null(rows)) no_differences() else rows
}

no_differences <- function() {
  none <- numeric()
  data.frame(
    from = character(), to = character(), n = integer(), r_x_first = none, r_y_first = none, difference = none,
    ci_low = none, ci_high = none, statistic = character(), value = none, df = none, p = none
  )
}

present_at <- function(persons) {
  vapply(seq_along(persons$x), function(k) {
    !is.na(study_column(persons$study, persons$x[k])) | !is.na(study_column(persons$study, persons$y[k]))
  }, logical(study_size(persons$study)))
}

attrition_of <- function(persons) {
  there <- present_at(persons)
  data.frame(wave = persons$waves, n = as.integer(colSums(there)), all_so_far = as.integer(
    rowSums(apply(there, 1, cumprod)[seq_along(persons$waves), , drop = FALSE])
  ))
}

#' How those of the first wave who are not there in the last differed at the start
#' @noRd
lost_of <- function(persons) {
  there <- present_at(persons)
  first <- which(there[, 1])
  stayed <- there[first, ncol(there)]
  none <- data.frame(
    variable = character(), n_stayed = integer(), n_lost = integer(), mean_stayed = numeric(), mean_lost = numeric(),
    r = numeric(), p = numeric()
  )
  if (sum(stayed) < 3L || sum(!stayed) < 3L) return(none)
  part <- with_number_columns(persons$study[first, ], list(stayed_on = as.double(stayed)))
  rows <- lapply(c("x", "y"), function(side) {
    name <- persons[[side]][1]
    values <- study_numbers(part, name)$values
    settings <- settle_arguments(question_relate(), list(x = "stayed_on", y = name))
    settings$undoubted <- TRUE
    relation <- tryCatch(relate_study(part, "stayed_on", name, settings), unsere_error = function(error) NULL)
    data.frame(
      variable = side, n_stayed = sum(stayed & !is.na(values)), n_lost = sum(!stayed & !is.na(values)),
      mean_stayed = mean(values[stayed], na.rm = TRUE), mean_lost = mean(values[!stayed], na.rm = TRUE),
      r = if (is.null(relation)) NA_real_ else relation$r, p = if (is.null(relation)) NA_real_ else relation$p
    )
  })
  do.call(rbind, rows)
}

# Whether x and y went together otherwise, at the start, among those who were lost.
lost_difference <- function(persons, options) {
  there <- present_at(persons)
  first <- there[, 1]
  groups <- list(which(first & there[, ncol(there)]), which(first & !there[, ncol(there)]))
  if (any(lengths(groups) < 5L)) return(NA_real_)
  settings <- settle_arguments(question_relate(), list(
    x = persons$x[1], y = persons$y[1], coefficient = options$coefficient, confidence = options$confidence
  ))
  settings$undoubted <- TRUE
  two <- lapply(groups, function(rows) {
    tryCatch(relate_study(persons$study[rows, ], persons$x[1], persons$y[1], settings), unsere_error = function(error) NULL)
  })
  if (any(vapply(two, is.null, NA))) return(NA_real_)
  tryCatch(compare_relations(two[[1]], two[[2]], cases = "different")$p, unsere_error = function(error) NA_real_)
}
