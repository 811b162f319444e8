#' MariaDB and MySQL, which add up slower than they send
#' @noRd
engine_mariadb <- function() {
  new_engine("mariadb",
    place = 4, classes = "Maria|MySQL", double = "(%s + 0e0)", logical_number = FALSE,
    trim = "BINARY TRIM(%s)", read_only = "SET SESSION TRANSACTION READ ONLY",
    snapshot = "START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY", most_summed = 0L
  )
}
