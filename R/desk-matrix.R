# All pairs: the matrix of cells; a cell opens its pair.

place_matrix <- function() {
  new_place("matrix", "Matrix", "Which variables are correlated?",
    top = matrix_top, figure = matrix_figure, cells = matrix_buttons, rest = matrix_rest, set = matrix_set, act = matrix_act,
    result = function(desk, view) desk_matrix(desk),
    list = matrix_list, part = function(desk, view, part, name) {
      chosen <- matrix_variables(desk$study(), shiny::isolate(desk$brief()))
      matrix_set(desk, view, paste0("matrix-variable:", name), !name %in% chosen)
    }
  )
}

matrix_list <- function(desk, view) {
  study <- desk$study()
  chosen <- matrix_variables(study, desk$brief())
  variable_list(desk, c("in the matrix" = "in"), list("in the matrix" = chosen), union(ordered_measures(study), chosen))
}

matrix_variables <- function(study, brief) {
  chosen <- unlist(brief$matrix$variables)
  usable <- ordered_measures(study)
  if (length(chosen)) intersect(chosen, study_names(study)) else utils::head(usable, 8L)
}

matrix_top <- function(desk, view) {
  or_trouble({
    study <- desk$study()
    brief <- desk$brief()
    chosen <- matrix_variables(study, brief)
    tags <- htmltools::tags
    tags$div(
      if (is.null(brief$matrix)) tags$p(class = "lead", act_button(
        "start_matrix", say("Correlate these %d variables", length(chosen)),
        class = "main"
      )),
      if (!is.null(brief$matrix)) tags$div(
        class = "row",
        control_text("matrix:highlight", "Highlight |r| from", or_default(brief$matrix$highlight, 0.5)),
        control_select(
          "matrix:multiplicity", "p adjusted by",
          c(Holm = "holm", "Benjamini and Hochberg" = "benjamini-hochberg", nothing = "none"),
          or_default(brief$matrix$multiplicity, "holm")
        ),
        control_check("view:by_likeness", "Order by similarity", view$by_likeness)
      )
    )
  })
}

desk_matrix <- function(desk) {
  brief <- desk$brief()
  if (is.null(brief$matrix)) return(NULL)
  worked_out(desk, "matrix", brief$matrix, answer_entry("matrix", desk$study(), brief$matrix, brief))
}

matrix_figure <- function(desk, view) {
  matrix <- desk_matrix(desk)
  if (is.null(matrix) || !inherits(matrix, "unsere_matrix")) return(NULL)
  draw_matrix(matrix, by_likeness = isTRUE(view$by_likeness))
}

matrix_rest <- function(desk, view) {
  or_trouble({
    matrix <- desk_matrix(desk)
    if (is.null(matrix)) return(NULL)
    pairs <- above_zero(matrix$pairs, 30L)
    tags <- htmltools::tags
    tags$div(
      answer_sentence(matrix), tags$p(class = "hint", paste(matrix_notes(matrix), collapse = " ")),
      list_of_cautions(matrix$cautions, matrix$variables), tags$h2(say("Strongest correlations (click to open)")),
      tags$ul(class = "pairs", lapply(seq_len(nrow(pairs)), function(k) {
        tags$li(act_button("open_pair", pairs_told(matrix, pairs[k, ]), pair_value(pairs[k, ])))
      }))
    )
  })
}

matrix_set <- function(desk, view, key, value) {
  if (startsWith(key, "matrix-variable:")) {
    name <- sub("^matrix-variable:", "", key)
    view$options_open <- TRUE
    change_brief(desk, function(brief) {
      chosen <- matrix_variables(desk$study(), brief)
      chosen <- if (isTRUE(as.logical(value))) union(chosen, name) else setdiff(chosen, name)
      if (length(chosen) < 2L) abort_usage("A matrix needs two variables or more.", "Choose another first.")
      brief$matrix$variables <- as.list(chosen)
      brief
    })
    return(TRUE)
  }
  if (!startsWith(key, "matrix:")) return(FALSE)
  field <- sub("^matrix:", "", key)
  change_brief(desk, function(brief) {
    brief$matrix[[field]] <- if (field == "highlight") suppressWarnings(as.numeric(sub(",", ".", value))) else value
    brief
  })
  TRUE
}

matrix_act <- function(desk, view, what, value, fields) {
  switch(what,
    start_matrix = change_brief(desk, function(brief) {
      brief$matrix <- list(variables = as.list(matrix_variables(desk$study(), brief)))
      brief
    }),
    open_pair = {
      parts <- strsplit(value, "\r", fixed = TRUE)[[1]]
      open_pair(desk, view, parts[1], parts[2])
      view$place <- "relate"
    },
    return(FALSE)
  )
  TRUE
}

#' The cells of the figure as buttons that open their pairs
#' @noRd
matrix_buttons <- function(desk, view, image) {
  matrix <- desk_matrix(desk)
  places <- figure_cells(matrix, isTRUE(view$by_likeness))
  pairs <- matrix$pairs[places$pair, ]
  cell_buttons(image, cbind(places, data.frame(
    value = pair_value(pairs), text = pairs_told(matrix, pairs)
  )), "open_pair", "Cells of the matrix; the arrow keys go from one to the next, Enter opens its pair")
}

# What a button that opens a pair says, and sends.
pairs_told <- function(matrix, pairs) {
  sprintf(
    "%s and %s: %s = %s", label_of(matrix$variables, pairs$x), inside_of(matrix$variables, pairs$y),
    coefficient_symbol(pairs$coefficient), format_r(pairs$r)
  )
}

pair_value <- function(pairs) paste(pairs$x, pairs$y, sep = "\r")
