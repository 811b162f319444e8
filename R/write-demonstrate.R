# A demonstration, and the page that it is written to.

#' Demonstrate what correlations do
#'
#' Small demonstrations for teaching, on made-up data: how p changes with n while r stays the same, how one
#' case moves r, what a restricted range does, and how groups reverse a correlation. Each has a table, a
#' figure and a few sentences, and can be written as one page.
#'
#' @param topic `"sample-size"`, `"one-case"`, `"restricted-range"` or `"groups"`.
#' @param seed A whole number: another gives other made-up data. Default: 1.
#' @param path A file ending in `.html`: the demonstration is also written there as a page. Default: none.
#' @return A demonstration (class `unsere_demonstration`), a list of `topic`, `seed`, `rows` (a data frame:
#'   `panel`, `n`, `r`, `ci_low`, `ci_high`, `p`, and of the topic `sd`, `corrected` or `ranks`), `data` (a
#'   data frame: `panel`, `x`, `y`, `group`).
#' @section Errors: `unsere_error_usage` for an unknown topic or an invalid argument.
#' @references Robinson, W. S. (1950). Ecological correlations and the behavior of individuals. *American
#'   Sociological Review*, 15, 351-357. Thorndike, R. L. (1949). *Personnel selection*. Wiley. Anscombe, F.
#'   J. (1973). Graphs in statistical analysis. *The American Statistician*, 27, 17-21.
#' @seealso [practice_pair()] for data of your own.
#' @examples
#' shown <- demonstrate("one-case")
#' shown
#' draw_demonstration(shown)
#' @export
demonstrate <- function(topic, seed = 1, path = NULL) {
  shown <- answer_demonstrate(list(topic = topic, seed = seed))
  if (!is.null(path)) write_demonstration(shown, path)
  shown
}

#' @param path Where; it must end in .html.
#' @noRd
write_demonstration <- function(shown, path) {
  if (!is_word(path) || !grepl("[.]html?$", path, ignore.case = TRUE)) {
    abort_usage("A demonstration is written as a page: `path` must end in .html.", "For example one-case.html.")
  }
  height <- if (shown$topic %in% c("one-case", "restricted-range")) 6 else 5
  page <- list(
    title = say("A demonstration"), question = demonstration_question(shown), sections = list(new_section(
      "demonstration", NULL, block_text(demonstration_text(shown)),
      stated_figure(figure_demonstration(shown, list(caption = NA)), in_words(shown), "", height),
      block_table(demonstration_cells(shown), say("Made-up data, seed %s.", format(shown$seed, scientific = FALSE)))
    ))
  )
  replace_file(html_page(lay_out_figures(page)), path)
  invisible(path)
}
