# What goes into a matrix: the variables, the coefficient of each pair, the shape; and what is to be said about it.

#' The variables as numbers; those without an order or without values are left out and named
#' @noRd
choose_columns <- function(study, names) {
  book <- study$codebook
  if (!length(names)) names <- book$variable[book$role == "measure"]
  level <- book$level[match(names, book$variable)]
  empty <- vapply(study$data[names], function(column) all(is.na(column)), NA)
  out <- level == "nominal" | empty
  kept <- names[!out]
  if (length(kept) < 2L) {
    abort_usage(
      sprintf("A matrix takes two variables or more with an order; %s.",
        if (length(kept)) paste("here is one:", kept) else "here is none"),
      "Name more variables; groups without an order are left out."
    )
  }
  numbers <- lapply(stats::setNames(kept, kept), function(name) matrix_numbers(study, name))
  list(
    columns = lapply(numbers, `[[`, "values"),
    ones = vapply(numbers, function(number) if (is.null(number$one)) NA_character_ else number$one, "",
      USE.NAMES = FALSE),
    notes = c(
      if (any(level == "nominal")) sprintf("Left out, groups without an order: %s.",
        paste(names[level == "nominal"], collapse = ", ")),
      if (any(empty)) sprintf("Left out, no value at all: %s.", paste(names[empty], collapse = ", "))
    )
  )
}

# A binary variable of one value is a constant here, as in a group that has only one side of it; no reason to stop.
matrix_numbers <- function(study, name) {
  column <- study$data[[name]]
  given <- unique(column[!is.na(column)])
  if (length(given) == 1L && !is.numeric(column)) return(list(values = ifelse(is.na(column), NA_real_, 1)))
  numbers_of(study, name)
}

#' A function that tells how far something is, once it has taken two seconds
#' @noRd
progress_teller <- function(what) {
  started <- Sys.time()
  bar <- NULL
  frame <- parent.frame()
  function(share) {
    if (is.null(bar)) {
      if (as.numeric(difftime(Sys.time(), started, units = "secs")) < 2) return(invisible())
      bar <<- cli::cli_progress_bar(what, total = 100, .envir = frame, .auto_close = TRUE)
    }
    cli::cli_progress_update(set = round(100 * share), id = bar, .envir = frame)
  }
}

whole_cases <- function(columns) {
  kept <- Reduce(`&`, lapply(columns, function(column) !is.na(column)))
  if (sum(kept) < 3L) {
    abort_undefined(
      sprintf("Only %s every value.", if (sum(kept) == 1) "one case has" else paste(sum(kept), "cases have")),
      "Use missing = \"pairwise\", or fewer variables."
    )
  }
  lapply(columns, function(column) column[kept])
}

#' The coefficient of each pair, by levels; `NA` where the one asked for does not suit
#' @noRd
pair_kinds <- function(levels, coefficient) {
  p <- length(levels)
  if (coefficient %in% c("pearson", "spearman")) return(matrix(coefficient, p, p))
  kinds <- matrix("pearson", p, p)
  binary <- levels == "binary"
  kinds[binary, ] <- kinds[, binary] <- "point-biserial"
  kinds[binary, binary] <- "phi"
  if (coefficient != "auto") {
    kinds[kinds != coefficient] <- NA
    return(kinds)
  }
  kinds[levels == "ordinal", ] <- kinds[, levels == "ordinal"] <- "spearman"
  kinds
}

check_sides <- function(sides, names) {
  given <- !vapply(sides[c("rows", "columns")], is.null, NA)
  if (!any(given)) return(NULL)
  if (length(names)) abort_usage("Variables are given both for a square and for a rectangle.",
    "Give either plain variables, or rows and columns.")
  if (!all(given)) abort_usage(sprintf("`%s` is missing.", c("rows", "columns")[!given]),
    "A rectangle takes the variables down and the variables across.")
  if (setequal(sides$rows, sides$columns) && length(sides$rows) == 1L) {
    abort_usage(sprintf("%s is the only variable on both sides.", sides$rows), "Give another for the columns.")
  }
  sides
}

#' Of a rectangle only the pairs of one side with the other
#' @noRd
keep_sides <- function(kinds, names, sides) {
  if (is.null(sides)) return(kinds)
  down <- names %in% sides$rows
  across <- names %in% sides$columns
  kinds[!(outer(down, across) | outer(across, down))] <- NA
  kinds
}

#' In a rectangle x is the row and y the column
#' @noRd
rows_first <- function(pairs, sides) {
  turned <- !(pairs$x %in% sides$rows & pairs$y %in% sides$columns)
  pairs[turned, c("x", "y")] <- pairs[turned, c("y", "x")]
  pairs[order(match(pairs$x, sides$rows), match(pairs$y, sides$columns)), ]
}

left_out_note <- function(kinds, sides, plan) {
  if (!is.null(sides) || plan$coefficient %in% c("auto", "pearson", "spearman")) return(NULL)
  out <- sum(is.na(kinds[upper.tri(kinds)]))
  if (out) sprintf("Left out, %s that %s does not suit.", count_of(out, "pair"), plan$coefficient)
}

#' Said before anything is computed: a matrix of p variables takes about 25 tables of p by p numbers
#' @noRd
check_memory <- function(p, free = free_memory()) {
  needed <- 25 * 8 * as.double(p)^2
  if (is.na(free) || needed < 0.8 * free) return(invisible())
  abort_input(
    sprintf("%s make %s; that takes about %s GB of memory and %s GB are free.", count_of(p, "variable"),
      count_of(p * (p - 1) / 2, "pair"), format(signif(needed / 1e9, 2)), format(signif(free / 1e9, 2))
    ),
    "Choose fewer variables, or a rectangle of rows and columns."
  )
}

#' Bytes free by what the system tells, `NA` where it does not
#' @noRd
free_memory <- function(file = "/proc/meminfo") {
  if (!file.exists(file)) return(NA_real_)
  line <- grep("^MemAvailable:", readLines(file, warn = FALSE), value = TRUE)
  if (length(line)) 1024 * as.numeric(gsub("[^0-9]", "", line[1])) else NA_real_
}

matrix_notes <- function(pairs, variables, missing, cases) {
  constant <- variables$variable[variables$sd %in% 0]
  undefined <- pairs[is.na(pairs$r) & !pairs$x %in% constant & !pairs$y %in% constant, ]
  ends <- range(pairs$n)
  c(
    if (missing == "listwise") {
      sprintf("All pairs on the %d of %d cases that have every value.", ends[1], cases)
    } else if (ends[1] == ends[2]) {
      sprintf("n = %d for every pair.", ends[1])
    } else {
      sprintf("n from %d to %d: each pair on its own complete cases.", ends[1], ends[2])
    },
    if (missing == "pairwise" && ends[1] < 0.8 * ends[2]) {
      "The pairs rest on very different cases; compare them with missing = \"listwise\"."
    },
    if (length(constant)) sprintf("No r, as the values do not vary: %s.", paste(constant, collapse = ", ")),
    if (nrow(undefined)) {
      sprintf("No r for %s with too few complete cases: %s.", count_of(nrow(undefined), "pair"),
        paste(utils::head(paste(undefined$x, "with", undefined$y), 3), collapse = "; ")
      )
    }
  )
}
