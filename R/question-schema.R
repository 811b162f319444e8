# The keys of a question in a brief, as parts of a JSON Schema.

string_key <- function() list(type = "string")

strings_key <- function(least = 2L) list(type = "array", minItems = least, items = string_key())

#' An object of these keys and no others
#' @noRd
closed <- function(properties, required = NULL) {
  out <- list(type = "object", additionalProperties = FALSE, properties = properties)
  if (!is.null(required)) out$required <- as.list(required)
  out
}

#' The keys of a question in its own section, those of `settings` apart
#' @noRd
question_keys <- function(question, settings = FALSE) {
  declared <- Filter(function(one) "brief" %in% one$doors && (one$brief == "settings") == settings, question$arguments)
  keys <- lapply(declared, key_schema)
  if (!settings) names(keys) <- vapply(declared, `[[`, "", "brief")
  keys
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
