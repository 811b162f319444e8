#' Whether the results in a folder are reproduced
#'
#' Everything that [run_brief()] left in a folder is worked out again: from the folder alone (the brief, and the rows or
#' moments that were handed on) or from the data file. Each figure of `results.json` is compared with what comes out now; and
#' each file is made anew and compared with the one that is there: tables and workbooks cell by cell, the text of the page,
#' of documents, slides and sources, and pictures.
#'
#' Numbers are the same where they agree to twelve digits. From the rows alone, cautions and how the file was read are taken
#' as the folder tells them; with `data` they, and all sentences, are worked out anew as well. What cannot be made anew
#' is named as not checked. The folder itself does not prove who made it: whoever writes a whole folder anew writes one that
#' agrees with itself. Only a signature on it would prove that.
#'
#' @param folder A folder that [run_brief()] wrote; one string.
#' @param data The data file that the brief was run on, to start from it instead of what the folder holds.
#' @return A verification (class `unsere_verification`), a list of `figures` (how many were compared), `same` (how many
#'   came out again), `different` (a data frame: `where`, `before`, `now`; of figures and of files), `digest_same` (whether
#'   `data` are those of the run; of rows, whether their mark is the recorded one), `checked` (names of files that were made
#'   anew and are the same), `unchecked` (a data frame: `file`, `why`), `edited` (files whose mark is not the recorded one),
#'   `lacking` and `added` (names of files), `version` (of the package that wrote the folder), `from` (`"rows"`, `"moments"`
#'   or `"data"`).
#' @section Errors: `unsere_error_input` when the folder was not written by Unsere, is not whole, or its `results.json` holds
#'   what no run writes; and as for [run_brief()].
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
  if (!file.exists(file)) abort_input("The folder holds neither rows nor moments.", "Name the data with --data FILE.")
  rows <- data.table::fread(file, data.table = FALSE, encoding = "UTF-8")
  both <- document_from_moments(rows, before)
  figures <- compare_figures(both$before, both$now, apart_always)
  digest_same <- !"tables/moments.csv" %in% c(changed$edited, changed$lacking)
  finish_verification(folder, before, changed, figures, digest_same, "moments")
}
