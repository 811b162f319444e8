# Pieces of the desk's page: controls that name what they set, and results as the report shows them. Labels are given in
# English and stand in the language in force.

#' A place of the desk
#'
#' @param id,title Its name in the address, and as it is read; `ask` the question that it answers.
#' @param top,rest From the desk and the view to what stands above and under the figure; `figure` to the figure, or `NULL`.
#' @param list,side From the desk and the view to the list of variables at the left, and to what stands at the right.
#' @param part What a click on a part of a variable in the list does: from the desk, the view, the part and the name.
#' @param grid Whether the cases stand under it.
#' @param cells From the desk, the view and the drawn image to buttons over the figure, see `cell_buttons()`.
#' @param whole From the desk and the view to the figure as it is saved, where that is another; `result` to the result whose
#'   tables can be saved.
#' @param set,act What a control or a button of its does: whether it was its own.
#' @noRd
new_place <- function(id, title, ask, top, figure = NULL, cells = NULL, rest, side = NULL, list = NULL, part = NULL,
                      grid = FALSE, set = NULL, act = NULL, whole = figure, result = NULL) {
  as.list(environment())
}

#' What a control sets: `key`; its value goes there as soon as it changes
#' @param options A character vector, named by what is shown where that differs.
#' @noRd
control_select <- function(key, label, options, chosen = NULL, none = NULL, hint = NULL) {
  tags <- htmltools::tags
  shown <- if (is.null(names(options))) options else names(options)
  chosen <- as.character(or_default(chosen, ""))
  items <- option_items(c(if (!is.null(none)) "", unname(options)), translated(c(none, shown)), chosen)
  control_frame(key, label, tags$select(
    id = control_id(key), `data-set` = key, items
  ), hint)
}

# Written at once: a tag for each option is most of what a page of long lists would cost.
option_items <- function(values, shown, chosen) {
  htmltools::HTML(paste(sprintf(
    "<option value=\"%s\"%s>%s</option>", htmltools::htmlEscape(values, attribute = TRUE),
    ifelse(values %in% chosen, " selected", ""), htmltools::htmlEscape(shown)
  ), collapse = ""))
}

control_text <- function(key, label, value = NULL, placeholder = NULL, hint = NULL, kind = "text") {
  field <- htmltools::tags$input(
    id = control_id(key), type = kind, `data-set` = key, value = or_default(value, ""),
    placeholder = translated(placeholder), autocomplete = "off"
  )
  control_frame(key, label, field, hint)
}

control_check <- function(key, label, on = FALSE) {
  tags <- htmltools::tags
  tags$label(
    class = "check", tags$input(id = control_id(key), type = "checkbox", `data-set` = key, checked = if (isTRUE(on)) NA),
    translated(label)
  )
}

control_frame <- function(key, label, field, hint = NULL) {
  tags <- htmltools::tags
  tags$div(
    class = "control", tags$label(`for` = control_id(key), translated(label)), field,
    if (!is.null(hint)) tags$p(class = "hint", translated(hint))
  )
}

control_id <- function(key) paste0("c-", gsub("[^A-Za-z0-9]+", "-", key), "-", substr(cli::hash_md5(key), 1, 6))

#' A button that does something: `what`, of `value`, with the fields of the form around it
#' @noRd
act_button <- function(what, label, value = NULL, class = "quiet", ...) {
  htmltools::tags$button(type = "button", class = class, `data-act` = what, `data-value` = value, translated(label), ...)
}

# What is there when it is asked for.
folded <- function(summary, ..., open = NULL) {
  htmltools::tags$details(class = "options", open = open, htmltools::tags$summary(summary), ...)
}

act_form <- function(...) htmltools::tags$div(class = "form", `data-form` = NA, ...)

field_text <- function(name, label, value = NULL, placeholder = NULL) {
  field_frame(name, label, htmltools::tags$input(
    id = paste0("f-", name), type = "text", `data-field` = name, value = or_default(value, ""),
    placeholder = translated(placeholder)
  ))
}

field_select <- function(name, label, options) {
  tags <- htmltools::tags
  shown <- if (is.null(names(options))) options else names(options)
  items <- option_items(options, translated(shown), character())
  field_frame(name, label, tags$select(id = paste0("f-", name), `data-field` = name, items))
}

field_frame <- function(name, label, field) {
  tags <- htmltools::tags
  tags$div(class = "control", tags$label(`for` = paste0("f-", name), translated(label)), field)
}

#' What an error says, beside the place where it arose
#' @noRd
trouble_lines <- function(e) {
  tags <- htmltools::tags
  tags$div(class = "trouble", role = "alert", tags$p(tags$strong(e$text)), if (!is.null(e$hint)) tags$p(e$hint))
}

# A fault of ours is said, and does not take the page and what was done with it.
trouble_of <- function(e) {
  if (inherits(e, "unsere_error")) return(list(text = error_text(e), hint = error_hint(e)))
  list(
    text = say("That failed in Unsere itself: %s.", sub("[.]?\\s*$", "", conditionMessage(e))),
    hint = say("What was done before stands.")
  )
}

#' The value of some code, or its error in one or two lines
#' @noRd
or_trouble <- function(code) tryCatch(with_files(code), unsere_error = function(e) trouble_lines(trouble_of(e)))

#' Variables that can be chosen, as they are called, with their labels
#' @noRd
variable_options <- function(study, names) {
  book <- study_book(study)
  label <- shorten_at_word(label_of(book, names), 60L)
  stats::setNames(names, ifelse(label == names, names, sprintf("%s (%s)", label, names)))
}

#' A table, to be copied or saved
#' @noRd
cases_table <- function(cells, caption, left_aligned = 1L) {
  caption <- translated(caption)
  table <- page_block(block_table(cells, caption, left_aligned = left_aligned))
  table_button <- function(label, what) {
    htmltools::tags$button(type = "button", class = "quiet small", `data-table` = what, translated(label))
  }
  htmltools::tags$div(
    class = "taken",
    # What may be wider than the page can be reached, and moved, by keys.
    htmltools::tagAppendAttributes(table, tabindex = "0", role = "region", `aria-label` = caption),
    htmltools::tags$div(class = "take", table_button("Copy table", "copy"), table_button("Save CSV", "csv"))
  )
}

#' Cautions with a button each that follows it up, where the desk knows how
#' @param follow From a caution's code and figures to `what` and `value` of a button with its `label`, or `NULL`.
#' @noRd
list_of_cautions <- function(cautions, variables, follow = function(code, figures) NULL) {
  texts <- words_of_cautions(cautions, variables, door_page())
  if (!nrow(texts)) return(NULL)
  tags <- htmltools::tags
  tags$ul(class = "cautions", lapply(seq_len(nrow(texts)), function(k) {
    button <- follow(texts$code[k], cautions$figures[[k]])
    tags$li(
      class = texts$severity[k], tags$strong(paste0(capital(say(texts$severity[k])), ". ")), texts$evidence[k], " ",
      texts$advice[k], if (!is.null(button)) act_button(button$what, button$label, button$value)
    )
  }))
}

#' A small distribution as a drawing: bars of counts
#' @noRd
spark <- function(values) {
  values <- values[!is.na(values)]
  if (length(values) < 2L) return(NULL)
  kinds <- sort(unique(values))
  counts <- if (length(kinds) <= 12L) tabulate(match(values, kinds)) else
    tabulate(pmin(12L, 1L + as.integer((values - kinds[1]) / diff(range(kinds)) * 12)), 12L)
  n <- length(counts)
  height <- round(20 * counts / max(counts), 1)
  bars <- sprintf(
    "<rect x='%.1f' y='%.1f' width='%.1f' height='%.1f'/>", (seq_len(n) - 1) * 72 / n, 22 - height, 72 / n - 1.2, height
  )
  htmltools::HTML(sprintf(
    "<svg class='spark' viewBox='0 0 72 22' width='72' height='22' aria-hidden='true'>%s</svg>", paste(bars, collapse = "")
  ))
}

#' A button that copies a text, in the page itself
#' @noRd
copy_button <- function(label, text) {
  htmltools::tags$button(type = "button", class = "quiet small", `data-copy` = text, translated(label))
}

#' What a result says in a sentence, its figures held together, to be copied
#' @noRd
answer_sentence <- function(result) {
  sentence <- in_words(result)
  htmltools::tags$p(class = "lead", set_html(sentence), " ", copy_button("Copy", sentence))
}
