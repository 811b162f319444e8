# What is said of r corrected for a restricted range.

unrestricted_sentence <- function(result, digits = 2) {
  corrected <- result$unrestricted
  if (is.null(corrected)) return(NULL)
  say(
    "Corrected for %s restriction of range (SD of %s %s here, %s in the population) r was %s, %s%% CI %s.",
    restriction_word(corrected$restriction), range_name(result), format_number(corrected$sd, 3),
    format_number(corrected$population_sd, 3), format_r(corrected$r, digits), percent(result$confidence),
    format_interval(corrected$ci_low, corrected$ci_high)
  )
}

unrestricted_clause <- function(x) {
  corrected <- x$unrestricted
  if (is.null(corrected)) return(NULL)
  say(
    "r would be %s %s in the population (SD of %s %s, here %s; %s restriction)", format_r(corrected$r),
    format_interval(corrected$ci_low, corrected$ci_high), range_name(x), format_number(corrected$population_sd, 3),
    format_number(corrected$sd, 3), restriction_word(corrected$restriction)
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
