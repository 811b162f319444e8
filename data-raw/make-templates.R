# Writes inst/report/reference.docx and reference.pptx: the plain ones that officer brings, in Unsere's type, spacing and colours.
library(officer)

change_parts <- function(from, to, changes) {
  folder <- tempfile()
  utils::unzip(from, exdir = folder)
  for (part in names(changes)) for (file in Sys.glob(file.path(folder, part))) changes[[part]](file)
  target <- file.path(normalizePath(dirname(to)), basename(to))
  unlink(target)
  zip::zip(target, list.files(folder, all.files = TRUE, no.. = TRUE), root = folder, mode = "mirror")
}
by_text <- function(change) {
  function(file) {
    text <- paste(readLines(file, warn = FALSE, encoding = "UTF-8"), collapse = "\n")
    writeLines(change(text), file, useBytes = TRUE)
  }
}

# Points times twenty for spaces, times two for type.
restyle <- function(style, size, before, after, bold = FALSE, colour = "22303C") {
  for (old in xml2::xml_find_all(style, "./w:pPr|./w:rPr")) xml2::xml_remove(old)
  add <- function(text) {
    xml2::xml_add_child(style, xml2::xml_root(xml2::read_xml(sprintf(
      "<w:%s xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\">%s</w:%s>", text[1], text[2], text[1]
    ))))
  }
  add(c("pPr", sprintf(
    "%s<w:spacing w:before=\"%d\" w:after=\"%d\" w:line=\"264\" w:lineRule=\"auto\"/><w:jc w:val=\"left\"/>",
    if (bold) "<w:keepNext/>" else "", before * 20, after * 20
  )))
  add(c("rPr", sprintf(
    "<w:rFonts w:ascii=\"Arial\" w:hAnsi=\"Arial\" w:cs=\"Arial\"/>%s<w:color w:val=\"%s\"/><w:sz w:val=\"%d\"/>",
    if (bold) "<w:b/>" else "", colour, size * 2
  )))
}
restyle_document <- function(file) {
  page <- xml2::read_xml(file)
  looks <- list(
    "Normal" = list(11, 0, 8), "heading 1" = list(20, 0, 6, TRUE), "heading 2" = list(14, 18, 6, TRUE),
    "heading 3" = list(12, 0, 10, FALSE, "5E6B78"), "table title" = list(10, 8, 4, TRUE),
      "graphic title" = list(10, 2, 10, FALSE, "5E6B78")
  )
  for (name in names(looks)) {
    for (style in xml2::xml_find_all(page, sprintf("//w:style[w:name/@w:val='%s']", name))) do.call(restyle,
      c(list(style), looks[[name]]))
  }
  xml2::write_xml(page, file)
}

plain <- tempfile(fileext = ".docx")
print(read_docx(), target = plain)
change_parts(plain, "inst/report/reference.docx", list("word/styles.xml" = restyle_document))

plain <- tempfile(fileext = ".pptx")
print(read_pptx(), target = plain)
change_parts(plain, "inst/report/reference.pptx", list(
  # Sixteen to nine, as screens are.
  "ppt/presentation.xml" = by_text(function(text) sub("<p:sldSz [^>]*/>", "<p:sldSz cx=\"12192000\" cy=\"6858000\"/>",
    text)),
  "ppt/theme/*.xml" = by_text(function(text) gsub("(<a:latin typeface=)\"[^\"]*\"", "\\1\"Arial\"", text))
))
cat("templates: done.\n")
