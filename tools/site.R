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
      ".",
      override = list(destination = folder), preview = FALSE, new_process = FALSE, install = FALSE
    )
    # What the README points to beside the articles.
    dir.create(file.path(folder, "docs"), showWarnings = FALSE)
    figures <- tempfile(fileext = ".html")
    rmarkdown::pandoc_convert(normalizePath("docs/figures.md"), "html", "markdown", figures)
    figures <- paste(readLines(figures, encoding = "UTF-8"), collapse = "\n")
    pkgdown::render_page(
      pkgdown::as_pkgdown(".", override = list(destination = folder)), "title-body",
      list(pagetitle = "Figures", body = sub("<h1[^>]*>.*?</h1>", "", figures)), "docs/figures.html",
      quiet = TRUE
    )
    front <- readLines(file.path(folder, "index.html"), encoding = "UTF-8")
    front <- gsub("vignettes/([a-z-]+)[.]Rmd", "articles/\\1.html", front)
    writeLines(front, file.path(folder, "index.html"), useBytes = TRUE)
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

# The pages are to be whole without network: what they would load from elsewhere goes (and the search that needs it), and
# the list of what is on a page is written into it.
pages <- list.files(folder, "[.]html$", recursive = TRUE, full.names = TRUE)
settle_page <- function(page) {
  html <- xml2::read_html(page, encoding = "UTF-8")
  elsewhere <- "starts-with(@%1$s, 'http') or starts-with(@%1$s, 'file:') or contains(@%1$s, 'pkgdown.js')"
  xml2::xml_remove(xml2::xml_find_all(html, sprintf("//script[%s]", sprintf(elsewhere, "src"))))
  xml2::xml_remove(xml2::xml_find_all(html, "//head/link[starts-with(@href, 'http')] | //form[.//input[@type = 'search']]"))
  toc <- xml2::xml_find_first(html, "//nav[@id = 'toc']")
  headings <- xml2::xml_find_all(html, "//main//h2[@id or ../@id]")
  if (!inherits(toc, "xml_missing") && length(headings)) {
    list <- xml2::xml_add_child(toc, "ul", class = "list-unstyled")
    for (heading in headings) {
      id <- xml2::xml_attr(heading, "id")
      if (is.na(id)) id <- xml2::xml_attr(xml2::xml_parent(heading), "id")
      item <- xml2::xml_add_child(list, "li")
      xml2::xml_add_child(item, "a", trimws(xml2::xml_text(heading)), href = paste0("#", id))
    }
  }
  xml2::write_html(html, page)
}
for (page in pages) settle_page(page)

# A link that leads nowhere is a fault of the site.
lost <- unlist(lapply(pages, function(page) {
  text <- paste(readLines(page, warn = FALSE, encoding = "UTF-8"), collapse = "\n")
  links <- unlist(regmatches(text, gregexpr("(href|src)=\"\\K[^\"#:?]+(?=[\"#?])", text, perl = TRUE)))
  lost <- links[!file.exists(file.path(dirname(page), links))]
  if (length(lost)) sprintf("%s -> %s", basename(page), unique(lost))
}))
if (length(lost)) {
  cat("site: these links lead nowhere:", paste0("  ", unique(lost)), sep = "\n")
  quit(status = 1)
}
cat(sprintf("site: done, %d pages; open %s/index.html in a browser.\n", length(pages), folder))
