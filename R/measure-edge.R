# A slanting edge: cases crowd up to a straight line across both variables, and none lies beyond it. Where cases were chosen
# by both together, as those admitted by a sum are, there is one; r of the chosen is not that of all.

#' The edge that two columns share, slanting across both
#'
#' A density that is there right up to the line, against one that thins out towards it as corners of two columns do: the
#' logarithm of how much likelier the nearest tenth, fifth or third of the cases are under the first.
#' @param x,y Columns of one length.
#' @return `NULL`, or a list: `weights` of x and y whose sum is nowhere below `at`; `log_likelihood_ratio`.
#' @noRd
find_edge <- function(x, y, least = 12) {
  if (length(x) < 100L) return(NULL)
  units <- c(stats::sd(x), stats::sd(y))
  scores <- cbind((x - mean(x)) / units[1], (y - mean(y)) / units[2])
  best <- sharpest_slant(scores, atan2(units[2], units[1]))
  if (!isTRUE(best$sharp >= least && best$beyond >= 8) || !is_straight_edge(scores, best$slant)) return(NULL)
  weights <- best$slant / units
  weights <- weights / max(abs(weights))
  # A plain sum or difference has weights of one.
  if (abs(abs(weights[1]) - abs(weights[2])) < 1e-9) weights <- sign(weights)
  list(weights = weights, at = min(weights[1] * x + weights[2] * y), log_likelihood_ratio = best$sharp)
}

#' The direction whose lower end is sharpest: slants in steps of ten degrees on some cases and the plain sums, then
#' finer in each likely quarter; nothing where the first look finds none
#' @noRd
sharpest_slant <- function(scores, plain) {
  quarters <- list(c(1, 1), c(-1, -1), c(1, -1), c(-1, 1))
  plain <- if (abs(plain - pi / 4) < pi / 6) plain
  coarse <- c(seq(15, 75, 10) * pi / 180, plain)
  some <- scores[even_places(nrow(scores), 300L), ]
  first <- do.call(rbind, lapply(quarters[c(1, 3)], function(signs) {
    vapply(coarse, function(angle) {
      u <- slanted(some, signs, angle)
      c(edge_sharpness(u, .2), edge_sharpness(-u, .2))
    }, c(0, 0))
  }))
  slants <- lapply(which(apply(first, 1, max) > -2), function(k) finer_slant(scores, quarters[[k]], plain))
  slants <- Filter(Negate(is.null), slants)
  if (length(slants)) slants[[which.max(vapply(slants, `[[`, 0, "beyond"))]]
}

# Equal sums of rounded values stay equal.
slanted <- function(scores, signs, angle) round(as.vector(scores %*% (signs * c(cos(angle), sin(angle)))), 9)

# The sharpest straight edge of one quarter.
finer_slant <- function(scores, signs, plain) {
  at <- function(angle, more = 0) {
    slant <- signs * c(cos(angle), sin(angle))
    list(sharp = edge_sharpness(slanted(scores, signs, angle)), more = more, angle = angle, slant = slant)
  }
  tried <- c(lapply(seq(15, 75, 5) * pi / 180, at), lapply(plain, at, more = 10))
  sharpest <- function(tried) tried[order(vapply(tried, function(one) one$sharp + one$more, 0), decreasing = TRUE)]
  best <- Filter(function(one) one$sharp > 0, utils::head(sharpest(tried), 4L))
  best <- Filter(function(one) is_straight_edge(scores, one$slant), best)
  if (!length(best)) return(NULL)
  best <- best[[1]]
  for (step in c(2.5, 1.25, .6)) best <- sharpest(c(list(best), lapply(best$angle + c(-step, step) * pi / 180, at)))[[1]]
  # One column's own end is no slanting edge, nor what a tight relation makes of it.
  own <- max(edge_sharpness(signs[1] * scores[, 1]), edge_sharpness(signs[2] * scores[, 2]), 0)
  c(best, list(beyond = best$sharp - own))
}

#' How much likelier the lowest values are where the density is there up to the lowest one, as a logarithm
#' @noRd
edge_sharpness <- function(u, shares = c(.1, .2, .3)) core_edge_sharpness(u, shares)

#' Whether cases near an edge lie all along it, as those behind them do, and there is none on the other side
#'
#' Those near a corner, an apex or the top of a curve lie together.
#' @noRd
is_straight_edge <- function(scores, slant) {
  across <- as.vector(scores %*% slant)
  along <- as.vector(scores %*% c(-slant[2], slant[1]))
  if (edge_sharpness(-across) > 3) return(FALSE)
  order <- order(across)
  width <- function(share) stats::IQR(along[order[seq_len(ceiling(share * length(along)))]])
  width(.1) > .65 * width(.3) && width(.3) > .75 * stats::IQR(along)
}

#' r of all cases, where those at hand were chosen by a weighted sum of both that reached some height
#'
#' The sum is normal, cut off below: its mean and spread by maximum likelihood. What goes along the edge, given the sum, is
#' the same among the chosen as among all (Pearson 1903, Lawley 1943; Cohen 1957).
#' @param edge From `find_edge()`.
#' @return A list: `r`, `share` (of all, the chosen), `p` (of no r, leaving out a twentieth of the cases at a time).
#' @noRd
unchosen_r <- function(x, y, edge) {
  whole <- fit_unchosen(x, y, edge)
  part <- rep_len(1:20, length(x))
  z <- vapply(1:20, function(k) atanh(clip(fit_unchosen(x[part != k], y[part != k], edge)$r)), 0)
  error <- sqrt(19 / 20 * sum((z - mean(z))^2))
  c(whole, list(p = p_two_sided(atanh(clip(whole$r)) / error, 19)))
}

fit_unchosen <- function(x, y, edge) {
  units <- c(stats::sd(x), stats::sd(y))
  slant <- edge$weights * units
  size <- sqrt(sum(slant^2))
  slant <- slant / size
  scores <- cbind((x - mean(x)) / units[1], (y - mean(y)) / units[2])
  across <- as.vector(scores %*% slant)
  fitted <- fit_cut_normal(round(across, 9))
  along <- as.vector(scores %*% c(-slant[2], slant[1]))
  slope <- sum(across * along) / sum(across^2)
  variance <- mean((along - slope * across)^2)
  # Variances of the sum and of what goes along it, turned back.
  spread <- matrix(c(1, slope, slope, slope^2), 2) * fitted$sd^2 + diag(c(0, variance))
  turn <- rbind(slant, c(-slant[2], slant[1]))
  spread <- t(turn) %*% spread %*% turn
  c(list(r = spread[1, 2] / sqrt(spread[1, 1] * spread[2, 2])), fitted[c("share", "apart")])
}

#' The normal that is seen above its lowest value alone: its spread by maximum likelihood
#'
#' @return A list: `sd`; `share` of it that is seen; `apart`, how far values lie from it at most, times the root of n.
#' @noRd
fit_cut_normal <- function(u) {
  values <- sort(unique(u))
  unit <- stats::sd(u)
  # Rounded sums reach half a step below themselves.
  half <- min(diff(values)) / 2 / unit
  v <- (u - values[1]) / unit + half
  less <- function(at) {
    mean(((v - at[1]) / exp(at[2]))^2) / 2 + at[2] + stats::pnorm(at[1] / exp(at[2]), log.p = TRUE)
  }
  fitted <- stats::optim(c(mean(v), 0), less, control = list(reltol = 1e-10, maxit = 1000))$par
  sd <- exp(fitted[2])
  above <- function(at) stats::pnorm((fitted[1] - at) / sd)
  seen <- cumsum(tabulate(match(u, values))) / length(u)
  apart <- max(abs(1 - above((values - values[1]) / unit + 2 * half) / above(0) - seen))
  list(sd = sd * unit, share = above(0), apart = apart * sqrt(length(u)))
}
