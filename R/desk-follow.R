# The next step of a caution as a button that runs.

#' What a caution's button does
#' @noRd
follow_up <- function(code, figures, relation) {
  step <- function(label, what, value) list(label = label, what = what, value = value)
  switch(code,
    curved = step("Use a quadratic line", "set_pair", "shape\rquadratic"),
    interval_too_narrow = ,
    uneven_spread = step("Report the jackknife interval", "set_pair", "interval\rjackknife"),
    one_case = ,
    far_value = step("Use ranks (Spearman)", "set_pair", "coefficient\rspearman"),
    coarse_scale = step("Use ranks (Spearman)", "set_pair", "coefficient\rspearman"),
    mixed_groups = if (!is.null(relation$sample$more$group_name)) {
      step("One panel per group", "panels", relation$sample$more$group_name)
    },
    third_variable = step_of_control(figures$third),
    shared_trend = ,
    serial_dependence = step("Check for a shared trend", "to_doubt", paste(relation$x, relation$y, sep = "\r")),
    codes_not_numbers = step_of_codes(figures)
  )
}

# The values that the caution names, as missing-value codes.
step_of_codes <- function(figures) {
  codes <- format(figures$code, trim = TRUE, digits = 15)
  list(
    label = say("Treat %s as missing", paste(codes, collapse = ", ")), what = "no_answer",
    value = paste(c(figures$name, codes), collapse = "\r")
  )
}

# The potential confounder that the caution names, as a control variable.
step_of_control <- function(name) {
  if (is_word(name)) list(label = "Control for it", what = "part", value = paste("control", name, sep = "\r"))
}
