# What several places of the desk write into the brief.

#' One field of a variable's entry in the brief; an empty one is taken out
#' @noRd
change_variable <- function(desk, name, field, value) {
  change_brief(desk, function(brief) {
    entry <- as.list(brief$variables[[name]])
    entry[[field]] <- if (!nzchar(value)) NULL else if (field == "missing_codes") as_codes(value) else value
    # An order makes it ordinal by itself.
    if (field == "level") entry$values <- NULL
    brief$variables[[name]] <- if (length(entry)) entry
    brief
  })
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

add_pair <- function(desk, view, x, y) {
  brief <- shiny::isolate(desk$brief())
  known <- which(vapply(brief$pairs, function(pair) pair$x == x && pair$y == y, NA))
  if (!length(known)) {
    if (!change_brief(desk, function(brief) {
      brief$pairs <- c(brief$pairs, list(list(x = x, y = y)))
      brief
    })) return(invisible())
    known <- length(brief$pairs) + 1L
  }
  view$pair <- known[1]
  view$x <- view$y <- view$brush <- NULL
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
