#' Verify that results are reproduced
#'
#' Recomputes everything that [run_brief()] wrote into a folder: from the folder alone (the brief and the
#' rows or moments passed on with it) or from the data file. Each figure of `results.json` is compared with
#' the recomputed one, and each file is written anew and compared with the existing one: tables and
#' workbooks by cell, and the text of the page, of documents, slides and sources, and the figures.
#'
#' Numbers are considered equal if they agree to twelve digits. From rows alone, cautions and reading
#' decisions are taken from the folder; with `data` they and all sentences are recomputed as well. Anything
#' that cannot be recomputed is listed as not checked. Agreement does not prove who wrote the folder: a
#' completely rewritten folder is consistent with itself. Only a signature on it would prove its origin.
#'
#' @param folder A folder written by [run_brief()]; one string.
#' @param data The data file of the brief, to start from it instead of the folder's own rows or moments.
#' @return A verification (class `unsere_verification`), a list of:
#'   * `figures` (number compared), `same` (number reproduced), `different` (a data frame of `where`,
#'     `before`, `now`, for results and files)
#'   * `digest_same`: whether `data` are those of the run (for rows, whether their digest is the recorded
#'     one)
#'   * `checked` (files reproduced), `unchecked` (a data frame of `file`, `why`), `edited` (files whose
#'     digest differs from the recorded one), `lacking`, `added` (file names)
#'   * `version` (of the package that wrote the folder), `from` (`"rows"`, `"moments"` or `"data"`)
#' @section Errors: `unsere_error_input` if the folder was not written by Unsere, is incomplete, or its
#'   `results.json` contains entries that no run writes; otherwise as for [run_brief()].
#' @examples
#' \donttest{
#' folder <- file.path(tempdir(), "results")
#' run_brief(demo_file("dial.yml"), out = folder, quiet = TRUE)
#' verify_results(folder)
#' }
#' @export
verify_results <- function(folder, data = NULL) {
  if (!is_word(folder) || !dir.exists(folder)) {
    abort_input(problem("There is no folder %s.", paste(folder, collapse = " ")), "Name the folder of a run.")
  }
  with_files({
    before <- whole_document(folder)
    changed <- changed_files(folder, before$files)
    read <- recorded_brief(before)
    with_language(read$brief$settings$language, or_damaged(verify_read(folder, data, before, changed, read)))
  })
}

# What a run writes goes through; of what somebody else wrote there, anything may be odd.
or_damaged <- function(code) {
  tryCatch(code, error = function(e) {
    if (inherits(e, "unsere_error") || grepl(unreadable, conditionMessage(e))) stop(e)
    abort_damaged(first_line(conditionMessage(e)))
  })
}

verify_read <- function(folder, data, before, changed, read) {
  from <- if (!is.null(data)) "data" else if (is.null(before$record$columns)) "moments" else "rows"
  if (from == "moments") return(verify_moments(folder, before, changed))
  if (from == "data") read <- beside_data(read, data)
  study <- if (from == "rows") restore_study(before$record, rows_of(folder), read$brief) else brief_study(read, data)
  results <- suppressMessages(brief_results(read, study))
  digest_same <- if (from == "rows") {
    !"tables/rows_used.csv" %in% c(changed$edited, changed$lacking)
  } else {
    identical(digest_of(study_provenance(study)), before$data$digest)
  }
  now <- jsonlite::fromJSON(json_text(results_document(results)), simplifyVector = FALSE)
  figures <- compare_figures(before, now, if (from == "rows") c(apart_always, "cautions", "sentence") else apart_always)
  results$digest <- before$brief_digest
  results <- if (from == "rows") with_recorded_parts(results, before$record) else with_recorded_marks(results, before$record)
  finish_verification(folder, before, changed, figures, digest_same, from, results)
}

# Who wrote it when is no finding.
with_recorded_marks <- function(results, record) {
  results$made <- record$made
  if (is_word(record$intake$file)) results$intake[c("name", "file")] <- record$intake[c("name", "file")]
  results
}

#' @param results From which the files are made anew; `NULL` where they cannot be.
#' @noRd
finish_verification <- function(folder, before, changed, figures, digest_same, from, results = NULL) {
  files <- compare_made_anew(folder, before, results)
  different <- rbind(figures$different, list_faults(before$files, changed), files$different)
  rownames(different) <- NULL
  new_verification(
    figures = figures$figures, same = figures$figures - nrow(figures$different), different = different,
    digest_same = digest_same, checked = files$same, unchecked = files$unchecked, edited = changed$edited,
    lacking = union(changed$lacking, files$lacking), added = changed$added, version = before$version, from = from
  )
}

compare_made_anew <- function(folder, before, results) {
  why <- if (is.null(results)) {
    "the folder holds no rows"
  } else if (!identical(before$version, as.character(utils::packageVersion("unsere"))) || is.null(before$record$made)) {
    "another version of Unsere wrote it"
  } else if (file.exists(file.path(folder, "changes.txt"))) {
    "it tells of an earlier run as well"
  }
  if (is.null(why)) {
    anew <- remake_folder(results)
    on.exit(unlink(anew, recursive = TRUE))
    return(compare_folders(folder, anew, names(before$files)))
  }
  there <- setdiff(intersect(list.files(folder, recursive = TRUE), names(before$files)), "results.json")
  list(same = character(), different = NULL, lacking = character(), unchecked = data.frame(
    file = there, why = rep(why, length(there))
  ))
}

# A run lists what it wrote: a list that is not there, or that tells of other places, was made by someone else.
list_faults <- function(files, changed) {
  if (!length(files)) return(file_fault("the list of files in results.json", "empty", "each file of the run"))
  odd <- names(files)[!is_inner_path(names(files))]
  if (length(odd)) file_fault("the list of files in results.json", odd[1], "names within the folder")
}

# What the brief names beside itself is looked for beside the data, by the last part of its name.
beside_data <- function(read, data) {
  read$path <- file.path(dirname(data), basename(read$path))
  if (!is.null(read$brief$data$codebook)) read$brief$data$codebook <- basename(as.character(read$brief$data$codebook))
  read
}

# Of a folder without cases what its moments tell is compared: r, intervals, tests and lines of Pearson kinds.
verify_moments <- function(folder, before, changed) {
  file <- file.path(folder, "tables", "moments.csv")
  if (!file.exists(file)) abort_input("The folder contains neither rows nor moments.", "Give the data with --data FILE.")
  rows <- data.table::fread(file, data.table = FALSE, encoding = "UTF-8")
  both <- document_from_moments(rows, before)
  figures <- compare_figures(both$before, both$now, apart_always)
  digest_same <- !"tables/moments.csv" %in% c(changed$edited, changed$lacking)
  finish_verification(folder, before, changed, figures, digest_same, "moments")
}
