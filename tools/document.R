# Writes what is generated: the registration of the core's entry points, NAMESPACE and the help pages, the schema of briefs.
cpp11::cpp_register(quiet = TRUE)
roxygen2::roxygenise(load_code = "source")
house <- roxygen2::load_source(".")
writeLines(house$brief_schema_text(), "inst/schema/brief.json", useBytes = TRUE)

# Wherever the schema of outputs names a coefficient, the names are those of the records.
with_coefficients <- function(part) {
  if (!is.list(part)) return(part)
  part <- lapply(part, with_coefficients)
  if (!is.null(part$coefficient$enum)) part$coefficient$enum <- as.list(house$coefficient_names())
  part
}
outputs <- jsonlite::fromJSON("inst/schema/output.json", simplifyVector = FALSE)
text <- jsonlite::toJSON(with_coefficients(outputs), auto_unbox = TRUE, null = "null", pretty = 2)
writeLines(text, "inst/schema/output.json", useBytes = TRUE)
