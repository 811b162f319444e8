# Moments of a few columns of a table, summed up where they are.

#' The numbers of the columns asked for, by name, and what to select them from
#'
#' Where a table may lie on many servers, only what is asked of the table itself is added up on each.
#' @noRd
numbers_in_database <- function(con, plan, more = character()) {
  # A part of one value of a column is grouped by it: so PostgreSQL leaves the sums to the server that holds the part.
  key <- if (!is.null(plan$key)) unname(quote_names(con, plan$key))
  if (database_engine(con)$inner_numbers) {
    if (!is.null(key)) more <- c(more, sprintf("%s AS unsere_key", key))
    group <- if (!is.null(key)) " GROUP BY unsere_key" else ""
    return(list(
      values = sprintf("v%d", seq_along(plan$wanted)),
      from = sprintf("(%s) AS numbers%s", numbers_from(con, plan, more), group)
    ))
  }
  list(values = wanted_numbers(con, plan), from = plan_source(con, plan))
}

#' The moments of a few columns, summed up in the database: means first, then sums about them
#' @return As from the core: `columns`, `rows`, `complete`, `centre`, `scale`, `products`, `sums`, `squares`, `counts`.
#' @references Chan, Golub & LeVeque (1983), The American Statistician 37, 242-247.
#' @noRd
sums_in_database <- function(con, plan) {
  p <- length(plan$wanted)
  there <- numbers_in_database(con, plan)
  pilot <- pilot_means(con, plan)
  from <- sprintf("(%s - (%.17g))", there$values, pilot$centre)
  whole <- all(pilot$counts == pilot$n)
  each <- expand.grid(i = seq_len(p), j = seq_len(p))
  upper <- which(each$i <= each$j)
  products <- sprintf("SUM(%s * %s) AS unsere_p%d", from[each$i], from[each$j], seq_along(each$i))
  sums <- if (whole) sprintf("SUM(%s) AS unsere_s%d", from, seq_len(p)) else sums_where_in_database(each, from, there$values)
  terms <- c("COUNT(*) AS unsere_n", products[upper], sums)
  row <- ask_database(con, sprintf("SELECT %s FROM %s", paste(terms, collapse = ", "), there$from))
  if (as.double(row$unsere_n) != pilot$n) abort_input("The table changed while it was read.", "Run this again.")
  part <- function(letter, places) {
    values <- vapply(places, function(k) as.double(row[[paste0("unsere_", letter, k)]]), 0)
    values[is.na(values)] <- 0
    values
  }
  products <- matrix(0, p, p)
  products[upper] <- part("p", upper)
  products[lower.tri(products)] <- t(products)[lower.tri(products)]
  bad <- which(!is.finite(diag(products)))
  if (length(bad)) abort_infinite(plan$wanted[bad[1]])
  all <- seq_along(each$i)
  list(
    columns = as.double(p), rows = pilot$n, complete = whole, centre = pilot$centre, scale = rep(1, p),
    products = as.vector(products), sums = part("s", if (whole) seq_len(p) else all),
    squares = if (whole) numeric() else part("q", all), counts = if (whole) numeric() else part("c", all),
    ends = pilot$ends
  )
}

# Means and how many values each column has; and whether a column of SQLite holds text, which its sums would count as zero.
pilot_means <- function(con, plan) {
  p <- length(plan$wanted)
  checked <- if (database_engine(con)$typed_values) which(asked_plainly(plan)) else integer()
  text <- sprintf("MAX(t%d) > %s AS unsere_t%d", checked, beyond_numbers, checked)
  quoted <- quote_names(con, plan$wanted)
  there <- numbers_in_database(con, plan, sprintf("%s AS t%d", quoted[checked], checked))
  each <- function(what, letter) sprintf("%s(%s) AS unsere_%s%d", what, there$values, letter, seq_len(p))
  terms <- c("COUNT(*) AS unsere_n", each("AVG", "m"), each("COUNT", "c"), each("MIN", "l"), each("MAX", "h"), text)
  sums <- ask_database(con, sprintf("SELECT %s FROM %s", paste(terms, collapse = ", "), there$from))
  values <- unname(vapply(sums, as.double, 0)) # counts may come as 64-bit integers
  if (any(values[-seq_len(4L * p + 1L)] %in% 1)) check_text_in_table(con, plan)
  centre <- values[1L + seq_len(p)]
  centre[is.na(centre)] <- 0
  if (any(!is.finite(centre))) abort_infinite(plan$wanted[!is.finite(centre)][1])
  part <- function(k) values[1L + k * p + seq_len(p)]
  list(n = values[1], centre = centre, counts = part(1L), ends = rbind(part(2L), part(3L)))
}

# Of each column over the cases where another is there: how many, their sum, the sum of their squares.
sums_where_in_database <- function(each, from, values) {
  there <- function(text) sprintf("CASE WHEN %s IS NOT NULL THEN %s ELSE NULL END", values[each$j], text)
  places <- seq_along(each$i)
  c(
    sprintf("COUNT(%s) AS unsere_c%d", there(values[each$i]), places),
    sprintf("SUM(%s) AS unsere_s%d", there(from[each$i]), places),
    sprintf("SUM(%s) AS unsere_q%d", there(sprintf("%s * %s", from[each$i], from[each$i])), places)
  )
}

# Each server of a parted table of PostgreSQL adds up its own where the session allows it; it is as it was afterwards.
with_parts_pushed <- function(con, plan, work) {
  if (is.null(plan$key) || !database_engine(con)$pushes_parts) return(work())
  before <- ask_database(con, "SHOW enable_partitionwise_aggregate")[[1]]
  allow <- function(how) DBI::dbExecute(con, paste("SET enable_partitionwise_aggregate =", how))
  allow("on")
  on.exit(allow(before))
  work()
}

abort_infinite <- function(name) {
  abort_input(problem("%s contains an infinite value, or values too large to be squared.", name), "Correct it in a copy.")
}
