# What goes into a matrix: the variables, the coefficient of each pair, the shape.

#' The sample of the variables asked for, or of all measures
#'
#' @param categories The record of a coefficient that takes groups without an order, or nothing where none is taken.
#' @return A list: `sample` and `left_out`, a list by reason of the names left out: `nominal`, `empty`, and `spoilt` (text
#'   among numbers, where no variable was named).
#' @noRd
matrix_sample <- function(study, names, given = NULL, categories = NULL) {
  named <- length(names) > 0L
  clash <- intersect(given, names)
  if (length(clash)) abort_usage(problem("%s is in the matrix and controlled for.", clash[1]), "Omit one of the two.")
  if (!named) names <- setdiff(if (is.null(categories)) names_with(study) else names_of_groups(study, categories), given)
  level <- level_of(study, names)
  columns <- study_columns(study, names)
  spoilt <- !named & level == "numeric" & vapply(columns, is.character, NA)
  empty <- vapply(columns, function(column) all(is.na(utils::head(column, 100L))) && all(is.na(column)), NA)
  without_order <- level == "nominal" & is.null(categories)
  of_cases <- names %in% names_with(study, "case")
  out <- without_order | empty | spoilt
  included <- names[!out]
  if (length(included) < 2L) {
    abort_usage(
      problem(
        "A matrix needs two ordered variables or more; %s.",
        if (length(included)) paste("here is one:", included) else "here is none"
      ),
      "Name more variables; groups without an order are left out."
    )
  }
  numbers <- lapply(included, function(name) {
    if (level_of(study, name) == "nominal") study_categories(study, name) else matrix_numbers(study, name)
  })
  list(
    sample = sample_columns(study, included, numbers),
    left_out = list(
      nominal = names[without_order & !of_cases], case = names[without_order & of_cases],
      empty = names[empty & !without_order], spoilt = names[spoilt]
    ),
    spoilt = spoilt_cautions(study, names[spoilt])
  )
}

# What such a coefficient can be of: all measures and groups, or those that are groups.
names_of_groups <- function(study, record) {
  levels <- if (record$categories > 1L) c("nominal", "binary") else level_names
  c(names_with(study, "measure", levels), names_with(study, "group", levels))
}

# A binary variable of one value is a constant here, as in a group that has only one side of it; no reason to stop.
matrix_numbers <- function(study, name) {
  column <- study_column(study, name)
  if (!is.numeric(column) && length(unique(column[!is.na(column)])) == 1L) {
    return(list(values = ifelse(is.na(column), NA_real_, 1)))
  }
  study_numbers(study, name)
}

spoilt_cautions <- function(study, names) {
  lapply(names, function(name) {
    cells <- text_cells(study_column(study, name), file_rows(study))
    new_finding("text_among_numbers", "serious", list(name = name, cells = cells))
  })
}

#' The sample over the cases that have every value
#' @noRd
whole_sample <- function(sample) {
  complete <- which(Reduce(`&`, lapply(sample$columns, function(column) !is.na(column))))
  if (length(complete) < 3L) {
    abort_undefined(
      problem("Only %s every value.", if (length(complete) == 1L) "one case has" else paste(length(complete), "cases have")),
      "Use missing = \"pairwise\", or fewer variables."
    )
  }
  sample_part(sample, complete)
}

#' Rows and columns of a rectangle, or `NULL` for a square
#' @noRd
check_sides <- function(sides, names) {
  given <- !vapply(sides[c("rows", "columns")], is.null, NA)
  if (!any(given)) return(NULL)
  if (length(names)) {
    abort_usage(
      "Variables are given both for a square and for a rectangular matrix.",
      "Give either plain variables, or rows and columns."
    )
  }
  if (!all(given)) {
    abort_usage(
      problem("`%s` is missing.", c("rows", "columns")[!given]),
      "A rectangular matrix needs row and column variables."
    )
  }
  if (setequal(sides$rows, sides$columns) && length(sides$rows) == 1L) {
    abort_usage(problem("%s is the only variable on both sides.", sides$rows), "Give another for the columns.")
  }
  sides[c("rows", "columns")]
}

keep_sides <- function(kinds, names, sides) {
  if (is.null(sides)) return(kinds)
  down <- names %in% sides$rows
  across <- names %in% sides$columns
  kinds[!(outer(down, across) | outer(across, down))] <- NA
  kinds
}

rows_first <- function(pairs, sides) {
  turned <- !(pairs$x %in% sides$rows & pairs$y %in% sides$columns)
  pairs[turned, c("x", "y")] <- pairs[turned, c("y", "x")]
  pairs[order(match(pairs$x, sides$rows), match(pairs$y, sides$columns)), ]
}

check_memory <- function(p, free = free_memory()) {
  needed <- 25 * 8 * as.double(p)^2
  if (is.na(free) || needed < 0.8 * free) return(invisible())
  gigabytes <- function(bytes) format(signif(bytes / 1e9, 2))
  abort_input(
    problem(
      "%s make %s; that takes about %s GB of memory and %s GB are free.", count_in_english(p, "variable"),
      count_in_english(p * (p - 1) / 2, "pair"), gigabytes(needed), gigabytes(free)
    ),
    "Choose fewer variables, or a rectangular matrix of rows and columns."
  )
}

free_memory <- function(file = "/proc/meminfo") {
  if (!file.exists(file)) return(NA_real_)
  line <- grep("^MemAvailable:", readLines(file, warn = FALSE), value = TRUE)
  if (length(line)) 1024 * as.numeric(gsub("[^0-9]", "", line[1])) else NA_real_
}
