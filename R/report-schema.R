# The schema of briefs, from the declarations of the questions; `make document` writes it beside the package's other schema.

brief_schema <- function() {
  if (is.null(known_schemas$brief)) known_schemas$brief <- build_brief_schema()
  known_schemas$brief
}

known_schemas <- new.env(parent = emptyenv())

build_brief_schema <- function() {
  string <- list(type = "string")
  strings <- list(type = "array", minItems = 2L, items = string)
  data <- data_keys()
  list(
    "$schema" = "https://json-schema.org/draft/2020-12/schema", title = "A brief: the analysis of a survey as a file",
    type = "object", required = list("data"), additionalProperties = FALSE,
    properties = c(list(
      title = list(type = "string", description = "The title of the report."),
      question = list(type = "string", description = "The question that it answers."),
      data = closed(data, "file"),
      design = closed(list(
        weight = string, stratum = string, cluster = string,
        replicates = list(type = list("string", "array"), items = string),
        method = list(type = "string", enum = as.list(replicate_methods)),
        factor = list(type = list("number", "array"), items = list(type = "number")),
        df = list(type = "number", minimum = 1)
      )),
      imputed = list(
        type = "string", description = "The variable with the number of the completed data set (multiple imputation)."
      ),
      plausible = list(
        type = "object", description = "Scores known as plausible values: the names of these.",
        additionalProperties = strings
      ),
      leave_out = list(
        type = "object", description = "Cases excluded, by name, each with its reason.", additionalProperties = string
      ),
      variables = list(
        type = "object", description = "What is known of the variables, by name.",
        additionalProperties = closed(variable_keys())
      ),
      derive = list(
        type = "object", description = "New variables as arithmetic on others.", additionalProperties = string
      ),
      scores = list(
        type = "object", description = "Scores of several items, by name: their mean or sum.",
        additionalProperties = closed(list(
          items = strings, least = list(type = "integer", minimum = 1),
          how = list(type = "string", enum = list("mean", "sum")),
          reverse = list(type = "array", items = string), label = string,
          key = list(type = "object", additionalProperties = string)
        ), "items")
      )
    ), lapply(brief_sections(), function(section) section$schema()), list(
      settings = closed(settings_keys()),
      share = closed(share_keys()),
      report = closed(list(
        formats = list(type = "array", minItems = 1L, items = list(type = "string", enum = as.list(names(output_forms())))),
        order = list(
          type = "array", description = "The questions in the order of the report; others follow as they are used to.",
          items = list(type = "string", enum = as.list(names(brief_sections())))
        ),
        folder = string
      ))
    ))
  )
}

variable_keys <- function() {
  nothing <- list(type = list("string", "null"))
  list(
    label = list(type = "string"), short = list(type = "string"), unit = nothing,
    level = list(type = "string", enum = as.list(level_names)),
    role = list(type = "string", enum = as.list(role_names)), source = nothing, values = nothing,
    range = nothing,
    missing_codes = list(type = "array", items = list(type = list("number", "string")))
  )
}

share_keys <- function() {
  list(
    names = list(
      type = "string", enum = list("own", "numbers", "none"),
      description = "How cases are called in what is handed on: by their own names, by numbers (the default), not at all."
    ),
    rows = list(
      type = "string", enum = list("all", "moments", "none"),
      description = paste(
        "What of the data is handed on: the rows that were used, n, means and products of each pair (the default),",
        "or nothing."
      )
    ),
    least = list(
      type = "integer", minimum = 1,
      description = "Groups and cells of fewer cases than this are not told of (5); 1 tells of all."
    )
  )
}

data_keys <- function() {
  c(list(
    file = list(type = "string", description = "The data file, relative to the brief."),
    database = list(type = "string", description = "Or an entry of the user's file of connections, with `table`.")
  ), intake_keys())
}

intake_keys <- function() lapply(intake_arguments(), function(one) or_nothing(key_schema(one)))

or_nothing <- function(schema) {
  schema$type <- c(as.list(schema$type), "null")
  if (!is.null(schema$enum)) schema$enum <- c(schema$enum, list(NULL))
  schema
}

settings_keys <- function() {
  keys <- do.call(c, lapply(unname(questions()), question_keys, settings = TRUE))
  c(keys[!duplicated(names(keys))], list(
    alpha = list(type = "number", exclusiveMinimum = 0, exclusiveMaximum = 1, description = "1 less the confidence."),
    interval = key_schema(shared_arguments("interval")$interval),
    digits = list(type = "integer", minimum = 1L, maximum = 6L, description = "Decimals of r in sentences and tables."),
    language = list(
      type = "string", enum = as.list(languages()), description = "Of sentences and numbers: en (English) or de (German)."
    )
  ))
}

#' The schema as it ships
#' @noRd
brief_schema_text <- function() jsonlite::toJSON(build_brief_schema(), auto_unbox = TRUE, null = "null", pretty = 2)
