# From a table or from chunks to moments.

# Summed up there, or streamed where there are too many columns for that.
gather_table <- function(con, plan) {
  if (length(plan$wanted) > database_engine(con)$most_summed) return(gather_chunks(table_chunks(
    con, plan,
    plan$chunk_rows
  ), plan))
  sums <- with_parts_pushed(con, plan, function() sums_in_database(con, plan))
  new_moments(plan$book, sums$rows, sums[names(sums) != "ends"], sums$ends)
}

gather_chunks <- function(next_chunk, plan) {
  force(next_chunk)
  on.exit(close_chunks(next_chunk))
  tick <- progress_teller("cases")
  gathered <- NULL
  repeat {
    chunk <- next_chunk()
    if (is.null(chunk)) break
    if (is.null(plan$book)) plan <- settle_columns(plan, chunk)
    if (!is.null(plan$tree) && is.null(plan$condition)) {
      study <- as_study(chunk[unique(c(plan$wanted, variables_in(plan$tree)))], missing_codes = plan$columns$codes)
      chunk <- chunk[which(condition_holds(study, plan$tree, plan$where)), , drop = FALSE]
      if (!nrow(chunk)) next
    }
    gathered_part <- moments_of_chunk(chunk, plan, if (is.null(gathered)) 0 else gathered$n)
    gathered <- if (is.null(gathered)) gathered_part else merge_moments(gathered, gathered_part)
    tick(1 - 1 / (1 + gathered$n / 1e6))
  }
  gathered
}

#' Which columns are gathered, and what is known of them
#' @noRd
settle_columns <- function(plan, chunk) {
  known <- read_codebook(plan$codebook, names(chunk), plan$path)
  codes <- codes_by_variable(names(chunk), known, plan$missing_codes)
  if (!length(plan$wanted)) plan$wanted <- chosen_numbers(chunk, known)
  lacking <- setdiff(plan$wanted, names(chunk))
  if (length(lacking)) {
    abort_input(
      problem("There is no variable \"%s\".", lacking[1]), suggest_names(lacking[1], names(chunk), "variables")
    )
  }
  plan$columns <- list(kinds = lapply(chunk, function(column) class(column)[1]), codes = codes)
  plan$codes <- codes[plan$wanted]
  plan$kinds <- plan$columns$kinds[plan$wanted]
  if (!is.null(plan$table)) {
    words <- vapply(chunk[plan$wanted], function(column) !is.numeric(column) && !is.logical(column), NA)
    if (any(words)) {
      abort_input(problem("%s contains text or dates.", plan$wanted[words][1]), "In a database only numbers are summed.")
    }
  }
  units <- stats::setNames(rep(NA_character_, length(plan$wanted)), plan$wanted)
  book <- complete_codebook(chunk[plan$wanted], known, plan$codes, units)
  attr(book, "decisions") <- NULL
  plan$book <- book
  plan
}

moments_of_chunk <- function(chunk, plan, before) {
  columns <- lapply(plan$wanted, function(name) {
    column <- chunk[[name]]
    column[matches_code(column, plan$codes[[name]])] <- NA
    if (is.logical(column)) column <- as.double(column)
    if (is.numeric(column)) values <- as.double(column) else values <- numbers_in(trimws(as.character(column)))
    bad <- which(is.na(values) & !is.na(column))[1]
    if (!is.na(bad)) {
      place <- format(before + bad, big.mark = ",")
      abort_input(
        problem("%s contains text in case %s: \"%s\".", name, place, column[bad]),
        "Correct it, declare it with missing_codes, or leave this variable out."
      )
    }
    if (any(is.infinite(values))) abort_input(problem("%s contains an infinite value.", name), "Correct it in a copy.")
    values
  })
  ends <- vapply(columns, function(values) {
    there <- values[!is.na(values)]
    if (length(there)) range(there) else c(NA_real_, NA_real_)
  }, c(0, 0))
  new_moments(plan$book, nrow(chunk), core_moments(columns, plan$threads), ends)
}

chosen_numbers <- function(chunk, known) {
  other <- known$variable[known$role %in% setdiff(role_names, "measure") | known$level %in% "nominal"]
  numeric <- names(chunk)[vapply(chunk, function(column) is.numeric(column) || is.logical(column), NA)]
  numeric <- setdiff(numeric, other)
  if (length(numeric) < 2L) abort_input("There are fewer than two numeric columns.", "Give another source.")
  numeric
}
