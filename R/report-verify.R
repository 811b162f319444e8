#' Whether the results in a folder come out again
#'
#' Everything that [run_brief()] left in a folder is worked out again from the folder alone: from the brief, the rows that
#' were used and what was known of their variables. Each figure of `results.json` is compared with what comes out now. It
#' also tells which of the files in the folder were edited, are lacking, or were put there since.
#'
#' Numbers are the same where they agree to twelve digits. Cautions are compared only with `data`, as they may rest on
#' variables that are not in the folder.
#'
#' @param folder A folder that [run_brief()] wrote; one string.
#' @param data The data file that the brief was run on, to start from it instead of the rows in the folder.
#' @return A verification (class `unsere_verification`), a list of `figures` (how many were compared), `same` (how many
#'   came out again), `different` (a data frame: `where`, `before`, `now`), `digest_same` (whether the rows, or
#'   `data`, are those of the run), `edited`, `lacking` and `added` (names of files), `version` (of the package that
#'   wrote the folder).
#' @section Errors: `unsere_error_input` when the folder was not written by Unsere, or is not whole; and as for
#'   [run_brief()].
#' @examples
#' \donttest{
#' folder <- file.path(tempdir(), "results")
#' run_brief(demo_file("dial.yml"), out = folder, quiet = TRUE)
#' verify_results(folder)
#' }
#' @export
verify_results <- function(folder, data = NULL) {
  if (!is_word(folder) || !dir.exists(folder)) {
    abort_input(sprintf("There is no folder %s.", paste(folder, collapse = " ")), "Name the folder of a run.")
  }
  with_files({
    before <- whole_document(folder)
    changed <- changed_files(folder, before$files)
    read <- recorded_brief(before)
    with_language(read$brief$settings$language, verify_read(folder, data, before, changed, read))
  })
}

verify_read <- function(folder, data, before, changed, read) {
  # What the brief names beside itself is looked for beside the data.
  if (!is.null(data)) read$path <- file.path(dirname(data), before$brief)
  if (is.null(data) && (shares_moments(read$brief) || is.null(before$record$columns))) {
    return(verify_moments(folder, before, changed))
  }
  study <- if (is.null(data)) restore_study(before$record, rows_of(folder), read$brief) else brief_study(read, data)
  results <- suppressMessages(brief_results(read, study))
  now <- jsonlite::fromJSON(json_text(results_document(results)), simplifyVector = FALSE)
  found <- compare_figures(before, now, if (is.null(data)) c(apart_always, "cautions", "sentence") else apart_always)
  rows <- "tables/rows_used.csv"
  digest_same <- if (is.null(data)) {
    !rows %in% c(changed$edited, changed$lacking)
  } else {
    identical(digest_of(study_provenance(study)), before$data$digest)
  }
  new_verification(
    figures = found$figures, same = found$figures - nrow(found$different), different = found$different,
    digest_same = digest_same, edited = changed$edited, lacking = changed$lacking, added = changed$added,
    version = before$version, from = if (is.null(data)) "rows" else "data"
  )
}

# Of a folder without cases what its moments tell is compared: r, intervals, tests and lines of Pearson kinds.
verify_moments <- function(folder, before, changed) {
  file <- file.path(folder, "tables", "moments.csv")
  if (!file.exists(file)) abort_input("tables/moments.csv is not in the folder.", "Name the data with --data FILE.")
  rows <- data.table::fread(file, data.table = FALSE, encoding = "UTF-8")
  both <- document_from_moments(rows, before)
  found <- compare_figures(both$before, both$now, apart_always)
  new_verification(
    figures = found$figures, same = found$figures - nrow(found$different), different = found$different,
    digest_same = !"tables/moments.csv" %in% c(changed$edited, changed$lacking), edited = changed$edited,
    lacking = changed$lacking, added = changed$added, version = before$version, from = "moments"
  )
}

# What names a run, is not a figure, or tells how the file was read.
apart_always <- c("kind", "version", "brief", "brief_digest", "data", "files", "record", "intake", "cases", "notes", "seed")

whole_document <- function(folder) {
  file <- file.path(folder, "results.json")
  if (!is_result_folder(folder)) {
    abort_input(sprintf("%s was not written by a run of a brief.", folder), "Name the folder of a run.")
  }
  found <- tryCatch(jsonlite::fromJSON(file, simplifyVector = FALSE), error = function(e) NULL)
  if (is.null(found)) abort_input("results.json is damaged.", "Run the brief again.")
  if (is.null(found$record)) {
    abort_input("The folder is of an earlier version and holds no record to start from.", "Run the brief again.")
  }
  found
}

#' What was done to a folder since it was written
#' @param files The marks that its files had, by name.
#' @noRd
changed_files <- function(folder, files) {
  there <- setdiff(list.files(folder, recursive = TRUE, all.files = TRUE), "results.json")
  known <- intersect(there, names(files))
  list(
    edited = known[file_marks(folder, known) != unlist(files[known])], lacking = setdiff(names(files), there),
    added = setdiff(there, names(files))
  )
}

file_marks <- function(folder, names) unname(tools::md5sum(file.path(folder, names)))

rows_of <- function(folder) {
  file <- file.path(folder, "tables", "rows_used.csv")
  if (!file.exists(file)) abort_input("tables/rows_used.csv is not in the folder.", "Name the data with --data FILE.")
  data.table::fread(file, colClasses = "character", na.strings = NULL, data.table = FALSE, encoding = "UTF-8")
}

# A random start that was not given is that which the run told.
recorded_brief <- function(before) {
  path <- file.path(tempfile("unsere-"), before$brief)
  dir.create(dirname(path))
  on.exit(unlink(dirname(path), recursive = TRUE))
  writeLines(enc2utf8(unlist(before$record$brief)), path, useBytes = TRUE)
  read <- read_brief(path)
  for (k in seq_along(before$pairs)) {
    seed <- before$pairs[[k]]$relation$seed
    if (!is.null(seed) && k <= length(read$brief$pairs)) read$brief$pairs[[k]]$seed <- seed
  }
  read
}

#' Two documents, figure by figure
#' @return A list: `figures`, how many were compared; `different`, a data frame of `where`, `before`, `now`.
#' @noRd
compare_figures <- function(before, now, apart) {
  old <- leaves_of(before, apart)
  new <- leaves_of(now, apart)
  where <- union(names(old), names(new))
  told <- function(leaves) vapply(where, function(one) if (is.null(leaves[[one]])) "" else format_leaf(leaves[[one]]), "")
  same <- vapply(where, function(one) is_same_figure(old[[one]], new[[one]]), NA)
  different <- data.frame(where = where, before = told(old), now = told(new), row.names = NULL)[!same, ]
  rownames(different) <- NULL
  list(figures = length(where), different = different)
}

# Each figure or word of a document by its place, such as "pairs 1, relation, r".
leaves_of <- function(value, apart, place = character()) {
  if (!is.list(value)) return(stats::setNames(list(value), paste(place, collapse = ", ")))
  if (!length(value)) return(NULL)
  keys <- names(value)
  if (is.null(keys)) {
    last <- length(place)
    keys <- paste0(if (last) place[last], " ", seq_along(value))
    place <- place[-last]
  }
  kept <- which(!keys %in% apart)
  unlist(lapply(kept, function(k) leaves_of(value[[k]], apart, c(place, keys[k]))), recursive = FALSE)
}

format_leaf <- function(value) if (is.numeric(value)) sprintf("%.15g", value) else as.character(value)

is_same_figure <- function(before, now) {
  if (is.numeric(before) && is.numeric(now)) return(abs(before - now) <= 1e-12 * max(abs(before), abs(now)) + 1e-300)
  identical(before, now)
}
