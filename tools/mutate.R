# Are the tests sharp? Each mutant is the package with one change to one function of the computation: a comparison turned
# into its opposite, or one term of a sum, difference, product or quotient dropped. It is caught where a test fails.
#   Rscript tools/mutate.R [MUTANTS] [SEED] [FILES]   so many (240), drawn by the seed (1), from the files that match (all)
# First a run of the tests, kept in .build/mutation, notes which test file calls which function; of those, the ones named
# like the mutant's file come first, then the quick ones. Nothing is installed: the change is made in the namespace of the
# package in .build/library. The survivors are told, with the line as it was and as it is.
arguments <- c(commandArgs(trailingOnly = TRUE), character(3))
keep <- ".build/mutation"
map_file <- file.path(keep, "map.rds")
dir.create(keep, showWarnings = FALSE, recursive = TRUE)
rooms <- "^(measure|coefficient|scheme|caution)-"
# What drives a browser, every example, or what is tried at random takes minutes and tells little of a figure.
left_out <- "desk|examples|abuse|hard-use|fuzz|faults|any-machine|core-build|project|current|demo"
# With one worker the work would be done in this process, and one change would stay under the next.
workers <- max(2L, as.integer(Sys.getenv("MUTATE_WORKERS", parallel::detectCores())))

functions_of <- function(file) {
  Filter(Negate(is.null), lapply(parse(file, keep.source = FALSE), function(part) {
    value <- if (is.call(part) && identical(part[[1]], as.name("<-"))) part[[3]]
    if (is.call(value) && identical(value[[1]], quote(`function`))) {
      list(name = as.character(part[[2]]), file = file, code = value)
    }
  }))
}

opposites <- c("<" = ">=", "<=" = ">", ">" = "<=", ">=" = "<", "==" = "!=", "!=" = "==")
terms <- c("+", "-", "*", "/")
# Texts and errors are not what is asked about here.
silent <- c("say", "problem", "sprintf", "abort_input", "abort_usage", "abort_undefined", "paste", "paste0", "stop")

#' Every place in a piece of code that can be changed, with what stands there instead
places_in <- function(code, path = integer()) {
  if (!is.call(code)) return(list())
  head <- if (is.name(code[[1]])) as.character(code[[1]]) else ""
  if (head %in% silent) return(list())
  here <- if (length(code) == 3L && head %in% names(opposites)) {
    as.call(list(as.name(opposites[[head]]), code[[2]], code[[3]]))
  } else if (length(code) == 3L && head %in% terms) {
    code[[2]]
  }
  below <- lapply(seq_along(code)[-1], function(k) {
    if (head == "function" && k != 3L || identical(code[[k]], quote(expr = ))) return(list())
    places_in(code[[k]], c(path, k))
  })
  c(if (!is.null(here)) list(list(path = path, was = code, is = here)), unlist(below, recursive = FALSE))
}

put_at <- function(code, path, value) {
  if (!length(path)) return(value)
  code[[path[1]]] <- put_at(code[[path[1]]], path[-1], value)
  code
}

#' A function of the package put in the place of another, also where S3 found it
put_into_package <- function(name, code) {
  package <- asNamespace("unsere")
  changed <- eval(code, package)
  put <- function(where) {
    if (!exists(name, where, inherits = FALSE)) return()
    if (bindingIsLocked(name, where)) unlockBinding(name, where)
    assign(name, changed, where)
  }
  put(package)
  for (other in c("unsere", "base", "stats", "utils", "ggplot2", "knitr")) {
    if (isNamespaceLoaded(other)) {
      table <- get0(".__S3MethodsTable__.", asNamespace(other), inherits = FALSE)
      if (!is.null(table) && identical(environment(get0(name, table, inherits = FALSE)), package)) put(table)
    }
  }
  if (name %in% ls("package:unsere")) put(as.environment("package:unsere"))
}

run_file <- function(file, reporter) {
  testthat::test_file(
    file,
    package = "unsere", load_package = "installed", reporter = reporter, stop_on_failure = FALSE
  )
}

prepare <- function() {
  Sys.setenv(NOT_CRAN = "true", UNSERE_ROOT = getwd(), TESTTHAT_PARALLEL = "FALSE", UNSERE_COMMAND = command)
  suppressPackageStartupMessages({
    library(testthat)
    library(unsere)
  })
}
command <- file.path(getwd(), ".build", "library", "unsere", "exec", "unsere")

targets <- list.files("R", paste0(rooms, ".*[.]R$"), full.names = TRUE)

#' Which test files call which functions, in how many seconds; a file that fails as it is is of no use
map_tests <- function() {
  files <- list.files("tests/testthat", "^test-.*[.]R$")
  files <- files[!grepl(left_out, files)]
  names <- unlist(lapply(targets, function(file) vapply(functions_of(file), `[[`, "", "name")))
  one <- function(file) {
    prepare()
    seen <- new.env()
    package <- asNamespace("unsere")
    for (name in names) {
      code <- get(name, package)
      body(code) <- bquote({
        .(function(name) assign(name, TRUE, seen))(.(name))
        .(body(code))
      })
      put_into_package(name, code)
    }
    copy <- copy_tests()
    on.exit(unlink(copy, recursive = TRUE))
    time <- system.time(found <- as.data.frame(run_file(file.path(copy, file), "silent")))[["elapsed"]]
    list(file = file, seconds = time, functions = ls(seen), whole = !sum(found$failed) && !any(found$error))
  }
  told <- parallel::mclapply(files, one, mc.cores = workers, mc.preschedule = FALSE)
  ended <- vapply(told, is.list, NA)
  if (any(!ended)) cat("mutate: could not be run:", files[!ended], "\n")
  whole <- vapply(told[ended], `[[`, NA, "whole")
  if (any(!whole)) cat("mutate: fail as they are:", vapply(told[ended][!whole], `[[`, "", "file"), "\n")
  told[ended][whole]
}

copy_tests <- function() {
  copy <- tempfile("tests-")
  dir.create(copy)
  file.copy("tests/testthat", copy, recursive = TRUE)
  file.path(copy, "testthat")
}

#' @return The test file that failed, "time" where it ran without an end, "" where all passed, NA where no test calls it.
try_mutant <- function(mutant, map) {
  callers <- Filter(function(test) mutant$name %in% test$functions, map)
  if (!length(callers)) return(NA_character_)
  stem <- sub("[.]R$", "", basename(mutant$file))
  field <- function(name) vapply(callers, `[[`, if (name == "file") "" else 0, name)
  likely <- startsWith(field("file"), paste0("test-", sub("-.*$", "", stem)))
  callers <- callers[order(!grepl(stem, field("file"), fixed = TRUE), !likely, field("seconds"))]
  prepare()
  put_into_package(mutant$name, put_at(mutant$code, mutant$path, mutant$is))
  copy <- copy_tests()
  on.exit(unlink(copy, recursive = TRUE))
  begun <- Sys.time()
  for (test in callers) {
    caught <- tryCatch(
      {
        setTimeLimit(elapsed = 10 * test$seconds + 60, transient = TRUE)
        found <- as.data.frame(run_file(file.path(copy, test$file), testthat::StopReporter$new()))
        if (sum(found$failed) || any(found$error)) test$file else ""
      },
      error = function(e) if (grepl("time limit", conditionMessage(e))) "time" else test$file
    )
    setTimeLimit()
    if (nzchar(caught)) return(caught)
    # Who is not caught by then counts as a survivor.
    if (difftime(Sys.time(), begun, units = "secs") > patience) break
  }
  ""
}
patience <- 150

set.seed(as.integer(if (nzchar(arguments[2])) arguments[2] else "1"))
wanted <- as.integer(if (nzchar(arguments[1])) arguments[1] else "240")
if (!file.exists(map_file)) {
  cat("mutate: which tests call which functions ...\n")
  saveRDS(map_tests(), map_file)
}
map <- readRDS(map_file)
chosen <- targets[if (nzchar(arguments[3])) grepl(arguments[3], basename(targets)) else TRUE]
by_file <- lapply(chosen, function(file) {
  all <- unlist(lapply(functions_of(file), function(one) {
    lapply(places_in(one$code), function(place) c(one, place))
  }), recursive = FALSE)
  all[sample.int(length(all))]
})
# As many from each file as there are, in turn.
mutants <- list()
round <- 1L
while (length(mutants) < wanted && any(lengths(by_file) >= round)) {
  mutants <- c(mutants, lapply(by_file[lengths(by_file) >= round], `[[`, round))
  round <- round + 1L
}
mutants <- utils::head(mutants, wanted)
line <- function(code) substr(paste(deparse(code, width.cutoff = 200L), collapse = " "), 1L, 160L)
told <- parallel::mclapply(mutants, function(mutant) {
  found <- tryCatch(suppressWarnings({
    utils::capture.output(answer <- suppressMessages(try_mutant(mutant, map)))
    answer
  }), error = function(e) "crash")
  mark <- if (is.na(found)) "NOT CALLED" else if (nzchar(found)) paste("caught by", found) else "SURVIVED"
  cat(sprintf("%s %s(): %s -> %s: %s\n", basename(mutant$file), mutant$name, line(mutant$was), line(mutant$is), mark))
  found
}, mc.cores = workers, mc.preschedule = FALSE)
told <- vapply(told, function(one) if (is.character(one)) one[1] else "crash", "")
caught <- !is.na(told) & nzchar(told)
cat(sprintf(
  "mutate: %d mutants in %d files, %d caught (%.1f %%), %d survived, %d in functions that no test calls.\n",
  length(told), length(chosen), sum(caught), 100 * mean(caught), sum(!caught & !is.na(told)), sum(is.na(told))
))
