#' Checked before anything is computed: the form of the output, and where it goes
#' @noRd
check_output <- function(options, file) {
  if (!is.null(options$format)) one_of(options$format, c("text", "json", "csv", "markdown"), "--format")
  if (!is.null(options$out)) check_target(options$out, file)
}

#' Write a result in the form asked for, to the screen or to a file
#' @noRd
put_result <- function(result, options) {
  form <- if (is.null(options$format)) "text" else options$format
  lines <- switch(form,
    text = format(result), json = as_json(result), csv = as_csv(csv_fields(result)), markdown = as_markdown(result)
  )
  if (is.null(options$out)) return(writeLines(enc2native(lines)))
  writeLines(enc2utf8(lines), options$out, useBytes = TRUE)
  note(options, sprintf("Written to %s.", options$out))
}

note <- function(options, text) if (!isTRUE(options$quiet)) message(text)

check_target <- function(path, file = NULL) {
  if (!is.null(file) && file.exists(path) && identical(normalizePath(path), normalizePath(file, mustWork = FALSE))) {
    abort_usage(sprintf("%s is the data file; it is never written to.", path), "Give --out another name.")
  }
  if (!dir.exists(dirname(path))) abort_input(sprintf("There is no folder %s.", dirname(path)), "Make it first.")
  if (dir.exists(path)) abort_input(sprintf("%s is a folder.", path), "Give the name of a file.")
  if (file.access(dirname(path), 2) != 0) abort_input(sprintf("Nothing may be written to %s.", dirname(path)),
    "Choose another folder.")
}

#' JSON with 17 digits, what is not defined as null
#' @noRd
as_json <- function(result) {
  jsonlite::toJSON(verbatim_numbers(json_fields(result)), auto_unbox = TRUE, na = "null", null = "null", pretty = TRUE,
    json_verbatim = TRUE
  )
}

#' Numbers as they are to stand in JSON, data frames as lists of rows; jsonlite itself stops at 15 digits
#' @noRd
verbatim_numbers <- function(value) {
  if (is.data.frame(value)) return(lapply(seq_len(nrow(value)),
    function(i) verbatim_numbers(as.list(value[i, , drop = FALSE]))))
  if (is.list(value)) return(lapply(value, verbatim_numbers))
  if (!is.double(value) || inherits(value, "json")) return(value)
  text <- ifelse(is.finite(value), formatC(value, digits = 17, format = "g", width = 1), "null")
  if (length(text) != 1L) text <- sprintf("[%s]", paste(text, collapse = ", "))
  structure(text, class = "json")
}

json_fields <- function(result) UseMethod("json_fields")

json_head <- function(kind) list(kind = kind, version = as.character(utils::packageVersion("unsere")))

#' @export
json_fields.unsere_relation <- function(result) {
  fields <- unclass(result)[relation_fields]
  fields$p <- p_as_number(result)
  extra <- result[intersect(c("reason", "groups", "largest", "seed", "resamples"), names(result))]
  c(json_head("relation"), fields, list(cautions = result$cautions, sentence = in_words(result)),
    Filter(Negate(is.null), extra)
  )
}

#' p as JSON and CSV take it: where it is below what a double holds, written out from its logarithm, never as 0
#' @noRd
p_as_number <- function(result) {
  if (is.na(result$p) || result$p > 0) return(result$p)
  power <- floor(result$log10_p)
  structure(sprintf("%se%d", formatC(10^(result$log10_p - power), digits = 12, format = "g"), power), class = "json")
}

#' @export
json_fields.unsere_line <- function(result) {
  c(json_head("line"), unclass(result)[line_fields], list(sentence = in_words(result)))
}

#' CSV with as many digits as give each number back exactly, what is not defined as an empty cell
#' @noRd
as_csv <- function(data) {
  cells <- lapply(data, function(column) {
    text <- if (is.double(column)) shortest_digits(column) else quote_text(as.character(column))
    text[is.na(column)] <- ""
    text
  })
  c(paste(names(data), collapse = ","), do.call(paste, c(unname(cells), sep = ",")))
}

csv_fields <- function(result) {
  data <- as.data.frame(result)
  if (inherits(result, "unsere_relation") && result$p %in% 0) data$p <- unclass(p_as_number(result))
  data
}

shortest_digits <- function(x) {
  text <- sprintf("%.15g", x)
  lossy <- !is.na(x) & suppressWarnings(as.numeric(text)) != x
  text[lossy] <- sprintf("%.17g", x[lossy])
  text
}

quote_text <- function(text) {
  odd <- grepl("[\",\n;]", text)
  text[odd] <- paste0("\"", gsub("\"", "\"\"", text[odd], fixed = TRUE), "\"")
  text
}

as_markdown <- function(result) UseMethod("as_markdown")

#' @export
as_markdown.unsere_relation <- function(result) {
  c(markdown_table(relation_cells(result), left = 2L), "", in_words(result))
}

#' @export
as_markdown.unsere_line <- function(result) {
  c(result$equation, "", markdown_table(line_term_cells(result), left = 1L), "", in_words(result))
}

markdown_table <- function(cells, left = 1L) {
  escaped <- lapply(cells, function(column) gsub("|", "\\|", column, fixed = TRUE))
  row <- function(texts) paste0("| ", paste(texts, collapse = " | "), " |")
  c(
    row(names(cells)), row(ifelse(seq_along(cells) <= left, "---", "---:")),
    vapply(seq_along(escaped[[1]]), function(i) row(vapply(escaped, `[`, "", i)), "")
  )
}
