# What each doubt says: the figures that earned it, and what to do next.

#' The doubts as a table of cautions
#'
#' @param doubts A list from `pair_doubts()`; `x`, `y` the names of the pair, `variables` their entries in the codebook,
#'   `file` the data file's name, `group` the grouping variable's.
#' @noRd
cautions_of <- function(doubts, variables = NULL, x = NULL, y = NULL, file = "FILE", group = "GROUP") {
  if (!length(doubts)) return(new_cautions())
  told <- lapply(doubts, function(doubt) {
    caution_text(doubt$code, doubt$figures, list(variables = variables, x = x, y = y, file = file,
      group = group))
  })
  new_cautions(vapply(doubts, `[[`, "", "code"), vapply(doubts, `[[`, "", "severity"), vapply(told, `[`, "", 1L),
    vapply(told, `[`, "", 2L))
}

# Names are set in quotes where the shell would take them apart.
shell_word <- function(text) if (grepl("^[A-Za-z0-9_./-]+$", text)) text else sprintf("\"%s\"", text)

call_line <- function(about, what, extra = "") {
  trimws(sprintf("Next: unsere %s %s %s %s %s", what, shell_word(about$file), shell_word(about$x), shell_word(about$y),
    extra))
}

inside <- function(about, name) if (is.null(about$variables)) name else inside_of(about$variables, name)

# One entry a code: figures `f`, and what the pair is, `about`; the sentence and the advice.
caution_texts <- list(
  same_measure = function(f, about) {
    c(
    if (f$equal) "Both variables hold the same values." else "One variable is a linear copy of the other.",
    "This r says nothing about the world. Next: leave one of them out."
  )
  },
  codes_not_numbers = function(f, about) {
    c(
    sprintf("%s holds %s, far outside its other values; it looks like a code for \"no answer\" and counts as a number.",
      capital(inside(about, f$name)), paste(format(f$codes, trim = TRUE), collapse = ", ")),
    call_line(about, "relate", sprintf("--missing-codes=%s", paste(format(f$codes, trim = TRUE), collapse = ",")))
  )
  },
  shared_trend = function(f, about) {
    c(
    sprintf("Both are series over time; their changes correlate r = %s (%s), what is left after the trend r = %s (%s).",
      format_r(f$changes$r), format_p_clause(f$changes$p), format_r(f$detrended$r), format_p_clause(f$detrended$p)),
    call_line(about, "flag")
  )
  },
  serial_dependence = function(f, about) {
    c(
    sprintf("Neighbouring times resemble each other beside the line (Durbin-Watson %s); p and interval are too narrow.",
      format_decimals(f$durbin_watson, 2)),
    call_line(about, "flag")
  )
  },
  part_whole = function(f, about) {
    c(
    sprintf("%s is exactly made up of %s and other variables; a part always goes with its whole.",
      capital(inside(about, f$whole)), inside(about, f$part)),
    sprintf("Next: relate %s to the rest, the whole without it: derive(rest = \"%s - %s\").", inside(about, f$part),
      f$whole, f$part)
  )
  },
  mixed_groups = function(f, about) {
    c(
    sprintf("Within the %d groups r = %s%s.", f$groups, format_r(f$within), if (length(f$turned)) sprintf(
      "; it turns round in %s", list_some(f$turned, f$groups)) else ""),
    call_line(about, "draw scatter", sprintf("--by %s --panels --out groups.png", shell_word(about$group)))
  )
  },
  group_averages = function(f, about) {
    c(
    sprintf("%s; averages of groups correlate more tightly than the people in them.", f$why),
    "Speak of the groups, not of the people. Next: relate the single cases, where they can be had."
  )
  },
  shared_denominator = function(f, about) {
    c(
    sprintf("Both are rates per %s; what they are divided by alone makes them go together.", f$base),
    "Next: relate the counts themselves, or with their base held constant."
  )
  },
  one_case = function(f, about) {
    c(
    sprintf("Without %s (%s, %s) r would be %s (%s).", f$case, format_number(f$x, 5), format_number(f$y, 5),
      format_r(f$r),
      format_p_clause(f$p)),
    paste("Look this case up before relying on r.", call_line(about, "relate", "--coefficient spearman"))
  )
  },
  curved = function(f, about) {
    c(
    sprintf("The points %s: a curve term is clear of chance, t(%d) = %s, %s.", sub("bends", "bend", f$direction), f$df,
      format_decimals(f$t, 2), format_p_clause(f$p)),
    call_line(about, "line", sprintf("--shape linear,%squadratic", if (f$positive) "log," else ""))
  )
  },
  uneven_spread = function(f, about) {
    c(
    sprintf("The spread of %s about the line changes along %s: %s times as wide in the upper third as in the lower, %s.",
      inside(about, about$y), inside(about, about$x), format_number(f$ratio, 2), format_p_clause(f$p)),
    paste("p and interval are approximate then.", call_line(about, "relate", "--interval bootstrap --test permutation"))
  )
  },
  floor_or_ceiling = function(f, about) {
    c(
    sprintf("%s %% of the cases share the %s value of %s (%s).", percent(round(f$share, 2)), f$end, inside(about,
      f$name),
      format_number(f$value, 5)),
    paste("The scale ends before the cases do; r is too small then.", call_line(about, "draw scatter",
      "--out scatter.png"))
  )
  },
  coarse_scale = function(f, about) {
    c(
    sprintf("%s takes %d values only.", capital(inside(about, f$name)), f$values), call_line(about, "relate",
      "--coefficient spearman")
  )
  },
  rare_category = function(f, about) {
    c(
    sprintf("One side of \"%s\" holds %s only.", label_or(about, f$name), count_of(f$count, "case")),
    "Read r with its interval; it rests on these few."
  )
  },
  few_cases = function(f, about) {
    c(
    sprintf("%d pairs are few.", f$n), "Rely on the interval, not on r alone."
  )
  },
  many_missing = function(f, about) {
    c(
    sprintf("%d of %d cases are left out because a value is missing.", f$dropped, f$all),
    sprintf("Ask whether they differ from the others. Next: unsere look %s", shell_word(about$file))
  )
  },
  many_tests = function(f, about) {
    c(
    sprintf("%d tests without adjustment: about %s would come out below .05 by chance alone.", f$tests,
      format_number(f$tests * 0.05, 2)),
    "Next: use multiplicity = \"holm\" (--multiplicity holm)."
  )
  },
  outside_data = function(f, about) {
    c(
    sprintf("%s outside the data (%s): nobody has seen whether the line goes on.", f$what, f$reach),
    "Next: predict within the data, or find cases out there."
  )
  }
)

# What each code means in a few words, for summaries.
caution_meanings <- list(
  same_measure = "Both are one measure.", codes_not_numbers = "A code may count as a number.",
  shared_trend = "They may share no more than a trend.",
    serial_dependence = "Neighbouring times are no independent cases.",
  part_whole = "A part with its whole.", mixed_groups = "Within groups it is another relation.",
  group_averages = "The cases are averages.", shared_denominator = "Both are rates of one base.",
  one_case = "It rests on one case.", curved = "The points bend.", uneven_spread = "The spread changes.",
  floor_or_ceiling = "Many cases sit at the end of the scale.", coarse_scale = "Few values.",
  rare_category = "One side is nearly empty.", few_cases = "Few pairs.", many_missing = "Many values are missing.",
  many_tests = "Many tests.", outside_data = "Outside the data."
)

caution_text <- function(code, figures, about) caution_texts[[code]](figures, about)

label_or <- function(about, name) if (is.null(about$variables)) name else label_of(about$variables, name)

list_some <- function(names, of, most = 4L) {
  if (length(names) == of) return(sprintf("all %d of them", of))
  paste0(paste(utils::head(names, most), collapse = ", "), if (length(names) > most) sprintf(" and %d more",
    length(names) - most))
}
