#' A column of numbers with text in a few cells
#' @noRd
caution_text_among_numbers <- function() {
  new_caution("text_among_numbers",
    place = 28, meaning = "Text stands among its numbers.",
    evidence = function(f, pair) template("%s is excluded: %s.", shown(f$name, "Label"), f$cells),
    advice = function(f, pair) {
      template(
        "Correct these cells in a copy of the file, or declare them as missing-value codes."
      )
    }
  )
}
