#' Run a brief
#'
#' Reads the brief and its data, carries out all analyses once, and writes the report in the requested forms with
#' tables, figures, all results as JSON, and an editable source. The folder is written completely or not at all.
#'
#' @param path The brief, a YAML file.
#' @param data A data file to use instead of the one named in the brief.
#' @param since The folder of an earlier run: the report then begins with what has changed.
#' @param out The results folder. An earlier results folder is replaced, any other folder is left unchanged. Default:
#'   `report: folder` in the brief.
#' @param quiet Whether to suppress progress messages. Default: `FALSE`.
#' @return The folder, invisibly.
#' @section Errors: `unsere_error_input` for mistakes in the brief (all of them, with their lines), a data file or variable
#'   that does not exist, or a folder that was not written by Unsere; otherwise as for the functions it calls.
#' @section Files written: `report.html` (self-contained), `report.docx`, `report.pptx`, `report.pdf` as requested;
#'   `tables/` (CSV) and `tables.xlsx` (one sheet per table, the rows used, all results); `figures/` (PNG at 300 dpi,
#'   SVG); `results.json` (all results); `report.Rmd` and `report.qmd` (the text with its figures and tables, to be
#'   edited and rendered with R Markdown or Quarto).
#' @section Data protection: A results folder is meant to be passed on, and by default contains no row of the data: cases
#'   are identified by their row numbers, `tables/moments.csv` holds n, means and sums of products of each pair, and
#'   groups of fewer than five cases are withheld, together with figures from which they could be derived. The brief's
#'   `share` changes this: `names` (`own`, `numbers`, `none`), `rows` (`all`: `tables/rows_used.csv`, from which
#'   [verify_results()] can reproduce everything; `moments`; `none`) and `least` (the smallest group reported; 1
#'   reports all). Columns that appear to be personal (names, e-mail, telephone, addresses, dates of birth, free text,
#'   network addresses) are not treated as measures, and are not passed on unless the brief names them.
#'
#'   This withholds names, rows and small groups. It does not make the results anonymous: a scatter plot shows both
#'   values of each case, an outlier may be recognisable, several reports on nearly the same cases can be subtracted
#'   from each other, and the title, labels and reasons are passed on as written. Anyone who has the data file can
#'   identify the cases.
#' @seealso [write_brief()] for a starter.
#' @examples
#' \donttest{
#' folder <- file.path(tempdir(), "results")
#' run_brief(demo_file("dial.yml"), out = folder, quiet = TRUE)
#' list.files(folder)
#' }
#' @export
run_brief <- function(path, data = NULL, since = NULL, out = NULL, quiet = FALSE) {
  with_files({
    read <- read_brief(path)
    with_language(read$brief$settings$language, run_read_brief(read, data, since, out, quiet))
  })
}

run_read_brief <- function(read, data, since, out, quiet) {
  tick <- function(text) if (!quiet) tell(text)
  target <- result_folder(read, out)
  earlier <- if (!is.null(since)) earlier_results(since)
  if (!is.null(earlier)) read <- with_route_of(read, earlier$record, tick)
  background <- open_background()
  on.exit(background$stop())
  tick(say("reading %s", basename(if (is.null(data)) read$brief$data$file else data)))
  results <- brief_results(read, brief_study(read, data), tick)
  changes <- if (!is.null(earlier)) changes_since(earlier, results)
  report <- new_report(results, changes)
  forms <- possible_forms(as.character(unlist(or_default(read$brief$report$formats, list("html")))))
  write <- function(folder) write_results(report, results_document(results), forms, folder, changes, tick, background)
  saved <- write_folder(target, write, keep = changed_by_others)
  if (length(saved)) tick(say("Kept, as they were added or edited since: %s", paste(by_folder(saved), collapse = ", ")))
  if (!quiet && !is.null(changes)) cat(format(changes), sep = "\n")
  invisible(target)
}

# What changed is to be the data, not the method.
with_route_of <- function(read, record, tick) {
  before <- as_before(read, record)
  route <- attr(before$brief, "route")
  if (is.null(read$brief$settings$interval) && route != "auto") {
    tick(say("interval and test as in the earlier results (%s); settings: {interval: auto} asks the data", route))
  }
  before
}

#' The forms asked for, less those whose packages are not there
#' @noRd
possible_forms <- function(forms_wanted) {
  forms <- output_forms()[intersect(names(output_forms()), forms_wanted)]
  lacking <- function(form) {
    package <- Filter(function(package) !nzchar(system.file(package = package)), form$needs)
    if (!length(package)) return(form$ready())
    say("the package %s is not there. In R: install.packages(\"%s\")", package[1], package[1])
  }
  lacking_of <- lapply(forms, lacking)
  possible <- vapply(lacking_of, is.null, NA)
  for (name in names(lacking_of)[!possible]) tell(say("No report.%s: %s", name, lacking_of[[name]]))
  if (any(possible)) forms[possible] else output_forms()[1]
}

result_folder <- function(read, out) {
  if (is.null(out)) {
    folder <- or_default(read$brief$report$folder, "results")
    if (grepl("^(/|~|[A-Za-z]:)|(^|/)[.][.](/|$)", folder)) {
      abort_input(
        problem("The brief's folder %s lies outside its own.", folder), "Name a folder inside, or say it with --out."
      )
    }
    out <- file.path(dirname(read$path), folder)
  }
  check_folder_of(out)
  if (file.exists(out) && !dir.exists(out)) abort_input(problem("%s is a file.", out), "Give the name of a folder.")
  if (dir.exists(out) && length(list.files(out)) && !is_result_folder(out)) {
    abort_input(problem("The folder %s was not written by Unsere and is left alone.", out), "Give another with --out.")
  }
  out
}

#' Files that someone put into a folder of results, or edited there
#' @noRd
changed_by_others <- function(folder) {
  record <- file.path(folder, "results.json")
  # One that cannot be read just now tells nothing of who wrote the files, so nothing is replaced.
  lines <- if (file.exists(record)) readLines(record, warn = FALSE, encoding = "UTF-8")
  written <- tryCatch(jsonlite::fromJSON(paste(lines, collapse = "\n"))$files, error = function(e) NULL)
  changed <- changed_files(folder, written)
  sort(c(changed$edited, changed$added))
}

# Many files of one folder are told by their number.
by_folder <- function(files) {
  unlist(unname(lapply(split(files, factor(dirname(files), unique(dirname(files)))), function(those) {
    if (length(those) < 4 || dirname(those[1]) == ".") return(those)
    sprintf("%s/ (%d files)", dirname(those[1]), length(those))
  })))
}

write_results <- function(report, document, forms, folder, changes, tick, background) {
  tick(say("figures and tables"))
  for (part in c("figures", "tables")) dir.create(file.path(folder, part))
  figures <- file.path(folder, "figures")
  background$ask("tables_then_ready", list(tables = report_tables(report), folder = folder))
  # The first figures are drawn in the background while the others are still laid out here; of these each process draws half.
  early <- length(blocks_of_type(report, "figure")) %/% 2L + 1L
  jobs <- list()
  report <- lay_out_figures(report, figures, function(block) {
    jobs <<- c(jobs, list(picture_job(block)))
    if (length(jobs) == early) background$ask("draw_pictures", jobs)
  })
  late <- jobs[-seq_len(early)]
  mine <- seq_along(late) %% 2 == 0
  background$ask("draw_pictures", late[!mine])
  draw_pictures(late[mine])
  pictures <- lapply(blocks_of_type(report, "figure"), function(block) {
    c(block[c("picture", "width", "height")], title = or_default(block$statement, or_default(block$caption, block$alt)))
  })
  background$ask("finish_workbook", list(folder = folder, pictures = pictures))
  write_drawings(report, figures)
  write_source(report, file.path(folder, "report.Rmd"))
  write_source(report, file.path(folder, "report.qmd"), "format: {html: {embed-resources: true}}")
  if (!is.null(changes)) write_lines(format(changes), file.path(folder, "changes.txt"))
  first <- vapply(forms, function(form) !form$pictures, NA)
  write_forms(forms[first], report, folder, tick)
  background$wait()
  write_forms(forms[!first], report, folder, tick)
  files <- list.files(folder, recursive = TRUE)
  document$files <- stats::setNames(as.list(file_marks(folder, files)), files)
  write_lines(json_text(document), file.path(folder, "results.json"))
}

# The workbook that waits in the other process for its pictures.
begun_workbook <- new.env(parent = emptyenv())

# While the figures are laid out here, what draws them is loaded there.
tables_then_ready <- function(work) {
  write_all_tables(work)
  begun_workbook$book <- if (has_package("openxlsx")) begin_workbook(work$tables)
  loadNamespace("ggplot2")
}

finish_workbook <- function(work) {
  if (is.null(begun_workbook$book)) return(invisible())
  save_workbook(begun_workbook$book, work$pictures, file.path(work$folder, "tables.xlsx"))
  begun_workbook$book <- NULL
}

write_forms <- function(forms, report, folder, tick) {
  for (form in forms) {
    tick(sprintf("report.%s", form$name))
    form$write(report, file.path(folder, paste0("report.", form$name)))
  }
}
