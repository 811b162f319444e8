# How a file is read: the arguments of [read_study()] that every question's command and every brief's `data` take too.

#' How the cases were drawn, as the command takes it
#' @noRd
design_arguments <- function() {
  list(
    weight = argument("text", "the variable with the case weights", value = "VAR"),
    stratum = argument("text", "the variable with the strata", value = "VAR"),
    cluster = argument("text", "the variable with the sampling units, such as classes", value = "VAR"),
    replicates = argument("texts", "the replicate weights, such as \"rw*\"", value = "VARS"),
    replicate_method = argument(
      "choice", "how the replicate weights were made",
      value = "KIND", allowed = replicate_methods
    ),
    imputed = argument("text", "the variable with the number of the imputed data set", value = "VAR"),
    design_df = argument(
      "number", "degrees of freedom under the design",
      value = "DF", from = 1, otherwise = "units minus strata"
    )
  )
}

intake_arguments <- function() {
  list(
    sheet = argument(
      "text", "the sheet of a workbook, by name or number",
      otherwise = "the first with a table", brief = "sheet"
    ),
    table = argument("text", "the table or view of a database (db:NAME)", brief = "table"),
    where = argument(
      "text", "use only these cases, such as \"age >= 18 and centre = 'Mill'\"",
      value = "CONDITION", brief = "where"
    ),
    header_row = argument(
      "whole", "the row of the headings, counted from 1",
      value = "N", from = 1, to = 1048576, otherwise = "detected",
      brief = "header_row"
    ),
    missing_codes = argument(
      "texts", "missing-value codes, such as -9,99",
      value = "A,B", brief = "missing_codes"
    ),
    values = argument(
      "text", "the category order of a variable: VAR=low<...<high; several separated by |",
      value = "ORDER", brief = "values"
    ),
    codebook = argument(
      "path", "a codebook (CSV)",
      value = "FILE", otherwise = "codebook.csv beside the data", brief = "codebook"
    ),
    decimal = argument(
      "choice", "the decimal mark",
      value = "MARK", otherwise = "detected", allowed = c(".", ","), brief = "decimal"
    ),
    delimiter = argument(
      "text", "the delimiter: , or ; or | or tab or spaces",
      value = "MARK", otherwise = "detected", brief = "delimiter"
    ),
    encoding = argument("text", "the encoding of the text", otherwise = "detected", brief = "encoding"),
    summary_rows = argument(
      "choice", "summary rows such as averages and totals",
      value = "HOW", otherwise = summary_row_choices[1], allowed = summary_row_choices, brief = "summary_rows"
    ),
    hidden_rows = argument(
      "choice", "hidden or filtered rows of a workbook",
      value = "HOW", otherwise = hidden_row_choices[1], allowed = hidden_row_choices, brief = "hidden_rows"
    ),
    turn = argument(
      "choice", "reshape a table with variable names in rows and years across (rows), or leave it as it is (never)",
      value = "KIND", otherwise = "detected", allowed = turnings, brief = "turn"
    )
  )
}

allow_sql_argument <- function() {
  list(allow_sql = argument("flag", "allow a query in --table: a single SELECT that only reads", doors = "command"))
}
