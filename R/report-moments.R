# A folder that can be shared: of the cases no more than the moments of each pair.

shares_moments <- function(brief) share_settings(brief)$rows == "moments"

#' The moments of every pair of numbers, in full digits
#' @return A data frame, a row a pair: `x`, `y`, `n`, `mean_x`, `mean_y`, and sums about the means `sxx`, `syy`, `sxy`.
#' @noRd
moments_of_pairs <- function(study, names, least = 1L) {
  if (!gives_rows(study, names)) return(moments_of_pairs_in_database(study, names))
  usable <- names[!level_of(study, names) %in% "nominal" & !book_entries(study, names)$role %in% c("case", "time", "group")]
  columns <- lapply(stats::setNames(usable, usable), function(name) {
    tryCatch(study_numbers(study, name)$values, unsere_error = function(e) NULL)
  })
  # A mean of two values tells how many have each.
  columns <- Filter(function(values) !is.null(values) && !has_small_group(values, least), columns)
  if (length(columns) < 2L) return(NULL)
  places <- utils::combn(length(columns), 2L)
  do.call(rbind, lapply(seq_len(ncol(places)), function(k) {
    x <- columns[[places[1, k]]]
    y <- columns[[places[2, k]]]
    both <- !is.na(x) & !is.na(y)
    x <- x[both]
    y <- y[both]
    if (length(x) < least) return(NULL)
    data.frame(
      x = names(columns)[places[1, k]], y = names(columns)[places[2, k]], n = length(x), mean_x = mean(x), mean_y = mean(y),
      sxx = sum((x - mean(x))^2), syy = sum((y - mean(y))^2), sxy = sum((x - mean(x)) * (y - mean(y)))
    )
  }))
}

moments_of_pairs_in_database <- function(study, names) {
  usable <- names[!level_of(study, names) %in% c("nominal", "ordinal")]
  moments <- take_sums(study, usable, straight_record())$moments
  places <- utils::combn(usable, 2L)
  do.call(rbind, lapply(seq_len(ncol(places)), function(k) {
    pair <- pair_of_moments(moments, places[1, k], places[2, k])
    data.frame(
      x = places[1, k], y = places[2, k], n = pair$n, mean_x = pair$mean[1], mean_y = pair$mean[2],
      sxx = pair$squares[1], syy = pair$squares[2], sxy = pair$product
    )
  }))
}

#' What a folder of moments says of r, its interval, its test and the line of each pair, as a document of the same places
#' @param rows Of tables/moments.csv; `before` the document of the run.
#' @return A list: `before` and `now`, both cut down to what moments tell.
#' @noRd
document_from_moments <- function(rows, before) {
  pairs <- lapply(seq_along(before$pairs), function(k) {
    pair <- before$pairs[[k]]
    relation <- pair$relation
    at <- which(rows$x == relation$x & rows$y == relation$y | rows$x == relation$y & rows$y == relation$x)
    usual <- identical(relation$coefficient, straight_record()$name) &&
      isTRUE(relation$ci_method %in% c("fisher z", "jackknife", "effective size", "clusters")) &&
      is.null(relation$given) && is.null(relation$design_effect) && is.null(relation$plausible)
    if (length(at) != 1L || !usual) return(NULL)
    pair_from_moments(rows[at, ], pair)
  })
  answered <- !vapply(pairs, is.null, NA)
  list(
    before = list(pairs = lapply(pairs[answered], `[[`, "before")), now = list(pairs = lapply(pairs[answered], `[[`, "now"))
  )
}

pair_from_moments <- function(row, pair) {
  relation <- pair$relation
  r <- row$sxy / sqrt(row$sxx) / sqrt(row$syy)
  unexplained <- (1 - r) * (1 + r)
  tested <- test_student(r, unexplained, row$n, relation$expect)
  around <- interval_fisher(r, unexplained, row$n, relation$confidence)
  now <- list(relation = list(
    r = r, n = row$n, ci_low = around[["ci_low"]], ci_high = around[["ci_high"]], value = tested$value, p = tested$p
  ))
  # Other intervals and tests rest on the cases.
  if (relation$ci_method != "fisher z") now$relation <- now$relation[c("r", "n")]
  before <- list(relation = relation[names(now$relation)])
  line <- pair$line
  turned <- row$x != relation$x
  if (identical(line$shape, "linear") && is.null(line$units)) {
    slope <- row$sxy / if (turned) row$syy else row$sxx
    means <- if (turned) c(row$mean_y, row$mean_x) else c(row$mean_x, row$mean_y)
    now$line <- list(intercept = means[2] - slope * means[1], slope = slope)
    before$line <- list(intercept = line$terms[[1]]$estimate, slope = line$terms[[2]]$estimate)
  }
  list(before = before, now = now)
}
