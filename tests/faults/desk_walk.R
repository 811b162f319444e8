# A walk through the desk without a browser: data brought in, variables put right, a pair asked, drawn, saved, written
# up. Run by tests/faults/run.sh in the folder of the demo. What the desk tells stands on the page, and the walk goes on;
# the status is 0 where nothing was told, 3 where something was, 1 where it broke.
library(unsere)
unsere <- asNamespace("unsere")
told <- character()
step <- function(code) {
  tryCatch(unsere$with_files(suppressMessages(suppressWarnings(shiny::isolate(code)))), unsere_error = function(e) {
    told <<- c(told, unsere:::error_text(e))
    NULL
  })
}
places <- unsere$desk_places()
show <- function(desk, view, place) {
  step(view$place <- place)
  parts <- places[[place]]
  for (part in intersect(c("top", "rest"), names(parts))) {
    page <- step(as.character(parts[[part]](desk, view)))
    if (any(grepl("class=\"trouble", page))) told <<- c(told, paste("on the page of", place))
  }
  image <- step(unsere$place_image(parts, desk, view, list(width = 600, height = 400)))
  if (!is.null(parts$figure) && is.null(image)) told <<- c(told, paste("no figure on the page of", place))
}

walk <- function() {
  desk <- step(unsere$new_desk(unsere$desk_brief("learners.csv"), "."))
  if (is.null(desk)) return()
  view <- shiny::reactiveValues(place = "variables")
  set <- function(key, value) step(unsere$set_value(desk, view, places, key, value))
  act <- function(what, value = NULL, ...) step(unsere$do_act(desk, view, places, what, value, list(...)))
  show(desk, view, "variables")
  set("variable:label:practice_hours", "Practice a week")
  act("derive", name = "log_practice", expression = "log(practice_hours)")
  show(desk, view, "look")
  set("pair:x", "practice_hours")
  set("pair:y", "speaking_score")
  set("pair:kept", TRUE)
  set("pair:shape", "quadratic")
  show(desk, view, "relate")
  act("start_matrix")
  show(desk, view, "matrix")
  act("undo")
  act("redo")
  act("save", path = "kept.yml")
  # The run is a process of its own, and tried by itself.
  Sys.unsetenv("LD_PRELOAD")
  act("run", folder = "out")
  while (unsere$run_goes_on(desk)) Sys.sleep(0.05)
  if (!is.null(desk$run) && !identical(desk$run$status(), 0L)) told <<- c(told, "the run")
}
walk()
cat(told, sep = "\n")
quit(status = if (length(told)) 3L else 0L)
