# Writes inst/report/reference.docx and reference.pptx: the plain ones that officer brings, in Unsere's type and colours.
library(officer)

change_parts <- function(from, to, changes) {
  folder <- tempfile()
  utils::unzip(from, exdir = folder)
  for (part in names(changes)) for (file in Sys.glob(file.path(folder, part))) {
    text <- paste(readLines(file, warn = FALSE, encoding = "UTF-8"), collapse = "\n")
    writeLines(changes[[part]](text), file, useBytes = TRUE)
  }
  target <- file.path(normalizePath(dirname(to)), basename(to))
  unlink(target)
  zip::zip(target, list.files(folder, all.files = TRUE, no.. = TRUE), root = folder, mode = "mirror")
}
fonts <- function(text) gsub("(w:(ascii|hAnsi|cs|eastAsia))(Theme)?=\"[^\"]*\"", "\\1=\"Arial\"", text)
colours <- function(text) gsub("<w:color [^>]*/>", "<w:color w:val=\"22303C\"/>", text)

plain <- tempfile(fileext = ".docx")
print(read_docx(), target = plain)
change_parts(plain, "inst/report/reference.docx", list("word/styles.xml" = function(text) colours(fonts(text))))

plain <- tempfile(fileext = ".pptx")
print(read_pptx(), target = plain)
change_parts(plain, "inst/report/reference.pptx", list(
  # Sixteen to nine, as screens are.
  "ppt/presentation.xml" = function(text) sub("<p:sldSz [^>]*/>", "<p:sldSz cx=\"12192000\" cy=\"6858000\"/>", text),
  "ppt/theme/*.xml" = function(text) gsub("(<a:latin typeface=)\"[^\"]*\"", "\\1\"Arial\"", text)
))
cat("templates: done.\n")
