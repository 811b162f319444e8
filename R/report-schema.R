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
        factor = list(type = list("number", "array"), items = list(type = "number"))
      )),
      plausible = list(
        type = "object", description = "Scores known as plausible values: the names of these.",
        additionalProperties = strings
      ),
      leave_out = list(
        type = "object", description = "Cases left aside, by name, each with its reason.", additionalProperties = string
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
    ), questions_schema()[section_kinds], list(
      settings = closed(settings_keys()),
      share = closed(share_keys()),
      report = closed(list(
        formats = list(type = "array", minItems = 1L, items = list(type = "string", enum = as.list(names(output_forms())))),
        order = list(
          type = "array", description = "The questions in the order of the report; others follow as they are used to.",
          items = list(type = "string", enum = as.list(section_kinds))
        ),
        folder = string
      ))
    ))
  )
}

# The questions of a brief by their keys, in the order in which people work.
section_kinds <- c("pairs", "matrix", "rank", "items", "levels", "spurious", "plan")

questions_schema <- function() {
  string <- list(type = "string")
  strings <- list(type = "array", minItems = 2L, items = string)
  pair_keys <- c(list(x = string, y = string), question_keys(question_relate()), question_keys(question_line()))
  two <- list(type = "array", minItems = 2L, maxItems = 2L, items = string)
  list(
    pairs = list(type = "array", items = closed(pair_keys, c("x", "y"))),
    matrix = closed(c(list(variables = strings), question_keys(question_matrix()))),
    items = closed(c(list(variables = strings), utils::modifyList(question_keys(question_items()), list(key = list(
      type = "object", description = "The right answers of multiple choice, by item.", additionalProperties = string
    )))), "variables"),
    rank = closed(
      c(list(outcome = string, predictors = strings), question_keys(question_rank())), c("outcome", "predictors")
    ),
    spurious = closed(c(question_keys(question_flag()), list(pairs = list(type = "array", items = two))), "pairs"),
    levels = list(
      type = "array", description = "Pairs between groups and within them.",
      items = closed(c(list(x = string, y = string), question_keys(question_levels())), c("x", "y"))
    ),
    plan = closed(plan_keys())
  )
}

#' An object of these keys and no others
#' @noRd
closed <- function(properties, required = NULL) {
  out <- list(type = "object", additionalProperties = FALSE, properties = properties)
  if (!is.null(required)) out$required <- as.list(required)
  out
}

variable_keys <- function() {
  nothing <- list(type = list("string", "null"))
  list(
    label = list(type = "string"), unit = nothing, level = list(type = "string", enum = as.list(level_names)),
    role = list(type = "string", enum = as.list(role_names)), source = nothing, values = nothing,
    range = nothing,
    missing_codes = list(type = "array", items = list(type = list("number", "string")))
  )
}

#' The keys of a question in its own section, those of `settings` apart
#' @noRd
question_keys <- function(question, settings = FALSE) {
  declared <- Filter(function(one) "brief" %in% one$doors && (one$brief == "settings") == settings, question$arguments)
  keys <- lapply(declared, key_schema)
  if (!settings) names(keys) <- vapply(declared, `[[`, "", "brief")
  keys
}

# One number or several, as a size or a range.
plan_keys <- function() {
  lapply(plan_arguments(), function(one) {
    schema <- key_schema(one)
    if (one$type == "numbers") schema$type <- list("number", "array")
    schema
  })
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
  asking <- list(question_relate(), question_matrix(), question_line(), question_rank(), question_flag())
  keys <- do.call(c, lapply(asking, question_keys, settings = TRUE))
  c(keys[!duplicated(names(keys))], list(
    alpha = list(type = "number", exclusiveMinimum = 0, exclusiveMaximum = 1, description = "1 less the confidence."),
    digits = list(type = "integer", minimum = 1L, maximum = 6L, description = "Decimals of r in sentences and tables."),
    language = list(
      type = "string", enum = as.list(languages()), description = "Of sentences and numbers: en (English) or de (German)."
    )
  ))
}

key_schema <- function(one) {
  text <- list(type = "string")
  schema <- switch(one$type,
    number = list(type = "number"),
    whole = list(type = "integer"),
    numbers = list(type = "array", items = list(type = "number")),
    choice = ,
    choices = list(type = "string", enum = as.list(one$allowed)),
    flag = list(type = "boolean"),
    variables = list(type = "array", minItems = 1L, items = text),
    texts = list(type = "array", items = list(type = list("number", "string"))),
    scale = list(type = list("string", "object"), additionalProperties = list(type = "number")),
    values = list(type = "object", additionalProperties = list(type = "number")),
    text
  )
  if (one$type %in% c("number", "whole")) {
    if (is.finite(one$from)) schema[[if (one$inside) "exclusiveMinimum" else "minimum"]] <- one$from
    if (is.finite(one$to)) schema[[if (one$inside) "exclusiveMaximum" else "maximum"]] <- one$to
  }
  schema$description <- paste0(capital(one$help), ".")
  schema
}

#' The schema as it ships
#' @noRd
brief_schema_text <- function() jsonlite::toJSON(build_brief_schema(), auto_unbox = TRUE, null = "null", pretty = 2)
