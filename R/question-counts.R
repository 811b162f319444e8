# Cross-tables of two variables, counted where the data are.

#' Gather a cross-table from data that do not fit into memory
#'
#' A cross-table holds all information about two variables with few values: [relate()] accepts it instead of
#' the cases, and every coefficient is exact. In a database it is counted by one query per source.
#'
#' @param source,table,chunk_rows,missing_codes,skip_unreadable As for [gather_moments()].
#' @param x,y The two variables, as strings.
#' @return Counts (class `unsere_counts`), a data frame of the values of `x` and `y` and their `count`.
#' @section Errors: As for [gather_moments()]; `unsere_error_input` for more than 10,000 pairs of values.
#' @examples
#' counts <- gather_counts(demo_file("learners.csv"), "confidence", "m1")
#' head(counts)
#' relate(counts, confidence, m1)
#' @export
gather_counts <- function(source, x, y, table = NULL, chunk_rows = 1e6, missing_codes = NULL, skip_unreadable = FALSE) {
  for (name in list(x, y)) if (!is_word(name)) abort_usage(
    "The two variables are given as strings.",
    "For example \"confidence\"."
  )
  parts <- parts_of(source, table)
  plan <- list(wanted = c(x, y), chunk_rows = chunk_rows, reading = list(NULL, NULL, NULL, NULL), table = table)
  counted <- over_parts(parts, function(part) counts_of_part(part, plan), NULL, skip_unreadable, plan)
  all <- do.call(rbind, counted$results)
  if (is.null(all) || !nrow(all)) abort_input("There is no case in this source.", "Look into it.")
  counts <- sum_counts(all)
  for (k in 1:2) counts[[k]][counts[[k]] %in% missing_codes] <- NA
  counts <- sum_counts(counts)
  structure(counts, class = c("unsere_counts", "data.frame"), skipped = counted$skipped)
}

counts_of_part <- function(part, plan) {
  con <- NULL
  if (part$kind == "table") {
    con <- open_part(part)
    on.exit(close_part(part, con))
    quoted <- quote_names(con, plan$wanted)
    columns <- paste(quoted, collapse = ", ")
    from <- table_in_sql(con, part$table)
    counts <- ask_database(con, sprintf("SELECT %s, COUNT(*) AS unsere_n FROM %s GROUP BY %s", columns, from, columns))
    counts[] <- lapply(counts, plain_column)
    names(counts) <- c(plan$wanted, "count")
    return(counts)
  }
  next_chunk <- chunks_of(part, plan)
  on.exit(close_chunks(next_chunk))
  counts <- NULL
  repeat {
    chunk <- next_chunk()
    if (is.null(chunk)) return(counts)
    lacking <- setdiff(plan$wanted, names(chunk))
    if (length(lacking)) abort_input(
      problem("There is no variable \"%s\".", lacking[1]), suggest_names(lacking[1], names(chunk), "variables")
    )
    counts <- sum_counts(rbind(counts, data.frame(chunk[plan$wanted], count = 1, check.names = FALSE)))
  }
}

# One row for each pair of values.
sum_counts <- function(counts) {
  kinds <- lapply(counts[1:2], function(column) sort(unique(column), na.last = TRUE))
  places <- Map(match, counts[1:2], kinds)
  if (prod(lengths(kinds)) > 2^50) abort_input("These two have too many values for a cross-table.", "Gather their moments.")
  key <- places[[1]] + (places[[2]] - 1) * length(kinds[[1]])
  at <- sort(unique(key))
  if (length(at) > 1e4) abort_input("These two have more than 10,000 pairs of values.", "Gather their moments.")
  first <- match(at, key)
  out <- counts[first, ]
  out$count <- as.vector(rowsum(as.double(counts$count), key, reorder = TRUE))
  rownames(out) <- NULL
  out
}

#' The cases that counts stand for
#' @noRd
study_of_counts <- function(counts) {
  total <- sum(counts$count)
  if (total > 2e7) abort_input(
    problem("%s cases are too many to be ranked.", format(total, big.mark = ",", scientific = FALSE)),
    "Gather their moments, for Pearson's r."
  )
  as_study(as.data.frame(counts)[rep(seq_len(nrow(counts)), counts$count), 1:2])
}
