# What the variables of a study hold that stays in a database and is too large to be fetched, summed up there.

#' The figures of each variable, as [summary_figures()] gives them; quartiles of columns of so many values alone that they
#' can be counted one by one
#' @return A list by name: `n`, `missing`, `mean`, `sd`, `min`, `q1`, `median`, `q3`, `max`, `skewness`, `distinct`,
#'   `outliers`.
#' @noRd
summaries_in_database <- function(study, names, most_counted = 1e4) {
  held <- unclass(study$data)$held
  with_access(held, function(con) {
    levels <- stats::setNames(level_of(study, names), names)
    known <- lapply(stats::setNames(names, names), function(name) counts_known(study, name))
    open <- names[vapply(known, is.null, NA)]
    said <- lapply(stats::setNames(open, open), function(name) value_in_database(con, study, name))
    found <- if (length(open)) spreads_in_database(con, held, said)
    lapply(stats::setNames(names, names), function(name) {
      counted <- known[[name]]
      figures <- found[[name]]
      if (is.null(counted) && !is.na(figures$mean) && figures$distinct <= most_counted) {
        counted <- counts_in_database(con, held, said[[name]]$sql)
      }
      if (is.null(counted)) return(figures)
      n <- sum(counted$n)
      numbers <- is.numeric(counted$value) || is.ordered(counted$value)
      figures <- if (numbers && levels[[name]] != "nominal") summary_of_counts(as.double(counted$value), counted$n)
      if (levels[[name]] != "numeric" && length(figures)) figures$outliers <- NA_integer_
      c(list(n = n, missing = held$n - n), or_default(figures, c(no_figures(), list(distinct = nrow(counted)))))
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
  held <- unclass(study$data)$held
  counts <- if (isTRUE(held$whole[[name]])) held$counts[[name]]
  if (is.null(counts)) return(NULL)
  # What a column is shows in many values, not in each once.
  seen <- held$seen[[held$from[[name]]]]
  value <- specimen_read(held)[[name]][match(counts$value, seen)]
  there <- !is.na(value)
  value <- value[there]
  kinds <- if (is.ordered(value)) sort(unique(value)) else sort(unique(value), method = "radix")
  data <- list2DF(list(value = kinds, n = as.vector(rowsum(counts$n[there], match(value, kinds)))))
  if (nrow(data)) data
}

counts_in_database <- function(con, held, sql) {
  found <- ask_database(con, sprintf(
    "SELECT v AS unsere_value, COUNT(*) AS unsere_n FROM (SELECT %s AS v FROM %s) AS numbers WHERE v IS NOT NULL GROUP BY v
     ORDER BY v", sql, source_in_database(held)
  ))
  data.frame(value = as.double(found$unsere_value), n = as.double(found$unsere_n))
}

# A variable as a number where it is one, else as words.
value_in_database <- function(con, study, name) {
  number <- tryCatch(number_in_database(con, study, name)$number, unsere_error = function(e) NULL)
  if (!is.null(number)) return(list(sql = number, number = TRUE))
  held <- unclass(study$data)$held
  raw <- held$from[[name]]
  table <- list(kinds = stats::setNames(list(class(held$seen[[raw]])[1]), raw), codes = held$codes)
  list(sql = words_in_sql(raw, con, table), number = FALSE)
}

spreads_in_database <- function(con, held, said) {
  from <- source_in_database(held)
  places <- seq_along(said)
  sql <- vapply(said, `[[`, "", "sql")
  number <- vapply(said, `[[`, NA, "number")
  ask <- function(asked) {
    # So many at a time as a query holds.
    blocks <- split(asked, (seq_along(asked) - 1L) %/% 400L)
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
  told <- which(number & part(first, "c", places) > 1)
  second <- if (length(told)) ask(c(
    sprintf("SUM(%s) AS r%d", centre[told], told), sprintf("SUM(%1$s * %1$s) AS s%2$d", centre[told], told),
    sprintf("SUM(%1$s * %1$s * %1$s) AS t%2$d", centre[told], told)
  ))
  lapply(stats::setNames(places, names(said)), function(k) {
    n <- part(first, "c", k)
    figures <- no_figures()
    if (number[k] && n > 0) figures[c("mean", "min", "max")] <- as.list(part(first, c("m", "l", "h"), k))
    if (k %in% told) {
      # The mean that the database gave is rounded: what it missed by is taken off.
      step <- part(second, "r", k) / n
      squares <- part(second, "s", k) - n * step^2
      cubes <- part(second, "t", k) - 3 * step * squares - n * step^3
      figures$mean <- figures$mean + step
      figures$sd <- sqrt(max(0, squares) / (n - 1))
      if (n > 2 && squares > 0) figures$skewness <- skewness_k(list(squares = squares, cubes = cubes), n)
    }
    c(list(n = n, missing = held$n - n), figures, list(distinct = part(first, "d", k)))
  })
}

#' How many cases have every value
#' @noRd
complete_cases_in_database <- function(study) {
  held <- unclass(study$data)$held
  with_access(held, function(con) {
    names <- setdiff(study_names(study), names(unclass(study$data)$added))
    there <- vapply(names, function(name) sprintf("%s IS NOT NULL", value_in_database(con, study, name)$sql), "")
    asked <- sprintf("SUM(CASE WHEN %s THEN 1 ELSE 0 END) AS unsere_n", paste(there, collapse = " AND "))
    as.double(ask_database(con, from_in_database(held, asked))$unsere_n)
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
  found <- ask_database(con, sprintf(
    "SELECT g, COUNT(*) AS n, SUM(v1) AS a, SUM(v2) AS b, SUM(v1 * v1) AS c, SUM(v2 * v2) AS d, SUM(v1 * v2) AS e
     FROM (%s) AS pairs WHERE v1 IS NOT NULL AND v2 IS NOT NULL GROUP BY g LIMIT %.0f", inner, most
  ))
  sums <- vapply(found[-1], as.double, numeric(nrow(found)))
  usable <- nrow(found) >= 5L && nrow(found) < most && !anyNA(found$g) && nrow(found) <= sum(sums[, 1]) / 2
  if (usable && stats::median(sums[, 1]) >= 2) unname(sums)
}
