#' Bring in a file of cases and variables
#'
#' Reads delimited text and columns set by spaces (also packed by gzip), workbooks (.xlsx, .ods), Parquet, JSON records,
#' the longest table of a web page, and tables of a database. Delimiter, decimal mark, encoding and the row of the
#' headings are found by themselves; title rows above the headings, notes below the table and empty rows and columns are
#' left out; units in headings, percent signs, thousands marks, dates and spellings of yes and no are understood; words of
#' no answer among numbers ("refused") count as missing. What was decided is kept in the study's `provenance` and printed
#' by [overview()]. The file is never changed.
#'
#' @param path The path of the file; `"-"` reads delimited text from standard input; or a DBI connection,
#'   `"db:NAME"` (an entry of your file of connections), or a list of these: a table whose cases lie in several databases.
#' @param sheet The sheet of a workbook, by name or number; of a database the name of a table, or a query.
#' @param table Of a database: the name of a table or a view, a `DBI::Id`, or a query; as `sheet`. A query is one SELECT (or
#'   WITH ... SELECT) of tables that are there, with the usual functions of numbers, words, dates and sums and no other; of
#'   a brief, the command and the desk it is taken only with `--allow-sql` or `options(unsere.allow_sql = TRUE)`.
#' @param header_row The row of the headings, counted from 1; found when `NULL`.
#' @param codebook The path of a codebook (CSV) or a data frame, as for [as_study()]. When `NULL`, a file `codebook.csv`
#'   in the same folder is used if there is one.
#' @param missing_codes Values that stand for "no answer", as for [as_study()].
#' @param decimal The decimal mark of delimited text, `"."` or `","`; found when `NULL`.
#' @param delimiter The delimiter of delimited text: `","`, `";"`, `"|"`, `"tab"` or `"spaces"` (columns
#'   set by spaces); found when `NULL`.
#' @param encoding The encoding of delimited text, such as `"windows-1252"`; found when `NULL`.
#' @param values The order of words, where they do not tell it or tell it wrongly: `c(q1 = "Never < Rarely < Often")`, or
#'   `"q1=Never<Rarely<Often"`, several separated by `|`. See [set_variable()].
#' @param turn Where names of variables stand in rows, and years across (or one column of values beside them): `"rows"`
#'   makes them variables, the times cases; `"never"` leaves the table as it stands. When `NULL` it is turned where a
#'   column is headed so ("Indicator") and each case has every variable once; the study's decisions tell it.
#' @param where Which cases: comparisons (`=`, `!=`, `<`, `<=`, `>`, `>=`, `in ('a', 'b')`, `is missing`) of variables,
#'   numbers and words in quotes, with the arithmetic of [derive()], joined by `and`, `or`, `not` and brackets: `"age >= 18
#'   and
#'   centre = 'Mill'"`. All cases when `NULL`. Of a database it is said in its own language, before anything is fetched.
#' @param collect Of a database: whether the table is brought in as a whole. Where it is not, its columns stay there, and
#'   those that a question asks for are fetched in one query. When `NULL`, tables of up to five million cells are brought in.
#' @param summary_rows Rows at the top or the end of a file that hold averages, highest and lowest values, totals, points
#'   possible and the like of other rows, by their labels or because they equal what the rows above sum up to: `"leave out"`
#'   (when `NULL`), which is told by row, or `"keep"`.
#' @param hidden_rows Rows of a workbook that are hidden or filtered away: `"keep"` reads them with the others (when `NULL`),
#'   `"leave out"` reads what can be seen; either is told by row.
#' @return A study (class `unsere_study`); its `provenance` is a list of `file`, `kind`, `sheet`, `header_row`, `rows`
#'   (in the file, of each case), `digest` (SHA-256; of a file above a megabyte it is worked out where a report or JSON
#'   names it, and not given where the file has changed since), `decisions` (a character vector).
#' @section Where columns stay in a database: what they are (level, words, missing codes) is learnt from their few values, or
#'   from the first thousand cases where they have many. Doubts are looked for among the variables asked for, those with
#'   a role, and the first ten that split the cases; repeated rows are not looked for. A table that changes, or that
#'   gives its rows in another order, between two fetches is told.
#'
#'   Where that would be more than ten million cells (the option `unsere.most_fetched`), nothing is fetched: [relate()]
#'   (Pearson's r, point-biserial, Spearman's where the database has window functions; `given`), [fit_line()] (straight),
#'   [correlation_matrix()], [derive()], [overview()], [draw_scatter()] (cells that the database counts) and briefs are
#'   answered from sums and counts that the database takes of all cases. Of the doubts a bend and classes that are alike are
#'   looked for; the result says so. Other questions fetch up to ten times as many cells; beyond that they say that they
#'   need the cases, which
#'   `where` chooses.
#' @section Errors: `unsere_error_input` when the file is not there, is empty, or cannot be read as a table, and when a
#'   package that reads it is missing; `unsere_error_usage` for an argument outside what is allowed.
#' @examples
#' study <- read_study(demo_file("learners.csv"))
#' study
#' study$provenance$decisions
#' @export
read_study <- function(path, sheet = NULL, header_row = NULL, codebook = NULL, missing_codes = NULL, decimal = NULL,
                       delimiter = NULL, encoding = NULL, values = NULL, table = NULL, where = NULL, collect = NULL,
                       turn = NULL, summary_rows = NULL, hidden_rows = NULL) {
  delimiter <- as_delimiter(delimiter)
  values <- parse_orders(values)
  check_reading(header_row, decimal, delimiter)
  if (!is.null(turn)) one_of(turn, turnings, "turn")
  if (!is.null(summary_rows)) one_of(summary_rows, summary_row_choices, "summary_rows")
  if (!is.null(hidden_rows)) one_of(hidden_rows, hidden_row_choices, "hidden_rows")
  several <- is.list(path) && !is.data.frame(path)
  if (several || is_connection(path) || is_word(path) && is_database(path) && !file.exists(path)) {
    what <- or_default(table, sheet)
    origin <- list(file = NULL, kind = "database", sheet = paste(format_table(what), collapse = "."), values = values)
    told <- list(codebook = codebook, missing_codes = missing_codes, origin = origin)
    if (several) return(several_database_study(lapply(path, source_of, what, where), told, collect))
    study <- database_study(source_of(path, what, where), told, collect)
    if (!is_connection(path)) study$provenance$database <- sub("^db:", "", path)
    return(study)
  }
  if (!is.null(table)) abort_usage("`table` is of a database; this is a file.", "A sheet of a workbook is given as `sheet`.")
  check_path(path)
  kind <- file_kind(path)
  source <- path
  if (identical(path, "-") || file.size(path) == 0 && !is_regular(path)) {
    source <- copy_of_stream(if (identical(path, "-")) "stdin" else path)
    on.exit(unlink(source))
  }
  with_files({
    before <- file_state(source)
    digest <- if (source != path || file.size(source) < 1e6) cli::hash_file_sha256(source)
    table <- switch(kind,
      xlsx = ,
      ods = read_workbook(source, sheet, header_row, kind, hidden_rows),
      parquet = read_parquet_table(source),
      json = read_json_table(source),
      read_delimited(source, header_row, decimal, delimiter, encoding, shown = path)
    )
    if (!identical(file_state(source), before)) {
      abort_input(problem("%s was changed while it was read.", file_name(path)), "Run this again.")
    }
    study <- study_from(turn_table(table, turn, path), codebook, missing_codes, list(
      file = path, kind = kind, digest = digest, state = before, values = values, turn = turn,
      summary_rows = summary_rows, hidden_rows = hidden_rows
    ))
    if (is.null(where)) study else keep_where(study, where)
  })
}

#' The digest of the file that a study was read from
#' @return SHA-256 in hexadecimal; `NULL` where there is no file, or where it is no longer the one that was read.
#' @noRd
digest_of <- function(provenance) {
  if (!is.null(provenance$digest) || is.null(provenance$state)) return(provenance$digest)
  if (identical(file_state(provenance$file), provenance$state)) cli::hash_file_sha256(provenance$file)
}
