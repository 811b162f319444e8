#' An item that runs against the others of its scale
#' @noRd
caution_reversed_item <- function() {
  new_caution("reversed_item",
    place = 27, meaning = "Possibly a reverse-scored item.",
    evidence = function(f, pair) {
      template(
        "Possibly reverse-scored: %s (r %s with the other %d items of the scale, which have r %s among them).",
        shown(lapply(f$name, shown, "heading"), "both"), shown(f$with, "r"), f$items - length(f$name), shown(f$among, "r")
      )
    },
    advice = function(f, pair) {
      template(
        "Reverse-score %s before adding up items: derive with reverse().",
        template(if (length(f$name) > 1L) "them" else "it")
      )
    }
  )
}

#' Items of a battery that go against all its others
#'
#' Signs are those of the leading direction of their r; an item is told where its r with every item of the other side
#' is negative and those within the larger side are positive.
#' @param sample The sample of a matrix; `pairs` its rows.
#' @noRd
check_reversed <- function(sample, pairs, alpha) {
  unlist(lapply(sample$more$batteries, function(items) {
    items <- intersect(items, sample$names)
    if (length(items) < 4L) return(NULL)
    r <- square_of(pairs, items, "r")
    p <- square_of(pairs, items, "p")
    if (anyNA(r[upper.tri(r)])) return(NULL)
    diag(r) <- 1
    side <- eigen(r, symmetric = TRUE)$vectors[, 1] >= 0
    if (sum(side) < length(items) / 2) side <- !side
    against <- which(!side)
    with <- which(side)
    if (!length(against) || length(against) >= length(with)) return(NULL)
    among <- r[with, with][upper.tri(diag(length(with)))]
    reversed <- against[vapply(against, function(k) {
      all(r[k, with] < 0) && mean(p[k, with] < alpha) >= 0.5
    }, NA)]
    if (!length(reversed) || !all(among > 0)) return(NULL)
    figures <- list(
      name = items[reversed], items = length(items), with = mean(r[reversed, with]), among = mean(among)
    )
    list(new_finding("reversed_item", "warning", figures))
  }), recursive = FALSE)
}

square_of <- function(pairs, names, field) {
  i <- match(pairs$x, names)
  j <- match(pairs$y, names)
  inside <- !is.na(i) & !is.na(j)
  out <- matrix(NA_real_, length(names), length(names))
  out[cbind(i, j)[inside, , drop = FALSE]] <- pairs[[field]][inside]
  out[cbind(j, i)[inside, , drop = FALSE]] <- pairs[[field]][inside]
  out
}
