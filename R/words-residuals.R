#' @export
format.unsere_residuals <- function(x, ..., door = door_r()) {
  line <- x$line
  variables <- line$sample$variables
  decimals <- decimals_for(line$residual_sd, 3)
  one <- function(value) format_decimals(value, decimals)
  largest <- list(
    case = x$largest$case, x = format_number(x$largest$x, 5), y = format_number(x$largest$y, 5),
    residual = one(x$largest$residual), SDs = format_decimals(x$largest$standardised, 2)
  )
  names(largest)[2:3] <- shorten(heading_of(variables, c(line$x, line$y)), 22)
  c(
    set_title(say("Residuals of the line of %s on %s", inside_of(variables, line$y), inside_of(variables, line$x))),
    "",
    set_entries(list(
      sum = say("%s (zero but for rounding)", format_number(x$sum, 2)),
      quartiles = sprintf(
        "%s, %s, %s, %s, %s%s", one(x$quartiles[1]), one(x$quartiles[2]), one(x$quartiles[3]),
        one(x$quartiles[4]), one(x$quartiles[5]), unit_after(variables, line$y)
      ),
      curvature = bend_words(x, alpha_of(line$confidence)), spread = spread_words(x, alpha_of(line$confidence))
    )), "",
    say("Largest"), set_table(largest)
  )
}

bend_words <- function(x, alpha) {
  bend <- x$bend
  if (is.na(bend$p)) return(say("cannot be tested with so few different values"))
  figures <- sprintf("t(%d) = %s, %s", bend$df, format_statistic(bend$value), format_p_clause(bend$p))
  if (bend$p >= alpha) return(say("no significant curvature, %s", figures))
  say("the residuals are curvilinear (bending %s), %s", say(bend$direction), figures)
}

spread_words <- function(x, alpha) {
  spread <- x$spread
  figures <- say(
    "%s(1) = %s, %s; residual sd in the upper third of x %s times that in the lower",
    glyphs()$chi_squared,
    format_statistic(spread$value), format_p_clause(spread$p), format_number(spread$ratio, 2)
  )
  if (spread$p >= alpha) return(say("no significant change along x, %s", figures))
  say("%s along x, %s", spread$direction, figures)
}

#' @export
in_words.unsere_residuals <- function(result, digits = 2, ...) {
  alpha <- alpha_of(result$line$confidence)
  say("Curvature: %s. Spread: %s.", bend_words(result, alpha), spread_words(result, alpha))
}
