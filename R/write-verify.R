#' Whether the results in a folder come out again
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
    abort_input(sprintf("There is no folder %s.", paste(folder, collapse = " ")), "Name the folder of a run.")
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

abort_damaged <- function(why) {
  abort_input(sprintf("results.json is damaged: %s.", sub("[.]$", "", why)), "Run the brief again.")
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

is_inner_path <- function(names) {
  nzchar(names) & !grepl("^([/\\\\~]|[A-Za-z]:)|(^|[/\\\\])[.][.]([/\\\\]|$)|[[:cntrl:]]", names)
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
  check_document_types(found)
  found
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
  if (!file.exists(file)) abort_input("tables/rows_used.csv is not in the folder.", "Name the data with --data FILE.")
  data.table::fread(file, colClasses = "character", na.strings = NULL, data.table = FALSE, encoding = "UTF-8")
}

# A random start that was not given is that which the run told.
recorded_brief <- function(before) {
  path <- file.path(tempfile("unsere-"), basename(before$brief))
  dir.create(dirname(path))
  on.exit(unlink(dirname(path), recursive = TRUE))
  write_lines(unlist(before$record$brief), path)
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
  if (is.numeric(before) && is.numeric(now)) return(is_near(before, now))
  identical(before, now)
}

# To twelve digits.
is_near <- function(a, b) abs(a - b) <= 1e-12 * pmax(abs(a), abs(b)) + 1e-300
