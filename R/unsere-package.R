#' Unsere: correlations that stand up to questions
#'
#' For survey and education researchers: from a file to a coefficient with its test and interval, a line, a picture, a
#' sentence fit for a paper, and a page to share. Start with [read_study()] or [demo_study()], ask with [relate()] and
#' [fit_line()], look with [draw_scatter()], and write up with [write_report()].
#'
#' @section Options:
#' Set by [options()]; none need be.
#' \describe{
#'   \item{`unsere.threads`}{How many threads compute where an argument `threads` is not given: a whole number, 2 by itself.
#'     It never changes a digit.}
#'   \item{`unsere.language`}{The language of sentences and the marks of numbers: `"en"` by itself, or `"de"`. A brief says
#'     it as `settings: {language: de}`. Errors and the page of the desk are English.}
#'   \item{`unsere.most_fetched`}{How many cells of a table that stays in a database a question may fetch: 1e7 by itself
#'     (with what is worked out of them about a gigabyte). A question that asks for more is answered from sums and counts
#'     taken there; one that needs the cases may fetch ten times as many. See [read_study()].}
#'   \item{`unsere.background`}{Whether a second process of R draws pictures and writes tables while a brief runs: `TRUE` by
#'     itself. `FALSE` where only one may be had; it then takes longer.}
#'   \item{`unsere.allow_sql`}{Whether a brief, the command and the desk take a query in place of a table's name: `FALSE` by
#'     itself. See [read_study()].}
#'   \item{`unsere.largest_upload`}{How large a file the desk's page takes in, in megabytes: 500 by itself.}
#'   \item{`unsere.plain_marks`}{`TRUE` for marks of plain ASCII in texts: `-` for a minus, `r2` for r squared.}
#' }
#' @useDynLib unsere, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @keywords internal
"_PACKAGE"
