#' A floor or ceiling effect
#' @noRd
caution_floor_or_ceiling <- function() {
  new_caution("floor_or_ceiling",
    place = 21, check = check_ends, schemes = c("simple", "design"), always = TRUE,
    meaning = "Floor or ceiling effect.",
    evidence = function(f, pair) {
      if (!is.null(f$zero)) {
        return(template(
          "%s%% of the cases have 0 in %s: r describes at once whether there is any and how much.",
          shown(round(f$share, 2), "percent"), shown(f$name, "label")
        ))
      }
      template(
        "%s%% of the cases share the %s value of %s (%s).", shown(round(f$share, 2), "percent"), f$end,
        shown(f$name, "label"), shown(f$value, "number", 5)
      )
    },
    advice = function(f, pair) {
      if (!is.null(f$zero)) {
        return(template("Report ranks beside it, or relate none against any, and the amounts above 0, separately."))
      }
      template("Ceiling or floor effect: r is too small if the scale ends before the cases do.")
    }
  )
}

#' Many cases at an end of the scale
#' @noRd
check_ends <- function(sample, evidence) {
  doubts <- lapply(1:2, function(side) {
    v <- sample$columns[[side]]
    if (!sample$variables$level[side] %in% c("numeric", "ordinal")) return(NULL)
    crowded <- crowded_end(v)
    if (!is.null(crowded)) crowded <- crowded_end(once_a_class(v, sample))
    if (is.null(crowded)) return(NULL)
    zero <- zero_is_real(crowded, sample$variables[side, ])
    figures <- c(list(name = sample$names[side]), crowded, if (zero) list(zero = TRUE))
    new_finding("floor_or_ceiling", if (zero) "note" else "warning", figures, next_step("draw scatter"))
  })
  Filter(Negate(is.null), doubts)
}

# Of counts, hours and amounts without a declared scale none is a value like any other, and no end of a scale.
zero_is_real <- function(crowded, variable) {
  crowded$end == "lowest" && crowded$value == 0 && variable$level == "numeric" &&
    is.na(variable$range) && is.na(variable$values)
}

#' The end of a column that more cases share than a short scale would have there
#' @return `NULL`, or a list: `value`, `share`, `end`.
#' @noRd
crowded_end <- function(v) {
  kinds <- count_kinds(v)
  if (length(v) < 20L || kinds < 3L) return(NULL)
  ends <- range(v)
  share <- c(mean(v == ends[1]), mean(v == ends[2]))
  # A short scale puts more cases on each of its points.
  least <- if (kinds >= 9L) 0.15 else if (kinds == 8L) 0.3 else max(0.35, 2.5 / kinds)
  if (max(share) < least) return(NULL)
  at <- which.max(share)
  list(value = ends[at], share = share[at], end = c("lowest", "highest")[at])
}

# What all cases of a class share is had once from each.
once_a_class <- function(v, sample) {
  for (class in sample_classes(sample)) {
    first <- match(seq_len(max(class$group)), class$group)
    if (all(v == v[first][class$group])) return(v[first])
  }
  v
}
