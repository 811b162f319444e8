# What the variables of a study hold that stays in a database and is too large to be fetched, summed up there.

#' The figures of each variable, as [summary_figures()] gives them; quartiles of columns of so many values alone that they
#' can be counted one by one
#' @return A list by name: `n`, `missing`, `mean`, `sd`, `min`, `q1`, `median`, `q3`, `max`, `skewness`, `distinct`,
#'   `outliers`.
#' @noRd
summaries_in_database <- function(study, names, most_counted = 1e4) {
  database <- unclass(study$data)$database
  with_access(database, function(con) {
    levels <- stats::setNames(level_of(study, names), names)
    known <- lapply(stats::setNames(names, names), function(name) counts_known(study, name))
    open <- names[vapply(known, is.null, NA)]
    values <- lapply(stats::setNames(open, open), function(name) value_in_database(con, study, name))
    spreads <- if (length(open)) spreads_in_database(con, database, values)
    lapply(stats::setNames(names, names), function(name) {
      counted <- known[[name]]
      figures <- spreads[[name]]
      if (is.null(counted) && !is.na(figures$mean) && figures$distinct <= most_counted) {
        counted <- counts_in_database(con, database, values[[name]]$sql)
      }
      if (is.null(counted)) return(figures)
      n <- sum(counted$n)
      numbers <- is.numeric(counted$value) || is.ordered(counted$value)
      figures <- if (numbers && levels[[name]] != "nominal") summary_of_counts(as.double(counted$value), counted$n)
      if (levels[[name]] != "numeric" && length(figures)) figures$outliers <- NA_integer_
      c(list(n = n, missing = database$n - n), or_default(figures, c(no_figures(), list(distinct = nrow(counted)))))
    })
  })
}

no_figures <- function() {
  fields <- c("mean", "sd", "min", "q1", "median", "q3", "max", "skewness")
  c(stats::setNames(as.list(rep(NA_real_, length(fields))), fields), list(outliers = NA_integer_))
}

#' Of a column of few values each value, read as the study reads it, and how many cases have it; else `NULL`
#' @noRd
counts_known <- function(study, name) {
  database <- unclass(study$data)$database
  counts <- if (isTRUE(database$whole[[name]])) database$counts[[name]]
  if (is.null(counts)) return(NULL)
  # What a column is shows in many values, not in each once.
  seen <- database$seen[[database$from[[name]]]]
  value <- specimen_read(database)[[name]][match(counts$value, seen)]
  there <- !is.na(value)
  value <- value[there]
  kinds <- if (is.ordered(value)) sort(unique(value)) else sort(unique(value), method = "radix")
  data <- list2DF(list(value = kinds, n = as.vector(rowsum(counts$n[there], match(value, kinds)))))
  if (nrow(data)) data
}

counts_in_database <- function(con, database, sql) {
  rows <- ask_database(con, sprintf(
    "SELECT v AS unsere_value, COUNT(*) AS unsere_n FROM (SELECT %s AS v FROM %s) AS numbers WHERE v IS NOT NULL GROUP BY v
     ORDER BY v", sql, source_in_database(database)
  ))
  data.frame(value = as.double(rows$unsere_value), n = as.double(rows$unsere_n))
}

# A variable as a number where it is one, else as words.
value_in_database <- function(con, study, name) {
  number <- tryCatch(number_in_database(con, study, name)$number, unsere_error = function(e) NULL)
  if (!is.null(number)) return(list(sql = number, number = TRUE))
  database <- unclass(study$data)$database
  raw <- database$from[[name]]
  table <- list(kinds = stats::setNames(list(class(database$seen[[raw]])[1]), raw), codes = database$codes)
  list(sql = words_in_sql(raw, con, table), number = FALSE)
}

spreads_in_database <- function(con, database, value_sql) {
  from <- source_in_database(database)
  places <- seq_along(value_sql)
  sql <- vapply(value_sql, `[[`, "", "sql")
  number <- vapply(value_sql, `[[`, NA, "number")
  ask <- function(terms) {
    # So many at a time as a query holds.
    blocks <- split(terms, (seq_along(terms) - 1L) %/% 400L)
    unlist(lapply(unname(blocks), function(some) {
      lapply(ask_database(con, sprintf("SELECT %s FROM %s", paste(some, collapse = ", "), from)), as.double)
    }))
  }
  first <- ask(c(
    sprintf("COUNT(%s) AS c%d", sql, places), sprintf("COUNT(DISTINCT %s) AS d%d", sql, places),
    sprintf("AVG(%s) AS m%d", sql[number], places[number]), sprintf("MIN(%s) AS l%d", sql[number], places[number]),
    sprintf("MAX(%s) AS h%d", sql[number], places[number])
  ))
  part <- function(values, letter, k) unname(values[paste0(letter, k)])
  centre <- sprintf("(%s - (%.17g))", sql, part(first, "m", places))
  usable <- which(number & part(first, "c", places) > 1)
  second <- if (length(usable)) ask(c(
    sprintf("SUM(%s) AS r%d", centre[usable], usable), sprintf("SUM(%1$s * %1$s) AS s%2$d", centre[usable], usable),
    sprintf("SUM(%1$s * %1$s * %1$s) AS t%2$d", centre[usable], usable)
  ))
  lapply(stats::setNames(places, names(value_sql)), function(k) {
    n <- part(first, "c", k)
    figures <- no_figures()
    if (number[k] && n > 0) figures[c("mean", "min", "max")] <- as.list(part(first, c("m", "l", "h"), k))
    if (k %in% usable) {
      # The mean that the database gave is rounded: what it missed by is taken off.
      step <- part(second, "r", k) / n
      squares <- part(second, "s", k) - n * step^2
      cubes <- part(second, "t", k) - 3 * step * squares - n * step^3
      figures$mean <- figures$mean + step
      figures$sd <- sqrt(max(0, squares) / (n - 1))
      if (n > 2 && squares > 0) figures$skewness <- skewness_k(list(squares = squares, cubes = cubes), n)
    }
    c(list(n = n, missing = database$n - n), figures, list(distinct = part(first, "d", k)))
  })
}

#' How many cases have every value
#' @noRd
complete_cases_in_database <- function(study) {
  database <- unclass(study$data)$database
  with_access(database, function(con) {
    names <- setdiff(study_names(study), names(unclass(study$data)$added))
    there <- vapply(names, function(name) sprintf("%s IS NOT NULL", value_in_database(con, study, name)$sql), "")
    query <- sprintf("SUM(CASE WHEN %s THEN 1 ELSE 0 END) AS unsere_n", paste(there, collapse = " AND "))
    as.double(ask_database(con, from_in_database(database, query))$unsere_n)
  })
}

#' The sums of a pair in each class that a column says, about the means of all; classes as a sample takes them, else `NULL`
#' @return As for [r_without_sums()].
#' @noRd
class_sums_in_database <- function(con, study, plan, name, mean, most = 1e5) {
  class <- value_in_database(con, study, name)$sql
  inner <- sprintf(
    "SELECT %s AS g, (%s - (%.17g)) AS v1, (%s - (%.17g)) AS v2 FROM %s", class, plan$numbers[1], mean[1], plan$numbers[2],
    mean[2], plan$from
  )
  rows <- ask_database(con, sprintf(
    "SELECT g, COUNT(*) AS n, SUM(v1) AS a, SUM(v2) AS b, SUM(v1 * v1) AS c, SUM(v2 * v2) AS d, SUM(v1 * v2) AS e
     FROM (%s) AS pairs WHERE v1 IS NOT NULL AND v2 IS NOT NULL GROUP BY g LIMIT %.0f", inner, most
  ))
  sums <- vapply(rows[-1], as.double, numeric(nrow(rows)))
  usable <- nrow(rows) >= 5L && nrow(rows) < most && !anyNA(rows$g) && nrow(rows) <= sum(sums[, 1]) / 2
  if (usable && stats::median(sums[, 1]) >= 2) unname(sums)
}
