# A folder of results as a run wrote it: its document, its brief, its rows, the marks of its files.

whole_document <- function(folder) {
  file <- file.path(folder, "results.json")
  if (!is_result_folder(folder)) {
    abort_input(problem("%s was not written by a brief.", folder), "Name the folder of a run.")
  }
  document <- tryCatch(jsonlite::fromJSON(file, simplifyVector = FALSE), error = function(e) NULL)
  if (is.null(document)) abort_input("results.json is damaged.", "Run the brief again.")
  if (is.null(document$record)) {
    abort_input("The folder is from an earlier version and contains no record to start from.", "Run the brief again.")
  }
  check_document_types(document)
  document
}

#' The types of what a verification rests on; the figures themselves are compared whatever they are
#' @noRd
check_document_types <- function(document) {
  is_object <- function(value) is.list(value) && (!length(value) || !is.null(names(value)))
  is_array <- function(value) is.list(value) && is.null(names(value))
  each <- function(test) function(value) is.list(value) && all(vapply(value, test, NA))
  described <- function(value) is_object(value) && is_word(value$variable)
  record <- if (is.list(document$record)) document$record else list()
  wrong <- c(
    version = !is_word(document$version), brief = !is_word(document$brief) || !nzchar(basename(document$brief)),
    files = !is.null(document$files) && !(is_object(document$files) && each(is_word)(document$files)),
    pairs = !is.null(document$pairs) && !(is_array(document$pairs) && each(is_object)(document$pairs)),
    record = !is_object(document$record), "record: brief" = !(is_array(record$brief) && each(is_word)(record$brief)),
    "record: columns" = !is.null(record$columns) && !(is_array(record$columns) && each(described)(record$columns)),
    "record: codebook" = !(is_array(record$codebook) && each(described)(record$codebook)),
    "record: intake" = !is.null(record$intake) && !is_object(record$intake),
    "record: made" = !is.null(record$made) && !(is_object(record$made) && each(is_word)(record$made)),
    "record: cautions" = !is.null(record$cautions) && !(is_array(record$cautions) && each(is_object)(record$cautions)),
    "record: rows" = !is.null(record$rows) && !each(is_number)(record$rows)
  )
  if (any(wrong)) abort_damaged(sprintf("\"%s\" is not what a run writes", names(wrong)[wrong][1]))
}

abort_damaged <- function(why) {
  abort_input(problem("results.json is damaged: %s.", sub("[.]$", "", why)), "Run the brief again.")
}

#' What was done to a folder since it was written
#' @param files The marks that its files had, by name.
#' @noRd
changed_files <- function(folder, files) {
  there <- setdiff(list.files(folder, recursive = TRUE, all.files = TRUE), "results.json")
  names <- names(files)[is_inner_path(names(files))]
  known <- intersect(there, names)
  list(
    edited = known[file_marks(folder, known) != unlist(files[known])], lacking = setdiff(names, there),
    added = setdiff(there, names(files))
  )
}

file_marks <- function(folder, names) {
  unname(tools::md5sum(if (nzchar(folder)) file.path(folder, names) else names))
}

rows_of <- function(folder) {
  file <- file.path(folder, "tables", "rows_used.csv")
  if (!file.exists(file)) abort_input("tables/rows_used.csv is not in the folder.", "Give the data with --data FILE.")
  data.table::fread(file, colClasses = "character", na.strings = NULL, data.table = FALSE, encoding = "UTF-8")
}

is_inner_path <- function(names) {
  nzchar(names) & !grepl("^([/\\\\~]|[A-Za-z]:)|(^|[/\\\\])[.][.]([/\\\\]|$)|[[:cntrl:]]", names)
}

# A random start that was not given is that which the run told.
recorded_brief <- function(before) {
  path <- file.path(tempfile("unsere-"), basename(before$brief))
  dir.create(dirname(path))
  on.exit(unlink(dirname(path), recursive = TRUE))
  write_lines(unlist(before$record$brief), path)
  read <- as_before(read_brief(path), before$record)
  for (k in seq_along(before$pairs)) {
    seed <- before$pairs[[k]]$relation$seed
    if (!is.null(seed) && k <= length(read$brief$pairs)) read$brief$pairs[[k]]$seed <- seed
  }
  read
}
