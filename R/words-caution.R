# What each doubt says: the figures that earned it, what to make of it, and the next step for the reader's door.

#' A table of cautions in words
#'
#' @param cautions From `new_cautions()`.
#' @param variables Entries of the codebook, for the labels.
#' @return A data frame: `code`, `severity`, `evidence`, `advice`.
#' @noRd
caution_words <- function(cautions, variables, door = door_r()) {
  told <- lapply(seq_len(nrow(cautions)), function(k) {
    doubt <- list(
      code = cautions$code[k], x = cautions$x[k], y = cautions$y[k], figures = cautions$figures[[k]],
      step = cautions$next_step[[k]], variables = variables
    )
    doubt_words(doubt, door)
  })
  data.frame(
    code = cautions$code, severity = cautions$severity, evidence = vapply(told, `[[`, "", "evidence"),
    advice = vapply(told, `[[`, "", "advice")
  )
}

doubt_words <- function(doubt, door) {
  f <- doubt$figures
  if (!is.null(f$pairs)) return(gathered_words(doubt, door))
  doubt$variables <- with_others(doubt$variables, attr(f, "labels"))
  text <- caution_texts[[doubt$code]](f, doubt)
  step <- doubt$step
  if (!is.null(step)) step$about <- f$name
  list(evidence = text[1], advice = paste(c(text[-1], step_words(step, doubt$x, doubt$y, door)), collapse = " "))
}

#' Several pairs of a matrix with one doubt
#' @noRd
gathered_words <- function(doubt, door, most = 3L) {
  pairs <- doubt$figures$pairs
  named <- vapply(pairs, function(pair) {
    say("%s with %s", inside_of(doubt$variables, pair$x), inside_of(doubt$variables, pair$y))
  }, "")
  more <- length(pairs) - most
  evidence <- paste0(
    count_of(length(pairs), "pair"), ": ", paste(utils::head(named, most), collapse = "; "),
    if (more > 0) say(" and %d more", more), "."
  )
  step <- step_words(doubt$step, pairs[[1]]$x, pairs[[1]]$y, door)
  list(evidence = evidence, advice = paste(c(say(caution_meanings[[doubt$code]]), step), collapse = " "))
}

# One entry a code: from the figures `f`, and the doubt `d` for its labels, to the sentence and, where there is more to say
# than the next step, what to make of it.
caution_texts <- list(
  same_measure = function(f, d) {
    if (!is.null(f$by)) return(bent_words(f, d))
    said <- if (f$equal) say("Both variables hold the same values") else say("One variable is a linear copy of the other")
    said <- paste0(
      said,
      if (!isTRUE(f$rounded)) "." else if (f$equal) say(", one with fewer digits.") else say(", rounded.")
    )
    c(said, say("This r says nothing about the world. Next: leave one of them out."))
  },
  codes_not_numbers = function(f, d) {
    say(
      "%s holds %s, far outside its other values; it looks like a code for \"no answer\" and counts as a number.",
      capital(doubt_label(d, f$name)), paste(format(f$code, trim = TRUE), collapse = ", ")
    )
  },
  text_among_numbers = function(f, d) {
    c(
      say("%s is left out: %s.", capital(doubt_label(d, f$name)), f$cells),
      say("Next: correct these cells in a copy of the file, or declare them as missing codes.")
    )
  },
  shared_trend = function(f, d) {
    by <- if (is.null(f$time)) "" else say(" (by %s, which looks like the time)", f$time)
    few <- if (f$verdict == "cannot tell") say(" Too few periods to rule a tie beyond the trends in or out.") else ""
    if (!is.null(f$units)) {
      return(paste0(say(
        paste(
          "Both are series over time%s in %d units (%s); their changes correlate r = %s (%s),",
          "within units and times r = %s (%s)."
        ),
        by, f$units, label_of(d$variables, f$unit), format_r(f$changes$r), format_p_clause(f$changes$p),
        format_r(f$detrended$r), format_p_clause(f$detrended$p)
      ), few))
    }
    if (!is.null(f$averaged)) {
      by <- paste0(by, say(", in the mean of %d units (%s)", f$averaged, label_of(d$variables, f$unit)))
    }
    say(
      "Both are series over time%s; their changes correlate r = %s (%s), what is new in each period r = %s (%s).%s",
      by, format_r(f$changes$r), format_p_clause(f$changes$p), format_r(f$prewhitened$r),
      format_p_clause(f$prewhitened$p), few
    )
  },
  serial_dependence = function(f, d) {
    say(
      "Neighbouring times resemble each other beside the line (Durbin-Watson %s); p and interval are too narrow.",
      format_decimals(f$durbin_watson, 2)
    )
  },
  alike_neighbours = function(f, d) {
    if (length(f$places)) return(place_words(f))
    c(
      say(
        paste(
          "Rows next to each other are alike in both (r with the next row %s and %s), and no column says why: %d cases say",
          "as much as %d drawn one by one."
        ),
        format_r(f$near_x), format_r(f$near_y), as.integer(f$n), as.integer(max(2, round(f$effective)))
      ),
      say("Are they in order of time or place? Name the column that says so (or add one); classes likewise.")
    )
  },
  part_whole = function(f, d) {
    part <- doubt_label(d, f$part)
    if (isTRUE(f$difference)) return(gain_words(f, d, part))
    if (isTRUE(f$ratio)) return(ratio_words(f, d))
    if (isTRUE(f$shares)) return(share_words(f, d))
    c(
      say(
        "%s is %s made up of %s and other variables; a part always goes with its whole.",
        capital(doubt_label(d, f$whole)), if (isTRUE(f$rounded)) say("but for rounding") else say("exactly"), part
      ),
      say("Next: relate %s to the rest, the whole without it: derive(rest = \"%s - %s\").", part, f$whole, f$part)
    )
  },
  mixed_groups = function(f, d) {
    turned <- if (length(f$turned)) say("; it turns round in %s", list_some(f$turned, f$groups)) else ""
    say("Within the %d groups of %s r = %s%s.", f$groups, doubt_label(d, f$group), format_r(f$within), turned)
  },
  group_averages = function(f, d) {
    label <- if (!is.null(f$name)) label_of(d$variables, f$name)
    why <- if (!is.null(f$group)) {
      say("Each case is a %s of its own", label_of(d$variables, f$group))
    } else if (!is.null(f$counts)) {
      say("By its decimals \"%s\" is an average of %s values", label, label_of(d$variables, f$counts))
    } else if (isTRUE(f$decimals)) {
      say("By its decimals \"%s\" is an average of changing numbers of values", label)
    } else {
      say("\"%s\" is an average by its label", label)
    }
    c(
      say("%s; averages of groups correlate more tightly than the people in them.", why),
      say("Speak of the groups, not of the people. Next: relate the single cases, where they can be had.")
    )
  },
  shared_denominator = function(f, d) {
    c(
      if (is.null(f$held)) {
        say("Both are rates per %s; what they are divided by alone makes them go together.", f$base)
      } else {
        base_words(f, d)
      },
      say("Next: relate the counts themselves, or with their base held constant.")
    )
  },
  empty_corner = function(f, d) edge_words(f, d),
  third_variable = function(f, d) third_words(f, d),
  one_case = function(f, d) {
    c(
      say(
        "Without %s r would be %s (%s).",
        paste(
          sprintf("%s (%s, %s)", case_inside(f$case), format_number(f$x, 5), format_number(f$y, 5)),
          collapse = say(" and ")
        ),
        format_r(f$r), format_p_clause(f$p)
      ),
      if (length(f$case) > 1L) {
        say("Look these two cases up before relying on r.")
      } else {
        say("Look this case up before relying on r.")
      }
    )
  },
  restricted_range = function(f, d) {
    c(
      say(
        "%s runs from %s to %s here, %s of its range of %s; over the whole range r may be larger.",
        capital(doubt_label(d, f$name)), format_number(f$low), format_number(f$high),
        sprintf("%.0f %%", 100 * f$share), f$range
      ),
      say("Speak of cases like these, not of all.")
    )
  },
  repeated_rows = function(f, d) {
    c(
      say(
        "%s an earlier one in every variable (%s that of %s); each counts as a case of its own.",
        count_of(f$count, "row repeats", "rows repeat"), f$case, f$of
      ),
      say("Look whether they were entered twice; if so, leave them out in a copy.")
    )
  },
  curved = function(f, d) {
    if (f$direction == "wave") {
      return(say(
        "The points wave about the line, F(5, %d) = %s, %s: no straight line tells where they go.", f$df,
        format_statistic(f$t), format_p_clause(f$p)
      ))
    }
    if (!is.finite(f$t)) return(say("The points bend %s: they lie on a curve, without scatter.", say(f$direction)))
    say(
      "The points bend %s: a curve term is clear of chance, t(%d) = %s, %s.", say(f$direction), f$df,
      format_statistic(f$t), format_p_clause(f$p)
    )
  },
  uneven_spread = function(f, d) {
    c(
      say(
        "The spread of %s about the line changes along %s: %s times as wide %s, %s.", doubt_label(d, d$y),
        doubt_label(d, d$x), format_number(f$ratio, 2),
        if (is.null(f$from_middle)) say("in the upper third as in the lower") else say("far from its middle as near it"),
        format_p_clause(f$p)
      ),
      say("p and interval are approximate then, and shuffling does not cure it; an interval by the jackknife allows for it.")
    )
  },
  interval_too_narrow = function(f, d) {
    c(
      say(
        "The interval presumes data near normal; by these data, leaving out one case at a time, it is %s, not %s.",
        format_interval(f$wide_low, f$wide_high), format_interval(f$low, f$high)
      ),
      say("Report the wider one.")
    )
  },
  far_value = function(f, d) {
    c(
      say(
        "%s of %s (%s far from all others, which run from %s to %s.",
        paste(format_number(f$values, 5), collapse = say(" and ")),
        doubt_label(d, f$name),
        paste0(paste(case_inside(f$cases), collapse = ", "), if (length(f$values) > 1) say(") lie") else say(") lies")),
        format_number(f$low, 5), format_number(f$high, 5)
      ),
      say("Look whether it is right before relying on r or a line.")
    )
  },
  unequal_spreads = function(f, d) {
    c(
      say(
        "The groups differ in spread (sd %s with n = %s, %s with n = %s); Welch's test allows for that: t(%s) = %s, %s.",
        format_number(f$sd_zero), format_count(f$n_zero), format_number(f$sd_one), format_count(f$n_one),
        format_decimals(f$df, 1),
        format_statistic(f$t),
        format_p_clause(f$p)
      ),
      say("Report that test.")
    )
  },
  clustered_cases = function(f, d) {
    c(
      say(
        paste(
          "The cases come in %d classes (%s) and are alike in them (intraclass correlation %s and %s):",
          "%s say as much as %s drawn one by one. Leaving out one class at a time the interval is %s."
        ),
        f$classes, doubt_label(d, f$group), format_r(f$icc_x), format_r(f$icc_y), count_of(f$n, "case"),
        format(max(2, round(f$n / f$effect))), format_interval(f$low, f$high)
      ),
      say("Report that interval; p and the usual one are too good.")
    )
  },
  floor_or_ceiling = function(f, d) {
    c(
      say(
        "%s %% of the cases share the %s value of %s (%s).", percent(round(f$share, 2)), f$end,
        doubt_label(d, f$name), format_number(f$value, 5)
      ),
      say("The scale ends before the cases do; r is too small then.")
    )
  },
  coarse_scale = function(f, d) say("%s takes %d values only.", capital(doubt_label(d, f$name)), f$values),
  rare_category = function(f, d) {
    c(
      say("One side of \"%s\" holds %s only.", label_of(d$variables, f$name), count_of(f$count, "case")),
      say("Read r with its interval; it rests on these few.")
    )
  },
  few_cases = function(f, d) c(say("%d pairs are few.", f$n), say("Rely on the interval, not on r alone.")),
  many_missing = function(f, d) {
    c(
      say("%s of %s cases are left out because a value is missing.", format_count(f$dropped), format_count(f$all)),
      say("Ask whether they differ from the others.")
    )
  },
  many_tests = function(f, d) {
    say(
      "%d tests without adjustment: about %s would come out below .05 by chance alone.", f$tests,
      format_number(f$tests * 0.05, 2)
    )
  },
  reversed_item = function(f, d) {
    several <- length(f$name) > 1L
    c(
      say(
        "%s %s against the other %d items of the scale (r %s with them, %s among them).",
        paste(vapply(f$name, function(name) capital(doubt_label(d, name)), ""), collapse = say(" and ")),
        if (several) say("go") else say("goes"), f$items - length(f$name), format_r(f$with), format_r(f$among)
      ),
      say("Next: turn %s round before items are added up: derive with reverse().", if (several) say("them") else say("it"))
    )
  },
  outside_data = function(f, d) {
    c(
      say(
        "%s = %s lies outside the data (%s): nobody has seen whether the line goes on.", label_of(d$variables, f$name),
        paste(format_number(f$at, 6), collapse = ", "), reach_words(c(f$low, f$high))
      ),
      say("Next: predict within the data, or find cases out there.")
    )
  }
)

# What each code means in a few words, for summaries.
caution_meanings <- list(
  same_measure = "Both are one measure.", codes_not_numbers = "A code may count as a number.",
  text_among_numbers = "Text stands among its numbers.", shared_trend = "They may share no more than a trend.",
  serial_dependence = "Neighbouring times are no independent cases.", part_whole = "A part with its whole.",
  mixed_groups = "Within groups it is another relation.", group_averages = "The cases are averages.",
  shared_denominator = "Both are rates of one base.", one_case = "It rests on one case.", curved = "The points bend.",
  uneven_spread = "The spread changes.", repeated_rows = "Rows come twice.", restricted_range = "The range is narrow.",
  floor_or_ceiling = "Many cases sit at the end of the scale.",
  coarse_scale = "Few values.", rare_category = "One side is nearly empty.", few_cases = "Few pairs.",
  many_missing = "Many values are missing.", many_tests = "Many tests.", outside_data = "Outside the data.",
  interval_too_narrow = "The usual interval is too narrow.", clustered_cases = "Cases of a class are alike.",
  alike_neighbours = "Neighbouring rows are no independent cases.", empty_corner = "Cases end at a slanting edge.",
  third_variable = "Another variable goes with both.",
  far_value = "One value lies far from all others.", unequal_spreads = "The groups differ in spread.",
  reversed_item = "An item goes against the others of its scale."
)
