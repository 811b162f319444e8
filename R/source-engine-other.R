#' Any other engine that a DBI driver serves, spoken to in standard SQL
#' @noRd
engine_other <- function() new_engine("other", place = 9, classes = "")
