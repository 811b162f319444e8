# A study whose columns stay in a database and are too many to be fetched: its variables as numbers in the database's words,
# so that sums and counts of them are taken there.

#' Some variables of a study as a database says them
#'
#' @return A plan for [sums_in_database()] and [table_chunks()]: `wanted` (names), `numbers` (each as a double, in SQL),
#'   `plain` (whether it is a column of numbers as it stands), `from` (what stands after FROM), `coding` (of words, as from
#'   [study_numbers()]), `book`.
#' @noRd
plan_in_database <- function(con, study, names) {
  columns <- unclass(study$data)
  if (!is.null(columns$rows)) abort_input(
    "Cases of a table this large are selected with where.",
    "Read it so: where = \"...\"."
  )
  plans <- lapply(stats::setNames(names, names), function(name) number_in_database(con, study, name))
  part <- function(field) lapply(plans, `[[`, field)
  list(
    wanted = names, numbers = unlist(part("number")), plain = unlist(part("plain")),
    from = source_in_database(columns$database),
    coding = part("coding"), book = book_entries(study, names)
  )
}

number_in_database <- function(con, study, name) {
  columns <- unclass(study$data)
  formula <- columns$formulas[[name]]
  if (!is.null(formula)) {
    return(list(number = formula_in_database(con, study, formula$tree, formula$text), plain = FALSE, coding = list()))
  }
  database <- columns$database
  raw <- if (name %in% names(columns$added)) NA_character_ else database$from[[name]]
  if (!raw %in% name) {
    abort_input(
      problem("%s has no translation for the database.", name), "Select fewer cases with where, so that they can be fetched."
    )
  }
  seen <- database$seen[[name]]
  kind <- class(seen)[1]
  numeric <- kind %in% c("numeric", "integer", "logical")
  known <- numbers_of_specimen(study, name, database$whole[[name]])
  if (is.null(known)) {
    if (!numeric) abort_input(
      problem("%s contains text or dates with many values.", name), "With so many cases only numbers and scales are summed."
    )
    return(list(number = number_in_sql(con, name, kind, database$codes[[name]]), plain = TRUE, coding = list()))
  }
  values <- seen[known$first]
  column <- if (numeric) number_in_sql(con, name, kind, NULL) else column_in_database(con, database, name)
  spelt <- if (numeric) sprintf("%.17g", as.double(values)) else vapply(as.character(values), text_in_sql, "", con = con)
  cases <- sprintf("WHEN %s = %s THEN %.17g", column, spelt, known$numbers)
  list(
    number = double_in_sql(con, sprintf("CASE %s ELSE NULL END", paste(cases, collapse = " "))), plain = FALSE,
    coding = known$coding
  )
}

# Of a column whose values are all known, the number that stands for each; nothing where its numbers stand as they are.
numbers_of_specimen <- function(study, name, whole) {
  database <- unclass(study$data)$database
  if (!isTRUE(whole)) return(NULL)
  small <- study
  small$data <- list2DF(specimen_read(database), lengths(database$seen)[1])
  small$converted <- new.env(parent = emptyenv())
  numbers <- study_numbers(small, name)
  first <- which(!is.na(numbers$values) & !duplicated(database$seen[[name]]))
  if (!length(first)) abort_empty(name)
  coding <- numbers[c("zero", "one", "steps")]
  list(first = first, numbers = numbers$values[first], coding = coding[!vapply(coding, is.null, NA)])
}

#' A derived variable in a database's words
#' @noRd
formula_in_database <- function(con, study, tree, text) {
  database <- unclass(study$data)$database
  arithmetic_in_sql(tree, con, list(
    number = function(name) {
      if (!name %in% study_names(study)) {
        abort_input(problem("There is no variable \"%s\".", name), suggest_names(name, study_names(study), "variables"))
      }
      number_in_database(con, study, name)$number
    },
    from = source_in_database(database)
  ), text)
}

said_in_database <- function(study, tree) with_access(unclass(study$data)$database, function(con) said_in_sql(tree, con))

#' A derived variable of a study that is too large to be fetched: its recipe is kept, and told where it has no value
#' @noRd
derive_in_database <- function(study, name, tree, text, compute) {
  columns <- unclass(study$data)
  database <- columns$database
  with_access(database, function(con) {
    number <- formula_in_database(con, study, tree, text)
    needed <- vapply(variables_in(tree), function(one) number_in_database(con, study, one)$number, "")
    there <- paste(sprintf("%s IS NOT NULL", needed), collapse = " AND ")
    # Of division by zero and the like nothing comes; in memory these cases are told.
    terms <- sprintf("SUM(CASE WHEN %s AND (%s) IS NULL THEN 1 ELSE 0 END) AS unsere_n", there, number)
    bad <- as.double(ask_database(con, from_in_database(database, terms))$unsere_n)
    if (bad > 0) abort_undefined(
      problem("In \"%s\": no finite value in %.0f cases.", text, bad),
      "Select the others with where, or declare a missing-value code."
    )
    first <- ask_database(con, paste0(from_in_database(database, sprintf("%s AS unsere_value", number)), " LIMIT 1000"))
    study <<- with_new_entry(study, name, find_level(as.double(first$unsere_value)), paste("derived:", text))
  })
  # Where the cases are few enough after all it is worked out of them.
  columns$formulas[[name]] <- list(tree = tree, text = text, compute = compute)
  study$data <- new_columns(database, c(columns$names, name), columns$rows, columns$added, columns$formulas)
  study
}

#' The cases of two variables counted in the cells of a grid, in the database
#' @param ends The range of each, from the smallest to the largest value drawn.
#' @return A data frame: `x`, `y` (the mean of each cell), `count`.
#' @noRd
cells_in_database <- function(con, plan, ends, across = 64L, up = 40L) {
  place <- function(number, range, cells) {
    step <- diff(range) / cells
    # Rounded to the nearest: a cell's middle is a whole number then.
    sprintf("round((%s - (%.17g)) / %.17g - 0.5)", number, range[1], step)
  }
  both <- c(place("v1", ends$x, across), place("v2", ends$y, up))
  inner <- sprintf("SELECT %s AS v1, %s AS v2 FROM %s", plan$numbers[1], plan$numbers[2], plan$from)
  outer <- sprintf(
    "SELECT v1, v2, %s AS k1, %s AS k2 FROM (%s) AS numbers WHERE v1 IS NOT NULL AND v2 IS NOT NULL", both[1], both[2], inner
  )
  # Where its cases lie on average: on its values, of a scale.
  query <- "SELECT AVG(v1) AS x, AVG(v2) AS y, COUNT(*) AS unsere_n FROM (%s) AS cells GROUP BY k1, k2 ORDER BY k1, k2"
  rows <- lapply(ask_database(con, sprintf(query, outer)), as.double)
  data.frame(x = rows$x, y = rows$y, count = rows$unsere_n)
}

#' A plan for the mid-ranks of two columns among the cases that have both
#' @noRd
ranks_in_database <- function(con, plan) {
  if (!database_engine(con)$ranks) {
    abort_usage("With so many cases this database does not compute ranks.", "Use coefficient = \"pearson\".")
  }
  inner <- sprintf(
    "SELECT * FROM (SELECT %s AS v1, %s AS v2 FROM %s) AS numbers WHERE v1 IS NOT NULL AND v2 IS NOT NULL",
    plan$numbers[1], plan$numbers[2], plan$from
  )
  rank <- sprintf("RANK() OVER (ORDER BY v%1$d) + (COUNT(*) OVER (PARTITION BY v%1$d) - 1) / 2.0", 1:2)
  plan$from <- sprintf("(SELECT %s AS r1, %s AS r2 FROM (%s) AS pairs) AS ranks", rank[1], rank[2], inner)
  plan$numbers <- stats::setNames(c("r1", "r2"), plan$wanted)
  plan$plain <- c(FALSE, FALSE)
  plan
}

#' Of the two values of one column: n, mean and standard deviation of another
#' @noRd
groups_in_database <- function(con, plan, binary, centre) {
  sql <- sprintf(
    "SELECT v1, COUNT(*) AS unsere_n, SUM(v2) AS s, SUM(v2 * v2) AS q FROM (SELECT %s AS v1, (%s - (%.17g)) AS v2 FROM %s) AS
     numbers WHERE v1 IS NOT NULL AND v2 IS NOT NULL GROUP BY v1 ORDER BY v1",
    plan$numbers[binary], plan$numbers[3 - binary], centre, plan$from
  )
  rows <- ask_database(con, sql)
  n <- as.double(rows$unsere_n)
  coding <- plan$coding[[binary]]
  data.frame(
    value = c(coding$zero, coding$one), code = 0:1, n = n, mean = centre + rows$s / n,
    sd = sqrt(pmax(0, rows$q - rows$s^2 / n) / (n - 1))
  )
}

#' A plan for the cases that have every value
#' @noRd
complete_in_database <- function(plan) {
  places <- seq_along(plan$wanted)
  inner <- paste(sprintf("%s AS v%d", plan$numbers, places), collapse = ", ")
  there <- paste(sprintf("v%d IS NOT NULL", places), collapse = " AND ")
  plan$from <- sprintf("(SELECT * FROM (SELECT %s FROM %s) AS every_case WHERE %s) AS complete", inner, plan$from, there)
  plan$numbers <- stats::setNames(sprintf("v%d", places), plan$wanted)
  plan$plain <- rep(FALSE, length(places))
  plan
}

#' How many cases lack one value of a pair, the other, or both; and how many have both
#' @noRd
dropped_in_database <- function(con, plan) {
  rows <- ask_database(con, sprintf(
    "SELECT COUNT(*) AS n, COUNT(v1) AS a, COUNT(v2) AS b, SUM(CASE WHEN v1 IS NOT NULL AND v2 IS NOT NULL THEN 1 ELSE 0 END)
     AS c FROM (SELECT %s AS v1, %s AS v2 FROM %s) AS numbers",
    plan$numbers[1], plan$numbers[2], plan$from
  ))
  k <- vapply(rows, as.double, 0)
  c(
    x = k[["b"]] - k[["c"]], y = k[["a"]] - k[["c"]], both = k[["n"]] - k[["a"]] - k[["b"]] + k[["c"]], aside = 0,
    used = k[["c"]]
  )
}
