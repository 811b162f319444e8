#' Cases that end at a slanting edge: possible selection on both variables
#' @noRd
caution_empty_corner <- function() {
  new_caution("empty_corner",
    place = 19, check = check_edge, meaning = "Possible truncation or selection on both variables.",
    evidence = function(f, pair) {
      if (!f$bound) return(template(
        "Possible selection on both variables: no case lies where %s, and cases crowd at that edge.", edge_sum(f, pair)
      ))
      names <- if (f$weights[1] > 0) c(pair$y, pair$x) else c(pair$x, pair$y)
      template(
        "Possible truncation: %s is never above %s, and cases crowd at the limit where both are equal.", shown(
          names[1],
          "Label"
        ),
        shown(names[2], "label")
      )
    },
    advice = function(f, pair) {
      if (f$bound) return(template(
        "A limit of one by the other builds in a correlation. Relate the one to the share that the other is of it."
      ))
      template(
        "If so, they are %s%% of all cases, in which r is about %s (%s). Ask how the cases were selected.",
        shown(round(f$share, 2), "percent"), shown(f$r, "r"), shown(f$p, "p")
      )
    },
    clause = function(f, digits) {
      template(
        paste(
          "The points end at a slanting edge, as when cases are selected on both variables; among all cases r would",
          "be about %s (%s)."
        ), shown(f$r, "r", digits), shown(f$p, "p")
      )
    }
  )
}

# Beyond which sum no case lies: "entrance test + 0.48 x interview is below 115".
edge_sum <- function(f, pair) {
  weights <- f$weights * sign(f$weights[1])
  term <- function(weight, name) {
    if (abs(weight) == 1) return(shown(name, "label"))
    joined(shown(abs(weight), "number", 2), " ", shown("times", "mark"), " ", shown(name, "label"))
  }
  template(
    if (f$weights[1] > 0) "%s %s %s is below %s" else "%s %s %s is above %s", term(weights[1], pair$x),
    if (weights[2] > 0) "+" else shown("minus", "mark"), term(weights[2], pair$y),
    shown(f$at * sign(f$weights[1]), "number", 3)
  )
}

#' An empty corner with a straight edge across both variables, up to which cases crowd: cases that were chosen by both
#' together, or one variable that bounds the other
#' @noRd
check_edge <- function(sample, evidence) {
  if (!all(sample$variables$level == "numeric") || !is.null(sample$given) || sample_size(sample) < 100L) return(NULL)
  if (!evidence$record$products || evidence$estimate$unexplained < .05 || sample_has_time(sample)) return(NULL)
  at <- even_places(sample_size(sample), 600L)
  x <- sample$x[at]
  y <- sample$y[at]
  if (min(count_distinct(x), count_distinct(y)) < 15L || !has_squares(x) || !has_squares(y)) return(NULL)
  edge <- find_edge(x, y)
  if (is.null(edge) || is_arc(sample$x, evidence$once$residuals)) return(NULL)
  figures <- c(edge, list(bound = is_bound(edge, x, y)))
  if (figures$bound) return(list(new_finding("empty_corner", "warning", figures)))
  all <- unchosen_r(x, y, edge)
  # Of a tail that falls off, as scatter to one side does, hardly any reach so far; and nothing was cut off where nearly all
  # do, or where values are not as a normal above its cut.
  if (!isTRUE(all$share > .02 && all$share < .8 && all$apart < 1)) return(NULL)
  figures <- c(figures, list(share = all$share, r = all$r, p = all$p))
  list(new_finding("empty_corner", edge_severity(all, evidence, is.null(sample$more$design)), figures))
}

edge_severity <- function(all, evidence, plain) {
  clear <- evidence$p < evidence$alpha
  gone <- clear && (all$p >= evidence$alpha || sign(all$r) != sign(evidence$r))
  if (gone && plain && evidence$record$linear) return("serious")
  if (gone || abs(atanh(clip(all$r)) - atanh(clip(evidence$r))) > .1) "warning" else "note"
}

# The lower end of a curve is an edge as well.
is_arc <- function(x, residuals) {
  bend <- bend_test(x, residuals, 2L)
  isTRUE(bend$value^2 / bend$df > .43)
}

# One is never above the other.
is_bound <- function(edge, x, y) {
  sum(edge$weights) == 0 && abs(edge$at) <= .02 * max(stats::sd(x), stats::sd(y))
}
