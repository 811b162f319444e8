# The small arithmetic and its conditions in the words of a database.

variable_of <- function(part, text) {
  if (part$kind == "variable") return(part$name)
  abort_input(
    problem("In \"%s\", text is compared with something that is not a variable.", text),
    "For example centre = 'Mill'."
  )
}

#' A condition in the words of a database
#' @param table What the table's columns are: `kinds` (of each, by name, the class it comes in) and `codes` (missing codes).
#' @noRd
condition_in_sql <- function(tree, con, table, text) {
  if (tree$kind %in% c("compared", "among")) {
    words <- vapply(tree$parts, function(part) part$kind == "text", NA)
    sides <- vapply(tree$parts, function(part) {
      if (part$kind == "text") return(text_in_sql(con, part$value))
      if (any(words)) words_in_sql(variable_of(part, text), con, table) else arithmetic_in_sql(part, con, table, text)
    }, "")
    if (tree$kind == "among") return(sprintf("(%s IN (%s))", sides[1], paste(sides[-1], collapse = ", ")))
    return(sprintf("(%s %s %s)", sides[1], sub("!=", "<>", tree$name, fixed = TRUE), sides[2]))
  }
  if (tree$kind == "missing") {
    name <- variable_of(tree$parts[[1]], text)
    numeric <- table$kinds[[column_named(name, table)]] %in% c("numeric", "integer", "logical")
    column <- if (numeric) arithmetic_in_sql(tree$parts[[1]], con, table, text) else words_in_sql(name, con, table)
    return(sprintf("(%s IS NULL)", column))
  }
  parts <- vapply(tree$parts, condition_in_sql, "", con, table, text)
  if (tree$kind == "not") return(sprintf("(NOT %s)", parts))
  sprintf("(%s)", paste(parts, collapse = sprintf(" %s ", toupper(tree$kind))))
}

column_named <- function(name, table) {
  if (name %in% names(table$kinds)) return(name)
  abort_input(problem("There is no variable \"%s\".", name), suggest_names(name, names(table$kinds), "variables"))
}

# Words without blanks about them, told apart by upper and lower case; blanks and missing codes are nothing.
words_in_sql <- function(name, con, table) {
  column <- unname(quote_names(con, column_named(name, table)))
  if (!table$kinds[[name]] %in% "character") return(column)
  column <- sprintf(database_engine(con)$trim, column)
  nothing <- vapply(c("", table$codes[[name]]), text_in_sql, "", con = con)
  sprintf("CASE WHEN %s IN (%s) THEN NULL ELSE %s END", column, paste(nothing, collapse = ", "), column)
}

arithmetic_in_sql <- function(tree, con, table, text) {
  if (tree$kind == "number") return(sprintf("%.17g", tree$value))
  if (tree$kind == "variable") {
    if (!is.null(table$number)) return(table$number(tree$name))
    return(number_in_sql(con, column_named(tree$name, table), table$kinds[[tree$name]], table$codes[[tree$name]]))
  }
  parts <- vapply(tree$parts, arithmetic_in_sql, "", con, table, text)
  sql <- operation_in_sql(tree$name, parts, con, table$from)
  if (!is.null(sql)) return(sql)
  abort_input(
    problem(
      "In \"%s\", this database cannot compute %s.", text, if (tree$name == "^") "a power" else paste0(tree$name, "()")
    ),
    "Fetch the table with collect = TRUE, or omit this."
  )
}

#' Which operations an engine has no function for
#' @noRd
lacks_in_sql <- function(con) {
  trial <- database_engine(con)$trial
  works <- function(sql) tryCatch(nrow(DBI::dbGetQuery(con, paste("SELECT", sql))) == 1L, error = function(e) FALSE)
  names(trial)[!vapply(trial, works, NA)]
}

# Whether an expression can be said in an engine's words; a small whole power is a product.
said_in_sql <- function(tree, con) {
  used <- functions_in(tree)
  lacking <- intersect(used, lacks_in_sql(con))
  !"change" %in% used && !length(setdiff(lacking, if (all_small_powers(tree)) "^"))
}

all_small_powers <- function(tree) {
  small <- tree$kind != "call" || tree$name != "^" ||
    tree$parts[[2]]$kind == "number" && tree$parts[[2]]$value %in% small_powers
  small && all(vapply(as.list(tree$parts), all_small_powers, NA))
}

small_powers <- 1:8

power_in_sql <- function(base, power, con) {
  if (!"^" %in% lacks_in_sql(con)) return(sprintf(
    paste(
      "(CASE WHEN %1$s > 0 OR %1$s = 0 AND %2$s >= 0 OR %1$s < 0 AND %2$s = round(%2$s)",
      "THEN %3$s(%1$s, %2$s) ELSE NULL END)"
    ), base, power, database_engine(con)$power
  ))
  times <- match(power, sprintf("%.17g", small_powers))
  if (!is.na(times)) sprintf("(%s)", paste(rep(base, small_powers[times]), collapse = " * "))
}

# What has no finite value, such as the logarithm of zero, is nothing.
operation_in_sql <- function(name, parts, con, from) {
  a <- parts[1]
  b <- if (length(parts) > 1L) parts[2]
  sum <- paste(parts, collapse = " + ")
  over_all <- function(what) sprintf("(SELECT %s FROM %s)", what, from)
  if (name %in% setdiff(lacks_in_sql(con), "^")) return(NULL)
  switch(name,
    "+" = ,
    "-" = ,
    "*" = sprintf("(%s %s %s)", a, name, b),
    "/" = sprintf("(%s / NULLIF(%s, 0))", a, b),
    "^" = power_in_sql(a, b, con),
    negative = sprintf("(- %s)", a),
    abs = sprintf("abs(%s)", a),
    exp = sprintf("exp(%s)", a),
    sqrt = sprintf("(CASE WHEN %1$s >= 0 THEN sqrt(%1$s) ELSE NULL END)", a),
    log = sprintf("(CASE WHEN %s > 0 THEN %s ELSE NULL END)", a, sprintf(database_engine(con)$logarithm, a)),
    log10 = sprintf(
      "(CASE WHEN %s > 0 THEN %s / %.17g ELSE NULL END)", a,
      sprintf(database_engine(con)$logarithm, a), log(10)
    ),
    sum_of = sprintf("(%s)", sum),
    mean_of = sprintf("((%s) / %d.0)", sum, length(parts)),
    since = if (!is.null(from)) sprintf("(%s - %s)", a, over_all(sprintf("MIN(%s)", a))),
    reverse = if (length(parts) == 3L) {
      sprintf("(%s + %s - %s)", b, parts[3], a)
    } else if (!is.null(from)) {
      sprintf("(%s - %s)", over_all(sprintf("MIN(%1$s) + MAX(%1$s)", a)), a)
    }
  )
}
