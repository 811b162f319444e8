# Writes what is generated: the registration of the core's entry points, NAMESPACE and the help pages, the schemas, and
# the lists of the README.
Rcpp::compileAttributes(verbose = FALSE)
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

# Lists of the README, between two comments that name them.
put_list <- function(lines, name, list) {
  ends <- match(sprintf(c("<!-- %s: written by make document -->", "<!-- end of %s -->"), name), lines)
  c(lines[seq_len(ends[1])], "", list, "", lines[ends[2]:length(lines)])
}
coefficients <- vapply(house$coefficient_records(), function(record) {
  when <- if (nzchar(record$why)) sprintf("default if %s", record$why) else "on request"
  sprintf("| %s | %s | %s |", record$name, record$symbol[1], when)
}, "")
commands <- vapply(house$commands(), function(command) {
  sprintf("| `unsere %s` | %s |", gsub("|", "\\|", command$usage, fixed = TRUE), command$about)
}, "")
readme <- readLines("README.md", encoding = "UTF-8")
readme <- put_list(readme, "coefficients", c("| coefficient | symbol | taken |", "| --- | --- | --- |", coefficients))
readme <- put_list(readme, "commands", c("| command | what it does |", "| --- | --- |", commands))
writeLines(readme, "README.md", useBytes = TRUE)
