# What changed since an earlier run.

earlier_results <- function(folder) {
  file <- if (dir.exists(folder)) file.path(folder, "results.json") else folder
  if (!file.exists(file)) abort_input(sprintf("There is no results.json in %s.", folder),
    "Name the folder of an earlier run.")
  found <- tryCatch(jsonlite::fromJSON(file, simplifyVector = TRUE, simplifyDataFrame = FALSE),
    error = function(e) NULL)
  if (!identical(found$kind, "results")) abort_input(sprintf("%s was not written by a run of a brief.", file),
    "Name the folder of an earlier run.")
  found
}

#' New against old: cases, variables, each r, cells at the highlight, cautions
#' @noRd
changes_since <- function(old, results) {
  new <- jsonlite::fromJSON(results_json(results), simplifyVector = TRUE, simplifyDataFrame = FALSE)
  if (!identical(old$brief, new$brief)) {
    abort_input(sprintf("The earlier results are of another brief (%s).", old$brief),
      "Name the folder of a run of this one.")
  }
  named <- !grepl("^row [0-9]+$", c(unlist(old$cases), unlist(new$cases)))
  structure(list(
    old_data = old$data, new_data = new$data,
    arrived = if (all(named)) setdiff(unlist(new$cases), unlist(old$cases)),
    gone = if (all(named)) setdiff(unlist(old$cases), unlist(new$cases)),
    variables = variable_changes(old$variables, new$variables), relations = relation_changes(old$pairs, new$pairs),
    crossed = crossings(old$matrix, new$matrix), cautions = caution_changes(old$pairs, new$pairs),
      codebook = results$study$codebook
  ), class = c("unsere_changes", "unsere_result"))
}

variable_changes <- function(old, new) {
  by_name <- function(list) stats::setNames(list, vapply(list, `[[`, "", "variable"))
  old <- by_name(old)
  new <- by_name(new)
  rows <- lapply(intersect(names(old), names(new)), function(name) {
    a <- old[[name]]
    b <- new[[name]]
    if (is.null(a$mean) || is.null(b$mean)) return(NULL)
    width <- a$max - a$min
    scale <- width > 0 && (b$max - b$min > 1.5 * width || b$max - b$min < width / 3 || b$min > a$max || b$max < a$min)
    tested <- if (is.null(a$sd) || is.null(b$sd) || max(a$sd, b$sd) == 0) list(value = NA, p = NA) else test_two_means(b, a)
    reach <- function(one) sprintf("%s to %s", format_number(one$min, 4), format_number(one$max, 4))
    data.frame(variable = name, mean_before = a$mean, mean_now = b$mean, n_before = a$n, n_now = b$n, t = tested$value,
      p = tested$p, level_changed = a$level != b$level, scale_changed = scale, range_before = reach(a),
      range_now = reach(b))
  })
  do.call(rbind, rows)
}

relation_changes <- function(old, new) {
  key <- function(pair) paste(pair$relation$x, pair$relation$y)
  old <- stats::setNames(old, vapply(old, key, ""))
  rows <- lapply(new, function(pair) {
    before <- old[[key(pair)]]$relation
    now <- pair$relation
    tested <- if (!is.null(before)) difference_of(now, before)
    if (is.null(tested) || is.na(tested$p)) return(NULL)
    data.frame(x = now$x, y = now$y, r_before = before$r, r_now = now$r, n_before = before$n, n_now = now$n,
      z = tested$value,
      p = tested$p)
  })
  do.call(rbind, rows)
}

#' The test of two r of different cases; without a value where either cannot be tested
#' @noRd
difference_of <- function(now, before) {
  r <- c(or_default(now$r, NA), or_default(before$r, NA))
  if (anyNA(r) || any(abs(r) == 1) || min(now$n, before$n) < 4) return(list(value = NA_real_, p = NA_real_))
  test_two_samples(r[1], now$n, r[2], before$n, is_ranks(now, before))
}

crossings <- function(old, new) {
  if (is.null(old) || is.null(new)) return(NULL)
  key <- function(pair) paste(sort(c(pair$x, pair$y)), collapse = "\r")
  before <- stats::setNames(old$pairs, vapply(old$pairs, key, ""))
  rows <- lapply(new$pairs, function(pair) {
    was <- before[[key(pair)]]
    if (is.null(was) || identical(was$highlighted, pair$highlighted)) return(NULL)
    tested <- difference_of(pair, was)
    data.frame(x = pair$x, y = pair$y, r_before = or_default(was$r, NA_real_), r_now = or_default(pair$r, NA_real_),
      z = tested$value, p = tested$p, now = pair$highlighted)
  })
  do.call(rbind, rows)
}

caution_changes <- function(old, new) {
  codes <- function(pairs) {
    unlist(lapply(pairs, function(pair) {
      found <- vapply(pair$relation$cautions, function(row) row$code, "")
      if (length(found)) paste(pair$relation$x, pair$relation$y, found, sep = "\r")
    }))
  }
  list(came = setdiff(codes(new), codes(old)), went = setdiff(codes(old), codes(new)))
}

#' @export
format.unsere_changes <- function(x, ...) {
  c(set_title("What changed"), unlist(lapply(change_sentences(x),
  set_paragraph)))
}

change_sentences <- function(x) {
  book <- x$codebook
  named <- function(a, b) sprintf("%s and %s", inside_all(book, a), inside_all(book, b))
  some <- function(values) {
    paste0(paste(utils::head(values, 6), collapse = ", "),
    if (length(values) > 6) sprintf(" and %d more",
    length(values) - 6))
  }
  relations <- x$relations
  odd <- x$variables[x$variables$level_changed | x$variables$scale_changed, ]
  moved <- x$variables[!is.na(x$variables$p) & x$variables$p < 0.05, ]
  told_caution <- function(keys, word) {
    if (!length(keys)) return(NULL)
    parts <- strsplit(keys, "\r", fixed = TRUE)
    sprintf("Cautions that %s: %s.", word, paste(vapply(parts, function(part) {
      sprintf("%s: %s", named(part[1], part[2]), sub("[.]$", "", caution_meanings[[part[3]]]))
    }, ""), collapse = "; "))
  }
  c(
    sprintf("%s (%s) instead of %s (%s).", x$new_data$file, count_of(x$new_data$cases, "case"), x$old_data$file,
      count_of(x$old_data$cases, "case")),
    if (length(x$arrived)) sprintf("New: %s: %s.", count_of(length(x$arrived), "case"), some(x$arrived)),
    if (length(x$gone)) sprintf("Gone: %s: %s.", count_of(length(x$gone), "case"), some(x$gone)),
    if (length(odd$variable)) sprintf("%s: %s, now %s; has the scale changed?", capital(inside_all(book, odd$variable)),
      odd$range_before, odd$range_now),
    if (length(moved$variable)) sprintf("The mean of %s moved from %s to %s, %s.", inside_all(book, moved$variable),
      format_number(moved$mean_before), format_number(moved$mean_now), vapply(moved$p, format_p_clause, "")),
    if (length(x$variables$variable) && !length(moved$variable)) "No mean moved by more than chance would do.",
    if (length(relations$x)) sprintf("%s: %s (r = %s, before %s; n = %d and %d; z = %s, %s).",
      capital(named(relations$x, relations$y)), ifelse(relations$p < 0.05, "r has changed",
        "no change that is clear of chance"), format_r(relations$r_now), format_r(relations$r_before), relations$n_now,
      relations$n_before, format_decimals(relations$z, 2), vapply(relations$p, format_p_clause, "")),
    if (length(x$crossed$x)) sprintf("%s %s: r = %s, before %s%s.", capital(named(x$crossed$x, x$crossed$y)),
      ifelse(x$crossed$now, "now stand out", "stand out no longer"), format_r(x$crossed$r_now),
      format_r(x$crossed$r_before), ifelse(is.na(x$crossed$p), "", sprintf(" (z = %s, %s)",
        format_decimals(x$crossed$z, 2), vapply(x$crossed$p, function(p) if (is.na(p)) "" else format_p_clause(p), "")))),
    told_caution(x$cautions$came, "came"), told_caution(x$cautions$went, "went")
  )
}

changes_section <- function(changes) {
  label <- function(names) label_of(changes$codebook, names)
  rows <- changes$relations
  means <- changes$variables
  of_r <- if (length(rows$x)) block_table(list(x = label(rows$x), y = label(rows$y), before = format_r(rows$r_before),
    now = format_r(rows$r_now), z = format_decimals(rows$z, 2), p = prose_p(rows$p)), "Each r before and now.", left = 2L,
    note = paste("z: the difference of Fisher's z, as of different cases; where the same people answered twice",
      "the test is cautious."))
  of_means <- if (length(means$variable)) block_table(list(variable = label(means$variable), "n before" = format(
    means$n_before), "n now" = format(means$n_now), "mean before" = format_number(means$mean_before),
    "mean now" = format_number(means$mean_now), t = format_decimals(means$t, 2), p = prose_p(means$p)),
    "Each mean before and now.", note = "t: Welch's, as of different cases.")
  new_section("changes", "What changed", block_text(change_sentences(changes)), of_r, of_means)
}
