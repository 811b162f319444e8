#' Groups that are made from the other variable
#' @noRd
caution_made_groups <- function() {
  new_caution("made_groups",
    place = 2, check = check_made_groups, of_groups = TRUE, always = TRUE,
    meaning = "The groups are derived from the other variable.",
    evidence = function(f, pair) {
      if (f$nested) {
        return(template(
          "Each group of %s lies in one group of %s: one is made from the other.", shown(f$name, "label"),
          shown(f$other, "label")
        ))
      }
      template(
        "The groups of %s do not overlap in %s: they are made from it.", shown(f$name, "label"), shown(f$other, "label")
      )
    },
    advice = function(f, pair) template("This figure says nothing about a relationship. Remove one of them."),
    clause = function(f, digits) {
      template("One of the two is made from the other, so this says nothing about a relationship.")
    }
  )
}

#' Groups that numbers were divided into, such as grades; or groups of groups, such as towns and regions
#' @noRd
check_made_groups <- function(sample, evidence) {
  estimate <- evidence$estimate
  figures <- if (evidence$record$categories == 1L) {
    if (estimate$n >= 3L * length(estimate$kinds) && are_groups_apart(estimate$values, estimate$group)) {
      side <- match(estimate$side, c("x", "y"))
      list(nested = FALSE, name = sample$names[side], other = sample$names[3L - side])
    }
  } else {
    nested_groups(estimate$table$counts, sample$names)
  }
  if (!is.null(figures)) list(new_finding("made_groups", "serious", figures))
}

#' Whether numbers of one group never lie among those of another
#' @noRd
are_groups_apart <- function(values, group) {
  ends <- vapply(split(values, group), range, c(0, 0))
  ends <- ends[, order(ends[1, ], ends[2, ]), drop = FALSE]
  all(ends[1, -1] >= ends[2, -ncol(ends)])
}

# Each row of the table in one column, and three cases or more a row: by chance that is next to impossible.
nested_groups <- function(counts, names) {
  for (side in 1:2) {
    of_side <- if (side == 1L) counts else t(counts)
    if (sum(counts) >= 3L * nrow(of_side) && all(rowSums(of_side > 0) == 1L)) {
      return(list(nested = TRUE, name = names[side], other = names[3L - side]))
    }
  }
  NULL
}
