# Planning: how many cases, before there are any; a page of its own that asks for no data.

place_plan <- function() {
  new_place("plan", "Plan", "How many cases are needed?",
    top = plan_top, figure = plan_drawing, rest = plan_rest, set = plan_set, act = plan_act,
    result = function(desk, view) desk_plan(desk)
  )
}

# The brief's line of each control, under what it is called here.
plan_labels <- c(
  r = "Expected r", power = "Power", half_width = "or half-width of the interval", n = "or number of cases",
  class_size = "Cases per class", icc = "Intraclass correlation", class_cv = "Variation of class sizes",
  classes = "or number of classes", strata = "Strata", missing = "Share missing", tests = "Number of tests",
  alpha = "Significance level",
  other = "Compared with r ="
)
plan_hints <- c(
  r = "0.2; 0.4", power = "0.8", half_width = "0.1", n = "120", class_size = "25",
  icc = "0.2", class_cv = "0.3", classes = "20", strata = "1", missing = "0.1", tests = "1",
  alpha = "0.05", other = "0.5"
)

plan_top <- function(desk, view) {
  plan <- desk$brief()$plan
  tags <- htmltools::tags
  field <- function(key) {
    control_text(paste0("plan:", key), plan_labels[[key]], paste(unlist(plan[[key]]), collapse = "; "), plan_hints[[key]])
  }
  first <- c("r", "power", "half_width", "n")
  tags$div(
    tags$p(class = "lead", say(
      "For a study to come: enter the expected r, and the power, the width of the interval or the number of cases."
    )),
    tags$div(class = "row", lapply(first, field), control_select(
      "plan:coefficient", "Coefficient", planned_coefficients(),
      or_default(plan$coefficient, plan_arguments()$coefficient$default)
    )),
    folded(
      say("Classes, missing answers, several tests"),
      open = if (isTRUE(view$options_open)) NA,
      tags$div(class = "row", lapply(setdiff(names(plan_labels), first), field), control_select(
        "plan:expect", "Direction predicted", plan_arguments()$expect$allowed, plan$expect
      ))
    ),
    if (!is.null(plan)) act_button("drop_plan", "Remove the plan")
  )
}

desk_plan <- function(desk) {
  brief <- desk$brief()
  if (!is.null(brief$plan)) answer_entry("plan", NULL, brief$plan, brief)
}

plan_drawing <- function(desk, view) {
  plan <- desk_plan(desk)
  if (!is.null(plan)) figure_plan(plan)
}

plan_rest <- function(desk, view) {
  or_trouble({
    plan <- desk_plan(desk)
    if (is.null(plan)) return(NULL)
    tags <- htmltools::tags
    tags$div(answer_sentence(plan), cases_table(plan_cells(plan), "Plan."))
  })
}

plan_set <- function(desk, view, key, value) {
  if (!startsWith(key, "plan:")) return(FALSE)
  field <- sub("^plan:", "", key)
  if (!field %in% c("r", "power", "half_width", "n", "coefficient")) view$options_open <- TRUE
  change_brief(desk, function(brief) {
    given <- trimws(as.character(value))
    value <- if (field %in% c("coefficient", "expect")) given else as_numbers(given)
    brief$plan[[field]] <- if (!nzchar(given)) NULL else if (length(value) == 1L) value[[1]] else value
    if (!length(brief$plan)) brief$plan <- NULL
    brief
  })
  TRUE
}

plan_act <- function(desk, view, what, value, fields) {
  if (what != "drop_plan") return(FALSE)
  change_brief(desk, function(brief) brief[names(brief) != "plan"])
  TRUE
}
