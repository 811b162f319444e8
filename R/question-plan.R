#' Plan the sample size
#'
#' Computes the number of cases, the power, the width of the interval, or the smallest r that can be
#' detected, from the others. Give the expected r (one value, or a range of two) and either the `power` or
#' the `half_width` wanted; or give `n` to obtain power and width. With `smallest` it plans to show that a
#' correlation is smaller than that.
#'
#' @param coefficient Its name as in [relate()], except phi. Default: Pearson's r.
#' @param r The expected correlation, between -1 and 1 and not 0; two numbers for a range. `NULL`: the
#'   smallest r that n cases can detect is computed.
#' @param n The number of cases, if it is given; with `other` the number in each group.
#' @param power The probability, between 0 and 1, that the test is significant if r is as expected.
#' @param half_width Half the width that the interval should have.
#' @param alpha The significance level. Default: .05.
#' @param expect `"either"` (two-sided), or the direction specified in advance: `"positive"`, `"negative"`.
#' @param other A second r: the comparison of two independent correlations is planned.
#' @param smallest The smallest correlation that matters: the study is planned to show, by two one-sided
#'   tests, that r is smaller in size. The expected r is then 0 unless given. See [relate()].
#' @param tests The number of tests. Each is planned at `alpha` divided by it, which is the level of the
#'   first test in Holm's method.
#' @param missing The expected proportion of cases with a missing value, from 0 to below 1.
#' @param class_size,icc For cases in classes (clusters): the mean number of cases per class, and the
#'   intraclass correlation of the two variables (one number, or one for each). The design effect is 1 + (m
#'   (1 + class_cv^2) - 1) times the product of the two, with m the number of cases per class that have
#'   values (Eldridge, Ashby & Kerry 2006).
#' @param class_cv The coefficient of variation of the class sizes (standard deviation divided by mean).
#'   Default: 0.
#' @param classes The number of classes, if it is given instead of `n`.
#' @param strata The number of strata from which the classes are drawn. Default: 1.
#' @param design_effect The design effect, if it is known: of weights, replicates or published tables. With
#'   `class_size` or `classes` the degrees of freedom are those of the classes.
#' @return A plan (class `unsere_plan`), a list of:
#'   * `coefficient`, `r`, `n` (cases needed, or given), `power`, `half_width`, `alpha` (of each test),
#'     `expect`, `other`, `smallest`, `tests`, `missing`, `confidence`
#'   * `asked` (what was computed: `"n"`, `"power"` or `"r"`), `by` (`"power"` or `"half_width"`), `range`
#'     (a plan for each end of a range of r)
#'   * `design_effect`, `n_to_draw` (allowing for the design effect and missing values)
#'   * `classes` (needed, or given), `class_size`, `class_cv`, `strata`, `df` (classes minus strata); `NA`
#'     without classes
#' @section Errors: `unsere_error_usage` for an invalid argument, or if too few or too many are given;
#'   `unsere_error_undefined` if no number of cases is enough.
#' @section Accuracy: Power for Pearson's r is exact for bivariate normal data, from the distribution of r
#'   (Hotelling 1953); for a point-biserial r it is exact for normal groups of the planned sizes. For
#'   Spearman's rs and tau-b it is the power of the test used by [relate()] for normal data without ties,
#'   from a beta distribution with their mean and variance (Moran 1948; Kendall & Gibbons 1990). The width,
#'   and the comparison of two correlations, use the standard error of z (Bonett & Wright 2000). With
#'   classes the power is that of [relate()]'s test under the design: a noncentral t of Fisher's z with
#'   classes minus strata degrees of freedom. `bench/planning.R` compares the power with simulations.
#' @references Hotelling, H. (1953). New light on the correlation coefficient and its transforms. *Journal
#'   of the Royal Statistical Society B*, 15, 193-232. Bonett, D. G., & Wright, T. A. (2000). Sample size
#'   requirements for estimating Pearson, Kendall and Spearman correlations. *Psychometrika*, 65, 23-28.
#'   Kish, L. (1965). *Survey sampling*. Wiley. Eldridge, S. M., Ashby, D., & Kerry, S. (2006). Sample size
#'   for cluster randomized trials. *International Journal of Epidemiology*, 35, 1292-1300. Moran, P. A. P.
#'   (1948). Rank correlation and product-moment correlation. *Biometrika*, 35, 203-206. Kendall, M., &
#'   Gibbons, J. D. (1990). *Rank correlation methods* (5th ed.). Arnold. Goertzen, J. R., & Cribbie, R. A.
#'   (2010). Detecting a lack of association: An equivalence testing approach. *British Journal of
#'   Mathematical and Statistical Psychology*, 63, 527-537.
#' @examples
#' plan_size(r = .3, power = .8)
#' plan_size(r = .3, half_width = .1)
#' plan_size(r = .3, n = 60)
#' plan_size(n = 60, power = .8)
#' plan_size(smallest = .2, power = .8)
#' plan_size(r = .3, power = .8, class_size = 20, icc = .2, missing = .1)
#' @export
plan_size <- function(coefficient = NULL, r = NULL, n = NULL, power = NULL, half_width = NULL, alpha = 0.05,
                      expect = "either", other = NULL, smallest = NULL, tests = 1, missing = 0, class_size = NULL,
                      icc = NULL, class_cv = 0, classes = NULL, strata = 1, design_effect = NULL) {
  answer_plan(list(
    coefficient = coefficient, r = r, n = n, power = power, half_width = half_width, alpha = alpha, expect = expect,
    other = other, smallest = smallest, tests = tests, missing = missing, class_size = class_size, icc = icc,
    class_cv = class_cv, classes = classes, strata = strata, design_effect = design_effect
  ))
}

question_plan <- function() {
  new_question(
    "plan", "plan_size", "plan the sample size", character(), plan_arguments(),
    NULL, "plan --r 0.3 --power 0.8",
    usage = "plan [--r R] [--n N] [--power P]", place = 9, section = section_of_plan()
  )
}

section_of_plan <- function() {
  new_brief_section(
    "plan", 7, function() {
      closed(lapply(plan_arguments(), function(one) {
        schema <- key_schema(one)
        # One number or several, as a size or a range.
        if (one$type == "numbers") schema$type <- list("number", "array")
        schema
      }))
    },
    names = function(entry) NULL, about = function(entry) template("the plan"),
    answer = function(study, entry, brief, settings, known) answer_plan(lapply(entry, unlist))
  )
}

plan_arguments <- function() {
  share <- function(help, default = NULL) {
    argument("number", help, default = default, value = "SHARE", from = 0, to = 1, inside = TRUE)
  }
  size <- function(help) argument("number", help, value = "R", from = -1, to = 1, inside = TRUE)
  list(
    coefficient = argument("choice", "the coefficient",
      default = straight_record()$name,
      allowed = planned_coefficients()
    ),
    r = argument("numbers", "the expected r; two numbers for a range", value = "R"),
    n = argument("whole", "the number of cases, if it is given", value = "N", from = 4, to = 1e8),
    power = share("the power: the probability of a significant result if r is as expected"),
    half_width = share("half the width that the interval should have"),
    alpha = share("the significance level", 0.05),
    expect = shared_arguments("expect")$expect, other = size("a second r, to plan a comparison of two correlations"),
    smallest = argument(
      "number", "the smallest correlation that matters, to show that r is smaller",
      value = "R", from = 0, to = 1, inside = TRUE
    ),
    tests = argument("whole", "the number of tests", default = 1, value = "K", from = 1, to = 1e6),
    missing = argument("number", "the expected proportion of cases with a missing value",
      default = 0, value = "SHARE",
      from = 0, to = 0.99
    ),
    class_size = argument("number", "the mean number of cases per class", value = "M", from = 1, to = 1e6),
    icc = argument("numbers", "the intraclass correlation: one number, or one for each variable", value = "ICC"),
    class_cv = argument("number", "the coefficient of variation of the class sizes",
      default = 0, value = "CV",
      from = 0, to = 5
    ),
    classes = argument("whole", "the number of classes, if it is given", value = "K", from = 3, to = 1e6),
    strata = argument("whole", "the number of strata of the classes", default = 1, value = "H", from = 1, to = 1e5),
    design_effect = argument("number", "the design effect, if it is known", value = "D", from = 0.05, to = 1000)
  )
}

# Those whose size does not hang on the margins of a table.
planned_coefficients <- function() {
  names(Filter(function(record) record$signed && !identical(record$two_valued, 2L), coefficient_records()))
}

#' The power, and half the width, of a coefficient over r and n, the effective number of cases
#'
#' @param design The plan's `design_effect`, `missing`, `class_size` and `strata`: with classes the degrees
#'   of freedom are theirs.
#' @noRd
plan_curves <- function(coefficient, alpha, expect, other, design) {
  record <- coefficient_record(coefficient)
  if (!is.null(design$smallest)) return(curves_of_smallest(record, alpha, design))
  if (!is.na(design$class_size)) return(curves_with_classes(record, alpha, expect, other, design))
  kind <- if (record$linear) "exact" else if (identical(record$two_valued, 1L)) "groups" else "ranks"
  list(
    power = function(r, n) {
      if (is.null(other)) return(planned_power(kind, r, n, alpha, expect, record$planning))
      planned_difference(r, other, n, alpha, expect, record$z_variance)
    },
    width = function(r, n) planned_half_width(r, n, 1 - alpha, record$z_variance)
  )
}

curves_of_smallest <- function(record, alpha, design) {
  classed <- !is.na(design$class_size)
  variance <- if (classed) variance_with_classes(record, design) else record$z_variance
  df <- if (classed) df_of_classes(design) else function(n) Inf
  list(
    power = function(r, n) planned_equivalence(r, design$smallest, n, alpha, variance, df(n)),
    width = function(r, n) planned_half_width(r, n, 1 - alpha, variance, df(n))
  )
}

df_of_classes <- function(design) {
  per_class <- design$class_size * (1 - design$missing)
  function(n) n * design$design_effect / per_class - design$strata
}

variance_with_classes <- function(record, design) {
  function(r, n) design$design_effect * record$z_variance(r, n * design$design_effect)
}

curves_with_classes <- function(record, alpha, expect, other, design) {
  df <- function(n) df_of_classes(design)(n) * if (is.null(other)) 1 else 2
  variance <- variance_with_classes(record, design)
  list(
    power = function(r, n) {
      spread <- variance(r, n) + if (is.null(other)) 0 else variance(other, n)
      difference <- atanh(r) - if (is.null(other)) 0 else atanh(other)
      power_with_df(difference / sqrt(spread), df(n), alpha, if (is.null(other)) expect else "either")
    },
    width = function(r, n) planned_half_width(r, n, 1 - alpha, variance, df(n))
  )
}

answer_plan <- function(given) {
  given <- Filter(Negate(is.null), given)
  declared <- plan_arguments()
  options <- lapply(stats::setNames(names(declared), names(declared)), function(name) {
    value <- or_default(given[[name]], declared[[name]]$default)
    if (!is.null(value)) check_argument(value, declared[[name]], name)
  })
  if (!is.null(options$smallest) && is.null(options$r)) options$r <- 0
  check_plan(options)
  options$alpha_each <- options$alpha / options$tests
  options <- design_of_plan(options)
  if (length(options$r) == 2L) {
    ends <- lapply(options$r, function(r) plan_one(utils::modifyList(options, list(r = r))))
    # The weaker r asks for more.
    hard <- ends[[which.min(abs(options$r))]]
    hard$range <- ends
    return(hard)
  }
  plan_one(options)
}

check_plan <- function(options) {
  wanted <- c(
    r = !is.null(options$r), n = !is.null(options$n) || !is.null(options$classes), power = !is.null(options$power),
    half_width = !is.null(options$half_width)
  )
  r <- or_default(options$r, numeric())
  if (!is.null(options$smallest)) check_smallest_plan(options, r)
  bad <- r[!is.finite(r) | abs(r) >= 1 | r == 0 & is.null(options$smallest)]
  if (length(bad) || length(r) > 2L) abort_usage(
    "`r` must lie between -1 and 1 and not be 0.",
    "One number, or two for a range."
  )
  if (!is.null(options$icc) && any(abs(options$icc) >= 1) || length(options$icc) > 2L) {
    abort_usage("`icc` must be one or two numbers between 0 and 1.", "For example 0.2.")
  }
  goal <- wanted[["power"]] + wanted[["half_width"]]
  if (goal > 1L) abort_usage("Plan for `power` or for `half_width`, not for both at once.", "Plan twice.")
  in_classes <- !is.null(options$class_size) || !is.null(options$classes)
  if (is.null(options$design_effect) && !is.null(options$icc) != in_classes) {
    abort_usage("`icc` and `class_size` belong together.", "Or give the design effect itself.")
  }
  if (!in_classes && (options$class_cv > 0 || options$strata > 1)) {
    abort_usage("`class_cv` and `strata` belong to classes.", "Give class_size too.")
  }
  if (!is.null(options$classes) && is.null(options$class_size) + is.null(options$n) != 1L) {
    abort_usage("`classes` needs `class_size` or `n`, one of the two.", "Cases are classes times their size.")
  }
  if (wanted[["r"]] && wanted[["n"]] && !goal || wanted[["r"]] && goal == 1L && !wanted[["n"]]) return(invisible())
  if (wanted[["n"]] && wanted[["power"]] && !wanted[["r"]]) return(invisible())
  if (wanted[["r"]] && wanted[["n"]] && goal) {
    abort_usage("Power and width follow from r and n.", "Omit what is to be computed.")
  }
  abort_usage("Too little is given to plan by.", "Give r with power or half_width, r with n, or n with power.")
}

check_smallest_plan <- function(options, r) {
  if (!is.null(options$other) || !is.null(options$half_width)) {
    abort_usage("`smallest` does not go with `other` or `half_width`.", "Give power or n.")
  }
  if (length(r) > 1L || any(abs(r) >= options$smallest)) {
    abort_usage("With `smallest` the expected `r` must be one number smaller in size.", "It is 0 if omitted.")
  }
}

# With the design effect, the size of a class (`NA` without classes) and, where the classes are given, the cases.
design_of_plan <- function(options) {
  if (is.null(options$class_size) && !is.null(options$classes) && !is.null(options$n)) {
    options$class_size <- options$n / options$classes
  }
  size <- or_default(options$class_size, NA_real_)
  if (!is.null(options$classes)) options$n <- round(options$classes * size)
  if (is.null(options$design_effect)) {
    here <- max(1, size * (1 - options$missing), na.rm = TRUE) * (1 + options$class_cv^2)
    options$design_effect <- if (is.na(size)) 1 else 1 + (here - 1) * prod(rep_len(options$icc, 2L))
  }
  options$class_size <- size
  options
}

plan_one <- function(options) {
  confidence <- 1 - options$alpha_each
  curves <- plan_curves(options$coefficient, options$alpha_each, options$expect, options$other, options)
  power_at <- curves$power
  width_at <- curves$width
  r <- options$r
  cases <- cases_of_plan(options, curves)
  n <- cases$n
  if (is.null(r)) {
    sign <- if (options$expect == "negative") -1 else 1
    beyond <- function(r) power_at(sign * r, n) - options$power
    if (!isTRUE(beyond(0.9999) >= 0)) abort_undefined(
      problem("With %d cases no r can be detected with this power.", as.integer(n)),
      "Take more."
    )
    r <- sign * stats::uniroot(beyond, c(1e-6, 0.9999), tol = 1e-7)$root
  }
  new_plan(
    coefficient = options$coefficient, r = r, n = n, power = power_at(r, n), half_width = width_at(r, n),
    alpha = options$alpha_each, expect = options$expect, design_effect = options$design_effect,
    n_to_draw = cases$drawn, classes = cases$classes, class_size = options$class_size,
    class_cv = if (is.na(options$class_size)) NA_real_ else options$class_cv,
    strata = if (is.na(options$class_size)) NA_real_ else options$strata, df = cases$df,
    asked = if (is.null(options$n)) "n" else if (is.null(options$r)) "r" else "power",
    by = if (!is.null(options$half_width)) "half_width" else "power", wanted = or_default(options$power, options$half_width),
    other = options$other, smallest = options$smallest, tests = options$tests, missing = options$missing,
    confidence = confidence, range = NULL
  )
}

#' How many cases a plan has or needs
#' @return A list: `n` (effective), `drawn`, `classes`, `df` (both `NA` without classes).
#' @noRd
cases_of_plan <- function(options, curves) {
  size <- options$class_size
  per_case <- (1 - options$missing) / options$design_effect
  enough <- function(n) {
    if (is.null(options$power)) return(curves$width(options$r, n) <= options$half_width)
    curves$power(options$r, n) >= options$power
  }
  none <- function() abort_undefined("No number of cases is enough.", "Reduce the requirement, or expect a larger r.")
  if (!is.na(size)) {
    effective <- function(classes) classes * size * per_case
    classes <- if (is.null(options$n)) {
      least_number(function(classes) enough(effective(classes)), options$strata + 2L)
    } else {
      or_default(options$classes, round(options$n / size))
    }
    if (is.na(classes)) none()
    df <- (classes - options$strata) * if (is.null(options$other)) 1 else 2
    if (df < 2) abort_usage(
      problem("%d classes are too few for a test that accounts for them.", as.integer(classes)),
      "At least two more than there are strata."
    )
    return(list(n = effective(classes), drawn = or_default(options$n, ceiling(classes * size)), classes = classes, df = df))
  }
  if (!is.null(options$n)) {
    return(list(n = max(4, floor(options$n * per_case)), drawn = options$n, classes = NA_real_, df = NA_real_))
  }
  n <- least_number(enough, if (is.null(options$power)) 5L else 4L)
  if (is.na(n)) none()
  list(n = n, drawn = ceiling(n / per_case), classes = NA_real_, df = NA_real_)
}

#' @export
as.data.frame.unsere_plan <- function(x, ...) {
  plans <- if (is.null(x$range)) list(x) else x$range
  do.call(rbind, lapply(plans, function(plan) as.data.frame(unclass(plan)[plan_fields])))
}
