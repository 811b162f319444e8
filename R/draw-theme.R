# The one home of colours, type and the look of figures.

look <- list(
  ink = "#22303C", soft = "#5E6B78", rule = "#D9DEE2", grid = "#EEF1F3", ground = "#F7F9FA", dots = "#0F6B75",
  negative = "#B4512B", band = "#22303C"
)

# Okabe & Ito's colours for groups, safe for colour-blind readers; the yellow is too pale for dots on white.
group_colours <- c("#0072B2", "#D55E00", "#009E73", "#CC79A7", "#56B4E9", "#E69F00", "#000000")

group_shapes <- c(16, 17, 15, 18, 4, 3, 8)

#' The ggplot2 theme of Unsere's figures
#'
#' A light grid on white without a frame, titles aligned to the left. It can be added to any ggplot2 figure.
#'
#' @param base_size The size of the text, in points.
#' @return A ggplot2 theme.
#' @section Errors: `unsere_error_usage` if `base_size` is not a positive number.
#' @examples
#' library(ggplot2)
#' ggplot(as.data.frame(demo_study("dial")), aes(dial, level_db)) +
#'   geom_point() +
#'   theme_unsere()
#' @export
theme_unsere <- function(base_size = 13) {
  if (!is.numeric(base_size) || length(base_size) != 1L || !isTRUE(base_size > 0)) {
    abort_usage("`base_size` must be one positive number.", "It is the size of the text in points, such as 13.")
  }
  text <- function(...) ggplot2::element_text(...)
  ggplot2::theme_minimal(base_size = base_size) + ggplot2::theme(
    text = text(colour = look$ink),
    plot.title = text(face = "bold", size = ggplot2::rel(1.2), margin = ggplot2::margin(b = 4)),
    plot.subtitle = text(colour = look$soft, size = ggplot2::rel(0.95), margin = ggplot2::margin(b = 12)),
    plot.caption = text(colour = look$soft, size = ggplot2::rel(0.8), hjust = 0, margin = ggplot2::margin(t = 12)),
    plot.title.position = "plot", plot.caption.position = "plot",
    axis.title = text(size = ggplot2::rel(1)),
    axis.title.x = text(margin = ggplot2::margin(t = 8)), axis.title.y = text(margin = ggplot2::margin(r = 8)),
    axis.text = text(colour = look$soft, size = ggplot2::rel(0.9)),
    panel.grid.minor = ggplot2::element_blank(),
    panel.grid.major = ggplot2::element_line(colour = look$grid, linewidth = 0.6),
    legend.position = "top", legend.justification = "left", legend.title = text(colour = look$soft),
    legend.margin = ggplot2::margin(0, 0, 0, 0),
    plot.background = ggplot2::element_rect(fill = "white", colour = NA),
    plot.margin = ggplot2::margin(16, 20, 12, 16)
  )
}

# A label's frame left away, by the name that this version of ggplot2 has for it.
no_frame <- function() if (utils::packageVersion("ggplot2") >= "3.5.0") list(linewidth = 0) else list(label.size = 0)

#' A text broken into lines of at most so many letters
#' @noRd
wrap_lines <- function(text, room) paste(strwrap(text, room), collapse = "\n")

#' The numbers of an axis: as few digits as tell them apart, real minus signs
#' @noRd
axis_numbers <- function(breaks) {
  shown <- !is.na(breaks)
  text <- rep("", length(breaks))
  if (!any(shown)) return(text)
  text[shown] <- with_minus(marked(trimws(format(breaks[shown],
    big.mark = if (max(abs(breaks[shown])) >= 1e4) "," else "",
    digits = 7, scientific = max(abs(breaks[shown])) >= 1e9
  ))))
  text
}

# The pronoun of ggplot2's aes(), named here so that rlang need not be loaded with the package.
utils::globalVariables(".data")

# Times are written as the file has them.
time_axis <- function(grid) {
  clock <- any(grepl(":", grid$labels, fixed = TRUE))
  many <- if (!clock && max(nchar(grid$labels), 0L, na.rm = TRUE) <= 9L) 7L else 5L
  step <- max(1L, ceiling((length(grid$times) - 1) / (many - 1)))
  # Of hours the same one of several days, so that the day says it all.
  if (clock && step > grid$season && grid$season > 1L) step <- ceiling(step / grid$season) * grid$season
  places <- seq(1L, length(grid$times), by = step)
  shown <- ifelse(is.na(grid$labels[places]), "", grid$labels[places])
  if (clock) {
    of_day <- unique(sub("^.* ", "", shown[nzchar(shown)]))
    shown <- sub(" ", "\n", if (length(of_day) == 1L && of_day == "00:00") sub(" .*$", "", shown) else shown)
  }
  scale <- ggplot2::scale_x_continuous(labels = shown, breaks = grid$times[places])
  scale$is_time <- TRUE
  scale
}
