# What is particular to the engine of a database: a record. Each stands in a file of its own, `source-engine-NAME.R`, as a
# function `engine_NAME()`, and is found by that name; nothing else in the house names one.

#' The record of an engine
#'
#' @param place The place in which engines are tried, the first that suits is taken.
#' @param classes A pattern that the class of its connections fits.
#' @param double,trim Templates: a value as a double; text without blanks about it, upper and lower case told apart.
#' @param number From SQL that gives a double to SQL that gives nothing for what is no number.
#' @param logical_number Whether a truth value is cast to a whole number first.
#' @param text From a connection and a string to the string quoted.
#' @param logarithm A template of the natural logarithm; `power` the name of its function.
#' @param trial By operation, SQL that fails where the engine lacks it.
#' @param read_only,snapshot Statements that begin a connection opened here: nothing can be written, and all that is asked
#'   is of one moment; `NULL` of an engine without such.
#' @param most_summed Up to so many columns are summed up in the database; more are streamed, which is quicker then.
#' @param typed_values Whether each value has a type of its own, so that text may stand among numbers.
#' @param inner_numbers Whether numbers are worked out in an inner query; `ranks` whether it ranks cases;
#'   `pushes_parts` whether each server of a parted table may add up its own.
#' @noRd
new_engine <- function(name, place, classes, double = "CAST(%s AS DOUBLE)", number = identity, logical_number = TRUE,
                       text = function(con, text) as.character(DBI::dbQuoteString(con, text)), trim = "TRIM(%s)",
                       logarithm = "ln(%s)", power = "power", trial = character(), read_only = NULL, snapshot = NULL,
                       most_summed = 6L, typed_values = FALSE, inner_numbers = TRUE, ranks = TRUE,
                       pushes_parts = FALSE) {
  as.list(environment())
}

#' The record of a connection's engine
#' @noRd
database_engine <- function(con) {
  Find(function(engine) grepl(engine$classes, class(con)[1], ignore.case = TRUE), collect_records("engine"))
}
