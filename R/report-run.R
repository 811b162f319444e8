#' Run a brief
#'
#' Reads the brief and the data it names, computes everything once, and writes the report in the forms asked for, the
#' tables, the figures, all figures as JSON, and a source to edit. The folder is written whole or not at all.
#'
#' @param path The brief, a YAML file.
#' @param data A data file in place of the one that the brief names.
#' @param since The folder of an earlier run: the report then says first what changed.
#' @param out The folder for the results; the brief's own `report: folder` when `NULL`. A folder written by an earlier
#'   run is replaced, any other is left alone.
#' @param quiet Whether to keep still about the steps.
#' @return The folder, invisibly.
#' @section Errors: `unsere_error_input` for a brief with mistakes (all of them, with their lines), a data file or
#'   variable that is not there, a folder that was not written by Unsere; and as for the functions that it calls.
#' @section What is written: `report.html` (self-contained), `report.docx`, `report.pptx` as asked for; `tables/` (CSV)
#'   and `tables.xlsx` (a sheet a table, and the rows that were used); `figures/` (PNG at 300 dpi, SVG); `results.json`
#'   (every figure); `report.Rmd` (the text with its figures and tables, to edit and knit again).
#' @seealso [write_brief()] for a starter.
#' @examples
#' \donttest{
#' folder <- file.path(tempdir(), "results")
#' run_brief(demo_file("dial.yml"), out = folder, quiet = TRUE)
#' list.files(folder)
#' }
#' @export
run_brief <- function(path, data = NULL, since = NULL, out = NULL, quiet = FALSE) {
  tick <- function(text) if (!quiet) message("  ", text)
  read <- read_brief(path)
  target <- result_folder(read, out)
  earlier <- if (!is.null(since)) earlier_results(since)
  tick(sprintf("reading %s", basename(if (is.null(data)) read$brief$data$file else data)))
  study <- brief_study(read, data)
  results <- brief_results(read, study, tick)
  changes <- if (!is.null(earlier)) changes_since(earlier, results)
  sections <- brief_sections(results, changes)
  formats <- possible_formats(as.character(unlist(or_default(read$brief$report$formats, list("html")))))
  kept <- write_folder(target, function(folder) write_results(results, sections, formats, folder, changes, tick),
    keep = changed_by_others)
  if (length(kept)) tick(sprintf("Kept, as they were added or edited since: %s", paste(kept, collapse = ", ")))
  if (!quiet && !is.null(changes)) message(paste(format(changes), collapse = "\n"))
  invisible(target)
}

#' Documents and slides need packages; without them the page still comes out, and what is lacking is said
#' @noRd
possible_formats <- function(formats) {
  lacking <- Filter(function(package) !nzchar(system.file(package = package)), c("officer", "flextable"))
  if (!length(lacking) || identical(formats, "html")) return(formats)
  message(sprintf("  No document and no slides: the package %s is not there. In R: install.packages(\"%s\")",
    lacking[1], lacking[1]))
  union("html", setdiff(formats, c("docx", "pptx")))
}

#' Where the results go: inside the brief's own folder unless told otherwise
#' @noRd
result_folder <- function(read, out) {
  if (is.null(out)) {
    folder <- or_default(read$brief$report$folder, "results")
    if (grepl("^(/|~|[A-Za-z]:)|(^|/)[.][.](/|$)", folder)) {
      abort_input(sprintf("The brief's folder %s lies outside its own.", folder),
        "Name a folder inside, or say it with --out.")
    }
    out <- file.path(dirname(read$path), folder)
  }
  if (!dir.exists(dirname(out))) abort_input(sprintf("There is no folder %s.", dirname(out)), "Make it first.")
  if (file.exists(out) && !dir.exists(out)) abort_input(sprintf("%s is a file.", out), "Give the name of a folder.")
  if (dir.exists(out) && length(list.files(out)) && !is_result_folder(out)) {
    abort_input(sprintf("The folder %s was not written by Unsere and is left alone.", out), "Give another with --out.")
  }
  out
}

is_result_folder <- function(folder) {
  file <- file.path(folder, "results.json")
  file.exists(file) && any(grepl("\"kind\": \"results\"", readLines(file, 5L, warn = FALSE), fixed = TRUE))
}

#' The files of a result folder that the run did not write, or that were edited since
#' @noRd
changed_by_others <- function(folder) {
  there <- setdiff(list.files(folder, recursive = TRUE, all.files = TRUE), "results.json")
  written <- tryCatch(unlist(jsonlite::fromJSON(file.path(folder, "results.json"))$files), error = function(e) NULL)
  there[!there %in% names(written) | file_marks(folder, there) != written[there]]
}

file_marks <- function(folder, names) unname(tools::md5sum(file.path(folder, names)))

write_results <- function(results, sections, formats, folder, changes, tick) {
  tick("figures and tables")
  for (part in c("figures", "tables")) dir.create(file.path(folder, part))
  pictures <- picture_writer()
  tables <- in_background(function() write_all_tables(results, folder))
  on.exit({
    pictures$stop()
    tables$stop()
  })
  sections <- write_figures(sections, file.path(folder, "figures"), pictures)
  write_lines(report_source(results, sections), file.path(folder, "report.Rmd"))
  if (!is.null(changes)) write_lines(format(changes), file.path(folder, "changes.txt"))
  for (form in union(intersect("html", formats), formats)) {
    if (form != "html") pictures$finish() # the page needs none of them
    tick(sprintf("report.%s", form))
    file <- file.path(folder, paste0("report.", form))
    switch(form,
      html = write_lines(html_page(report_title(results), or_default(results$brief$question, report_title(results)),
        sections), file),
      docx = write_document(results, sections, file), pptx = write_slides(results, sections, file)
    )
  }
  pictures$finish()
  tables$wait()
  files <- list.files(folder, recursive = TRUE)
  write_lines(results_json(results, stats::setNames(as.list(file_marks(folder, files)), files)),
    file.path(folder, "results.json"))
}

write_all_tables <- function(results, folder) {
  tables <- result_tables(results)
  for (name in names(tables)) replace_file(as_csv(tables[[name]]), file.path(folder, "tables", paste0(name, ".csv")))
  if (requireNamespace("openxlsx", quietly = TRUE)) write_workbook(tables, file.path(folder, "tables.xlsx"))
}

#' Named data frames with real numbers: one a kind of result, and the rows that were used
#' @noRd
result_tables <- function(results) {
  bind <- function(rows) if (length(rows)) do.call(rbind, rows)
  lines <- Filter(Negate(is.null), lapply(results$pairs, `[[`, "line"))
  cautions <- lapply(results$pairs, function(pair) {
    told <- pair$relation$cautions
    if (nrow(told)) data.frame(x = pair$relation$x, y = pair$relation$y, told)
  })
  used <- unique(c(results$study$codebook$variable[results$study$codebook$role %in% c("case", "time", "group")],
    results$names))
  Filter(Negate(is.null), list(
    relations = bind(lapply(results$pairs, function(pair) as.data.frame(pair$relation))),
    lines = bind(lapply(lines, function(line) data.frame(x = line$x, y = line$y, shape = line$shape, line$terms))),
    predictions = bind(lapply(lines, function(line) {
      if (nrow(line$predictions)) data.frame(x = line$x, y = line$y,
      line$predictions)
    })),
    matrix = if (!is.null(results$matrix)) results$matrix$pairs[setdiff(names(results$matrix$pairs), c("log10_p",
      "log10_p_adjusted"))],
    predictors = if (!is.null(results$rank)) results$rank$predictors,
    comparisons = if (!is.null(results$rank)) results$rank$comparisons, trends = bind(lapply(results$flags,
      as.data.frame)),
    cautions = bind(Filter(Negate(is.null), cautions)), rows_used = results$study$data[used]
  ))
}

#' The report as R Markdown: text, tables and figures as files, to edit and knit again
#' @noRd
report_source <- function(results, sections) {
  quote_yaml <- function(text) paste0("\"", gsub("([\"\\\\])", "\\\\\\1", text), "\"")
  escape <- function(text) gsub("([\\\\`*_{}#<>|$])", "\\\\\\1", gsub("[", "\\[", text, fixed = TRUE))
  one_block <- function(block) {
    switch(block$kind,
      text = as.vector(rbind(escape(block$text), "")),
      table = c(sprintf("Table: %s", escape(or_default(block$caption, ""))), "",
        markdown_table(lapply(block$cells, escape),
        block$left), "", if (!is.null(block$note)) c(escape(block$note), "")),
      figure = c(sprintf("![%s](figures/%s.png){alt=%s}", escape(or_default(block$caption, "")), block$name,
        quote_yaml(block$alt)), ""),
      cautions = as.vector(rbind(sprintf("**%s.** %s", capital(block$cautions$severity),
        escape(paste(block$cautions$evidence,
        block$cautions$advice))), "")),
      code = c("```yaml", block$lines, "```", "")
    )
  }
  body <- lapply(sections, function(section) {
    c(if (!is.null(section$heading)) c(paste("##", escape(section$heading)), ""),
      unlist(lapply(section$blocks, one_block)))
  })
  c("---", paste("title:", quote_yaml(report_title(results))), if (!is.null(results$brief$question)) paste("subtitle:",
    quote_yaml(results$brief$question)), "output: html_document", "---", "", unlist(body))
}
