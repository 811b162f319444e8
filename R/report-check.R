# A document against a JSON schema: types, enumerations, ranges, keys.

#' What is wrong with a value by its part of the schema: a list of faults, each a place (keys) and a text
#' @noRd
check_against <- function(value, schema, place) {
  fault <- function(text) list(list(place = place, text = text))
  types <- unlist(schema$type)
  if (!is.null(types) && !any(vapply(types, is_of_type, NA, value = value))) {
    return(fault(say("must be %s", paste(say(sub("^null$", "empty", types)), collapse = say(" or ")))))
  }
  if (is.null(value)) return(list())
  if (!is.null(schema$enum) && !any(vapply(schema$enum, identical, NA, value))) {
    return(fault(say("cannot be \"%s\"; allowed: %s", format(value), paste(unlist(schema$enum), collapse = ", "))))
  }
  if (is.numeric(value) && outside_range(value, schema)) return(fault(range_fault(schema)))
  if ("array" %in% types && is_of_type("array", value)) return(check_entries_of(value, schema, place))
  if ("object" %in% types && is.list(value)) return(check_keys(value, schema, place))
  list()
}

outside_range <- function(value, schema) {
  below <- value < or_default(schema$minimum, -Inf) || value <= or_default(schema$exclusiveMinimum, -Inf)
  below || value > or_default(schema$maximum, Inf) || value >= or_default(schema$exclusiveMaximum, Inf)
}

range_fault <- function(schema) {
  inside <- !is.null(schema$exclusiveMinimum)
  ends <- if (inside) schema[c("exclusiveMinimum", "exclusiveMaximum")] else schema[c("minimum", "maximum")]
  shown <- vapply(unname(ends), function(end) format(or_default(end, "any")), "")
  say(if (inside) "must lie between %s and %s" else "must lie from %s to %s", shown[1], shown[2])
}

is_of_type <- function(type, value) {
  one <- length(value) == 1L && !is.list(value)
  switch(type,
    null = is.null(value),
    string = one && is.character(value),
    number = is_number(value),
    integer = is_whole(value),
    boolean = one && is.logical(value),
    array = is.null(names(value)) && (is.list(value) || is.vector(value)),
    object = is.list(value) && (length(value) == 0L || !is.null(names(value))),
    FALSE
  )
}

check_entries_of <- function(value, schema, place) {
  # One pattern may stand for several variables.
  patterns <- any(vapply(value, function(one) is_word(one) && grepl("*", one, fixed = TRUE), NA))
  if (!is.null(schema$minItems) && length(value) < schema$minItems && !patterns) {
    return(list(list(place = place, text = say("needs %d entries or more", schema$minItems))))
  }
  if (!is.null(schema$maxItems) && length(value) > schema$maxItems) {
    return(list(list(place = place, text = say("takes %d entries", schema$maxItems))))
  }
  faults <- lapply(seq_along(value), function(k) check_against(value[[k]], schema$items, c(place, k)))
  do.call(c, c(list(list()), faults))
}

check_keys <- function(value, schema, place) {
  known <- names(schema$properties)
  open <- schema$additionalProperties
  faults <- lapply(setdiff(unlist(schema$required), names(value)), function(key) {
    list(place = place, text = say("needs the key \"%s\"", key))
  })
  for (key in names(value)) {
    inner <- if (key %in% known) schema$properties[[key]] else if (is.list(open)) open
    key_faults <- if (is.null(inner)) {
      near <- nearest_names(key, known)
      hint <- if (length(near)) say("did you mean %s?", near[1]) else say("allowed: %s", toString(known))
      list(list(place = c(place, key), text = say("is no key here; %s", hint)))
    } else {
      check_against(value[[key]], inner, c(place, key))
    }
    faults <- c(faults, key_faults)
  }
  faults
}
