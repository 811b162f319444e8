#' Unsere: correlations for survey and education researchers
#'
#' Correlations with tests, confidence intervals and cautions, regression lines, figures, sentences for a paper, and
#' reports. Start with [read_study()] or [demo_study()], continue with [relate()], [correlation_matrix()] and
#' [fit_line()], draw with [draw_scatter()], and report with [write_report()] or [run_brief()].
#'
#' @section Options:
#' Set with [options()]; all are optional.
#' \describe{
#'   \item{`unsere.threads`}{The number of threads if the argument `threads` is not given, a whole number. It never
#'     changes a digit. Default: 2.}
#'   \item{`unsere.language`}{The language of all texts and the format of numbers: `"en"` or `"de"`. In a brief:
#'     `settings: {language: de}`. Default: `"en"`.}
#'   \item{`unsere.most_fetched`}{The number of cells of a database table that a question may fetch. Larger questions are
#'     answered from sums and counts computed in the database; those that need the cases may fetch ten times as many. See
#'     [read_study()]. Default: 1e7, about a gigabyte including intermediate results.}
#'   \item{`unsere.background`}{Whether a second R process draws figures and writes tables while a brief runs. Default:
#'     `TRUE`.}
#'   \item{`unsere.allow_sql`}{Whether a brief, the command and the desk accept a query instead of a table name. See
#'     [read_study()]. Default: `FALSE`.}
#'   \item{`unsere.largest_upload`}{The largest file that can be uploaded to the desk, in megabytes. Default: 500.}
#'   \item{`unsere.plain_marks`}{`TRUE` for plain ASCII characters in texts: `-` for a minus sign, `r2` for r squared.
#'     Default: `FALSE` if the locale is UTF-8.}
#' }
#' @useDynLib unsere, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @keywords internal
"_PACKAGE"
