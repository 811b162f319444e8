#' Gather moments from data that need not fit into memory
#'
#' Reads chunk after chunk and keeps only n, means, sums of squares and of products: all that a matrix of Pearson's r
#' takes. Values may be missing; each pair then rests on its own complete cases.
#'
#' @param source The path of delimited text with a heading and one case a line, or a function that gives the next data
#'   frame each time it is called and `NULL` at the end.
#' @param ... The variables, as names in strings; all numeric ones when none is given.
#' @param chunk_rows How many lines of a file are held at once.
#' @param codebook The path of a codebook (CSV) or a data frame, as for [read_study()]; of a file `codebook.csv` beside it
#'   when `NULL`.
#' @param missing_codes Values that stand for "no answer".
#' @param header_row,decimal,delimiter,encoding How a file is to be read, as for [read_study()]; found from its first
#'   four megabytes when `NULL`.
#' @param threads How many threads compute; the option `unsere.threads` or 2 when `NULL`. It never changes a digit.
#' @return Moments (class `unsere_moments`), a list of `variables` (names), `n` (cases) and `sums`. Hand it to
#'   [correlation_matrix()], or join it with others by [merge_moments()].
#' @section Errors: `unsere_error_input` when the file is not there, when a variable is unknown, or when text stands in
#'   a column of numbers (with the line).
#' @section How exact: r from chunks agrees with r from all cases at once to 13 decimals (tested).
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247.
#' @examples
#' years <- gather_moments(demo_file("town_years.csv"), chunk_rows = 10)
#' correlation_matrix(years)
#' @export
gather_moments <- function(source, ..., chunk_rows = 1e6, codebook = NULL, missing_codes = NULL,
                           header_row = NULL, decimal = NULL, delimiter = NULL, encoding = NULL, threads = NULL) {
  delimiter <- as_delimiter(delimiter)
  check_reading(header_row, decimal, delimiter)
  if (!is_whole(chunk_rows) || chunk_rows < 1) {
    abort_usage("`chunk_rows` must be a whole number from 1 on.", "For example 1e6.")
  }
  path <- if (is_word(source)) source
  plan <- list(
    wanted = as.character(c(...)), threads = sound_threads(threads), codebook = codebook, path = path,
    missing_codes = missing_codes
  )
  next_chunk <- if (is.function(source)) source else
    file_chunks(source, chunk_rows, header_row, decimal, delimiter, encoding)
  on.exit(if (!is.null(attr(next_chunk, "close"))) attr(next_chunk, "close")())
  tick <- progress_teller("cases")
  gathered <- NULL
  repeat {
    chunk <- next_chunk()
    if (is.null(chunk)) break
    if (is.null(gathered)) plan <- settle_columns(plan, chunk)
    part <- moments_of_chunk(chunk, plan, if (is.null(gathered)) 0 else gathered$n)
    gathered <- if (is.null(gathered)) part else merge_moments(gathered, part)
    tick(1 - 1 / (1 + gathered$n / 1e6))
  }
  if (is.null(gathered) || gathered$n == 0) abort_input("There is no case in this source.", "Look into it.")
  gathered
}

#' Which columns are gathered, and what is known of them
#' @noRd
settle_columns <- function(plan, chunk) {
  known <- read_codebook(plan$codebook, names(chunk), plan$path)
  codes <- codes_by_variable(names(chunk), known, plan$missing_codes)
  if (!length(plan$wanted)) plan$wanted <- chosen_numbers(chunk, known)
  lacking <- setdiff(plan$wanted, names(chunk))
  if (length(lacking)) {
    abort_input(
      sprintf("There is no variable \"%s\".", lacking[1]), suggest_names(lacking[1], names(chunk), "variables")
    )
  }
  plan$codes <- codes[plan$wanted]
  units <- stats::setNames(rep(NA_character_, length(plan$wanted)), plan$wanted)
  book <- complete_codebook(chunk[plan$wanted], known, plan$codes, units)
  attr(book, "decisions") <- NULL
  plan$book <- book
  plan
}

#' Join the moments of different cases
#'
#' @param a,b Moments from [gather_moments()], of the same variables and of cases that do not overlap.
#' @return Moments of all cases together.
#' @section Errors: `unsere_error_usage` when either is something else or when the variables differ.
#' @references Chan, T. F., Golub, G. H., & LeVeque, R. J. (1983). Algorithms for computing the sample variance. *The
#'   American Statistician*, 37, 242-247.
#' @examples
#' years <- as.data.frame(demo_study("town_years"))
#' halves <- split(years, years$year < 2009)
#' early <- gather_moments(function() {
#'   part <- halves$`TRUE`
#'   halves$`TRUE` <<- NULL
#'   part
#' }, "ebook_loans", "hives")
#' early
#' merge_moments(early, early)$n
#' @export
merge_moments <- function(a, b) {
  if (!inherits(a, "unsere_moments") || !inherits(b, "unsere_moments")) {
    abort_usage("Both must be moments.", "Make them with gather_moments().")
  }
  if (!identical(a$variables, b$variables)) {
    abort_usage("The two are of different variables.", "Gather both from the same ones, in the same order.")
  }
  new_moments(a$book, a$n + b$n, core_merge_moments(a$sums, b$sums))
}

moments_of_chunk <- function(chunk, plan, before) {
  columns <- lapply(plan$wanted, function(name) {
    column <- chunk[[name]]
    column[matches_code(column, plan$codes[[name]])] <- NA
    if (is.logical(column)) column <- as.double(column)
    if (is.numeric(column)) values <- as.double(column) else values <- numbers_in(trimws(as.character(column)))
    bad <- which(is.na(values) & !is.na(column))[1]
    if (!is.na(bad)) {
      place <- format(before + bad, big.mark = ",")
      abort_input(
        sprintf("%s holds text in case %s: \"%s\".", name, place, column[bad]),
        "Correct it, declare it with missing_codes, or leave this variable out."
      )
    }
    if (any(is.infinite(values))) abort_input(sprintf("%s holds an infinite value.", name), "Correct it in a copy.")
    values
  })
  new_moments(plan$book, nrow(chunk), core_moments(columns, plan$threads))
}

chosen_numbers <- function(chunk, known) {
  other <- known$variable[known$role %in% setdiff(role_names, "measure") | known$level %in% "nominal"]
  numeric <- names(chunk)[vapply(chunk, function(column) is.numeric(column) || is.logical(column), NA)]
  numeric <- setdiff(numeric, other)
  if (length(numeric) < 2L) abort_input("There are fewer than two columns of numbers.", "Give another source.")
  numeric
}

#' The cases of a text, so many records at a time, each read as the first ones say
#' @noRd
file_chunks <- function(path, chunk_rows, header_row, decimal, delimiter, encoding) {
  check_path(path)
  if (file_kind(path) != "text") {
    abort_input(sprintf("%s cannot be read in chunks.", file_name(path)), "Only delimited text can.")
  }
  plan <- plan_delimited(path, header_row, decimal, delimiter, encoding, path, limit = 4e6)
  connection <- file(plan$path, "r", encoding = "UTF-8")
  line <- plan$seen$line[plan$layout$first] - 1L
  readLines(connection, line, warn = FALSE)
  structure(function() {
    lines <- readLines(connection, chunk_rows, warn = FALSE, encoding = "UTF-8")
    # A text in quotes may go on in the next line.
    while (sum(count_quotes(lines)) %% 2 == 1 && length(more <- readLines(connection, 1L, warn = FALSE))) {
      lines <- c(lines, more)
    }
    if (!length(lines)) return(NULL)
    chunk <- read_chunk(lines, plan, line, path)
    line <<- line + length(lines)
    chunk
  }, close = function() {
    close(connection)
    if (plan$copied) unlink(plan$path)
  })
}

read_chunk <- function(lines, plan, before, shown) {
  copy <- tempfile(fileext = ".csv")
  on.exit(unlink(copy))
  writeLines(lines, copy, useBytes = TRUE)
  check_copied(copy, sum(nchar(lines, "bytes")) + length(lines))
  seen <- core_scan_delimited(copy, plan$delimiter, 0)
  split <- records_of(copy, plan$delimiter)
  kept <- which(seen$fields > 0L)
  kept <- kept[!notes_at_end(seen, kept, plan$layout$width, split)]
  wrong <- kept[seen$fields[kept] != plan$layout$width]
  if (length(wrong)) {
    abort_input(
      sprintf(
        "Row %s of %s has %s where the others have %d.", format(before + seen$line[wrong[1]], big.mark = ","),
        file_name(shown), count_of(seen$fields[wrong[1]], "field"), plan$layout$width
      ),
      "Look for a delimiter inside a text that is not in quotes."
    )
  }
  if (!length(kept)) {
    return(stats::setNames(as.data.frame(rep(list(numeric()), length(plan$layout$headings))), plan$layout$headings))
  }
  within <- plan
  within[c("path", "seen", "split")] <- list(copy, seen, split)
  within$layout[c("header", "first", "last", "records")] <- list(0L, 1L, max(kept), kept)
  chunk <- name_columns(read_cases(within, shown), within$layout)
  for (name in which(vapply(chunk, is.character, NA))) chunk[[name]] <- plain_numbers(chunk[[name]], plan$decimal)
  chunk
}

count_quotes <- function(lines) lengths(regmatches(lines, gregexpr("\"", lines, fixed = TRUE)))

#' @param book What is known of the variables, a row a variable; `sums` from the core.
#' @noRd
new_moments <- function(book, n, sums) {
  structure(
    list(variables = book$variable, book = book, n = n, sums = sums),
    class = c("unsere_moments", "unsere_result")
  )
}

#' @param asked Settled arguments of the matrix.
#' @noRd
matrix_from_moments <- function(moments, asked) {
  record <- straight_record()
  if (!asked$coefficient %in% c("auto", record$name)) {
    abort_usage(sprintf("Moments tell nothing of %s.", asked$coefficient), sprintf("They serve %s r.", record$adjective))
  }
  p <- length(moments$variables)
  table <- core_moments_table(moments$sums)
  pairs <- pair_places(matrix(record$name, p, p))
  all <- seq_along(pairs$i)
  pairs <- c(pairs, read_pairs(table$pairs, pairs, all, p)[c("r", "unexplained", "n")])
  shapes <- stats::setNames(list(list(at = all)), record$name)
  estimates <- finish_pairs(pairs, shapes, asked$expect, asked$confidence, NULL, function(share) NULL)
  sample <- moments_sample(moments, table)
  result <- matrix_result(estimates, with_spreads(sample, sample$spreads), NULL, asked, list(), moments$n)
  with_matrix_cautions(result, sample, asked, by_rows = FALSE)
}

#' A sample whose rows are not at hand, only their moments
#' @noRd
moments_sample <- function(moments, spreads) {
  none <- stats::setNames(rep(list(numeric()), length(moments$variables)), moments$variables)
  new_sample(
    columns = none, variables = moments$book, coding = lapply(none, function(column) list()), origin = list(),
    more = new.env(parent = emptyenv()), row = integer(), spreads = spreads
  )
}
