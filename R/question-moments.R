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
#' @param table Of databases: the name of a table or a view, a `DBI::Id`, or a query, as for [read_study()].
#' @param partition Of databases: a column of few values by which the table is parted, as over several servers; each part
#'   is asked for by itself, so that a server adds up what it holds and workers share the parts.
#' @param where Which cases, as for [read_study()]: `"age >= 18 and centre = 'Mill'"`; all when `NULL`.
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
gather_moments <- function(source, ..., table = NULL, partition = NULL, where = NULL, chunk_rows = 1e6,
                           codebook = NULL, missing_codes = NULL,
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
    where = where, tree = if (!is.null(where)) parse_condition(where),
    path = if (parts[[1]]$kind == "file") parts[[1]]$path
  )
  # Every part is read as the first one says.
  if (length(parts) > 1L || parts[[1]]$kind == "table") plan <- settle_columns(plan, sample_rows(parts[[1]], plan))
  found <- over_parts(parts, function(part) gather_part(part, plan), keep, skip_unreadable, plan)
  gathered <- Filter(Negate(is.null), found$results)
  moments <- if (length(gathered)) Reduce(merge_moments, gathered)
  if (is.null(moments) || moments$n == 0) abort_input(
    if (is.null(where)) "There is no case in this source." else sprintf("No case has %s.", where), "Look into it."
  )
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
    if (!is.null(plan$tree)) plan$condition <- condition_in_sql(plan$tree, con, plan$columns, plan$where)
    return(gather_table(con, plan))
  }
  gather_chunks(chunks_of(part, plan, con), plan)
}
