#' Read a data file
#'
#' Reads delimited text and columns aligned by spaces (also compressed with gzip), workbooks (.xlsx, .ods),
#' Parquet, JSON records, the longest table of a web page, and database tables. Delimiter, decimal mark,
#' encoding and heading row are detected; title rows, notes below the table and empty rows and columns are
#' excluded; units in headings, percent signs, thousands marks, dates and spellings of yes and no are
#' recognised; words such as "refused" among numbers count as missing. Every decision is kept in the study's
#' `provenance` and printed by [overview()]. The file is never changed.
#'
#' @param path The path of the file; a folder, a pattern such as `"waves/*.csv"` or several paths: files of one form,
#' read
#'   as one, with a variable `file` (see the section); `"-"` reads delimited text from standard input; or a DBI
#'   connection,
#'   `"db:NAME"` (an entry of your file of connections), or a list of these for a table whose cases are
#'   distributed over several databases.
#' @param sheet The sheet of a workbook, by name or number. Default: the first with a table.
#' @param table For a database: the name of a table or view, a `DBI::Id`, or a query. A query is a single SELECT
#'   (or WITH ... SELECT) with the usual functions of numbers, text, dates and sums only. In a brief, the command
#'   and the desk a query is accepted only with `--allow-sql` or `options(unsere.allow_sql = TRUE)`.
#' @param header_row The row of the headings, counted from 1. Default: detected.
#' @param codebook The path of a codebook (CSV) or a data frame, as for [as_study()]. Default: a file
#'   `codebook.csv` in the same folder, if there is one.
#' @param missing_codes Missing-value codes, as for [as_study()].
#' @param decimal The decimal mark of delimited text, `"."` or `","`. Default: detected.
#' @param delimiter The delimiter of delimited text: `","`, `";"`, `"|"`, `"tab"` or `"spaces"` (aligned
#'   columns). Default: detected.
#' @param encoding The encoding of delimited text, such as `"windows-1252"`. Default: detected.
#' @param values The category order of text answers, if it is not or wrongly detected:
#'   `c(q1 = "Never < Rarely < Often")`, or `"q1=Never<Rarely<Often"`, several separated by `|`. See
#'   [set_variable()].
#' @param turn For tables with variable names in the rows and years or cases across (or with one column of values):
#'   `"rows"` makes the names variables and the years cases; `"never"` leaves the table as it is. Default: the
#'   table is reshaped if a column is headed accordingly ("Indicator") and each case has every variable once;
#'   the study's decisions say so.
#' @param where A condition on the cases: comparisons (`=`, `!=`, `<`, `<=`, `>`, `>=`, `in ('a', 'b')`,
#'   `is missing`) of variables, numbers and quoted text, with the arithmetic of [derive()], joined by `and`, `or`,
#'   `not` and parentheses: `"age >= 18 and centre = 'Mill'"`. In a database it is evaluated before anything is
#'   fetched. Default: all cases.
#' @param collect For a database: whether the whole table is fetched. Otherwise the columns stay in the database
#'   and those that a question needs are fetched in one query. Default: tables of up to five million cells are
#'   fetched.
#' @param summary_rows Rows at the top or end of a file that hold averages, extremes, totals, possible points and
#'   similar summaries of other rows, recognised by their labels or because they equal a summary of the rows
#'   above. `"leave out"` excludes and reports them, `"keep"` treats them as cases. Default: `"leave out"`.
#' @param hidden_rows Hidden or filtered rows of a workbook: `"keep"` or `"leave out"`. Both are reported. Default:
#'   `"keep"`.
#' @return A study (class `unsere_study`). Its `provenance` is a list of `file`, `kind`, `sheet`, `header_row`, `rows`
#'   (the row in the file of each case), `digest` (SHA-256; for files above one megabyte computed when a report
#'   or JSON needs it, and not given if the file has changed since), `decisions` (a character vector).
#' @section Columns that stay in a database: Level, categories and missing-value codes are determined from the
#'   distinct values of a column, or from the first thousand cases if there are many. Cautions consider the
#'   variables of the question, those with a role, and the first ten that group the cases; duplicate rows are not
#'   checked. A table that changes between two queries, or returns its rows in another order, is reported.
#'
#'   If more than ten million cells would be needed (the option `unsere.most_fetched`), nothing is fetched:
#'   [relate()] (Pearson's r, point-biserial, Spearman's if the database has window functions; `given`), [fit_line()]
#'   (straight), [correlation_matrix()], [derive()], [overview()], [draw_scatter()] (cells counted by the database)
#'   and briefs use sums and counts computed in the database over all cases. Only curvature and clustering are then
#'   checked as cautions; the result says so. Other questions fetch up to ten times as many cells; beyond that they
#'   report that they need the cases, which can be selected with `where`.
#' @section Several files: The files of a folder (.csv, .tsv, .txt, also .gz, and .parquet, whatever depth), those
#' that a pattern
#'   matches, or several paths are read one by one and joined by the names of their columns. Columns that some files
#'   lack are
#'   missing there, and `overview()` says so. Folder names such as `year=2023` become variables. Files of more than 4 GB
#'   together are left to [gather_moments()].
#' @section Errors: `unsere_error_input` if the file does not exist, is empty or cannot be read as a table, or if a
#'   package needed to read it is missing; `unsere_error_usage` for an invalid argument.
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
    declared <- list(codebook = codebook, missing_codes = missing_codes, origin = origin)
    if (several) return(several_database_study(lapply(path, source_of, what, where), declared, collect))
    study <- database_study(source_of(path, what, where), declared, collect)
    if (!is_connection(path)) study$provenance$database <- sub("^db:", "", path)
    return(study)
  }
  if (!is.null(table)) abort_usage(
    "`table` is for a database; this is a file.",
    "A sheet of a workbook is given as `sheet`."
  )
  if (names_several(path)) {
    study <- study_of_files(path, function(file) {
      read_study(file, sheet, header_row, codebook, missing_codes, decimal, delimiter, encoding, values,
        turn = turn, summary_rows = summary_rows, hidden_rows = hidden_rows
      )
    })
    return(if (is.null(where)) study else keep_where(study, where))
  }
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
