# Writes what is generated: the registration of the core's entry points, NAMESPACE and the help pages, the schema of briefs.
cpp11::cpp_register(quiet = TRUE)
roxygen2::roxygenise(load_code = "source")
house <- roxygen2::load_source(".")
writeLines(house$brief_schema_text(), "inst/schema/brief.json", useBytes = TRUE)
