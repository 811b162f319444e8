# Builds the site of the package with pkgdown into .build/site: the README as its front, help with its examples run, the
# articles. Nothing is fetched: no fonts, no look-ups of other packages' pages.
folder <- ".build/site"
log <- ".build/site.log"
unlink(folder, recursive = TRUE)
options(pkgdown.internet = FALSE)
cat("site: building the pages ...\n")
written <- file(log, "w")
sink(written)
sink(written, type = "message")
failed <- tryCatch(
  {
    pkgdown::build_site(
      ".", override = list(destination = folder), preview = FALSE, new_process = FALSE, install = FALSE
    )
    # What the README points to beside the articles.
    dir.create(file.path(folder, "docs"), showWarnings = FALSE)
    figures <- tempfile(fileext = ".html")
    rmarkdown::pandoc_convert(normalizePath("docs/figures.md"), "html", "markdown", figures)
    figures <- paste(readLines(figures, encoding = "UTF-8"), collapse = "\n")
    pkgdown::render_page(
      pkgdown::as_pkgdown(".", override = list(destination = folder)), "title-body",
      list(pagetitle = "Figures", body = sub("<h1>.*?</h1>", "", figures)), "docs/figures.html", quiet = TRUE
    )
    file.copy("docs/screenshots", file.path(folder, "docs"), recursive = TRUE)
    NULL
  },
  error = function(e) conditionMessage(e)
)
sink(type = "message")
sink()
close(written)
if (!is.null(failed)) {
  cat(utils::tail(readLines(log), 15), sprintf("site: failed: %s", failed), sep = "\n")
  quit(status = 1)
}
