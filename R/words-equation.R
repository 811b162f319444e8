#' The equation of a line in the variables' own labels
#'
#' Rounded for reading: as many decimals as keep every value on the rounded line within a twentieth of the residual
#' standard deviation of the full one, over the data's own range. No calculation starts from the rounded figures.
#' @noRd
line_equation <- function(terms, pair, residual_sd, shape = "linear") {
  score <- if (shape == "log") log(pair$x) else pair$x
  reach <- c(1, max(abs(score)), max(abs(score))^2)[seq_len(nrow(terms))]
  figures <- mapply(function(estimate, size) format_coefficient(estimate, size, residual_sd), terms$estimate, reach)
  x <- label_of(pair$variables, pair$x_name)
  if (shape == "log") x <- sprintf("ln(%s)", x)
  times <- paste0(" ", glyphs()$times, " ")
  parts <- c("", paste0(times, x), paste0(times, x, glyphs()$squared))[seq_along(figures)]
  signs <- ifelse(terms$estimate < 0, glyphs()$minus, "+")
  signs[1] <- if (terms$estimate[1] < 0) glyphs()$minus else ""
  text <- paste0(signs[1], figures[1], paste0(" ", signs[-1], " ", figures[-1], parts[-1], collapse = ""))
  sprintf("%s = %s", label_of(pair$variables, pair$y_name), text)
}

format_coefficient <- function(estimate, reach, residual_sd) {
  size <- abs(estimate)
  if (size == 0) return("0")
  enough <- if (residual_sd > 0) max(0, ceiling(log10(0.5 * reach / (residual_sd / 20)))) else 6
  three <- max(0, 2 - floor(log10(size)))
  decimals <- min(max(enough, three), 12)
  text <- formatC(size, digits = decimals, format = "f")
  if (residual_sd > 0) text else sub("[.]?0+$", "", text)
}
