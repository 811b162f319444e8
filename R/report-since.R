# What changed since an earlier run.

earlier_results <- function(folder) {
  file <- if (dir.exists(folder)) file.path(folder, "results.json") else folder
  if (!file.exists(file)) {
    abort_input(problem("There is no results.json in %s.", folder), "Name the folder of an earlier run.")
  }
  document <- tryCatch(jsonlite::fromJSON(file, simplifyVector = TRUE, simplifyDataFrame = FALSE),
    error = function(e) NULL
  )
  if (!identical(document$kind, "results")) {
    abort_input(
      problem("%s was not written by a brief.", file),
      "Name the folder of an earlier run."
    )
  }
  attr(document, "folder") <- if (dir.exists(folder)) folder
  document
}

# The rows that the earlier run used, where its folder still has them.
earlier_study <- function(old) {
  folder <- attr(old, "folder")
  if (is.null(folder)) return(NULL)
  tryCatch(
    {
      before <- whole_document(folder)
      restore_study(before$record, rows_of(folder), recorded_brief(before)$brief)
    },
    error = function(e) NULL
  )
}

#' What is new beside an earlier run: both as documents of lists
#' @noRd
changes_since <- function(old, results) {
  new <- results_document(results)
  if (!is_word(old$brief) || !length(old$pairs) && length(new$pairs)) {
    abort_input("The earlier results.json is damaged: parts of it are missing.", "Name the folder of a complete run.")
  }
  if (!identical(old$brief, new$brief)) {
    abort_input(
      problem("The earlier results are of another brief (%s).", old$brief), "Name the folder of a run of this one."
    )
  }
  cases <- list(old = unlist(old$cases), new = unlist(new$cases))
  # Numbers are those of the file, not of persons.
  named <- length(cases$old) > 0L && length(cases$new) > 0L && !any(grepl("^row [0-9]+$", unlist(cases)))
  waves <- match_waves(earlier_study(old), results$study, named)
  fields <- list(
    old_data = old$data, new_data = new$data, arrived = if (named) setdiff(cases$new, cases$old),
    gone = if (named) setdiff(cases$old, cases$new), variables = variable_changes(old$variables, new$variables, waves),
    relations = relation_changes(old$pairs, new$pairs, waves), crossed = crossings(old$matrix, new$matrix, waves),
    cautions = changes_of_cautions(old$pairs, new$pairs), codebook = study_book(results$study),
    people = if (!is.null(waves)) sum(!is.na(waves$before) & !is.na(waves$now))
  )
  structure(fields, class = c("unsere_changes", "unsere_result"))
}

by_key <- function(rows, key) stats::setNames(rows, vapply(rows, key, ""))

variable_changes <- function(old, new, waves = NULL) {
  old <- by_key(old, function(row) row$variable)
  new <- by_key(new, function(row) row$variable)
  rows <- lapply(intersect(names(old), names(new)), function(name) {
    variable_change(name, old[[name]], new[[name]], waves)
  })
  do.call(rbind, rows)
}

variable_change <- function(name, before, now, waves) {
  if (is.null(before$mean) || is.null(now$mean)) return(NULL)
  width <- before$max - before$min
  wider <- now$max - now$min
  scale <- width > 0 && (wider > 1.5 * width || wider < width / 3 || now$min > before$max || now$max < before$min)
  testable <- !is.null(before$sd) && !is.null(now$sd) && max(before$sd, now$sd) > 0
  paired <- if (testable && !is.null(waves)) mean_over_people(waves, name)
  tested <- if (!is.null(paired)) paired else if (testable) test_two_means(now, before) else list(value = NA, p = NA)
  reach <- function(one) say("%s to %s", format_number(one$min, 4), format_number(one$max, 4))
  data.frame(
    variable = name, mean_before = before$mean, mean_now = now$mean, n_before = before$n, n_now = now$n,
    t = tested$value, p = tested$p, both = or_default(paired$both, NA_integer_),
    level_changed = before$level != now$level, scale_changed = scale,
    range_before = reach(before), range_now = reach(now)
  )
}

relation_changes <- function(old, new, waves = NULL) {
  key <- function(pair) paste(pair$relation$x, pair$relation$y)
  old <- by_key(old, key)
  rows <- lapply(new, function(pair) {
    before <- old[[key(pair)]]$relation
    now <- pair$relation
    tested <- if (!is.null(before)) change_of_r(now, before, waves)
    if (is.null(tested) || is.na(tested$p)) return(NULL)
    data.frame(
      x = now$x, y = now$y, r_before = before$r, r_now = now$r, n_before = before$n, n_now = now$n, z = tested$value,
      p = tested$p, both = or_default(tested$both, NA_integer_), df = or_default(tested$df, NA_real_)
    )
  })
  do.call(rbind, rows)
}

# Where people are in both, over persons; else, and where others are held or a design says so, as of different cases.
change_of_r <- function(now, before, waves) {
  plain <- is.null(now$given) && is.null(now$design_effect) && is.null(now$plausible)
  same <- identical(now$coefficient, before$coefficient)
  over <- if (!is.null(waves) && plain && same) relation_over_people(waves, now$x, now$y, now$coefficient)
  if (is.null(over)) difference_of(now, before) else over
}

#' Two r of different cases, each with the spread of its coefficient
#' @noRd
difference_of <- function(now, before) {
  r <- c(or_default(now$r, NA), or_default(before$r, NA))
  if (anyNA(r) || any(abs(r) == 1) || min(now$n, before$n) < 5) return(list(value = NA_real_, p = NA_real_))
  variance <- function(one) {
    spread <- coefficient_record(one$coefficient)$z_variance
    if (is.null(spread)) NA_real_ else spread(one$r, one$n) # of groups without an order r is no mean of products
  }
  test_two_samples(r[1], variance(now), r[2], variance(before))
}

crossings <- function(old, new, waves = NULL) {
  if (is.null(old) || is.null(new)) return(NULL)
  key <- function(pair) pair_key(pair$x, pair$y)
  before <- by_key(old$pairs, key)
  rows <- lapply(new$pairs, function(pair) {
    was <- before[[key(pair)]]
    if (is.null(was) || identical(was$highlighted, pair$highlighted)) return(NULL)
    tested <- change_of_r(pair, was, waves)
    data.frame(
      x = pair$x, y = pair$y, r_before = or_default(was$r, NA_real_), r_now = or_default(pair$r, NA_real_),
      z = tested$value, p = tested$p, df = or_default(tested$df, NA_real_), now = pair$highlighted
    )
  })
  do.call(rbind, rows)
}

#' Cautions that came and went, as tables of x, y and code
#' @noRd
changes_of_cautions <- function(old, new) {
  codes_of <- function(pairs) {
    rows <- lapply(pairs, function(pair) {
      codes <- vapply(pair$relation$cautions, function(row) row$code, "")
      if (length(codes)) data.frame(x = pair$relation$x, y = pair$relation$y, code = codes)
    })
    do.call(rbind, c(list(data.frame(x = character(), y = character(), code = character())), rows))
  }
  old <- codes_of(old)
  new <- codes_of(new)
  key <- function(rows) paste(rows$x, rows$y, rows$code, sep = "\r")
  list(came = new[!key(new) %in% key(old), ], went = old[!key(old) %in% key(new), ])
}

#' @export
format.unsere_changes <- function(x, ...) {
  c(set_title(say("What changed")), unlist(lapply(change_sentences(x), set_paragraph)))
}

change_sentences <- function(x) {
  size <- function(data) sprintf("%s (%s)", or_default(data$file, say("The data")), count_of(data$cases, "case"))
  if (is_unchanged(x)) {
    return(say("%s holds the same data as %s, and nothing changed.", size(x$new_data), size(x$old_data)))
  }
  c(
    say("%s instead of %s.", size(x$new_data), size(x$old_data)), case_sentences(x), variable_sentences(x),
    relation_sentences(x$relations, x$codebook), crossing_sentences(x$crossed, x$codebook),
    sentence_of_cautions(x$cautions$came, say("added"), x$codebook), sentence_of_cautions(
      x$cautions$went,
      say("removed"), x$codebook
    )
  )
}

# The same file by its digest, and no figure that is another.
is_unchanged <- function(x) {
  same <- is_word(x$new_data$digest) && identical(x$new_data$digest, x$old_data$digest)
  moved <- any(x$variables$mean_before != x$variables$mean_now) || any(x$variables$level_changed)
  came <- length(unlist(x$cautions[c("came", "went")])) > 0L
  same && !isTRUE(moved) && !came && all(x$relations$r_now == x$relations$r_before)
}

case_sentences <- function(x) {
  sentence_of <- function(word, cases) {
    if (!length(cases)) return(NULL)
    more <- length(cases) - 6L
    shown <- paste0(paste(utils::head(cases, 6), collapse = ", "), if (more > 0) say(" and %d more", more))
    sprintf("%s: %s: %s.", word, count_of(length(cases), "case"), shown)
  }
  c(
    sentence_of("New", x$arrived), sentence_of("Removed", x$gone), if (!is.null(x$people)) {
      say(
        "%s in both: changes are tested over persons.",
        if (x$people == 1L) "One is" else paste(x$people, "people are")
      )
    }
  )
}

variable_sentences <- function(x) {
  rows <- x$variables
  if (is.null(rows)) return(NULL)
  odd <- rows[rows$level_changed | rows$scale_changed, ]
  moved <- rows[!is.na(rows$p) & rows$p < 0.05, ]
  c(
    say(
      "%s: %s, now %s; has the scale changed?", begin(inside_of(x$codebook, odd$variable), x$codebook), odd$range_before,
      odd$range_now
    ),
    say(
      "The mean of %s changed from %s to %s, %s.", inside_of(x$codebook, moved$variable), format_number(moved$mean_before),
      format_number(moved$mean_now), vapply(moved$p, format_p_clause, "")
    ),
    if (!nrow(moved)) say("No mean changed significantly.")
  )
}

named_pairs <- function(book, rows) say("%s and %s", inside_of(book, rows$x), inside_of(book, rows$y))

relation_sentences <- function(rows, book) {
  if (is.null(rows)) return(NULL)
  changed <- ifelse(rows$p < 0.05, say("significant change of r"), say("no significant change"))
  say(
    "%s: %s (r = %s, before %s; n = %s and %s; %s, %s).", begin(named_pairs(book, rows), book), changed,
    format_r(rows$r_now), format_r(rows$r_before), format_count(rows$n_now), format_count(rows$n_before), change_test(rows),
    vapply(rows$p, format_p_clause, "")
  )
}

# "t(11) = 2.13" over persons, "z = 1.87" of different cases.
change_test <- function(rows) {
  value <- format_decimals(rows$z, 2)
  ifelse(is.na(rows$df), sprintf("z = %s", value), sprintf("t(%s) = %s", format_df(rows$df), value))
}

crossing_sentences <- function(rows, book) {
  if (is.null(rows)) return(NULL)
  p <- vapply(rows$p, format_p_clause, "")
  tested <- ifelse(is.na(rows$p), "", sprintf(" (%s, %s)", change_test(rows), p))
  verb <- ifelse(rows$now, say("are new"), say("no longer apply"))
  say(
    "%s %s: r = %s, before %s%s.", begin(named_pairs(book, rows), book), verb, format_r(rows$r_now), format_r(rows$r_before),
    tested
  )
}

sentence_of_cautions <- function(rows, word, book) {
  if (!nrow(rows)) return(NULL)
  meanings <- sub("[.]$", "", meaning_of(rows$code))
  say("Cautions that %s: %s.", word, paste(sprintf("%s: %s", named_pairs(book, rows), meanings), collapse = "; "))
}

changes_section <- function(changes) {
  label <- function(names) label_of(changes$codebook, names)
  rows <- changes$relations
  means <- changes$variables
  of_r <- if (length(rows$x)) block_table(
    list(
      x = label(rows$x), y = label(rows$y), before = format_r(rows$r_before),
      now = format_r(rows$r_now), test = change_test(rows), p = prose_p(rows$p)
    ), say("Each r before and now."),
    left_aligned = 2L,
    note = paste(
      "t: difference of Fisher's z over the persons in both, by the jackknife; z: as for independent samples,",
      "where persons cannot be matched by name."
    )
  )
  of_means <- if (length(means$variable)) block_table(
    list(
      variable = label(means$variable), "n before" = format(
        means$n_before
      ), "n now" = format(means$n_now), "mean before" = format_column(means$mean_before),
      "mean now" = format_column(means$mean_now), t = format_decimals(means$t, 2), p = prose_p(means$p)
    ),
    say("Each mean before and now."),
    note = if (all(is.na(means$both))) {
      say("t: Welch's, as for independent samples.")
    } else {
      say("t: over persons, paired where they are in both; persons in one file only count as independent.")
    }
  )
  new_section("changes", say("What changed"), block_text(change_sentences(changes)), of_r, of_means)
}
