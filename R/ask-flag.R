#' Does a relation outlast its trends, its groups and its single cases?
#'
#' Two series that both grow over time correlate whatever they are. This takes the levels, the changes from one period
#' to the next, and what is left after the trend is taken out, and says whether the relation holds beyond the trend.
#' With a group it adds the relation within groups; without a time it looks at groups and single cases alone.
#'
#' @param study A study, or a data frame.
#' @param x,y The two variables: bare names or strings. With `x` alone it is checked against every other numeric
#'   measure; with neither, all of them with each other.
#' @param time The variable that holds the time: years, dates, or text such as 2019 Q3, 2019-07, 2019-W28, 2019/20. That
#'   with the role time when it is not given.
#' @param group A variable that splits the cases into groups; that with the role group when it is not given.
#' @param confidence The coverage of the tests, between 0 and 1; 0.95 tests at .05.
#' @return Flags (class `unsere_flags`), a list of `x`, `y`, `time`, `verdict` (`"holds"`, `"weakened"`, `"trend only"`,
#'   `"no relation"`, `"too little data"`; `NA` without a time), `levels`, `changes`, `detrended` (each a list of `r`,
#'   `p`, `n`, `n_effective`), `durbin_watson`, `within` (of groups: `r`, `p`, `by_group`), `step` (the period),
#'   `season` (periods in a year that were taken out, 1 for none), `notes` (gaps, sorting), `cautions`, `relation`. Of
#'   several pairs: a table (class `unsere_flag_table`), a list of `pairs` (a data frame, a row a pair: `x`, `y`,
#'   `verdict`, `levels_r`, `changes_r`, `detrended_r`, `changes_p_adjusted`) and `flags`.
#' @section Errors: `unsere_error_input` when the time cannot be read, repeats or moves in uneven steps (with the
#'   place); `unsere_error_input` also when several pairs are asked for and no variable is the time;
#'   `unsere_error_undefined` for a constant series or two that share no period.
#' @section The verdict: `holds`: the changes, freed of their own linear trend, are tied (p < .05), what is left of the
#'   levels after a cubic trend points the same way and is not far from clear (p < .20), and the changes stay tied (p <
#'   .10) without the one that carries most. `weakened`: only one of the two is tied. `trend only`: the levels are, but
#'   neither of the two. With fewer than 16 periods the trend is a parabola, with fewer than 12 a line. All are tested
#'   with an effective number of cases that allows for serial dependence. Quarterly and monthly series of three years or
#'   more have their season taken out too. With several pairs p of the changes is adjusted by Holm.
#' @section What the verdict is worth: In `bench/spurious.R` (2,000 pairs each), independent pairs of twelve kinds were
#'   told `holds` in 5.3 % or fewer; see `vignette("do-these-two-series-go-together")`.
#' @references Yule, G. U. (1926). *Journal of the Royal Statistical Society*, 89, 1-63. Granger, C. W. J., & Newbold,
#'   P. (1974). Spurious regressions in econometrics. *Journal of Econometrics*, 2, 111-120. Bartlett, M. S. (1935).
#'   *Journal of the Royal Statistical Society*, 98, 536-543. Pyper, B. J., & Peterman, R. M. (1998). Comparison of
#'   methods to account for autocorrelation in correlation analyses of fish data. *Canadian Journal of Fisheries and
#'   Aquatic Sciences*, 55, 2127-2140. Durbin, J., & Watson, G. S. (1950). *Biometrika*, 37, 409-428.
#' @examples
#' years <- demo_study("town_years")
#' flag_spurious(years, ebook_loans, cycle_path_km)
#' flag_spurious(years, warm_days, pool_visits)
#' flag_spurious(years, ebook_loans)
#' flag_spurious(demo_study("learners"), commute_min, listening_score)
#' @export
flag_spurious <- function(study, x = NULL, y = NULL, time = NULL, group = NULL, confidence = 0.95) {
  study <- check_study(study)
  chosen <- function(quo, argument) if (!rlang::quo_is_null(quo)) pick_one(study, quo, argument)
  flag_names(study, chosen(rlang::enquo(x), "x"), chosen(rlang::enquo(y), "y"), chosen(rlang::enquo(time), "time"),
    chosen(rlang::enquo(group), "group"), confidence)
}

#' The same for names in strings
#' @noRd
flag_names <- function(study, x = NULL, y = NULL, time = NULL, group = NULL, confidence = 0.95) {
  check_confidence(confidence)
  study <- with_roles(study, time, group)
  if (!is.null(x) && !is.null(y)) return(flag_pair(study, x, y, confidence))
  if (is.null(role_variable(study, "time"))) {
    abort_input(sprintf("%s has no variable that holds the time, so no trend can be looked for.", data_name(study)),
      "Name it as time (--time), or give both variables to look at groups and other doubts.")
  }
  pairs <- flag_pairs(study, x)
  several_flags(study, pairs, confidence)
}

#' The study with the time and the group that were asked for, and no other
#' @noRd
with_roles <- function(study, time, group) {
  for (role in c("time", "group")) {
    name <- list(time = time, group = group)[[role]]
    if (is.null(name)) next
    study$codebook$role[study$codebook$role == role] <- "measure"
    study$codebook$role[study$codebook$variable == name] <- role
  }
  study
}

role_variable <- function(study, role) {
  found <- study$codebook$variable[study$codebook$role == role]
  if (length(found)) found[1]
}

flag_pair <- function(study, x, y, confidence) {
  time <- role_variable(study, "time")
  series <- if (!is.null(time)) series_of(study, x, y, time)
  relation <- relate_names(study, x, y, confidence = confidence)
  found <- if (!is.null(series)) check_trend(series$x, series$y, series$grid$times, series$grid$season, 1 - confidence)
  none <- list(r = NA_real_, p = NA_real_, n = 0L, n_effective = NA_real_)
  new_flags(
    x = x, y = y, time = if (is.null(time)) NA_character_ else time,
    verdict = if (is.null(found)) NA_character_ else found$verdict, levels = or_default(found$levels, none),
    changes = or_default(found$changes, none), detrended = or_default(found$detrended, none),
    durbin_watson = if (is.null(found)) NA_real_ else found$durbin_watson, cautions = flag_cautions(relation, found),
    within = within_of(study, relation), weakest = found$weakest, degree = found$degree, step = series$grid$step,
    season = if (is.null(series)) 1L else series$grid$season, notes = series_notes(series, time), series = series,
    confidence = confidence, relation = relation,
    time_label = if (is.null(time)) NA_character_ else label_of(study$codebook, time)
  )
}

#' Both series on one grid of periods
#' @noRd
series_of <- function(study, x, y, time) {
  if (time %in% c(x, y)) abort_usage(sprintf("%s is the time and one of the pair.", time), "Give another variable.")
  columns <- lapply(c(x, y), function(name) numbers_of(study, name)$values)
  grid <- time_grid(study$data[[time]], time, if (is.null(study$provenance$rows)) seq_len(nrow(study$data)) else
    study$provenance$rows)
  if (!is.null(grid$trouble)) abort_input(grid$trouble, grid$hint)
  on_grid <- lapply(columns, grid$place)
  both <- !is.na(on_grid[[1]]) & !is.na(on_grid[[2]])
  if (!any(both)) abort_undefined(sprintf("%s and %s share no period.", x, y),
    "Look for the years that each of them covers.")
  list(x = on_grid[[1]], y = on_grid[[2]], grid = grid)
}

series_notes <- function(series, time) {
  if (is.null(series)) return("No time was given, so nothing is said about trends.")
  grid <- series$grid
  gone <- sum(is.na(series$x) | is.na(series$y))
  flat <- function(v) length(unique(diff(v)[!is.na(diff(v))])) <= 1L
  c(
    if (!grid$sorted) sprintf("The rows were put into the order of %s.", time),
    if (length(grid$gaps)) sprintf("%s missing on the way; changes across a gap are left out.",
      count_of(length(grid$gaps), paste(grid$step, "is"), paste0(grid$step, "s are"))),
    if (gone > length(grid$gaps)) sprintf("In %d of %d periods a value is missing.", gone, length(series$x)),
    if (grid$season > 1L) sprintf("The season (%d periods a year) was taken out of changes and levels.", grid$season),
    if (flat(series$x) ||
      flat(series$y)) "A series changes by the same step every time, so its changes correlate with nothing."
  )
}

#' The relation within groups, where the study has them
#' @noRd
within_of <- function(study, relation) {
  group <- role_variable(study, "group")
  if (is.null(group) || group %in% c(relation$x, relation$y)) return(NULL)
  scores <- list(relation$pair$x, relation$pair$y)
  if (relation$coefficient == "spearman") scores <- lapply(scores, mid_ranks)
  found <- relate_within(scores[[1]], scores[[2]], as.character(study$data[[group]])[relation$pair$row])
  if (!is.null(found)) c(list(group = group), found[c("r", "p", "df", "by_group")])
}

# The verdict itself says what shared_trend would; the other cautions stay.
flag_cautions <- function(relation, found) {
  told <- relation$cautions
  if (!is.null(found)) told <- told[told$code != "shared_trend", ]
  rownames(told) <- NULL
  told
}

flag_pairs <- function(study, x) {
  names <- study$codebook$variable[study$codebook$role == "measure" & study$codebook$level %in% c("numeric", "ordinal")]
  if (!is.null(x)) return(lapply(setdiff(names, x), function(y) c(x, y)))
  if (length(names) < 2L) abort_usage("There are fewer than two numeric measures.", "Name two variables.")
  if (length(names) > 40L) abort_usage(sprintf("%d variables make %d pairs.", length(names), choose(length(names), 2)),
    "Name one variable, to be checked against the others.")
  utils::combn(names, 2, simplify = FALSE)
}

several_flags <- function(study, pairs, confidence) {
  flags <- lapply(pairs, function(pair) {
    tryCatch(flag_pair(study, pair[1], pair[2], confidence), unsere_error_undefined = function(e) NULL)
  })
  flags <- Filter(Negate(is.null), flags)
  if (!length(flags)) abort_undefined("No pair can be checked.", "Look for constant or empty variables.")
  p <- vapply(flags, function(flag) flag$changes$p, 0)
  adjusted <- 10^adjust_log10_p(log10(p), "holm")
  factor <- ifelse(is.na(p) | p == 0, 1, adjusted / p)
  timed <- !is.na(flags[[1]]$time)
  verdict <- vapply(seq_along(flags), function(k) {
    flag <- flags[[k]]
    if (!timed) return(NA_character_)
    trend_verdict(flag$levels$n, flag$levels, flag$changes, flag$detrended, flag$weakest, 1 - confidence, factor[k])
  }, "")
  rows <- data.frame(
    x = vapply(flags, `[[`, "", "x"), y = vapply(flags, `[[`, "", "y"), verdict = verdict,
    levels_r = vapply(flags, function(f) if (timed) f$levels$r else f$relation$r, 0),
    changes_r = vapply(flags, function(f) f$changes$r, 0), detrended_r = vapply(flags, function(f) f$detrended$r, 0),
    changes_p_adjusted = adjusted
  )
  order <- order(match(verdict, c("holds", "weakened", "trend only", "no relation", "too little data")),
    -abs(rows$levels_r))
  structure(list(pairs = `rownames<-`(rows[order, ], NULL), flags = flags[order], variables = study$codebook,
    confidence = confidence,
    time = flags[[1]]$time), class = c("unsere_flag_table", "unsere_result"))
}

new_flags <- function(...) {
  new_result("flags", list(...), c("x", "y", "time", "verdict", "levels", "changes", "detrended", "durbin_watson",
    "cautions"))
}

#' @export
as.data.frame.unsere_flags <- function(x, ...) {
  row <- function(name) {
    data.frame(series = name, r = x[[name]]$r, p = x[[name]]$p, n = x[[name]]$n,
    n_effective = x[[name]]$n_effective)
  }
  cbind(x = x$x, y = x$y, time = x$time, verdict = x$verdict, do.call(rbind, lapply(c("levels", "changes",
    "detrended"), row)))
}

#' @export
as.data.frame.unsere_flag_table <- function(x, ...) x$pairs
