#' Another relation within groups than over all cases
#' @noRd
caution_mixed_groups <- function() {
  new_caution("mixed_groups",
    place = 7, check = check_groups_of_pair, meaning = "The correlation within groups is different.",
    evidence = function(f, pair) {
      template(
        "Within the %d groups of %s, r = %s%s.", f$groups, shown(f$group, "label"), shown(f$within, "r"),
        if (length(f$turned)) template("; it changes sign in %s", shown(f$turned, "several", f$groups)) else ""
      )
    },
    clause = function(f, digits) {
      if (isTRUE(f$opposite)) return(template(
        "Within the %d groups of %s the correlation had the opposite sign (r = %s).", f$groups, shown(f$group, "label"),
        shown(f$within, "r", digits)
      ))
      if (isTRUE(f$vanished)) template(
        "Within the %d groups of %s the correlation was not significant (r = %s, %s).", f$groups, shown(f$group, "label"),
        shown(f$within, "r", digits), shown(f$p, "p")
      )
    },
    clause_from = "warning"
  )
}

#' The relation within groups against that of all cases, for declared groups and for columns of words that split the cases
#' @noRd
check_groups_of_pair <- function(sample, evidence) {
  a <- evidence$estimate$x
  b <- evidence$estimate$y
  r <- if (evidence$record$products) evidence$r else r_plain(a, b)
  splits <- sample_splits(sample)
  made <- NULL
  for (split in splits) {
    figures <- check_split(a, b, r, split, evidence, length(splits))
    if (is.null(figures)) next
    if (!is_made_of(sample, split$name)) return(list(figures))
    made <- or_default(made, new_finding("made_from", "note", list(group = split$name)))
  }
  if (!is.null(made)) list(made)
}

check_split <- function(a, b, r, split, evidence, splits) {
  known <- which(!is.na(split$values))
  within <- relate_within(a[known], b[known], split$values[known])
  if (is.null(within)) return(NULL)
  apart <- abs(atanh(clip(r)) - atanh(clip(within$r)))
  by_group <- within$by_group
  turned <- names(by_group)[!is.na(by_group) & sign(by_group) == -sign(r)]
  clear_turn <- sign(within$r) == -sign(r) && within$p < 0.01 / splits && evidence$p < 0.05
  # The groups' means carry the difference: more than chance would, and enough to matter.
  inside <- known[within$enough]
  between <- group_share(a[inside], within$group) * group_share(b[inside], within$group)
  carried <- apart > 0.2 && between < 1e-4 / splits
  shifted <- carried && apart * sqrt(sum(within$enough) - 3) > 3
  # What is significant over all cases is gone within groups that differ in both.
  vanished <- carried && evidence$p < evidence$alpha && within$p >= evidence$alpha
  one <- turned_group(by_group, table(within$group), r, 0.002 / splits)
  if (!clear_turn && !shifted && !vanished && !length(one)) return(NULL)
  if (!clear_turn && told_as_trend(evidence$once$trend, split$name, evidence$alpha)) return(NULL)
  if (!clear_turn && !shifted && !vanished) turned <- one
  figures <- list(
    group = split$name, within = within$r, p = within$p, groups = nlevels(within$group), turned = turned,
    by_group = as.list(by_group), opposite = clear_turn, vanished = vanished && !clear_turn
  )
  step <- next_step("draw scatter", by = split$name, panels = TRUE)
  new_finding("mixed_groups", if (clear_turn) "serious" else "warning", figures, step)
}

# Within each unit the trend is there, too: where it is told, this would tell of a relation that is not there.
told_as_trend <- function(trend, group, alpha) isTRUE(trend$unit == group) && is_trend_told(trend, alpha)

#' Groups in which the relation goes the other way by more than chance would
#' @noRd
turned_group <- function(by_group, sizes, r, least) {
  sizes <- as.vector(sizes[names(by_group)])
  z <- atanh(clip(by_group)) * sqrt(pmax(sizes - 3, 0))
  p <- 2 * stats::pnorm(-abs(z))
  names(by_group)[!is.na(z) & sizes >= 8L & sign(by_group) == -sign(r) & p < least / length(by_group) & abs(r) > 0.1]
}
