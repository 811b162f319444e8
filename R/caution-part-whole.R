#' A part with its whole
#' @noRd
caution_part_whole <- function() {
  new_caution("part_whole",
    place = 6, check = check_part_whole, meaning = "Part-whole correlation.",
    evidence = function(f, pair) {
      if (isTRUE(f$difference)) return(gain_evidence(f))
      if (isTRUE(f$ratio)) return(ratio_evidence(f))
      if (isTRUE(f$ranks)) return(template(
        paste(
          "Ranks of the same things: each case puts %s, %s and %s in an order, so where one ranks higher the others rank",
          "lower; ranks given at random would correlate %s."
        ),
        shown(f$whole, "label"), shown(f$part, "label"), others_with(f),
        shown(-1 / (length(f$with) + 1), "r")
      ))
      if (isTRUE(f$shares)) return(template(
        paste(
          "Part-whole correlation: %s, %s and %s add up to %s in every case, so where one is larger the others",
          "are smaller."
        ),
        shown(f$whole, "Label"), shown(f$part, "label"),
        others_with(f),
        shown(f$sum, "number", 6)
      ))
      if (!is.null(f$best)) return(template(
        "Part-whole correlation: %s is made up of the best %d of %d variables, among them %s.",
        shown(f$whole, "Label"), f$best, f$of, shown(f$part, "label")
      ))
      template(
        "Part-whole correlation: %s is %s made up of %s and other variables.", shown(f$whole, "Label"),
        template(if (isTRUE(f$rounded)) "apart from rounding" else "exactly"), shown(f$part, "label")
      )
    },
    advice = function(f, pair) {
      if (isTRUE(f$ratio) || isTRUE(f$difference)) return(template("Relate the two measurements themselves."))
      if (isTRUE(f$ranks)) return(template("Relate each of the ranks to variables outside the order, or ask for ratings."))
      if (isTRUE(f$shares)) return(template("Relate ratios of them, which the sum does not constrain."))
      template("Relate %s to the whole without it.", shown(f$part, "label"))
    },
    clause = function(f, digits) {
      if (isTRUE(f$ranks)) return(template("Both are ranks of one order, so a negative correlation is built in."))
      if (isTRUE(f$shares)) return(template("Both are shares of the same whole, so a correlation is built in."))
      template(
        "%s is computed from %s, so part of this correlation is built in.", shown(f$whole, "Label"),
        shown(f$part, "label")
      )
    },
    clause_from = "warning"
  )
}

others_with <- function(f) if (length(f$with) == 1L) shown(f$with, "label") else template("%d others", length(f$with))

gain_evidence <- function(f) {
  other <- if (is.na(f$other)) template("another measurement") else shown(f$other, "label")
  template(
    if (f$against) {
      "Part-whole correlation: %s is %s, so a negative correlation is built in."
    } else {
      "Part-whole correlation: %s is %s, so a positive correlation is built in."
    },
    shown(f$whole, "Label"),
    if (f$named) {
      template("by its name a difference that %s is in", shown(f$part, "label"))
    } else {
      template("the difference of %s and %s", shown(f$part, "label"), other)
    }
  )
}

ratio_evidence <- function(f) {
  top <- shown(f$top, "label")
  base <- shown(f$base, "label")
  made <- if (isTRUE(f$change)) {
    template("the change from %s to %s as a share of the first", base, top)
  } else if (f$power == 1) {
    template("%s divided by %s", top, base)
  } else if (f$power == 2) {
    template("%s divided by the square of %s", top, base)
  } else {
    template("%s times %s", top, base)
  }
  template("Part-whole correlation: %s is %s.", shown(f$whole, "Label"), made)
}

#' Whole and part: one variable a sum, mean or ratio that contains the other, a difference that was taken from it, or both
#' shares of one whole
#' @noRd
check_part_whole <- function(sample, evidence) {
  columns <- evidence$once$columns
  if (length(columns) > 2L) {
    shares <- find_whole(columns)
    if (!is.null(shares)) {
      figures <- list(
        whole = sample$names[1], part = sample$names[2], with = shares$with, sum = shares$sum, shares = TRUE,
        ranks = shares$ranks
      )
      step <- if (!shares$ranks) derive_step("ratio", "%s / %s", sample$names)
      return(list(new_finding("part_whole", "warning", figures, step)))
    }
    for (side in 1:2) {
      doubt <- or_default(part_of(columns, side, sample), ratio_of(columns, side))
      if (!is.null(doubt)) return(list(doubt))
    }
    for (side in 1:2) if (!is.null(doubt <- ratio_of(columns, side, rounding = .51))) return(list(doubt))
  }
  named <- named_difference(sample)
  if (!is.null(named)) list(named)
}

#' The pair and the study's other measures over cases that have them all; those with most blanks give way
#' @noRd
columns_at_hand <- function(sample, others) {
  if (!length(others)) return(NULL)
  others <- others[order(vapply(others, function(column) sum(is.na(column)), 0L))]
  whole <- rep(TRUE, length(others[[1]]))
  rows <- vapply(others, function(column) sum(whole <<- whole & !is.na(column)), 0L)
  others <- others[rows >= seq_along(others) + 10L]
  if (!length(others)) return(NULL)
  complete <- which(rowSums(is.na(do.call(cbind, others))) == 0)
  complete <- utils::head(complete, length(others) + 100L)
  # The others are of the first cases.
  lapply(c(stats::setNames(list(sample$x, sample$y), sample$names), others), function(column) column[complete])
}

part_of <- function(columns, side, sample) {
  whole <- columns[side]
  part <- columns[3L - side]
  if (count_distinct(whole[[1]]) < 3L || count_distinct(part[[1]]) < 2L) return(NULL)
  sum <- find_total(whole[[1]], part[[1]], columns[-(1:2)])
  if (is.null(sum)) return(NULL)
  weights <- sum$weights
  names(weights)[1] <- names(part)
  involved <- columns[c(names(whole), names(weights))]
  if (!is.null(sum$best)) {
    figures <- list(whole = names(whole), part = names(part), best = sum$best, of = length(weights))
    rest <- setdiff(names(weights), names(part))
    return(new_finding("part_whole", "serious", figures, measurements_step(c(names(part), rest[1]))))
  }
  difference <- if (length(weights) == 2L) find_difference(involved)
  if (is.null(difference)) {
    if (!is_sum_of(involved, weights)) return(NULL)
    figures <- list(whole = names(whole), part = names(part), rounded = !sum$exact)
    weight <- format(signif(unname(weights[1]), 4), scientific = FALSE)
    rest <- if (weight == "1") "%s - %s" else paste("%s -", weight, "* %s")
    step <- derive_step("rest", rest, c(names(whole), names(part)))
    return(new_finding("part_whole", "serious", figures, step))
  }
  # Of two measurements and their difference, the measurements may well be related.
  if (!difference %in% sample$names) return(NULL)
  start <- setdiff(sample$names, difference)
  against <- r_plain(columns[[difference]], columns[[start]]) < 0
  figures <- list(
    whole = difference, part = start, other = setdiff(names(involved), sample$names), difference = TRUE, named = FALSE,
    against = against
  )
  new_finding("part_whole", "serious", figures, measurements_step(c(figures$part, figures$other)))
}

#' One of two as a ratio or product that the other is in
#' @noRd
ratio_of <- function(columns, side, rounding = 0) {
  part <- columns[3L - side]
  others <- columns[-(1:2)]
  ratio <- function(values) {
    or_default(find_ratio(values, part, others, rounding), find_ratio(values, others, part, rounding))
  }
  whole <- columns[[side]]
  figure <- ratio(whole)
  # A change as a share, or in per cent, of what it began with.
  if (is.null(figure) && min(whole) < 0) {
    figure <- or_default(ratio(whole + 1), ratio(whole / 100 + 1))
    if (!is.null(figure)) figure$change <- TRUE
  }
  if (is.null(figure)) return(NULL)
  figures <- c(list(whole = names(columns)[side], part = names(part), ratio = TRUE), figure)
  new_finding("part_whole", "serious", figures, measurements_step(c(figure$top, figure$base)))
}

# The two measurements that a difference or a ratio is made of, related themselves, where both are in the study.
measurements_step <- function(names) {
  if (length(names) == 2L && !anyNA(names)) c(next_step("relate", pair = FALSE), list(variables = names))
}

# A variable derived from others, whose names stand in backquotes where they are no plain words.
derive_step <- function(name, form, of) {
  of <- ifelse(make.names(of) == of, of, sprintf("`%s`", of))
  c(next_step("derive", pair = FALSE), list(name = name, expression = do.call(sprintf, as.list(c(form, of)))))
}

#' The one of three that is the difference of the other two: by its name, or as it alone goes below 0
#' @noRd
find_difference <- function(columns) {
  named <- grepl(gain_names, tolower(names(columns)), perl = TRUE)
  if (sum(named) == 1L) return(names(columns)[named])
  below <- vapply(columns, min, 0) < 0
  if (sum(below) == 1L) names(columns)[below]
}

gain_names <- paste0(
  "(^|[_ .-])(gains?|change|diff|difference|delta|improvement|growth|increase|progress|zuwachs|differenz|",
  "ver\u00e4nderung|gain|progr\u00e8s|diff\u00e9rence|cambio|diferencia|differenza|diferen\u00e7a|verschil)([_ .-]|[0-9]|$)"
)

start_names <- paste0(
  "(^|[_ .-])(pre|pretest|before|baseline|initial|start|first|t1|w1|wave1|time1|vorher|avant|antes|prima|voor)",
  "([_ .-]|$)"
)

#' A gain beside what it was taken from where the later measurement is not in the study
#' @noRd
named_difference <- function(sample) {
  texts <- tolower(sample$names)
  gain <- grepl(gain_names, texts, perl = TRUE)
  start <- grepl(start_names, texts, perl = TRUE)
  if (!(gain[1] && start[2]) && !(gain[2] && start[1])) return(NULL)
  figures <- list(
    whole = sample$names[gain & !start], part = sample$names[start & !gain], other = NA_character_, difference = TRUE,
    named = TRUE, against = TRUE
  )
  if (length(figures$whole) == 1L && length(figures$part) == 1L) new_finding("part_whole", "warning", figures)
}
