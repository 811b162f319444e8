#' Draw r over several runs of a brief
#'
#' Shows each pair's r with its interval for every run, for example for the weeks of a repeated survey.
#'
#' @param folder A folder that contains result folders of [run_brief()], used in the order of their names;
#'   or the result folders themselves, in the order given.
#' @param title,subtitle,caption Text; `NA` for none. Default: written from the results.
#' @param plain `TRUE` for a figure without title, subtitle and caption. Default: `FALSE`.
#' @return A ggplot2 object; its `data` holds the figures.
#' @section Errors: `unsere_error_input` if there are fewer than two results of one brief.
#' @examples
#' \donttest{
#' weeks <- file.path(tempdir(), "weeks")
#' dir.create(weeks)
#' pulse <- demo_file("pulse.yml")
#' run_brief(pulse, out = file.path(weeks, "week-14"), quiet = TRUE)
#' run_brief(pulse,
#'   data = demo_file("pulse_week_15.csv"),
#'   out = file.path(weeks, "week-15"), quiet = TRUE
#' )
#' draw_history(weeks)
#' }
#' @export
draw_history <- function(folder, title = NULL, subtitle = NULL, caption = NULL, plain = FALSE) {
  figure_history(read_history(folder), figure_texts(title, subtitle, caption, plain))
}

read_history <- function(folder) {
  inner <- function(one) if (is_result_folder(one)) one else sort(list.dirs(one, recursive = FALSE))
  folders <- unlist(lapply(folder, inner))
  folders <- folders[vapply(folders, is_result_folder, NA)]
  if (length(folders) < 2L) {
    abort_input(
      problem("There are fewer than two results in %s.", paste(folder,
        collapse = ", "
      )),
      "Run the brief for each week with --out, each into a folder of its own."
    )
  }
  runs <- lapply(folders, earlier_results)
  briefs <- unique(vapply(runs, `[[`, "", "brief"))
  if (length(briefs) > 1L) {
    abort_input(
      problem("The results are of different briefs: %s.", paste(briefs,
        collapse = ", "
      )),
      "Keep each brief's results in a folder of their own."
    )
  }
  rows <- lapply(seq_along(runs), function(k) {
    pairs <- lapply(runs[[k]]$pairs, `[[`, "relation")
    names <- stats::setNames(
      vapply(runs[[k]]$variables, function(v) or_default(v$short, or_default(v$label, v$variable)), ""),
      vapply(runs[[k]]$variables, `[[`, "", "variable")
    )
    data.frame(
      run = basename(folders[k]), pair = vapply(pairs, function(p) {
        say("%s and %s", names[[p$x]], names[[p$y]])
      }, ""),
      r = vapply(pairs, `[[`, 0, "r"), ci_low = vapply(pairs, function(p) or_default(p$ci_low, NA_real_), 0),
      ci_high = vapply(pairs, function(p) or_default(p$ci_high, NA_real_), 0), n = vapply(pairs, `[[`, 0L, "n")
    )
  })
  rows <- do.call(rbind, rows)
  rows$run <- factor(rows$run, unique(rows$run))
  rows
}

figure_history <- function(rows, texts = list()) {
  ggplot2::ggplot(rows, ggplot2::aes(.data$run, .data$r)) +
    ggplot2::geom_hline(yintercept = 0, colour = look$soft, linewidth = 0.5) +
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$ci_low, ymax = .data$ci_high),
      colour = look$ink, linewidth = 0.8,
      na.rm = TRUE
    ) +
    ggplot2::geom_line(ggplot2::aes(group = 1), colour = look$dots, linewidth = 0.6) +
    ggplot2::geom_point(colour = look$dots, size = 3) +
    ggplot2::facet_wrap(ggplot2::vars(.data$pair)) +
    ggplot2::scale_y_continuous(limits = c(-1, 1), labels = axis_numbers) +
    ggplot2::labs(
      x = NULL, y = "r", title = text_or(texts$title, say("r from run to run")),
      subtitle = text_or(texts$subtitle, say("%d runs, n = %s", nlevels(rows$run), paste(range(rows$n),
        collapse = " to "
      ))),
      caption = text_or(
        texts$caption,
        say("Bars: confidence intervals of r. Where they overlap, the change may be due to chance.")
      )
    ) +
    figure_look() +
    ggplot2::theme(strip.text = ggplot2::element_text(hjust = 0, colour = look$ink))
}

drawing_history <- function() {
  new_drawing("history", 10, 0L, 0L, function(folder, texts) figure_history(read_history(folder), texts),
    of = "folder", width = function(n) 9, height = function(n) 5
  )
}
