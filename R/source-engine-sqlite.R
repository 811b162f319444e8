#' SQLite: each value has a type of its own; logarithms, roots and powers are an extension, which is not loaded
#' @noRd
engine_sqlite <- function() {
  new_engine("sqlite",
    place = 1, classes = "SQLite", double = "CAST(%s AS REAL)", logical_number = FALSE,
    # LOG() means two things there, LOG10() one.
    logarithm = sprintf("(log10(%%s) * %.17g)", log(10)),
    trial = c(
      "^" = "power(2.0, 0.5)", exp = "exp(1.0)", sqrt = "sqrt(2.0)", log = "log10(2.0)", log10 = "log10(2.0)"
    ), snapshot = "BEGIN", typed_values = TRUE
  )
}
