# The page as a PDF: printed by a browser of the machine, else set from the source by pandoc.

form_pdf <- function() {
  new_form("pdf", 4, write_pdf, pictures = TRUE, ready = function() {
    if (is.null(find_browser()) && is.null(find_typesetter())) {
      "a PDF takes Chromium or Chrome, or pandoc with LaTeX or Typst; none is there."
    }
  })
}

write_pdf <- function(report, path) {
  browser <- find_browser()
  if (is.null(browser)) return(typeset_pdf(path))
  folder <- tempfile("pdf-")
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  page <- file.path(folder, "report.html")
  write_lines(html_page(report), page)
  printed <- file.path(folder, "report.pdf")
  # The page is ours and asks for nothing from outside; a sandbox is not to be had for root.
  run_silently(browser, c(
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--no-first-run", "--no-pdf-header-footer",
    paste0("--user-data-dir=", file.path(folder, "profile")), paste0("--print-to-pdf=", printed),
    paste0("file://", page)
  ), paste0("TMPDIR=", folder))
  if (is_pdf(printed)) file.copy(printed, path, overwrite = TRUE) else tell(say("No report.pdf: the browser printed none."))
}

#' A browser that prints without a window: the one that UNSERE_BROWSER names, or the first that is known
#' @noRd
find_browser <- function() {
  declared <- Sys.getenv("UNSERE_BROWSER")
  if (nzchar(declared)) return(if (nzchar(Sys.which(declared))) declared)
  paths <- Sys.which(c("chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome"))
  if (any(nzchar(paths))) unname(paths[nzchar(paths)][1])
}

find_typesetter <- function() {
  if (!nzchar(Sys.which("pandoc"))) return(NULL)
  engines <- c("xelatex", "lualatex", "typst")
  engines_found <- engines[nzchar(Sys.which(engines))]
  if (length(engines_found)) engines_found[1]
}

# From the source, whose figures stand beside it.
typeset_pdf <- function(path) {
  source <- file.path(dirname(path), "report.Rmd")
  run_silently("pandoc", c(
    "--from", "markdown", "--pdf-engine", find_typesetter(), "--resource-path", dirname(path), source,
    "--output", path
  ))
  if (is_pdf(path)) return(invisible())
  unlink(path)
  tell(say("No report.pdf: pandoc could not set one with %s.", find_typesetter()))
}

run_silently <- function(program, arguments, environment = character()) {
  suppressWarnings(system2(program, shQuote(arguments), stdout = FALSE, stderr = FALSE, timeout = 120, env = environment))
}

is_pdf <- function(path) file.exists(path) && identical(readBin(path, "raw", 5L), charToRaw("%PDF-"))
