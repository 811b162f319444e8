# A sample: the rows and columns that one question is asked of, with what was dropped and why. It is made once, and all that
# follows (estimate, test, interval, line, cautions) is computed from it, never from the study again.

#' The sample of two variables: the cases where both are present
#'
#' @param categories Whether groups without an order are taken as such; else they are refused.
#' @return A sample: `names`, `x`, `y` (double, complete), `variables` (their entries in the codebook), `row` (in the data),
#'   `dropped` (counts: `x`, `y`, `both`, `aside`), `coding` (for binary variables, what is 0 and what is 1),
#'   `origin` (where the
#'   data came from), `weights` (`NULL`: every case counts as one), and `more`, what is looked at only when a caution or a
#'   figure asks for it.
#' @noRd
sample_pair <- function(study, x, y, categories = FALSE) {
  x <- check_variable(study, x)
  y <- check_variable(study, y)
  check_two(x, y)
  numbers <- lapply(c(x, y), function(name) {
    if (categories && level_of(study, name) == "nominal") study_categories(study, name) else study_numbers(study, name)
  })
  wide <- sample_columns(study, c(x, y), numbers)
  for (name in c(x, y)) if (all(is.na(wide$columns[[name]]))) abort_empty(name)
  sample <- narrow_sample(wide, x, y)
  for (side in c("x", "y")) check_both_groups(sample, side)
  sample
}

check_two <- function(x, y) {
  if (identical(x, y)) abort_usage(problem("%s is given twice.", x), "A relation needs two different variables.")
}

#' The sample of many variables, missing values as `NA`
#' @param numbers For each its values, and what is 0 and 1, from [study_numbers()].
#' @noRd
sample_columns <- function(study, names, numbers) {
  variables <- book_entries(study, names)
  for (k in seq_along(names)) {
    if (is.na(variables$unit[k])) variables$unit[k] <- or_default(numbers[[k]]$unit, NA_character_)
  }
  new_sample(
    columns = stats::setNames(lapply(numbers, `[[`, "values"), names), variables = variables,
    coding = stats::setNames(lapply(numbers, `[`, c("zero", "one", "steps", "kinds")), names), origin = study_origin(study),
    more = details_of(study)
  )
}

new_sample <- function(columns, variables, coding, origin, more, row = seq_along(columns[[1]]), ...) {
  rownames(variables) <- NULL
  structure(list(
    names = names(columns), columns = columns, variables = variables, coding = coding, row = row, weights = NULL,
    origin = origin, more = more, ...
  ), class = "unsere_sample")
}

#' How the columns of a sample came to be what they are
#'
#' @return A list: `file`, `sheet`, `decisions` (all), `texts` (those of the table and of these columns), `coding` (of
#'   binary columns, a row each: `variable`, `zero`, `one`), `steps` (of ordinal columns of words: `variable`,
#'   `code`, `word`; or `NULL`).
#' @noRd
sample_intake <- function(sample) {
  origin <- sample$origin
  decisions <- origin$decisions
  kinds <- or_default(names(decisions), rep("", length(decisions)))
  ours <- decision_variables(decisions) %in% sample$names
  coded <- vapply(sample$coding, function(side) !is.null(side$one), NA)
  side <- function(which) vapply(sample$coding[coded], `[[`, "", which, USE.NAMES = FALSE)
  list(
    file = origin$file, sheet = origin$sheet,
    decisions = unname(decisions), texts = unname(c(
      if (identical(origin$decimal_mark, ",")) template("\",\" is the decimal mark"),
      decisions[kinds %in% c("", "where", "elsewhere", "codebook", "summary_row", "aside") | kinds == "column" & ours]
    )),
    coding = data.frame(variable = sample$names[coded], zero = side("zero"), one = side("one")),
    steps = words_of_steps(sample)
  )
}

# The words of ordinal columns, each with the number that stands for it.
words_of_steps <- function(sample) {
  rows <- lapply(sample$names, function(name) {
    steps <- sample$coding[[name]]$steps
    if (!is.null(steps)) data.frame(variable = name, code = as.double(steps$at), word = steps$labels)
  })
  do.call(rbind, rows)
}

#' What a sample may be asked for beside its columns, each worked out when it is first wanted
#' @noRd
details_of <- function(study) {
  more <- new.env(parent = emptyenv())
  whole <- study
  study <- study_at_hand(study)
  group <- role_variable(study, "group")
  more$group_name <- group
  more$time_name <- role_variable(study, "time")
  # Of a million cases the few are named that are spoken of.
  more$imputed <- whole$imputed
  more$name_cases <- function(rows) case_names(study, rows)
  delayedAssign("groups", if (!is.null(group)) plain_text(as.character(study_column(study, group))), assign.env = more)
  delayedAssign("file_rows", file_rows(study), assign.env = more)
  more$numbers_at <- function(names, rows) lapply(study_columns(study, names), function(column) code_values(column[rows]))
  more$measured <- ordered_measures(study)
  delayedAssign("of_persons", tells_persons(c(study_names(study), gsub("[?!:,()]", " ", study_book(study)$label))),
    assign.env = more
  )
  # Of those names that are variables with a label.
  more$labels_of <- function(names) {
    known <- intersect(study_names(study), names)
    label <- label_of_variables(study, known)
    stats::setNames(label, known)[label != known]
  }
  delayedAssign("classes", class_columns(study), assign.env = more)
  delayedAssign("periods", period_columns(study, or_default(more$time_name, more$likely$time)), assign.env = more)
  delayedAssign("blocks", block_columns(study), assign.env = more)
  delayedAssign("splits", split_columns(study), assign.env = more)
  delayedAssign("design", design_vectors(whole), assign.env = more)
  delayedAssign("batteries", find_batteries(study), assign.env = more)
  delayedAssign("repeated", if (holds_rows(study)) study_repeats(study), assign.env = more)
  delayedAssign("likely", guess_time(study_columns(study, study_names(study)), study_book(study)), assign.env = more)
  # In which order a database gives its rows is not known.
  delayedAssign("order", if (!holds_rows(whole)) "database" else column_of_order(study), assign.env = more)
  more$column <- function(name) study_column(study, name)
  delayedAssign("suspicious", suspicious_columns(study), assign.env = more)
  more
}

# The numbers that stand for values: numbers themselves, steps of an order, no and yes; nothing for other words.
code_values <- function(column) {
  if (is.numeric(column)) return(as.double(column))
  if (is.ordered(column)) return(as.double(as.integer(column)))
  kinds <- unique(column[!is.na(column)])
  if (length(kinds) > 2L) rep(NA_real_, length(column)) else as.double(match(column, sort_binary(as.character(kinds))) - 1L)
}

#' Two columns of a sample over the cases where both are present
#' @noRd
narrow_sample <- function(sample, x, y) {
  columns <- sample$columns[c(x, y)]
  no_x <- is.na(columns[[1]])
  no_y <- is.na(columns[[2]])
  rows <- which(!no_x & !no_y)
  dropped <- c(
    x = sum(no_x & !no_y), y = sum(no_y & !no_x), both = sum(no_x & no_y), aside = or_default(sample$origin$aside, 0L)
  )
  taken <- lapply(columns, `[`, rows)
  variables <- sample$variables[match(c(x, y), sample$variables$variable), ]
  coding <- stats::setNames(sample$coding[c(x, y)], c("x", "y"))
  new_sample(
    columns = taken, variables = variables, coding = coding, origin = sample$origin, more = sample$more,
    row = sample$row[rows], x = taken[[1]], y = taken[[2]], dropped = dropped
  )
}

#' A sample over some of its cases alone
#' @param rows Places among the sample's cases.
#' @noRd
sample_part <- function(sample, rows) {
  sample$columns <- lapply(sample$columns, `[`, rows)
  sample$row <- sample$row[rows]
  for (side in intersect(c("x", "y"), names(sample))) sample[[side]] <- sample[[side]][rows]
  sample
}

check_both_groups <- function(sample, side) {
  coding <- sample$coding[[side]]
  values <- sample[[side]]
  if (is.null(coding$one) || length(values) < 3L || min(values) < max(values)) return(invisible())
  word <- if (values[1] == 1) coding$one else coding$zero
  name <- sample$names[match(side, c("x", "y"))]
  abort_undefined(
    problem("%s is \"%s\" in all %d complete pairs: the other group is empty.", name, word, length(values)),
    "Check whether missing values exclude a whole group."
  )
}

#' What a binary variable's two values are called, as 0 and 1; other columns of two values are recoded, as far as the
#' coefficient takes them for binary
#' @param wanted How many sides the coefficient takes for binary.
#' @noRd
as_zero_one <- function(sample, wanted) {
  sides <- c("x", "y")
  declared <- vapply(sides, function(side) !is.null(sample$coding[[side]]$one), NA)
  # Of a measure that happens to take two values the values stay.
  if (wanted < 2L && any(declared)) sides <- sides[declared][seq_len(wanted)]
  for (side in sides) {
    values <- sample[[side]]
    kinds <- sort(unique(utils::head(values, 1000L)))
    if (length(kinds) > 2L || length(kinds <- sort(unique(values))) != 2L) next
    if (is.null(sample$coding[[side]]$one)) {
      sample$coding[[side]] <- list(zero = format(kinds[1]), one = format(kinds[2]))
    }
    if (!identical(kinds, c(0, 1))) sample[[side]] <- as.double(values == kinds[2])
  }
  sample
}

#' How many different values a column has; of more than twenty at its start that many, as more need not be counted
#' @noRd
count_kinds <- function(values) {
  first <- length(unique(utils::head(values, 2000L)))
  if (first > 20L || length(values) <= 2000L) first else length(unique(values))
}

#' Whether a column has two values
#' @noRd
two_valued <- function(values) length(unique(utils::head(values, 1000L))) <= 2L && length(unique(values)) == 2L

sample_size <- function(sample) length(sample$row)

sample_cases <- function(sample, at = seq_along(sample$row)) sample$more$name_cases(sample$row[at])

#' The group of each case, or `NULL`
#' @noRd
sample_groups <- function(sample) if (!is.null(sample$more$groups)) sample$more$groups[sample$row]

#' The other measures of the study among these cases, as numbers; those that are mostly there and vary
#' @noRd
sample_others <- function(sample, most = 150L) {
  names <- utils::head(setdiff(sample$more$measured, sample$names), most)
  row <- utils::head(sample$row, 8L * length(names) + 200L)
  columns <- sample$more$numbers_at(names, row)
  Filter(function(v) mean(is.na(v)) < 0.3 && length(unique(v[!is.na(v)])) > 1L, columns)
}

#' What may split these cases, each a `name` and `values`: the declared groups first, then columns of words outside the pair
#' @noRd
sample_splits <- function(sample) {
  declared <- sample_groups(sample)
  open <- sample$more$splits[setdiff(names(sample$more$splits), sample$names)]
  splits <- lapply(names(open), function(name) list(name = name, values = open[[name]][sample$row]))
  first <- if (!is.null(declared)) list(list(name = sample$more$group_name, values = declared))
  c(first, Filter(function(split) mean(is.na(split$values)) < 0.1, splits))
}

#' The classes of these cases, each a `name` and `group`, whole numbers from 1 on, and whether they are periods (`in_time`)
#' or a measure's own values mark them (`by_values`); those of five groups or more with two cases or more in the middle one
#' @noRd
sample_classes <- function(sample) {
  columns <- c(sample$more$classes, sample$more$periods, sample$more$blocks)
  classes <- lapply(names(columns), function(name) {
    group <- columns[[name]][sample$row]
    counts <- tabulate(group)
    there <- counts > 0
    if (anyNA(group) || sum(there) < 5L || stats::median(counts[there]) < 2) return(NULL)
    list(
      name = name, group = if (all(there)) group else cumsum(there)[group], by_values = name %in% names(sample$more$blocks),
      in_time = name %in% names(sample$more$periods)
    )
  })
  classes[!vapply(classes, is.null, NA)]
}

#' Whether a column that nobody declared is made of the pair's values, or of other measures: asked where something is to be
#' told of its groups, as it takes a while
#' @noRd
is_made_of <- function(sample, name) {
  if (identical(name, sample$more$group_name)) return(FALSE)
  # Of residuals what they were measured as.
  pair <- or_default(sample$measured, list(sample$x, sample$y))
  is_banded(sample$more$column(name)[sample$row], pair[[1]], pair[[2]], sample_others(sample, 12L))
}

#' The values of its columns that look like codes for "no answer", among all cases
#' @noRd
sample_codes <- function(sample) {
  suspicious <- sample$more$suspicious
  suspicious[intersect(sample$names, names(suspicious))]
}

#' The time of these cases, and the units of which each has it once: as declared, else by what looks like it
#' @return `NULL`, or a list: `name`, `values`, `declared`, `unit` (`NULL`, or a list of `name`, `values` and `declared`).
#' @noRd
sample_time <- function(sample) {
  more <- sample$more
  name <- if (is.null(more$time_name)) more$likely$time else more$time_name
  unit <- or_default(more$likely$unit, more$group_name)
  if (is.null(name) || name %in% sample$names) return(NULL)
  if (isTRUE(unit %in% sample$names)) unit <- NULL
  at <- function(name) more$column(name)[sample$row]
  list(
    name = name, values = at(name), declared = !is.null(more$time_name),
    unit = if (!is.null(unit)) {
      list(name = unit, values = plain_text(as.character(at(unit))), declared = identical(unit, more$group_name))
    }
  )
}

#' The pair on the grid of its time
#' @return `NULL`, or what [sample_series()] gives, with the time's own record (`of`).
#' @noRd
series_of_sample <- function(sample) {
  time <- sample_time(sample)
  series <- if (!is.null(time)) sample_series(sample, time)
  if (!is.null(series) && is.null(series$trouble)) c(series, list(of = time))
}

# Whether a trend can be looked for; what explains the order of the rows.
sample_has_time <- function(sample) !is.null(series_of_sample(sample))

sample_order <- function(sample) sample$more$order

#' A sample's two columns on the grid of their time, or over units and times
#' @param time From [sample_time()].
#' @return A list: `x`, `y`, `grid`, and of several units `unit` and `time`, along the cases, or `averaged`, of how many
#'   units they are the mean; or with `trouble` and `hint`.
#' @noRd
sample_series <- function(sample, time) {
  grid <- sample_grid(sample, time)
  if (is.null(grid$trouble)) return(list(x = grid$place(sample$x), y = grid$place(sample$y), grid = grid))
  panel <- if (!is.null(time$unit)) panel_of(sample, time)
  if (is.null(panel)) grid[c("trouble", "hint")] else panel
}

# The grid of a time; pairs of the same cases share it.
sample_grid <- function(sample, time) {
  last <- sample$more$last_grid
  if (identical(last$row, sample$row) && identical(last$name, time$name)) return(last$grid)
  grid <- time_grid(time$values, time$name, sample$more$file_rows[sample$row])
  if (is.environment(sample$more)) sample$more$last_grid <- list(row = sample$row, name = time$name, grid = grid)
  grid
}

#' The design of a sample's cases, or `NULL`
#' @noRd
sample_design <- function(sample) design_of_cases(sample$more$design, sample$row)

#' A design over some cases
#' @param design From [design_vectors()]; `at` places of cases.
#' @noRd
design_of_cases <- function(design, at) {
  if (is.null(design)) return(NULL)
  named <- list(method = design$design$method, factor = unlist(design$design$factor), names = design$design, df = design$df)
  # All of them as they come: nothing is copied.
  if (identical(at, seq_along(design$weight))) return(c(design[c("weight", "unit", "stratum", "replicates")], named))
  c(list(
    weight = design$weight[at], unit = design$unit[at], stratum = design$stratum[at],
    replicates = if (!is.null(design$replicates)) design$replicates[at, , drop = FALSE]
  ), named)
}
