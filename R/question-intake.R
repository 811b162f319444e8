# How a file is read: the arguments of [read_study()] that every question's command and every brief's `data` take too.

#' How the cases were drawn, as the command takes it
#' @noRd
design_arguments <- function() {
  list(
    weight = argument("text", "the variable of weights", value = "VAR"),
    stratum = argument("text", "the variable of strata", value = "VAR"),
    cluster = argument("text", "the variable of the units that were drawn, such as classes", value = "VAR"),
    replicates = argument("texts", "the replicate weights, such as \"rw*\"", value = "VARS"),
    replicate_method = argument("choice", paste_or(replicate_methods), value = "KIND", allowed = replicate_methods),
    design_df = argument("number", "degrees of freedom under the design (units less strata)", value = "DF", from = 1)
  )
}

intake_arguments <- function() {
  list(
    sheet = argument("text", "the sheet of a workbook, by name or number", brief = "sheet"),
    table = argument("text", "the table, or the view, of a database (db:NAME)", brief = "table"),
    where = argument(
      "text", "only these cases, such as \"age >= 18 and centre = 'Mill'\"",
      value = "CONDITION", brief = "where"
    ),
    header_row = argument(
      "whole", "the row of the headings, counted from 1 (detected)",
      value = "N", from = 1, to = 1048576,
      brief = "header_row"
    ),
    missing_codes = argument(
      "texts", "values that stand for \"no answer\", such as -9,99",
      value = "A,B", brief = "missing_codes"
    ),
    values = argument(
      "text", "the order of a variable's words: VAR=low<...<high; several separated by |",
      value = "ORDER", brief = "values"
    ),
    codebook = argument(
      "path", "a codebook (CSV); without it codebook.csv beside the data is used",
      value = "FILE", brief = "codebook"
    ),
    decimal = argument(
      "choice", "the decimal mark, . or , (detected)",
      value = "MARK", allowed = c(".", ","), brief = "decimal"
    ),
    delimiter = argument(
      "text", "the delimiter: , or ; or | or tab or spaces (detected)",
      value = "MARK", brief = "delimiter"
    ),
    encoding = argument("text", "the encoding of the text (detected)", brief = "encoding"),
    summary_rows = argument(
      "choice", "rows of averages, totals and the like: leave out or keep (left out)",
      value = "HOW", allowed = summary_row_choices, brief = "summary_rows"
    ),
    hidden_rows = argument(
      "choice", "rows that a workbook hides or filters away: keep or leave out (kept)",
      value = "HOW", allowed = hidden_row_choices, brief = "hidden_rows"
    ),
    turn = argument(
      "choice", "rows: names of variables stand in rows, years across; never: as it stands (detected)",
      value = "KIND", allowed = turnings, brief = "turn"
    )
  )
}

allow_sql_argument <- function() {
  list(allow_sql = argument("flag", "let --table hold a query: one SELECT that only reads", doors = "command"))
}
