# Results in a document that knitr makes: a table, the strip, the sentence and what is doubtful, not a terminal's text.

#' @rawNamespace S3method(knitr::knit_print, unsere_result)
knit_print.unsere_result <- function(x, ...) {
  text <- tryCatch(as_markdown(x), error = function(e) NULL)
  # What has no table of its own stands as the terminal shows it.
  if (is.null(text)) text <- c("```", format(x), "```")
  # Powers of ten as a document writes them.
  text <- gsub("(10)\\^([-\u2212]?[0-9]+)", "\\1^\\2^", text)
  as_knitted(c(text, "", knitted_strip(x), "", knitted_cautions(x)))
}

#' @rawNamespace S3method(knitr::knit_print, unsere_cautions)
knit_print.unsere_cautions <- function(x, ...) as_knitted(items_of_cautions(x, no_variables()))

#' @rawNamespace S3method(knitr::knit_print, unsere_study)
knit_print.unsere_study <- function(x, ...) as_knitted(c("```", format(x), "```"))

#' @rawNamespace S3method(knitr::knit_print, unsere_predictions)
knit_print.unsere_predictions <- knit_print.unsere_study

#' @rawNamespace S3method(knitr::knit_print, unsere_solutions)
knit_print.unsere_solutions <- knit_print.unsere_study

as_knitted <- function(text) structure(paste(c("", text, ""), collapse = "\n"), class = "knit_asis")

#' The strip of a relation as a picture beside the document's figures; nothing where nothing is being knit
#' @noRd
knitted_strip <- function(x) {
  if (!inherits(x, "unsere_relation") || is.na(x$r) || !isTRUE(getOption("knitr.in.progress"))) return(NULL)
  # By what it shows, so that the same pair asked in two ways has two pictures.
  name <- sprintf("-strip-%s.png", substr(rlang::hash(unclass(x)[c("x", "y", "r", "ci_low", "ci_high")]), 1, 12))
  path <- knitr::fig_path(name, number = NULL)
  dir.create(dirname(path), showWarnings = FALSE, recursive = TRUE)
  save_figure(figure_strip(x), path, width = 6, height = 0.6)
  digits <- digits_for(x)
  interval <- if (!is.na(x$ci_low)) paste0(" ", format_interval(x$ci_low, x$ci_high, digits)) else ""
  # In a line with its numbers, as on a page; alone it would be taken for a figure with a caption.
  shown <- sprintf("**%s = %s**%s", coefficient_symbol(x$coefficient), format_r(x$r, digits), interval)
  sprintf("%s ![%s](%s){width=60%%}", shown, strip_alt(x), path)
}

knitted_cautions <- function(x) {
  if (!is.data.frame(x$cautions) || !nrow(x$cautions)) return(NULL)
  variables <- or_default(x$variables, or_default(x$sample$variables, no_variables()))
  c(sprintf("**%s**", say("Cautions")), "", items_of_cautions(x$cautions, variables))
}

items_of_cautions <- function(cautions, variables) {
  if (!nrow(cautions)) return(say("No cautions."))
  texts <- words_of_cautions(cautions, variables)
  # Quotes stay straight, so that a call can be copied.
  text <- gsub("\"", "\\\"", trimws(paste(texts$evidence, texts$advice)), fixed = TRUE)
  sprintf("- *%s*: %s", say(texts$severity), text)
}
