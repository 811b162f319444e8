# Documents against the schema that ships, by a validator that is not the package's own.

#' Where documents depart from the schema
#' @param texts A list of character vectors, each a JSON document; `kinds` what each is.
#' @return A list of character vectors, one a document.
schema_faults <- function(texts, kinds, schema = "output.json") {
  asked <- c("-c", shQuote("import jsonschema"))
  status <- suppressWarnings(system2("/usr/bin/python3", asked, stdout = FALSE, stderr = FALSE))
  if (status != 0L) skip("Debian's python3-jsonschema is not here")
  paths <- vapply(texts, function(text) {
    path <- tempfile(fileext = ".json")
    writeLines(enc2utf8(text), path, useBytes = TRUE)
    path
  }, "")
  said <- system2("/usr/bin/python3", shQuote(c(
    test_path("validate.py"), system.file("schema", schema, package = "unsere"), rbind(kinds, paths)
  )), stdout = TRUE)
  unlink(paths)
  lapply(paths, function(path) sub("^\\S+ ", "", said[startsWith(said, paste0(path, " "))]))
}

#' What the command writes as JSON, in this process
json_of <- function(...) capture.output(run_command(c(..., "--format", "json", "--quiet")))
