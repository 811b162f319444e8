# What the pictures of single variables share: the values of each panel, and the texts around them.

#' One row a value: `panel` (a factor, in the order asked for), `value`, `case`
#' @param categories Whether groups without an order are taken, by the places of their words; else they are refused.
#' @noRd
panel_values <- function(study, names, compare_log, categories = FALSE) {
  panels <- lapply(names, function(name) {
    named <- categories && level_of(study, name) == "nominal"
    numbers <- if (named) panel_categories(study, name) else study_numbers(study, name)
    present <- which(!is.na(numbers$values))
    if (!length(present)) abort_empty(name)
    one <- data.frame(
      zero = or_default(numbers$zero, NA), one = or_default(numbers$one, NA), panel = axis_heading(study_book(study), name),
      name = name, named = named, scale = say("untransformed"), value = numbers$values[present],
      case = case_names(study, present)
    )
    one$steps <- rep(list(numbers$steps), nrow(one))
    if (!compare_log || named) return(one)
    check_positive(one, name)
    logarithm <- one
    logarithm[c("panel", "scale")] <- list(say("%s, natural logarithm", label_of(study_book(study), name)), "logarithm")
    logarithm$value <- log(one$value)
    rbind(one, logarithm)
  })
  all <- do.call(rbind, panels)
  all$panel <- factor(all$panel, unique(all$panel))
  all
}

# The most frequent groups first; beyond a number that can be read the rest together.
panel_categories <- function(study, name, most = 20L) {
  seen <- study_categories(study, name)
  counts <- tabulate(seen$values, length(seen$kinds))
  order <- order(-counts)
  place <- match(seq_along(counts), order)
  kinds <- seen$kinds[order]
  if (length(kinds) > most) {
    place <- pmin(place, most)
    kinds <- c(kinds[seq_len(most - 1L)], say("%d others", length(kinds) - most + 1L))
  }
  list(values = as.double(place[seen$values]), steps = list(at = seq_along(kinds), labels = shorten_at_word(kinds, 28L)))
}

check_positive <- function(values, name) {
  bad <- which(values$value <= 0)
  if (!length(bad)) return(invisible())
  abort_undefined(
    problem(
      "%s has no logarithm in %s: %s is %s.", name, count_of(length(bad), "case"), values$case[bad[1]],
      format(values$value[bad[1]])
    ),
    "Omit compare_log, or use only values above zero."
  )
}

chosen_variables <- function(study, quos) {
  chosen <- pick_or_numeric(study, quos)
  if (!length(chosen)) abort_input("There is no numeric variable to draw.", "Name the variables.")
  chosen
}

single_texts <- function(figure, values, study, texts, title, caption) {
  one <- length(unique(values$panel)) == 1L
  counts <- vapply(split(values$value, values$panel), length, 0L)
  sources <- book_entries(study, unique(values$name))$source
  sources <- unique(sources[!is.na(sources) & !startsWith(sources, "derived:")])
  n <- if (length(unique(counts)) == 1L) paste("n =", format_count(counts[1])) else say(
    "n = %s to %s", format_count(min(counts)), format_count(max(counts))
  )
  figure + ggplot2::labs(
    title = text_or(texts$title, title),
    subtitle = text_or(texts$subtitle, paste(c(paste(sources, collapse = "; "), n)[c(length(sources) > 0, TRUE)],
      collapse = sprintf(" %s ", glyphs()$dash)
    )),
    caption = text_or(texts$caption, caption),
    x = if (one) levels(values$panel) else NULL
  )
}

single_title <- function(study, names, what) {
  if (length(names) > 1) return(say("%s of %d variables", what, length(names)))
  say("%s of %s", what, inside_of(study_book(study), names))
}

panels_apart <- function(values, scales = "free") {
  if (nlevels(values$panel) < 2L) return(NULL)
  ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = scales, labeller = ggplot2::as_labeller(wrapped_heading))
}

# A heading too long for a panel is wrapped, but not within the unit.
wrapped_heading <- function(headings) {
  vapply(headings, function(heading) {
    unit <- regexpr("\\([^()]*\\)$", heading)
    regmatches(heading, unit) <- gsub(" ", "\u00a0", regmatches(heading, unit), fixed = TRUE)
    wrap_lines(heading, 27)
  }, "")
}

panel_type <- function() {
  ggplot2::theme(
    strip.text = ggplot2::element_text(hjust = 0, face = "bold", colour = look$ink),
    panel.spacing = ggplot2::unit(18, "pt")
  )
}
