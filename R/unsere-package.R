#' Unsere: correlations that stand up to questions
#'
#' For survey and education researchers: from a file to a coefficient with its test and interval, a line, a picture, a
#' sentence fit for a paper, and a page to share. Start with [read_study()] or [demo_study()], ask with [relate()] and
#' [fit_line()], look with [draw_scatter()], and write up with [write_report()].
#'
#' @useDynLib unsere, .registration = TRUE
#' @keywords internal
"_PACKAGE"
