# What several places of the desk write into the brief.

#' One field of a variable's entry in the brief; an empty one is taken out
#' @noRd
change_variable <- function(desk, name, field, value) {
  change_brief(desk, function(brief) with_variable(brief, name, field, value))
}

# A brief with one field of a variable set; what is empty is left out.
with_variable <- function(brief, name, field, value) {
  entry <- as.list(brief$variables[[name]])
  entry[[field]] <- if (!nzchar(value)) NULL else if (field == "missing_codes") as_codes(value) else value
  # An order makes it ordinal by itself.
  if (field == "level") entry$values <- NULL
  brief$variables[[name]] <- if (length(entry)) entry
  brief
}

#' Codes for no answer beside those that the variable has, whether the brief or a codebook gave them
#' @noRd
add_missing_codes <- function(desk, name, codes) {
  book <- study_book(desk$study())
  before <- book$missing_codes[book$variable == name]
  known <- if (length(before) && !is.na(before)) code_entry(before)
  change_variable(desk, name, "missing_codes", paste(unique(c(known, codes)), collapse = ";"))
}

#' "-9; 99" as codes: numbers where they are
#' @noRd
as_codes <- function(text) {
  codes <- code_entry(text)
  numbers <- suppressWarnings(as.numeric(codes))
  if (anyNA(numbers)) as.list(codes) else as.list(numbers)
}

as_names <- function(text) {
  parts <- trimws(strsplit(as.character(text), "[;,]")[[1]])
  if (any(nzchar(parts))) as.list(parts[nzchar(parts)])
}

as_numbers <- function(text) {
  parts <- trimws(strsplit(text, "[; ]+")[[1]])
  numbers <- suppressWarnings(as.numeric(sub(",", ".", parts[nzchar(parts)], fixed = TRUE)))
  if (anyNA(numbers)) abort_usage(
    problem("\"%s\" contains something that is not a number.", text),
    "Several are separated by semicolons."
  )
  as.list(numbers)
}

#' Look at a pair: as it stands in the brief, else as a draft, which is in no report until it is ticked
#' @noRd
open_pair <- function(desk, view, x, y) {
  brief <- shiny::isolate(desk$brief())
  known <- which(vapply(brief$pairs, function(pair) pair$x == x && pair$y == y, NA))
  view$pair <- if (length(known)) known[1]
  view$draft <- if (!length(known)) list(x = x, y = y)
  view$x <- view$y <- view$brush <- NULL
}

#' The pair that is looked at, with its place in the brief, `NULL` for a draft
#' @noRd
current_pair <- function(brief, view) {
  if (!is.null(view$draft)) return(list(pair = view$draft))
  at <- pair_at(brief, view)
  if (!is.null(at)) list(pair = brief$pairs[[at]], at = at)
}

#' Change the pair that is looked at, in the brief or as a draft
#' @noRd
change_pair <- function(desk, view, change) {
  if (is.null(view$draft)) {
    return(change_brief(desk, function(brief) {
      at <- pair_at(brief, view)
      if (!is.null(at)) brief$pairs[[at]] <- change(brief$pairs[[at]])
      brief
    }))
  }
  new <- tryCatch(change(view$draft), unsere_error = identity)
  brief <- shiny::isolate(desk$brief())
  fault <- if (inherits(new, "unsere_error")) {
    trouble_of(new)
  } else {
    brief$pairs <- c(brief$pairs, list(new))
    fault_of_brief(desk, brief)
  }
  if (is.null(fault)) view$draft <- new else desk$trouble(fault[c("text", "hint")])
}

#' Tick the pair into the report, or out of it; out of it, it stays in view as a draft
#' @noRd
keep_pair <- function(desk, view, in_report) {
  brief <- shiny::isolate(desk$brief())
  now <- current_pair(brief, view)
  if (is.null(now) || in_report == !is.null(now$at)) return(invisible())
  if (in_report) {
    if (!change_brief(desk, function(brief) {
      brief$pairs <- c(brief$pairs, list(now$pair))
      brief
    })) return(invisible())
    view$pair <- length(brief$pairs) + 1L
    view$draft <- NULL
  } else {
    view$draft <- now$pair
    change_brief(desk, function(brief) {
      brief$pairs[[now$at]] <- NULL
      if (!length(brief$pairs)) brief$pairs <- NULL
      brief
    })
  }
}

#' The pair that is looked at: its place in the brief, or `NULL`
#' @noRd
pair_at <- function(brief, view) {
  at <- view$pair
  if (!isTRUE(at %in% seq_along(brief$pairs))) at <- length(brief$pairs)
  if (at > 0L) at
}

add_series <- function(desk, x, y) {
  change_brief(desk, function(brief) {
    if (!any(nzchar(c(x, y))) || identical(x, y)) abort_usage("Two different series are needed.", "Choose both.")
    if (is.null(brief$spurious$time)) brief$spurious$time <- role_variable(desk$study(), "time")
    brief$spurious$pairs <- unique(c(brief$spurious$pairs, list(list(x, y))))
    brief
  })
}

#' Leave cases aside in the brief, with the reason
#' @noRd
leave_aside <- function(desk, cases, reason) {
  change_brief(desk, function(brief) {
    cases <- trimws(cases)
    reason <- trimws(or_default(reason, ""))
    if (!any(nzchar(cases))) abort_usage("Which case?", "Give its name.")
    if (!nzchar(reason)) abort_usage("A case is excluded with a reason.", "Say why, in a few words.")
    for (case in cases[nzchar(cases)]) brief$leave_out[[case]] <- reason
    brief
  })
}
