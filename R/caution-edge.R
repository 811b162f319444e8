#' An empty corner with a straight edge across both variables, up to which cases crowd: cases that were chosen by both
#' together, or one variable that bounds the other
#' @noRd
doubt_edge <- function(sample, found) {
  if (!all(sample$variables$level == "numeric") || !is.null(sample$given) || sample_size(sample) < 100L) return(NULL)
  if (!found$record$products || found$estimate$unexplained < .05 || sample_has_time(sample)) return(NULL)
  at <- even_places(sample_size(sample), 600L)
  x <- sample$x[at]
  y <- sample$y[at]
  if (min(count_distinct(x), count_distinct(y)) < 15L || !has_squares(x) || !has_squares(y)) return(NULL)
  edge <- find_edge(x, y)
  if (is.null(edge) || is_arc(sample$x, found$once$left)) return(NULL)
  figures <- c(edge, list(bound = is_bound(edge, x, y)))
  if (figures$bound) return(list(new_doubt("empty_corner", "warning", figures)))
  all <- unchosen_r(x, y, edge)
  # Of a tail that falls off, as scatter to one side does, hardly any reach so far; and nothing was cut off where nearly all
  # do, or where values are not as a normal above its cut.
  if (!isTRUE(all$share > .02 && all$share < .8 && all$apart < 1)) return(NULL)
  figures <- c(figures, list(share = all$share, r = all$r, p = all$p))
  list(new_doubt("empty_corner", edge_severity(all, found, is.null(sample$more$design)), figures))
}

edge_severity <- function(all, found, plain) {
  clear <- found$p < found$alpha
  gone <- clear && (all$p >= found$alpha || sign(all$r) != sign(found$r))
  if (gone && plain && found$record$linear) return("serious")
  if (gone || abs(atanh(clip(all$r)) - atanh(clip(found$r))) > .1) "warning" else "note"
}

# The lower end of a curve is an edge as well.
is_arc <- function(x, left) {
  bend <- bend_test(x, left, 2L)
  isTRUE(bend$value^2 / bend$df > .43)
}

# One is never above the other.
is_bound <- function(edge, x, y) {
  sum(edge$weights) == 0 && abs(edge$at) <= .02 * max(stats::sd(x), stats::sd(y))
}
