#' Simulate a pair of variables
#'
#' Generates made-up data for teaching, and for trying out an analysis before the data are collected.
#'
#' @param n The number of pairs, from 4 to 1,000,000.
#' @param r The correlation of the population, or of the pairs themselves if `exact`.
#' @param exact Whether the pairs have exactly this r; only with `trouble = "none"` and `noise = 0`. Default: `FALSE`.
#' @param trouble A problem to include: `"none"`, `"outlier"` (the last case is extreme), `"bend"` (y levels off),
#'   `"scale"` (both on 5-point scales), `"split"` (x as no/yes), `"trend"` (two time series with a shared trend; `r` is
#'   then that of their deviations from it). Default: `"none"`.
#' @param noise The standard deviation of measurement errors added to both variables, in units of their own standard
#'   deviation; they attenuate r. Default: 0.
#' @param seed A whole number that makes the result reproducible; R's own random state is not changed.
#' @return A data frame of `case`, `x`, `y` (both with mean 0 and standard deviation 1 in the population, unless
#'   `trouble` changes that), and `time` if there is a trend.
#' @section Errors: `unsere_error_usage` if an argument is that is not allowed.
#' @references Numbers from xoshiro256++: Blackman, D., & Vigna, S. (2021). Scrambled linear pseudorandom number
#'   generators. *ACM Transactions on Mathematical Software*, 47(4), 1-32.
#' @examples
#' relate(practice_pair(30, 0.5, exact = TRUE, seed = 1), x, y)
#' draw_scatter(practice_pair(80, 0.6, trouble = "outlier", seed = 2), x, y)
#' @export
practice_pair <- function(n, r, exact = FALSE, trouble = "none", noise = 0, seed = NULL) {
  check_practice(n, r, exact, trouble, noise)
  seed <- sound_seed(seed)
  normal <- function(stream) stats::qnorm(core_uniforms(as.double(n), seed, as.double(stream)))
  x <- normal(1)
  free <- normal(2)
  if (exact) {
    x <- standardise(x)
    free <- standardise(measure_line(x, free)$residuals)
  }
  y <- r * x + sqrt(1 - r^2) * free
  if (noise > 0) {
    x <- x + noise * normal(3)
    y <- y + noise * normal(4)
  }
  planted <- plant_trouble(x, y, trouble)
  data.frame(case = sprintf("case %d", seq_len(n)), planted)
}

standardise <- function(v) {
  spread <- measure_spread(v)
  (v - spread$mean) / spread$sd
}

plant_trouble <- function(x, y, trouble) {
  n <- length(x)
  switch(trouble,
    none = data.frame(x, y),
    outlier = data.frame(x = c(x[-n], 5), y = c(y[-n], -5)),
    bend = data.frame(x, y = y - 0.5 * (x^2 - 1)),
    scale = data.frame(x = five_steps(x), y = five_steps(y)),
    split = data.frame(x = ifelse(x > 0, "yes", "no"), y),
    trend = {
      rise <- 4 * (seq_len(n) - 1) / (n - 1)
      data.frame(time = seq_len(n), x = rise + 0.5 * x, y = rise + 0.5 * y)
    }
  )
}

five_steps <- function(v) findInterval(v, c(-1.2, -0.4, 0.4, 1.2)) + 1L

check_practice <- function(n, r, exact, trouble, noise) {
  if (!is_whole(n) || n < 4 || n > 1e6) {
    abort_usage("`n` must be one whole number from 4 to 1,000,000.", "For example 30.")
  }
  if (!is.numeric(r) || length(r) != 1L || !is.finite(r) || abs(r) > 1) {
    abort_usage("`r` must be one number from -1 to 1.", "For example 0.5.")
  }
  one_of(trouble, c("none", "outlier", "bend", "scale", "split", "trend"), "trouble")
  if (!is.numeric(noise) || length(noise) != 1L || !isTRUE(noise >= 0) || is.infinite(noise)) {
    abort_usage("`noise` must be one number from 0 on.", "For example 0.5.")
  }
  if (exact && (trouble != "none" || noise > 0)) {
    abort_usage("An exact r is not possible with trouble or noise.", "Omit `exact`, or trouble and noise.")
  }
}
