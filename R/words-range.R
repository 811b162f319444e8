# What is said of r corrected for a restricted range.

unrestricted_sentence <- function(result, digits = 2) {
  found <- result$unrestricted
  if (is.null(found)) return(NULL)
  say(
    "Corrected for %s restriction of range (SD of %s %s here, %s in the population) r was %s, %s%% CI %s.",
    restriction_word(found$restriction), range_name(result), format_number(found$sd, 3),
    format_number(found$population_sd, 3), format_r(found$r, digits), percent(result$confidence),
    format_interval(found$ci_low, found$ci_high)
  )
}

unrestricted_clause <- function(x) {
  found <- x$unrestricted
  if (is.null(found)) return(NULL)
  say(
    "r would be %s %s in the population (SD of %s %s, here %s; %s restriction)", format_r(found$r),
    format_interval(found$ci_low, found$ci_high), range_name(x), format_number(found$population_sd, 3),
    format_number(found$sd, 3), restriction_word(found$restriction)
  )
}

range_name <- function(x) {
  name <- x$unrestricted$name
  if (name %in% x$sample$variables$variable) return(inside_of(x$sample$variables, name))
  label <- x$sample$more$labels_of(name)
  if (length(label)) small_inside(unname(label)) else name
}

restriction_word <- function(kind) {
  switch(kind,
    direct = say("direct"),
    indirect = say("indirect"),
    third = say("direct")
  )
}
