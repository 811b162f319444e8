# What is handed on of the cases: how they are called, whether rows go along, and how small a group may be to be told of.

#' How a brief shares its data
#' @return A list: `names` (`"own"`, `"numbers"`, `"none"`), `rows` (`"all"`, `"moments"`, `"none"`), `least` (the size
#'   of the smallest group that is told of).
#' @noRd
share_settings <- function(brief) {
  utils::modifyList(list(names = "numbers", rows = "moments", least = 5L), as.list(brief$share))
}

#' A study whose cases are called as they may be handed on
#'
#' Numbers are those of the cases as they were read: who has the file finds them again, and nobody else.
#' @noRd
with_shared_names <- function(study, names) {
  naming <- role_variable(study, "case")
  if (names == "own" || is.null(naming)) return(study)
  n <- study_size(study)
  with_values_of(study, naming, if (names == "none") rep(say("a case"), n) else say("case %d", seq_len(n)))
}

#' The lines of a brief as they are handed on: cases that it leaves out by name are called as all others are
#' @noRd
lines_to_share <- function(read, study) {
  at <- study_provenance(study)$excluded_places
  named <- !is.null(role_variable(study, "case")) && share_settings(read$brief)$names != "own"
  if (is.null(read$lines) || !length(at) || !named) return(read$lines)
  brief <- read$brief
  names(brief$leave_out) <- sprintf("case %d", at)
  truth <- function(value) structure(ifelse(value, "true", "false"), class = "verbatim")
  strsplit(yaml::as.yaml(brief, handlers = list(logical = truth), precision = 15L), "\n", fixed = TRUE)[[1]]
}

#' Whether so few cases have one of two values that a count of them would tell of persons
#' @noRd
has_small_group <- function(values, least) {
  values <- values[!is.na(values)]
  two_valued(values) && min(table(values)) < least
}

small_group_variables <- function(study, names, least) {
  level <- stats::setNames(level_of(study, names), names)
  Filter(function(name) {
    if (level[[name]] == "nominal") return(isTRUE(min(table(study_column(study, name))) < least))
    has_small_group(tryCatch(study_numbers(study, name)$values, unsere_error = function(e) numeric()), least)
  }, names[level %in% c("binary", "nominal")])
}

# Cautions that tell the sizes of two groups.
counting_cautions <- c("rare_category", "small_groups", "unequal_spreads", "floor_or_ceiling")

#' All answers without what they tell of groups that are too small, and without what would tell it by subtraction
#'
#' Of two groups neither is told where one is too small; of several groups the smallest of the others goes along where only
#' one would go.
#' @noRd
suppress_small <- function(results, least) {
  withheld <- results$withheld
  results$pairs <- lapply(results$pairs, function(pair) {
    pair$relation <- without_small_groups(pair$relation, withheld, least)
    pair
  })
  results$flags <- lapply(results$flags, function(flags) {
    flags$relation <- without_small_groups(flags$relation, withheld, least)
    flags
  })
  for (part in c("matrix", "rank")) {
    cautions <- results[[part]]$cautions
    if (is.data.frame(cautions)) results[[part]]$cautions <- pick_cautions(cautions, !tells_of(cautions, withheld))
  }
  results$pooled <- lapply(results$pooled, without_small_rows, least)
  results$waves <- lapply(results$waves, function(waves) {
    if (any(waves$lost$n_lost < least)) waves$lost <- waves$lost[0, ]
    waves
  })
  if (!is.null(results$items)) {
    results$items$groups <- enough_cases(results$items$groups, "n", least)
    if (is.data.frame(results$items$options) && any(results$items$options$n < least)) {
      results$items[c("options", "curves")] <- list(NULL)
    }
  }
  results
}

# Pooled groups of too few cases go; what was published is known anyway.
without_small_rows <- function(pooled, least) {
  rows <- pooled$groups
  rows$place <- seq_len(nrow(rows))
  own <- rows[rows$source == "cases", ]
  enough <- rbind(enough_cases(own, "n", least), rows[rows$source != "cases", ])
  if (NROW(enough) == nrow(rows) && !any(pooled$excluded$n < least)) return(pooled)
  pooled$groups <- `rownames<-`(enough[names(rows) != "place"], NULL)
  pooled$p_without <- pooled$p_without[enough$place]
  pooled$excluded <- pooled$excluded[0, ]
  pooled$withheld <- least
  if (!is.null(pooled$cautions)) {
    pooled$cautions$groups <- lapply(pooled$cautions$groups, intersect, enough$name)
    pooled$cautions <- pooled$cautions[lengths(pooled$cautions$groups) > 0L, ]
  }
  pooled
}

tells_of <- function(cautions, withheld) {
  cautions$code %in% counting_cautions & (cautions$x %in% withheld | cautions$y %in% withheld)
}

without_small_groups <- function(relation, withheld, least) {
  if (is.null(relation)) return(NULL)
  shown <- c(relation$groups$n, relation$group_means$n, relation$counts$n)
  small <- any(shown < least) || any(c(relation$x, relation$y) %in% withheld)
  if (!small) return(relation)
  relation[c("groups", "largest", "group_means", "counts")] <- list(NULL)
  relation$withheld <- TRUE
  relation$cautions <- pick_cautions(relation$cautions, !relation$cautions$code %in% counting_cautions)
  relation
}

#' Rows of groups that are large enough; where one alone is not, the next smallest goes with it
#' @noRd
enough_cases <- function(rows, size, least) {
  if (!is.data.frame(rows)) return(rows)
  small <- which(rows[[size]] < least)
  if (length(small) == 1L) small <- order(rows[[size]])[1:2]
  if (!length(small)) return(rows)
  rows <- rows[-small, ]
  if (nrow(rows)) rows
}

# Whether a figure may tell whose a dot is: with it the values of a case could be gathered over several figures.
tells_cases <- function(brief) {
  share <- share_settings(brief)
  share$names == "own" || share$rows == "all"
}

#' What a report says of what it hands on
#' @noRd
share_sentence <- function(brief, withheld) {
  share <- share_settings(brief)
  c(
    switch(share$names,
      numbers = say("Cases are identified by their row numbers in the file, not by name."),
      none = say("Cases are not named.")
    ),
    if (length(withheld)) say("Groups of fewer than %d cases are not reported.", as.integer(share$least))
  )
}
