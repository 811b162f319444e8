#' Gather moments from data that need not fit into memory
#'
#' Goes through files, tables of databases or chunks and keeps only n, means, sums of squares and of products: all that a
#' matrix of Pearson's r, and r of a pair, take. Values may be missing; each pair then rests on its own complete cases. Of a
#' few columns of a database the sums are taken there; of more the columns asked for are streamed. Parts are gathered by the
#' workers that are set, of the mirai package (`mirai::daemons()`, local, by ssh or on a cluster) or of the future package
#' (`future::plan()`), else in turn, and joined in their order: the number of workers never changes a digit.
#'
#' @param source The path of delimited text or Parquet, several paths, a folder of such files (whose folders may say values,
#'   as `year=2023`), or a pattern such as `"data/*.csv"`; a DBI connection, `"db:NAME"` (an entry of the user's file of
#'   connections), or a list of connections or of functions that open one, each holding other cases; or a function that
#'   gives the next data frame each time it is called and `NULL` at the end.
#' @param ... The variables, as names in strings; all numeric ones when none is given.
#' @param table Of databases: the name of a table, a `DBI::Id`, or a query that starts with SELECT or WITH.
#' @param partition Of databases: a column of few values by which the table is parted, as over several servers; each part
#'   is asked for by itself, so that a server adds up what it holds and workers share the parts.
#' @param chunk_rows How many cases are held at once.
#' @param codebook The path of a codebook (CSV) or a data frame, as for [read_study()]; of a file `codebook.csv` beside it
#'   when `NULL`.
#' @param missing_codes Values that stand for "no answer".
#' @param header_row,decimal,delimiter,encoding How a file is to be read, as for [read_study()]; found from its first
#'   four megabytes when `NULL`.
#' @param keep A folder where the moments of each part are kept as soon as they are gathered, so that a run that was stopped
#'   goes on; a part that changed since is gathered again.
#' @param skip_unreadable Whether a part that cannot be read is left out and told, instead of stopping.
#' @param threads How many threads compute; the option `unsere.threads` or 2 when `NULL`. It never changes a digit.
#' @return Moments (class `unsere_moments`), a list of `variables` (names), `n` (cases), `sums`, `parts` (how many) and
#'   `skipped` (names of parts left out). Hand it to [correlation_matrix()] or [relate()], or join it with others by
#'   [merge_moments()].
#' @section Errors: `unsere_error_input` when the file or table is not there, when a variable is unknown, or when text stands
#'   in a column of numbers (with the line), each with the part where it arose.
#' @section How exact: r from chunks, files and databases agrees with r from all cases at once to 12 digits or more,
#'   values of
#'   1e8 plus noise included (tested).
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247.
#' @examples
#' years <- gather_moments(demo_file("town_years.csv"), chunk_rows = 10)
#' correlation_matrix(years)
#' relate(years, ebook_loans, hives)
#' @export
gather_moments <- function(source, ..., table = NULL, partition = NULL, chunk_rows = 1e6, codebook = NULL,
                           missing_codes = NULL,
                           header_row = NULL, decimal = NULL, delimiter = NULL, encoding = NULL, keep = NULL,
                           skip_unreadable = FALSE, threads = NULL) {
  delimiter <- as_delimiter(delimiter)
  check_reading(header_row, decimal, delimiter)
  if (!is_whole(chunk_rows) || chunk_rows < 1) {
    abort_usage("`chunk_rows` must be a whole number from 1 on.", "For example 1e6.")
  }
  parts <- parts_of(source, table)
  if (!is.null(partition)) parts <- unlist(lapply(parts, parts_by_key, partition), recursive = FALSE)
  plan <- list(
    wanted = as.character(c(...)), threads = sound_threads(threads), codebook = codebook, missing_codes = missing_codes,
    chunk_rows = chunk_rows, reading = list(header_row, decimal, delimiter, encoding), table = table,
    path = if (parts[[1]]$kind == "file") parts[[1]]$path
  )
  # Every part is read as the first one says.
  if (length(parts) > 1L || parts[[1]]$kind == "table") plan <- settle_columns(plan, sample_rows(parts[[1]], plan))
  found <- over_parts(parts, function(part) gather_part(part, plan), keep, skip_unreadable, plan)
  gathered <- Filter(Negate(is.null), found$results)
  moments <- if (length(gathered)) Reduce(merge_moments, gathered)
  if (is.null(moments) || moments$n == 0) abort_input("There is no case in this source.", "Look into it.")
  moments$parts <- length(gathered)
  moments$skipped <- found$skipped
  moments
}

#' The moments of one part
#' @noRd
gather_part <- function(part, plan) {
  con <- NULL
  if (part$kind == "table") {
    con <- open_part(part)
    on.exit(close_part(part, con))
    plan[c("table", "key")] <- list(part$table, part$key)
    if (length(plan$wanted) <= most_summed_there(con)) {
      sums <- with_parts_pushed(con, plan, function() sums_in_database(con, plan))
      return(new_moments(plan$book, sums$rows, sums))
    }
  }
  next_chunk <- chunks_of(part, plan, con)
  on.exit(close_chunks(next_chunk), add = TRUE, after = FALSE)
  tick <- progress_teller("cases")
  gathered <- NULL
  repeat {
    chunk <- next_chunk()
    if (is.null(chunk)) break
    if (is.null(plan$book)) plan <- settle_columns(plan, chunk)
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
      sprintf("There is no variable \"%s\".", lacking[1]), suggest_names(lacking[1], names(chunk), "variables")
    )
  }
  plan$codes <- codes[plan$wanted]
  plan$kinds <- lapply(chunk[plan$wanted], function(column) class(column)[1])
  if (!is.null(plan$table)) {
    words <- vapply(chunk[plan$wanted], function(column) !is.numeric(column) && !is.logical(column), NA)
    if (any(words)) {
      abort_input(sprintf("%s holds text or dates.", plan$wanted[words][1]), "Of a database only numbers are summed up.")
    }
  }
  units <- stats::setNames(rep(NA_character_, length(plan$wanted)), plan$wanted)
  book <- complete_codebook(chunk[plan$wanted], known, plan$codes, units)
  attr(book, "decisions") <- NULL
  plan$book <- book
  plan
}

#' Join the moments of different cases
#'
#' @param a,b Moments from [gather_moments()], of the same variables and of cases that do not overlap.
#' @return Moments of all cases together.
#' @section Errors: `unsere_error_usage` when either is something else or when the variables differ.
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247.
#' @examples
#' years <- as.data.frame(demo_study("town_years"))
#' halves <- split(years, years$year < 2009)
#' early <- gather_moments(function() {
#'   part <- halves$`TRUE`
#'   halves$`TRUE` <<- NULL
#'   part
#' }, "ebook_loans", "hives")
#' early
#' merge_moments(early, early)$n
#' @export
merge_moments <- function(a, b) {
  if (!inherits(a, "unsere_moments") || !inherits(b, "unsere_moments")) {
    abort_usage("Both must be moments.", "Make them with gather_moments().")
  }
  if (!identical(a$variables, b$variables)) {
    abort_usage("The two are of different variables.", "Gather both from the same ones, in the same order.")
  }
  new_moments(a$book, a$n + b$n, core_merge_moments(a$sums, b$sums))
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
        sprintf("%s holds text in case %s: \"%s\".", name, place, column[bad]),
        "Correct it, declare it with missing_codes, or leave this variable out."
      )
    }
    if (any(is.infinite(values))) abort_input(sprintf("%s holds an infinite value.", name), "Correct it in a copy.")
    values
  })
  new_moments(plan$book, nrow(chunk), core_moments(columns, plan$threads))
}

chosen_numbers <- function(chunk, known) {
  other <- known$variable[known$role %in% setdiff(role_names, "measure") | known$level %in% "nominal"]
  numeric <- names(chunk)[vapply(chunk, function(column) is.numeric(column) || is.logical(column), NA)]
  numeric <- setdiff(numeric, other)
  if (length(numeric) < 2L) abort_input("There are fewer than two columns of numbers.", "Give another source.")
  numeric
}

#' @param book What is known of the variables, a row a variable; `sums` from the core.
#' @noRd
new_moments <- function(book, n, sums) {
  structure(
    list(variables = book$variable, book = book, n = n, sums = sums),
    class = c("unsere_moments", "unsere_result")
  )
}

#' @param asked Settled arguments of the matrix.
#' @noRd
matrix_from_moments <- function(moments, asked) {
  record <- straight_record()
  if (!asked$coefficient %in% c("auto", record$name)) {
    abort_usage(sprintf("Moments tell nothing of %s.", asked$coefficient), sprintf("They serve %s r.", record$adjective))
  }
  p <- length(moments$variables)
  table <- core_moments_table(moments$sums)
  pairs <- pair_places(matrix(record$name, p, p))
  all <- seq_along(pairs$i)
  pairs <- c(pairs, read_pairs(table$pairs, pairs, all, p)[c("r", "unexplained", "n")])
  shapes <- stats::setNames(list(list(at = all)), record$name)
  estimates <- finish_pairs(pairs, shapes, asked$expect, asked$confidence, NULL, function(share) NULL)
  sample <- moments_sample(moments, table)
  result <- matrix_result(estimates, with_spreads(sample, sample$spreads), NULL, asked, list(), moments$n)
  with_matrix_cautions(result, sample, asked, by_rows = FALSE)
}
