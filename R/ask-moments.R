#' Gather moments from data that need not fit into memory
#'
#' Reads chunk after chunk and keeps only n, means, sums of squares and of products: all that a matrix of Pearson's r
#' takes. Values may be missing; each pair then rests on its own complete cases.
#'
#' @param source The path of delimited text with a heading and one case a line, or a function that gives the next data
#'   frame each time it is called and `NULL` at the end.
#' @param ... The variables, as names in strings; all numeric ones when none is given.
#' @param chunk_rows How many lines of a file are held at once.
#' @param missing_codes Values that stand for "no answer".
#' @param decimal The decimal mark, `"."` or `","`.
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
gather_moments <- function(source, ..., chunk_rows = 1e6, missing_codes = NULL, decimal = ".", threads = NULL) {
  wanted <- as.character(c(...))
  one_of(decimal, c(".", ","), "decimal")
  if (!is_whole(chunk_rows) || chunk_rows < 1) abort_usage("`chunk_rows` must be a whole number from 1 on.",
    "For example 1e6.")
  threads <- sound_threads(threads)
  next_chunk <- if (is.function(source)) source else file_chunks(source, chunk_rows, missing_codes, decimal)
  on.exit(if (!is.null(attr(next_chunk, "close"))) attr(next_chunk, "close")())
  tick <- progress_teller("cases")
  gathered <- NULL
  repeat {
    chunk <- next_chunk()
    if (is.null(chunk)) break
    if (is.null(gathered)) wanted <- chosen_numbers(chunk, wanted)
    chunk <- moments_of_chunk(chunk, wanted, threads, if (is.null(gathered)) 0 else gathered$n, missing_codes)
    gathered <- if (is.null(gathered)) chunk else merge_moments(gathered, chunk)
    tick(1 - 1 / (1 + gathered$n / 1e6))
  }
  if (is.null(gathered) || gathered$n == 0) abort_input("There is no case in this source.", "Look into it.")
  gathered
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
  if (!identical(a$variables, b$variables)) abort_usage("The two are of different variables.",
    "Gather both from the same ones, in the same order.")
  new_moments(a$variables, a$n + b$n, .Call(unsere_merge_moments, a$sums, b$sums))
}

moments_of_chunk <- function(chunk, wanted, threads, before, codes) {
  lacking <- setdiff(wanted, names(chunk))
  if (length(lacking)) abort_input(sprintf("There is no variable \"%s\".", lacking[1]),
    suggest_names(lacking[1], names(chunk), "variables"))
  columns <- lapply(wanted, function(name) {
    column <- chunk[[name]]
    if (is.logical(column)) column <- as.double(column)
    if (!is.numeric(column)) {
      bad <- which(is.na(numbers_in(as.character(column))) & !is.na(column))[1]
      abort_input(sprintf("%s holds text in case %s: \"%s\".", name, format(before + bad, big.mark = ","), column[bad]),
        "Correct it, declare it with missing_codes, or leave this variable out.")
    }
    column <- as.double(column)
    if (length(codes)) column[column %in% suppressWarnings(as.numeric(codes))] <- NA
    if (any(is.infinite(column))) abort_input(sprintf("%s holds an infinite value.", name), "Correct it in a copy.")
    column
  })
  new_moments(wanted, nrow(chunk), .Call(unsere_moments, columns, threads))
}

chosen_numbers <- function(chunk, wanted) {
  if (length(wanted)) return(wanted)
  numeric <- names(chunk)[vapply(chunk, function(column) is.numeric(column) || is.logical(column), NA)]
  if (length(numeric) < 2L) abort_input("There are fewer than two columns of numbers.", "Give another source.")
  numeric
}

#' A function that reads the next lines of a delimited file
#' @noRd
file_chunks <- function(path, chunk_rows, codes, decimal) {
  if (!is.character(path) || length(path) != 1L || !file.exists(path)) {
    abort_input(sprintf("There is no file %s.", paste(path, collapse = " ")), "Look at the name and the folder.")
  }
  connection <- file(path, "r")
  read_lines <- function(lines) {
    data.table::fread(text = lines, header = TRUE, dec = decimal, na.strings = c(blank_marks, as.character(codes)),
      data.table = FALSE, showProgress = FALSE, strip.white = TRUE)
  }
  heading <- readLines(connection, 1L, warn = FALSE)
  structure(function() {
    lines <- readLines(connection, chunk_rows, warn = FALSE)
    lines <- lines[nzchar(lines)]
    if (length(lines)) read_lines(c(heading, lines))
  }, close = function() close(connection))
}

new_moments <- function(variables, n, sums) {
  structure(list(variables = variables, n = n, sums = sums), class = c("unsere_moments", "unsere_result"))
}

matrix_from_moments <- function(moments, plan) {
  plan <- check_matrix_plan(plan)
  if (!plan$coefficient %in% c("auto", "pearson")) {
    abort_usage(sprintf("Moments tell nothing of %s.", plan$coefficient), "They serve Pearson's r.")
  }
  table <- .Call(unsere_moments_table, moments$sums)
  found <- measure_moments(table, length(moments$variables), plan$expect, plan$confidence)
  variables <- data.frame(variable = moments$variables, label = moments$variables, unit = NA_character_,
    level = "numeric",
    role = "measure", missing_codes = NA_character_, source = NA_character_, mean = table$mean, sd = table$sd,
    n = as.integer(table$n), one = NA_character_
  )
  matrix_result(found, variables, NULL, plan, NULL, moments$n)
}
