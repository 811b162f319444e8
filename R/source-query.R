# A query in place of a table: whether one is taken at all, and whether it only reads.

# In R code that somebody wrote a query is taken; at the other doors only where their user said so.
queries_allowed <- function() !isFALSE(getOption("unsere.allow_sql"))

#' Work in which a table is named and no query is taken, unless the user allowed it
#' @param allowed Whether it is; the option `unsere.allow_sql` says so in R.
#' @noRd
with_named_tables <- function(code, allowed = isTRUE(getOption("unsere.allow_sql"))) {
  before <- options(unsere.allow_sql = allowed)
  on.exit(options(before))
  code
}

# What a query may call: arithmetic, words, dates and sums, which neither read files nor reach other machines.
query_functions <- c(
  "abs", "avg", "cast", "ceil", "ceiling", "char_length", "coalesce", "concat", "count", "cume_dist", "date", "day",
  "dense_rank", "exp", "extract", "first_value", "floor", "greatest", "ifnull", "iif", "lag", "last_value", "lead",
  "least", "left", "length", "ln", "log", "log10", "log2", "lower", "ltrim", "max", "min", "mod", "month", "nullif",
  "ntile", "percent_rank", "position", "pow", "power", "rank", "replace", "right", "round", "row_number", "rtrim",
  "sign", "sqrt", "stddev", "stddev_pop", "stddev_samp", "substr", "substring", "sum", "tofloat64", "toint64",
  "tostring", "total", "trim", "trunc", "upper", "var_pop", "var_samp", "variance", "year"
)

# Words of a query after which a bracket only groups.
query_grouping <- c(
  "all", "and", "any", "as", "between", "by", "case", "cross", "distinct", "else", "except", "exists", "filter", "from",
  "having", "in", "inner", "intersect", "is", "join", "like", "limit", "materialized", "not", "offset", "on", "or", "over",
  "select", "some", "then", "union", "using", "when", "where"
)

# Words of which each writes, runs, or reads what is no table.
query_forbidden <- c(
  "alter", "analyze", "array", "attach", "call", "copy", "create", "delete", "describe", "detach", "do", "drop",
  "dumpfile", "exec", "execute", "explain", "for", "format", "grant", "handler", "insert", "into", "kill", "lateral",
  "listen", "load", "lock", "merge", "notify", "only", "operator", "optimize", "outfile", "pragma", "prepare",
  "procedure", "recursive", "refresh", "reindex", "rename", "replicate", "returning", "revoke", "set", "settings",
  "show", "table", "tablesample", "truncate", "uescape", "update", "use", "vacuum", "values"
)

# After these no further table of FROM is named.
query_clauses <- c(
  "except", "group", "having", "intersect", "limit", "offset", "order", "select", "union", "where", "window", "qualify"
)

query_system <- "^(pg_|sqlite_|pragma_|duckdb_|information_schema$|system$|mysql$|performance_schema$|sys$)"

#' Whether a query is one SELECT of tables that are there, calling nothing but what only reckons
#'
#' Stricter than any engine's grammar: what it does not know it refuses, so that no mark means one thing here and another
#' there.
#' @param tables The names of the tables that are there.
#' @return The query without its closing semicolon.
#' @section Errors: `unsere_error_usage` where queries are not taken; `unsere_error_input` for a query that is refused.
#' @noRd
check_query <- function(con, text, tables) {
  if (!queries_allowed()) abort_usage(
    "Name a table or view of the database here; a query is not allowed.",
    "Make a view of it, or allow queries: --allow-sql (in R: options(unsere.allow_sql = TRUE))."
  )
  text <- sub(";\\s*$", "", as.character(text)[1])
  tokens <- split_query(text)
  if (!tokens$word[1] %in% c("select", "with")) abort_query("it does not begin with SELECT")
  forbidden <- intersect(tokens$word, query_forbidden)
  if (length(forbidden)) {
    abort_query(problem("it contains %s", toupper(forbidden[1])), "A column of that name is put in quotes.")
  }
  hidden <- grep(query_system, c(tokens$word, tolower(tokens$name)), value = TRUE)
  if (length(hidden)) abort_query(problem("%s belongs to the database itself", hidden[1]))
  check_query_tables(con, tokens, query_brackets(tokens), tables)
  text
}

abort_query <- function(why, hint = "Make a view of it in the database, and name the view.") {
  abort_input(problem("The query is not run: %s.", why), hint)
}

#' The parts of a query
#' @return A list of vectors, a part each: `text`, `kind` (`"word"`, `"quoted"` name, `"text"`, `"number"`, `"mark"`), `word`
#'   (of bare words, in small letters, else `""`), `name` (of words and quoted names, else `""`).
#' @noRd
split_query <- function(text) {
  if (nchar(text) > 20000L) abort_query("it is longer than 20,000 signs")
  patterns <- c(
    word = "[[:alpha:]_][[:alnum:]_]*", quoted = "\"(?:[^\"]|\"\")+\"|`(?:[^`]|``)+`", text = "'(?:[^']|'')*'",
    number = "(?:[0-9]+[.]?[0-9]*|[.][0-9]+)(?:[eE][-+]?[0-9]+)?", mark = "<=|>=|<>|!=|\\|\\||[-+*/%=<>(),.]"
  )
  if (grepl("\\\\|--|/\\*|[$@#;:{}?\\[\\]]", text, perl = TRUE)) {
    mark <- regmatches(text, regexpr("\\\\|--|/\\*|[$@#;:{}?\\[\\]]", text, perl = TRUE))
    abort_query(problem("it contains the character %s", mark))
  }
  whole <- paste0("(*UCP)", paste(patterns, collapse = "|"))
  parts <- regmatches(text, gregexpr(whole, text, perl = TRUE))[[1]]
  rest <- gsub(whole, "", text, perl = TRUE)
  if (!length(parts) || nzchar(trimws(rest))) {
    abort_query(problem("\"%s\" is not understood", substr(trimws(rest), 1, 20)))
  }
  kinds <- vapply(parts, function(part) {
    names(patterns)[match(TRUE, vapply(patterns, function(p) grepl(sprintf("(*UCP)^(?:%s)$", p), part, perl = TRUE), NA))]
  }, "", USE.NAMES = FALSE)
  bare <- substr(parts, 2L, nchar(parts) - 1L)
  list(
    text = parts, kind = kinds, word = ifelse(kinds == "word", tolower(parts), ""),
    name = ifelse(kinds == "word", parts, ifelse(kinds == "quoted", gsub("\"\"", "\"", bare, fixed = TRUE), ""))
  )
}

#' What each opening bracket does: `"group"`, or `"call"` of a function that may be called; `""` for other parts
#' @noRd
query_brackets <- function(tokens) {
  roles <- character(length(tokens$text))
  for (k in which(tokens$text == "(" & tokens$kind == "mark")) {
    before <- if (k > 1L) tokens$kind[k - 1L] else "mark"
    word <- if (k > 1L) tokens$word[k - 1L] else ""
    qualified <- k > 2L && tokens$text[k - 2L] == "."
    if (before == "mark" && (k == 1L || !tokens$text[k - 1L] %in% c(")", "."))) {
      roles[k] <- "group"
    } else if (before == "word" && word %in% query_grouping && !qualified) {
      roles[k] <- "group"
    } else if (before == "word" && word %in% query_functions && !qualified) {
      roles[k] <- "call"
      if (k < length(tokens$word) && tokens$word[k + 1L] == "select") abort_query("a SELECT stands bare in a call")
    } else {
      abort_query(problem("it calls %s(), which is not among the functions that a query may call", tokens$text[k - 1L]))
    }
  }
  roles
}

#' Whether whatever stands where a table stands is a table, a view, or a part of the query that has a name
#' @noRd
check_query_tables <- function(con, tokens, roles, tables) {
  last <- length(tokens$text)
  after <- c(tokens$word[-1], "")
  opened <- c(tokens$text[-(1:2)], "", "")[seq_len(last)] == "("
  named <- tokens$name[which(nzchar(tokens$name) & after == "as" & opened)]
  known <- tolower(c(named, tables))
  # Of each open bracket: whether it is a call, whether tables are listed in it, and whether one comes next.
  open <- list(list(call = FALSE, listing = FALSE, wanted = FALSE))
  k <- 1L
  while (k <= last) {
    here <- open[[length(open)]]
    word <- tokens$word[k]
    mark <- if (tokens$kind[k] == "mark") tokens$text[k] else ""
    if (mark == "(") {
      open[[length(open)]]$wanted <- FALSE
      open <- c(open, list(list(call = roles[k] == "call", listing = here$wanted, wanted = here$wanted)))
    } else if (mark == ")") {
      open <- utils::head(open, -1L)
      if (!length(open)) abort_query("its brackets do not match")
    } else if (here$wanted && !word %in% c("select", "with")) {
      parts <- query_source(tokens, k)
      check_query_source(con, tokens$name[parts], known)
      open[[length(open)]]$wanted <- FALSE
      k <- parts[length(parts)]
    } else if (!here$call) {
      if (word %in% c("from", "join")) here$listing <- here$wanted <- TRUE
      if (word %in% query_clauses) here$listing <- here$wanted <- FALSE
      if (mark == "," && here$listing) here$wanted <- TRUE
      open[[length(open)]] <- here
    }
    k <- k + 1L
  }
  if (length(open) > 1L) abort_query("its brackets do not match")
}

# The places of a name and its qualifiers, from one on.
query_source <- function(tokens, from) {
  if (!nzchar(tokens$name[from])) abort_query(problem("%s is in the place of a table name", tokens$text[from]))
  at <- from
  while (at + 2L <= length(tokens$text) && tokens$text[at + 1L] == "." && nzchar(tokens$name[at + 2L])) at <- at + 2L
  seq(from, at, by = 2L)
}

check_query_source <- function(con, parts, known) {
  table <- parts[length(parts)]
  there <- if (length(parts) == 1L || tolower(parts[1]) %in% c("main", "temp")) {
    tolower(table) %in% known
  } else {
    schema <- parts[length(parts) - 1L]
    names <- unique(list(c(schema = schema, table = table), c(schema = tolower(schema), table = tolower(table))))
    any(vapply(names, function(one) {
      isTRUE(tryCatch(
        DBI::dbExistsTable(con, DBI::Id(schema = one[["schema"]], table = one[["table"]])),
        error = function(e) FALSE
      ))
    }, NA))
  }
  if (!there) abort_query(
    problem("%s is not a table of the database", paste(parts, collapse = ".")),
    "Look at its spelling."
  )
}
