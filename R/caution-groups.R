#' The relation within groups against that of all cases
#' @noRd
doubt_groups <- function(sample, found) {
  groups <- sample_groups(sample)
  if (is.null(groups)) return(NULL)
  a <- found$estimate$x
  b <- found$estimate$y
  r <- if (found$record$products) found$r else r_plain(a, b)
  within <- relate_within(a, b, groups)
  if (is.null(within)) return(NULL)
  apart <- abs(atanh(clip(r)) - atanh(clip(within$r)))
  by_group <- within$by_group
  turned <- names(by_group)[!is.na(by_group) & sign(by_group) == -sign(r)]
  clear_turn <- sign(within$r) == -sign(r) && within$p < 0.01 && found$p < 0.05
  # The groups' means carry the difference: more than chance would, and enough to matter.
  between <- group_share(a[within$kept], within$group) * group_share(b[within$kept], within$group)
  shifted <- apart > 0.2 && apart * sqrt(sum(within$kept) - 3) > 3 && between < 1e-4
  if (!clear_turn && !shifted) return(NULL)
  figures <- list(
    group = sample$more$group_name, within = within$r, groups = length(by_group), turned = turned,
    by_group = as.list(by_group)
  )
  step <- next_step("draw scatter", by = sample$more$group_name, panels = TRUE)
  list(new_doubt("mixed_groups", if (clear_turn) "serious" else "warning", figures, step))
}
