# Throws random files, briefs, options and data at the command and at the public functions for a while.
#   Rscript tests/fuzz/fuzz.R [seconds] [seed]
# Each must end in a result or in one of the package's own errors: never in another error, a hang, an r outside [-1, 1],
# or a changed input file. What breaks is printed with the seed of its round, from which it comes again.
library(unsere)
given <- as.numeric(commandArgs(TRUE))
seconds <- c(given, 120)[1]
first_seed <- if (length(given) > 1) given[2] else as.integer(format(Sys.time(), "%j%H%M"))
limit <- 60 # seconds for one call
for (part in c("files.R", "written.R", "desk.R")) {
  source(file.path(dirname(sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE))), part))
}
folder <- tempfile("fuzz-")
dir.create(folder)
setwd(folder)
demo <- dirname(demo_file("learners.csv"))
one <- function(...) sample(c(...), 1)

# Values that tables in the world hold, and some that they should not.
odd_texts <- c(
  "", " ", "NA", "-9", "1,5", "1.5", "12 %", "yes", "no", "=1+1", "\"", "'", "<b>", "1e308", "-1e308", "1e-320",
  "Inf", "0", "2024-02-30", "07:00", "M\u00fcller", "\u2212 3", "a,b", "#REF!", "{x}", "{", "\\", strrep("9", 40)
)
random_column <- function(n) {
  switch(sample(9, 1),
    rnorm(n),
    sample(5, n, TRUE),
    rep(one(0, 1, 1e300), n),
    c(NA, rnorm(n))[seq_len(n)],
    sample(odd_texts, n, TRUE),
    sample(c("yes", "no"), n, TRUE),
    cumsum(rnorm(n, 1)) * one(1, 1e-300, 1e150),
    rep(NA, n),
    c(rnorm(n - 1), 1e16)
  )
}
random_table <- function() {
  n <- one(1, 2, 3, 4, 5, 12, 40, 200)
  data <- as.data.frame(lapply(seq_len(sample(6, 1)), function(k) random_column(n)))
  names(data) <- sample(c("x", "y", "z", "a b", "log", "M\u00fc", "if", "y {1}", "%", "x.1", "T"), ncol(data))
  data
}
random_bytes <- function(path) {
  marks <- as.raw(c(44, 59, 9, 10, 13, 34, 49, 50, 46, 45, 97, 0, 239, 187, 191, 255))
  writeBin(sample(marks, sample(2000, 1), TRUE), path)
}
random_file <- function() {
  path <- tempfile("data", folder, one(".csv", ".csv", ".csv", ".txt", ".json", ".xlsx", ".parquet", ".ods"))
  if (grepl("csv|txt", path) && runif(1) < 0.8) {
    suppressWarnings(utils::write.table(random_table(), path,
      sep = one(",", ";", "\t", " ", "|"), dec = one(".", ","), row.names = FALSE,
      qmethod = "double", fileEncoding = one("UTF-8", "latin1"), na = one("", "NA", "-9")
    ))
  } else if (grepl("xlsx$", path) && runif(1) < 0.6) {
    openxlsx::write.xlsx(random_table(), path)
  } else {
    random_bytes(path)
  }
  path
}

# A file of the demo with some of its bytes or lines gone wrong.
spoil <- function(name) {
  path <- file.path(folder, name)
  lines <- readLines(file.path(demo, name), warn = FALSE)
  for (k in seq_len(sample(3, 1))) {
    at <- sample(length(lines), 1)
    lines[at] <- switch(sample(5, 1),
      "",
      sub("[a-z_]+", one("nix", "!!python/object:x", "&a", "*a"), lines[at]),
      sub("[0-9.]+", one("-1", "1e999", ".nan", "[]"), lines[at]),
      paste0(lines[at], one(" x: {", "]", "\t", ": : :")),
      strtrim(lines[at], nchar(lines[at]) %/% 2)
    )
  }
  writeLines(lines, path)
  path
}

option_values <- c(
  "0", "1", "-1", "0.95", "1e9", "NaN", "", "a", "x=1", "small=.1,large=.4", "pearson", "spearman", "phi",
  "negative", "bootstrap", "permutation", "exact", "listwise", "holm", "none", "evans", "log", "quadratic", "json", "csv",
  "markdown", "1,2", "2,1", "all", "t.docx", "\u00e9", strrep("z", 300)
)
random_call <- function() {
  file <- if (runif(1) < 0.5) file.path(demo, one("learners.csv", "town_years.csv", "dial.csv", "learners.xlsx")) else
    random_file()
  held <- tryCatch(names(read_study(file)$data), error = function(e) "x")
  name <- function() if (runif(1) < 0.9) one(held) else one("nothing", "", "-", "{x}")
  command <- one("look", "relate", "matrix", "line", "rank", "flag", "draw", "brief", "run", "lok")
  words <- switch(command,
    look = file,
    relate = ,
    line = c(file, name(), name()),
    matrix = ,
    rank = c(
      file, name(), name(),
      name()
    ),
    flag = c(file, name(), name()),
    draw = c(one(
      "scatter", "matrix", "box", "quantiles", "distribution",
      "residuals", "over-time", "pairs", "predictors", "skatter"
    ), file, name(), name(), "--out", one("f.png", "f.svg", "f.gif")),
    brief = c(file, "--out", "starter.yml"),
    run = c(
      spoil(one("dial.yml", "pulse.yml", "town_years.yml")),
      "--out", "results"
    ),
    file
  )
  options <- gsub("_", "-", unique(unlist(lapply(unsere:::commands(), function(command) names(command$arguments)))))
  extra <- unlist(lapply(seq_len(sample(0:3, 1)), function(k) {
    option <- paste0("--", sample(options, 1))
    if (runif(1) < 0.7) paste0(option, "=", one(option_values)) else option
  }))
  list(file = file, arguments = c(command, words, setdiff(extra, c("--help", "--version"))))
}

shown <- function(arguments) paste(encodeString(arguments, quote = "'"), collapse = " ")
within_limit <- function(code) {
  setTimeLimit(elapsed = limit, transient = TRUE)
  on.exit(setTimeLimit())
  force(code)
}
check_r <- function(out) {
  found <- suppressWarnings(as.numeric(gsub("\"r\": ", "", unlist(regmatches(out, gregexpr("\"r\": [-0-9.eE+]+", out))))))
  if (any(abs(found) > 1, na.rm = TRUE)) stop("r outside [-1, 1]: ", paste(found[abs(found) > 1], collapse = ", "))
}

# The command in this process; and now and then as one of its own, with another locale.
try_command <- function() {
  call <- random_call()
  before <- tools::md5sum(call$file)
  on.exit(if (!identical(tools::md5sum(call$file), before)) stop("changed its input: ", shown(call$arguments)))
  if (runif(1) < 0.03) {
    said <- tempfile()
    status <- system2("timeout", c(
      limit, shQuote(system.file("exec", "unsere", package = "unsere")),
      shQuote(call$arguments)
    ), stdout = said, stderr = said, env = one("LC_ALL=C", "LC_ALL=C.UTF-8"))
  } else {
    said <- tempfile()
    sink(said)
    told <- character()
    status <- tryCatch(within_limit(withCallingHandlers(run_command(call$arguments), message = function(m) {
      told <<- c(told, conditionMessage(m))
      invokeRestart("muffleMessage")
    }, warning = function(w) invokeRestart("muffleWarning"))), finally = sink())
    cat(told, file = said, append = TRUE)
  }
  out <- readLines(said, warn = FALSE)
  if (!status %in% c(0, 2, 3, 4)) {
    stop("status ", status, ": ", shown(call$arguments), "\n    ", paste(out, collapse = "\n    "))
  }
  if (any(grepl("^Error|Traceback|a fault in Unsere", out, useBytes = TRUE))) stop("traceback: ", shown(call$arguments))
  check_r(out)
}

try_function <- function() {
  data <- random_table()
  name <- function() one(names(data))
  x <- name()
  y <- name()
  work <- list(
    function() {
      relate(
        data, x, y,
        coefficient = one("auto", "pearson", "spearman", "phi", "tau-b"), interval = one("analytic", "bootstrap"),
        test = one("analytic", "permutation"), resamples = 200, seed = 1
      )
    },
    function() correlation_matrix(data, missing = one("pairwise", "listwise")),
    function() fit_line(data, x, y, shape = one("linear", "log", "quadratic")),
    function() rank_predictors(data, x, names(data)[names(data) != x]),
    function() flag_spurious(data, x, y, time = name()), function() overview(data), function() find_outliers(data),
    function() advise(data, x, y), function() cautions(relate(data, x, y)),
    function() derive(data, new = one("log(x)", "x/y", "change(x)", "since(x)", "reverse(x)", "x^", "system('a')"))
  )
  chosen <- sample(work, 1)[[1]]
  found <- tryCatch(suppressWarnings(within_limit(chosen())), unsere_error = function(e) NULL, error = function(e) {
    stop(
      conditionMessage(e), " in ", deparse(body(chosen))[1], " with x ", x, ", y ", y, " of ",
      paste(utils::capture.output(dput(utils::head(data, 5))), collapse = "")
    )
  })
  text <- withCallingHandlers(format(found), warning = function(w) stop("printing warns: ", conditionMessage(w)))
  r <- if (inherits(found, "unsere_relation") || inherits(found, "unsere_line")) found[["r"]]
  if (length(r) && any(abs(r) > 1, na.rm = TRUE)) stop("r outside [-1, 1]: ", r)
  if (is.list(found) && is.data.frame(found$pairs)) stopifnot(all(abs(found$pairs$r) <= 1, na.rm = TRUE))
  length(text)
}

# A table that is brought in and one that stays where it is answer alike, whatever the condition.
random_condition <- function(data) {
  nonsense <- c(
    "log(x) > 1", "x = '", "1 = 1", "x is", "; DROP TABLE t --", "abs(y) / 0 > 1", "in (1)", "'a' = 'b'", "x in (1, 'no')"
  )
  compared <- function() {
    if (runif(1) < 0.1) return(one(nonsense))
    name <- one(names(data))
    column <- sprintf(one("`%s`", "`%s`"), name)
    if (runif(1) < 0.2) return(paste(column, one("is missing", "is not missing")))
    values <- data[[name]]
    if (is.character(values)) {
      words <- gsub("'", "", sample(c(values, odd_texts), 2))
      if (runif(1) < 0.3) return(sprintf("%s in ('%s', '%s')", column, words[1], words[2]))
      return(sprintf("%s %s '%s'", column, one("=", "!="), words[1]))
    }
    sprintf(
      "%s %s %s", one(column, paste("2 *", column), paste("abs(", column, ")"), paste(column, "- 1")),
      one("=", "!=", "<", ">=", "<=", ">"), one(0, 1, -9, 0.5, 3)
    )
  }
  joined <- one("and", "or", "and not")
  if (runif(1) < 0.5) compared() else sprintf("(%s) %s (%s)", compared(), joined, compared())
}

try_database <- function() {
  data <- random_table()
  names(data) <- make.unique(tolower(names(data)))
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  on.exit(DBI::dbDisconnect(con))
  DBI::dbWriteTable(con, "t", data)
  where <- if (runif(1) < 0.6) random_condition(data)
  x <- one(names(data))
  y <- one(names(data))
  answer <- function(collect) {
    tryCatch(suppressWarnings(within_limit({
      study <- read_study(con, table = "t", where = where, missing_codes = one_code, collect = collect)
      as.data.frame(relate(study, x, y))[c("coefficient", "r", "n", "p")]
    })), unsere_error = function(e) class(e)[1])
  }
  one_code <- one(list(NULL, -9, 5))[[1]]
  here <- answer(TRUE)
  there <- answer(FALSE)
  differ <- function(how, there) {
    stop(
      "brought in ", toString(unlist(here)), ", ", how, " ", toString(unlist(there)), ": ", x, ", ", y, ", where ",
      encodeString(paste(where, collapse = "")), ", codes ", toString(one_code), " of ",
      paste(utils::capture.output(dput(utils::head(data, 12))), collapse = "")
    )
  }
  if (!isTRUE(all.equal(here, there))) differ("left there", there)
  # Too large to be fetched: the database's sums give the same, or it is said that they cannot.
  told <- options(unsere.most_fetched = 1)
  on.exit(options(told), add = TRUE)
  summed <- answer(FALSE)
  options(told)
  # The p of ranks is approximated there by Student's t alone, which is rough for the few cases that are tried here.
  near <- if (is.data.frame(here) && here$coefficient == "spearman") 0.1 else 1e-6
  if (is.data.frame(summed) && !isTRUE(all.equal(here, summed, tolerance = near))) differ("summed up", summed)
  stopifnot(identical(DBI::dbListTables(con), "t"))
}

ends <- proc.time()[["elapsed"]] + seconds
there <- function(package) requireNamespace(package, quietly = TRUE)
rounds <- list(
  try_command, try_function, try_file, try_turned, try_written, try_condition, if (there("RSQLite")) try_database, if (there("shiny")) try_desk
)
# FUZZ=desk, file, turned, written, condition, database ... tries that part alone.
if (nzchar(Sys.getenv("FUZZ"))) rounds <- list(get(paste0("try_", Sys.getenv("FUZZ"))))
rounds <- Filter(Negate(is.null), rounds)
round <- 0L
broken <- 0L
while (proc.time()[["elapsed"]] < ends) {
  round <- round + 1L
  seed <- first_seed * 10000 + round
  set.seed(seed %% .Machine$integer.max)
  tryCatch(rounds[[sample(length(rounds), 1)]](), error = function(e) {
    broken <<- broken + 1L
    cat(sprintf("round %d of seed %d: %s\n", round, first_seed, conditionMessage(e)))
  })
  unlink(list.files(folder, full.names = TRUE), recursive = TRUE)
}
cat(sprintf("fuzz: %d rounds in %.0f s from seed %d, %d broke something\n", round, seconds, first_seed, broken))
quit("no", if (broken) 1L else 0L)
