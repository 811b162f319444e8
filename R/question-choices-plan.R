# Which choices there are for a pair, the relation under each, and what they show together.

most_choices <- 64L

#' The choices of a pair: every combination of options that differ
#' @return A list: `rows` (a data frame of options), `sets` (the controls of each name), `influential` (by pair, places among
#'   the study's cases), `listwise` (places of the cases that have everything).
#' @noRd
plan_choices <- function(study, sides, options) {
  numbers <- lapply(stats::setNames(nm = c(sides$x, sides$y)), function(name) study_numbers(study, name)$values)
  everything <- Reduce(`&`, lapply(c(sides$x, sides$y, options$given), function(name) !is.na(study_column(study, name))))
  pairs <- expand.grid(x = sides$x, y = sides$y, stringsAsFactors = FALSE)
  influential <- Map(function(x, y) {
    known <- which(!is.na(numbers[[x]]) & !is.na(numbers[[y]]))
    if (length(known) < 10L) integer() else known[find_influential(numbers[[x]][known], numbers[[y]][known])]
  }, pairs$x, pairs$y)
  names(influential) <- paste(pairs$x, pairs$y, sep = "\r")
  sets <- control_sets(options$given, most_choices / nrow(pairs) / (if (any(lengths(influential))) 8 else 4))
  rows <- expand.grid(
    missing = c("pairwise", "listwise"), controls = names(sets), cases = c("all", "without influential"),
    coefficient = product_coefficients(), y = sides$y, x = sides$x, stringsAsFactors = FALSE
  )[6:1]
  rows <- rows[distinct_choices(study, rows, sets, influential, everything), ]
  rownames(rows) <- NULL
  if (nrow(rows) > most_choices) {
    abort_usage(problem("These are %d analyses; at most %d are shown.", nrow(rows), most_choices), "Name fewer variables.")
  }
  list(rows = rows, sets = sets, influential = influential, listwise = everything)
}

# Of numbers and of ranks: those that take any two variables.
product_coefficients <- function() {
  names(Filter(function(record) record$products && is.na(record$two_valued), coefficient_records()))
}

# All subsets of the controls where they are few enough, else none, each and all.
control_sets <- function(given, most) {
  if (!length(given)) return(list(none = character()))
  sets <- c(
    list(character()), as.list(given),
    if (length(given) > 1L) list(given)
  )
  if (length(given) > 2L && 2^length(given) <= most) {
    sets <- do.call(c, lapply(0:length(given), function(k) utils::combn(given, k, simplify = FALSE)))
  }
  names(sets) <- vapply(sets, function(set) if (length(set)) paste(set, collapse = " + ") else "none", "")
  sets
}

#' Which choices are of cases and variables that no choice before them has
#' @noRd
distinct_choices <- function(study, rows, sets, influential, everything) {
  present <- lapply(stats::setNames(nm = unique(unlist(sets))), function(name) !is.na(study_column(study, name)))
  binary <- function(name) level_of(study, name) == "binary"
  marks <- vapply(seq_len(nrow(rows)), function(k) {
    row <- rows[k, ]
    out <- if (row$cases == "all") integer() else influential[[paste(row$x, row$y, sep = "\r")]]
    whole <- Reduce(`&`, present[sets[[row$controls]]], TRUE)
    cases <- if (row$missing == "listwise") everything else whole
    pair <- !is.na(study_column(study, row$x)) & !is.na(study_column(study, row$y))
    # Of two values ranks are the values themselves.
    ranked <- coefficient_record(row$coefficient)$resistant && !(binary(row$x) && binary(row$y) && row$controls == "none")
    paste(row$x, row$y, row$controls, ranked, sum(cases & pair), length(out))
  }, "")
  !duplicated(marks)
}

choice_rows <- function(plan, k, size) {
  row <- plan$rows[k, ]
  rows <- if (row$missing == "listwise") which(plan$listwise) else seq_len(size)
  if (row$cases == "all") rows else setdiff(rows, plan$influential[[paste(row$x, row$y, sep = "\r")]])
}

relate_choice <- function(study, plan, k, options) {
  row <- plan$rows[k, ]
  rows <- choice_rows(plan, k, study_size(study))
  part <- if (length(rows) == study_size(study)) study else study[rows, ]
  controls <- plan$sets[[row$controls]]
  settings <- settle_arguments(question_relate(), list(
    x = row$x, y = row$y, given = if (length(controls)) controls,
    coefficient = row$coefficient, confidence = options$confidence
  ))
  settings$undoubted <- TRUE
  tryCatch(relate_study(part, row$x, row$y, settings), unsere_error_undefined = function(error) NULL)
}

finish_choices <- function(study, plan, relations, options) {
  defined <- !vapply(relations, is.null, NA)
  rows <- plan$rows[defined, ]
  relations <- relations[defined]
  of_each <- function(field) vapply(relations, `[[`, 0, field)
  rows <- data.frame(
    rows,
    n = as.integer(of_each("n")), r = of_each("r"), ci_low = of_each("ci_low"), ci_high = of_each("ci_high"),
    p = of_each("p")
  )
  z <- atanh(clip(rows$r))
  median <- tanh(stats::median(z))
  sets <- completed_studies(study, unique(c(rows$x, rows$y, options$given)))
  test <- if (length(sets) == 1L) {
    test_choices(plan, relations, which(defined), stats::median(z), study, options)
  } else {
    test_choices_of_sets(plan, which(defined), sets, options)
  }
  of <- c("x", "y", "coefficient", "cases", "controls", "missing")
  decisions <- Filter(function(name) length(unique(rows[[name]])) > 1L, of)
  order <- order(rows$r)
  left_out <- sort(unique(unlist(plan$influential)))
  do.call(new_choices, c(list(
    x = options$x, y = options$y, confidence = options$confidence, k = nrow(rows),
    choices = `rownames<-`(rows[order, ], NULL), median = median, lowest = min(rows$r), highest = max(rows$r),
    positive = mean(rows$r > 0), negative = mean(rows$r < 0),
    significant = mean(rows$p < 1 - options$confidence & sign(rows$r) == sign(median), na.rm = TRUE),
    decisions = if (length(decisions)) `rownames<-`(weight_of_decisions(rows[decisions], z), NULL) else no_decisions(),
    p = test$p, permutations = as.integer(options$permutations), seed = test$seed,
    influential = case_names(study, left_out), controls = options$given,
    variables = book_entries(study, unique(c(options$x, options$y, options$x_also, options$y_also, options$given)))
  ), told_sets(study, sets)))
}

no_decisions <- function() {
  data.frame(
    decision = character(), high = character(), low = character(), r_high = numeric(), r_low = numeric(),
    difference = numeric()
  )
}

#' The joint test of all choices
#' @noRd
test_choices <- function(plan, relations, places, median, study, options) {
  seed <- sound_seed(options$seed)
  all <- unique(plan$rows$y)
  controls <- controls_of_choices(study, options$given)
  outcomes <- lapply(stats::setNames(nm = all), function(name) {
    values <- study_numbers(study, name)$values
    known <- which(!is.na(values) & (if (is.null(controls)) TRUE else stats::complete.cases(controls)))
    basis <- qr(cbind(rep(1, length(known)), controls[known, , drop = FALSE]), tol = 1e-9)
    fitted <- rep(mean(values, na.rm = TRUE), length(values))
    fitted[known] <- qr.fitted(basis, values[known])
    list(values = values, fitted = fitted)
  })
  cluster <- role_variable(study, "cluster")
  unit <- if (is.null(cluster)) rep("all", study_size(study)) else as.character(study_column(study, cluster))
  # A case without a value stays in its place.
  unit[Reduce(`|`, lapply(outcomes, function(y) is.na(y$values)))] <- NA
  choices <- Map(function(relation, k) {
    choice_of_relation(relation, plan$rows[k, ], choice_rows(plan, k, study_size(study)))
  }, relations, places)
  medians <- with_seed(seed, medians_of_choices(choices, outcomes, unit, options$permutations))
  at_least <- c(sum(medians >= median), sum(medians <= median))
  list(p = min(1, 2 * (min(at_least) + 1) / (options$permutations + 1)), seed = seed)
}

#' The joint test of several completed data sets: the median of its p
#' @references Eekhout, van de Wiel & Heymans (2017), BMC Medical Research Methodology 17, 129.
#' @noRd
test_choices_of_sets <- function(plan, places, sets, options) {
  options$seed <- sound_seed(options$seed)
  p <- vapply(sets, function(set) {
    relations <- lapply(places, function(k) relate_choice(set, plan, k, options))
    known <- !vapply(relations, is.null, NA)
    z <- atanh(clip(vapply(relations[known], `[[`, 0, "r")))
    test_choices(plan, relations[known], places[known], stats::median(z), set, options)$p
  }, 0)
  list(p = stats::median(p), seed = options$seed)
}

choice_of_relation <- function(relation, row, rows) {
  sample <- relation$sample
  record <- coefficient_record(row$coefficient)
  list(
    rows = rows[sample$row], controls = if (length(sample$given$names)) held_columns(sample, record),
    x = record$scores(sample$x), y = row$y, scores = if (record$resistant) record$scores
  )
}

controls_of_choices <- function(study, given) {
  if (!length(given)) return(NULL)
  do.call(cbind, lapply(given, function(name) {
    if (level_of(study, name) != "nominal") return(study_numbers(study, name)$values)
    words <- as.character(study_column(study, name))
    kinds <- unique(words[!is.na(words)])
    outer(words, kinds[-1], `==`) + 0
  }))
}
