#' @export
format.unsere_relation <- function(x, ...) {
  variables <- x$pair$variables
  c(
    set_title(sprintf("%s and %s", heading_of(variables, x$x), heading_of(variables, x$y))),
    "",
    paste0("  ", answer_line(x)),
    if (!is.na(x$r)) paste0("  ", format_strip(x$r, x$ci_low, x$ci_high)),
    "",
    set_entries(list(
      strength = strength_clause(x), evidence = evidence_clause(x), pairs = pairs_clause(x$n, x$pair),
      "r squared" = squared_clause(x)
    )),
    set_cautions(x$cautions),
    "",
    "To report",
    set_paragraph(in_words(x))
  )
}

answer_line <- function(x) {
  r <- sprintf("r = %s%s", format_r(x$r), if (is.na(x$ci_low)) "" else paste0(" ", format_interval(x$ci_low,
    x$ci_high)))
  how <- capital(x$coefficient)
  method <- c("fisher z" = "Fisher's z")[x$ci_method]
  side <- if (is.na(x$ci_low)) {
    sprintf("%s; no interval: %s", how, if (x$n < 4) "it takes four pairs" else "the points lie on a line")
  } else {
    sprintf("%s; %s %% interval by %s", how, percent(x$confidence), method)
  }
  paste0(bold(r), soft(paste0("   ", side)))
}

strength_clause <- function(x) sprintf("%s by %s", x$strength, scale_clause(x$scale))

#' "Cohen (1988): .10 small, .30 medium, .50 large"
#' @noRd
scale_clause <- function(scale) {
  cuts <- paste(format_r(scale$cuts), names(scale$cuts), collapse = ", ")
  sprintf("%s: %s", scale$source, cuts)
}

evidence_clause <- function(x) {
  if (is.na(x$p)) return("no test: the points lie exactly on a line, without scatter")
  sprintf(
    "%s(%d) = %s, %s, %s", x$statistic, x$df, format_decimals(x$value, 2), format_p_clause(x$p),
    if (x$expect == "either") "either direction" else paste(x$expect, "direction predicted beforehand")
  )
}

pairs_clause <- function(n, pair) {
  dropped <- pair$dropped
  if (sum(dropped) == 0) return(sprintf("%d used, none left out", n))
  variables <- pair$variables
  why <- c(
    if (dropped[["x"]]) sprintf("%s missing %d", label_of(variables, pair$x_name), dropped[["x"]]),
    if (dropped[["y"]]) sprintf("%s missing %d", label_of(variables, pair$y_name), dropped[["y"]]),
    if (dropped[["both"]]) sprintf("both missing %d", dropped[["both"]])
  )
  sprintf("%d used, %d left out: %s", n, sum(dropped), paste(why, collapse = ", "))
}

squared_clause <- function(x) {
  sprintf("%s of the variance of each goes with the other", format_r(x$r_squared))
}

set_cautions <- function(cautions) {
  if (!nrow(cautions)) return(NULL)
  texts <- as.list(paste(cautions$evidence, cautions$advice))
  c("", "Cautions", set_entries(stats::setNames(texts, cautions$severity)))
}

#' A relation as a reader's cells, for the page and for Markdown
#' @noRd
relation_cells <- function(x) {
  variables <- x$pair$variables
  cells <- list(
    label_of(variables, x$x), label_of(variables, x$y), format(x$n), format_r(x$r),
    format_interval(x$ci_low, x$ci_high), format_decimals(x$value, 2), format(x$df), format_p_full(x$p, x$log10_p),
    format_r(x$r_squared)
  )
  names(cells) <- c("x", "y", "n", "r", sprintf("%s %% interval", percent(x$confidence)), x$statistic, "df", "p",
    paste0("r", glyphs()$squared)
  )
  cells
}
