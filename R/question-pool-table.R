# Published correlations, to be pooled: a table with a row for each.

#' What was published elsewhere, in rows like those of groups
#' @noRd
published_groups <- function(options) {
  published <- options$published
  if (is.null(published)) return(NULL)
  if (is_word(published)) published <- read_study(published)
  table <- check_study(published)
  lacking <- setdiff(c("r", "n"), study_names(table))
  if (length(lacking)) {
    abort_input(
      problem("The table of published correlations has no column %s.", lacking[1]), "Its columns are name, r and n."
    )
  }
  moderator <- intersect(c(options$moderator, "moderator"), study_names(table))
  rows_of_table(table, list(
    r = "r", n = "n", by = intersect("name", study_names(table)), moderator = if (length(moderator)) moderator[1]
  ), named = !is.null(options$moderator))
}

pool_table <- function(study, options) {
  list(
    groups = rows_of_table(study, options), x = options$r, y = options$n, by = options$by, n_dropped = 0L,
    coefficient = if (options$coefficient == "auto") straight_record()$name else options$coefficient, factor = 1,
    variables = book_entries(study, c(options$r, options$n, options$by, options$moderator)), intake = NULL
  )
}

#' @return A data frame, a row a group: `name`, `source`, `n`, `r`, `variance` (of z; `NA` where there is none),
#' `reason`,
#'   `ci_low`, `ci_high`, `moderator` (a list).
#' @noRd
rows_of_table <- function(table, columns, named = !is.null(columns$moderator)) {
  r <- study_numbers(table, columns$r)$values
  n <- study_numbers(table, columns$n)$values
  at <- file_rows(table)
  bad <- which(abs(r) > 1 | !is.na(r) & (is.na(n) | n < 1 | n != round(n)))
  if (length(bad)) {
    abort_input(
      problem("Row %d has r = %s and n = %s.", at[bad[1]], format(r[bad[1]]), format(n[bad[1]])),
      "A correlation lies between -1 and 1, its n is a whole number."
    )
  }
  by <- if (length(columns$by)) columns$by else role_variable(table, "case")
  name <- if (length(by)) plain_text(as.character(study_column(table, by))) else sprintf("%d.", seq_along(r))
  moderator <- if (named && length(columns$moderator)) moderator_values(table, columns$moderator) else rep(NA, length(r))
  usable <- !is.na(r) & abs(r) < 1 & n > 3
  data.frame(
    name = name, source = "published", n = as.integer(n), r = r, variance = ifelse(usable, 1 / (n - 3), NA),
    reason = ifelse(is.na(r), "no r", ifelse(abs(r) == 1, "points on a line", "fewer than four cases")),
    moderator = I(as.list(moderator))
  )
}

moderator_values <- function(study, name) {
  if (level_of(study, name) %in% c("nominal", "binary")) return(as.character(study_column(study, name)))
  study_numbers(study, name)$values
}
