# The cases as a grid, its pages sent by the server: sorted and searched; a cell opens what can be done with its value, its
# case and its column. Nothing is edited in it.

#' The grid under the place that has one; of a database, and without the package for it, the first rows
#' @noRd
show_grid <- function(desk, view, here, input, output) {
  has_grid <- has_package("DT")
  output$grid_frame <- shiny::renderUI({
    if (!isTRUE(here()$grid) || !has_data(desk$brief())) return(NULL)
    in_desk_language(desk, or_trouble({
      study <- desk$study()
      if (has_grid && holds_rows(study)) htmltools::tags$div(class = "grid", DT::DTOutput("grid")) else first_rows(study)
    }))
  })
  if (!has_grid) return(invisible())
  output$grid <- DT::renderDT(
    in_desk_language(desk, tryCatch(data_grid(desk, desk$study()), unsere_error = function(e) NULL)),
    server = TRUE
  )
  shiny::observeEvent(input$grid_range, view$range <- as.double(input$grid_range))
  shiny::observeEvent(input$grid_kinds, view$kinds <- input$grid_kinds, ignoreNULL = FALSE)
}

#' A study's rows as a grid
#' @noRd
data_grid <- function(desk, study) {
  names <- study_names(study)
  cells <- c(list(seq_len(study_size(study))), lapply(study_columns(study, names), grid_column))
  data <- as.data.frame(cells, optional = TRUE)
  names(data) <- c("#", names)
  DT::datatable(
    data,
    container = grid_head(desk, study, names), rownames = FALSE, selection = "none", class = "compact",
    extensions = "KeyTable",
    callback = DT::JS(
      sprintf(grid_script, jsonlite::toJSON(say("Cells: the arrow keys move, Enter opens"), auto_unbox = TRUE))
    ), options = list(
      pageLength = 15L, lengthMenu = c(15L, 50L, 200L), scrollX = TRUE, keys = list(keys = list(13L, 37L, 38L, 39L, 40L)),
      searchDelay = 300L, dom = "frtlip", language = grid_words(), orderClasses = FALSE, autoWidth = FALSE,
      columnDefs = list(list(targets = "_all", createdCell = DT::JS(grid_marks(cells))))
    )
  )
}

# Numbers and words with an order are sorted by it.
grid_column <- function(column) {
  if (is.numeric(column)) as.double(column) else if (is.factor(column)) column else as.character(words_of(column))
}

grid_head <- function(desk, study, names) {
  tags <- htmltools::tags
  sparks <- sparks_of(desk, study, names)
  label <- label_of(study_book(study), names)
  tags$table(class = "compact", tags$thead(tags$tr(tags$th("#"), lapply(seq_along(names), function(k) {
    tags$th(title = label[k], htmltools::HTML(sparks[k]), tags$br(), names[k])
  }))))
}

# A number in seven digits at most; a cell that is missing, and one far outside the middle half of its column (three times
# its width: Tukey 1977).
grid_marks <- function(cells) {
  fences <- lapply(cells, function(column) {
    if (!is.numeric(column) || count_distinct(column[!is.na(column)]) < 8L) return(NULL)
    middle <- stats::quantile(column, c(.25, .75), na.rm = TRUE, names = FALSE)
    if (diff(middle) > 0) middle + c(-3, 3) * diff(middle)
  })
  fences[1] <- list(NULL)
  sprintf(
    paste0(
      "function(td, value, row, at, column) {",
      " const ends = %s[column];",
      " if (typeof value === 'number') td.textContent = String(parseFloat(value.toPrecision(7)));",
      " if (value === null || value === '') td.classList.add('missing');",
      " else if (ends && (value < ends[0] || value > ends[1])) td.classList.add('far'); }"
    ),
    jsonlite::toJSON(unname(fences), auto_unbox = TRUE, null = "null", digits = NA)
  )
}

# A click or Enter on a cell tells the case's place and the column.
grid_script <- "
  const open = (cell) => {
    const at = cell.index();
    if (!at || at.column === 0) return;
    deskAct('cell', table.row(at.row).data()[0] + '\\r' + at.column);
  };
  table.on('click', 'tbody td', function() { open(table.cell(this)); });
  const field = table.table().container().querySelector('input[tabindex=\"0\"]');
  if (field) field.setAttribute('aria-label', %s);
  table.on('key', function(event, grid, key, cell) { if (key === 13) open(cell); });
"

grid_words <- function() {
  list(
    search = say("Search:"), info = say("Cases _START_ to _END_ of _TOTAL_"), infoEmpty = say("No cases"),
    infoFiltered = say("(of _MAX_)"), lengthMenu = say("_MENU_ per page"), zeroRecords = say("No case matches."),
    processing = say("Working\u2026"), paginate = list(previous = "\u2039", "next" = "\u203a")
  )
}

#' What can be done with the value that was clicked, with its case, and with its column
#' @noRd
grid_side <- function(desk, view) {
  tags <- htmltools::tags
  cell <- view$cell
  study <- desk$study()
  known <- !is.null(cell) && holds_rows(study) && cell$row <= study_size(study) && cell$name %in% study_names(study)
  if (!known) return(tags$p(class = "hint", say("Click a cell to exclude its case or to mark its value.")))
  column <- study_column(study, cell$name)
  value <- column[cell$row]
  case <- case_names(study, cell$row)
  text <- if (is.na(value)) say("missing") else trimws(format_cells(value))
  tags$div(
    tags$h2(shorten_at_word(label_of(study_book(study), cell$name), 60L)),
    tags$p(tags$strong(text), tags$br(), say("Case %s", case)),
    if (!is.na(value)) tags$p(act_button("no_answer", "Treat as missing", paste(c(cell$name, text), collapse = "\r"))),
    tags$p(act_button("keep_like", "Only cases like this", condition_of_value(cell$name, value))),
    act_form(
      field_text("reason", "Reason for exclusion", placeholder = "why"),
      act_button("exclude_cell", "Exclude this case", case)
    ),
    column_filter(column),
    tags$p(act_button("look_at", "Show the distribution", cell$name))
  )
}

#' The cases to keep by this column: a range of numbers, or some of its words
#' @noRd
column_filter <- function(column) {
  kinds <- unique(column[!is.na(column)])
  chosen <- if (is.numeric(column) && length(kinds) > 2L) {
    ends <- range(kinds)
    shiny::sliderInput("grid_range", say("Values from and to"), ends[1], ends[2], ends, ticks = FALSE)
  } else if (length(kinds) %in% 2:20) {
    counts <- table(as.character(words_of(column)))
    words <- if (is.factor(column)) intersect(levels(column), names(counts)) else names(counts)
    counted <- stats::setNames(words, sprintf("%s (%d)", words, counts[words]))
    shiny::checkboxGroupInput("grid_kinds", say("Values"), counted, words)
  }
  if (!is.null(chosen)) htmltools::tagList(chosen, act_button("keep_filtered", "Keep only these cases"))
}

grid_act <- function(desk, view, what, value, fields) {
  switch(what,
    cell = {
      cell <- suppressWarnings(as.integer(strsplit(value, "\r", fixed = TRUE)[[1]]))
      names <- study_names(desk$study())
      if (length(cell) == 2L && !anyNA(cell) && cell[1] > 0L && cell[2] %in% seq_along(names)) {
        view$cell <- list(row = cell[1], name = names[cell[2]])
        view$range <- view$kinds <- NULL
      }
    },
    keep_like = add_condition(desk, view, value),
    keep_filtered = add_condition(desk, view, filter_condition(desk$study(), view)),
    exclude_cell = if (leave_aside(desk, value, fields$reason)) view$cell <- NULL,
    look_at = {
      view$place <- "look"
      view$variable <- value
      view$clicked <- NULL
    },
    return(FALSE)
  )
  TRUE
}

#' A condition more on which cases count, beside the one there is
#' @noRd
add_condition <- function(desk, view, condition) {
  if (!is_word(condition)) return(invisible(FALSE))
  view$cell <- NULL
  change_brief(desk, function(brief) {
    before <- brief$data$where
    brief$data$where <- if (is.null(before)) condition else sprintf("(%s) and (%s)", before, condition)
    brief
  })
}

#' A value as a condition: `centre = 'Mill'`
#' @noRd
condition_of_value <- function(name, value) {
  name <- condition_name(name)
  if (is.na(value)) return(sprintf("%s is missing", name))
  if (is.numeric(value)) return(sprintf("%s = %s", name, format(as.double(value), digits = 15)))
  sprintf("%s = %s", name, condition_text(as.character(value)))
}

condition_name <- function(name) if (make.names(name) == name) name else sprintf("`%s`", name)

condition_text <- function(text) sprintf("'%s'", gsub("'", "''", text, fixed = TRUE))

#' What was chosen of the clicked column as a condition; `NULL` where that is all of it
#' @noRd
filter_condition <- function(study, view) {
  name <- view$cell$name
  column <- study_column(study, name)
  name <- condition_name(name)
  if (length(view$range) == 2L) {
    ends <- range(column, na.rm = TRUE)
    inner <- c(view$range[1] > ends[1], view$range[2] < ends[2])
    limits <- sprintf(c("%s >= %s", "%s <= %s"), name, format(view$range, digits = 15, trim = TRUE))[inner]
    return(if (length(limits)) paste(limits, collapse = " and "))
  }
  if (length(view$kinds) && length(view$kinds) < length(unique(column[!is.na(column)]))) {
    sprintf("%s in (%s)", name, paste(condition_text(view$kinds), collapse = ", "))
  }
}

first_rows <- function(study, rows = 8L, columns = 12L) {
  names <- utils::head(study_names(study), columns)
  at <- seq_len(min(rows, study_size(study)))
  cells <- lapply(study_columns(study, names), function(column) {
    text <- plain_text(format_cells(column[at]))
    ifelse(is.na(column[at]), "", shorten_at_word(text, 40L))
  })
  names(cells) <- shorten_at_word(names, 30L)
  beyond <- length(study_names(study)) - length(names)
  caption <- if (beyond > 0) {
    say("First cases as read; %s more.", count_of(beyond, "column"))
  } else {
    say("First cases as read.")
  }
  cases_table(cells, caption)
}

format_cells <- function(column) {
  if (is.numeric(column)) return(vapply(column, function(one) if (is.na(one)) "" else shortest_number(one), ""))
  as.character(column)
}
