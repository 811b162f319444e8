# Every question, figure and report on every set of the shelf: Rscript bench/shelf/run.R [SEED [SET]]; what is no answer and no
# plain refusal is a fault, and so is a warning of R.
suppressMessages(library(unsere))
here <- "bench/shelf"
for (file in c("forms.R", "studies.R")) source(file.path(here, file))
words <- commandArgs(TRUE)
seed <- if (length(words)) as.integer(words[1]) else 1L

faults <- list()
refusals <- list()
checks <- 0L

tried <- function(set, what, code) {
  checks <<- checks + 1L
  tryCatch(withCallingHandlers(code, warning = function(w) {
    faults[[length(faults) + 1L]] <<- sprintf("%s: %s: warning: %s", set$name, what, conditionMessage(w))
    tryInvokeRestart("muffleWarning")
  }), unsere_error = function(e) {
    refusals[[length(refusals) + 1L]] <<- sprintf("%s: %s: %s", set$name, what, conditionMessage(e))
    NULL
  }, error = function(e) {
    faults[[length(faults) + 1L]] <<- sprintf("%s: %s: %s", set$name, what, conditionMessage(e))
    NULL
  })
}

expect <- function(set, what, holds) {
  checks <<- checks + 1L
  if (!isTRUE(holds)) faults[[length(faults) + 1L]] <<- sprintf("%s: %s", set$name, what)
}

read_set <- function(set) {
  study <- read_study(set$file, missing_codes = set$missing_codes)
  if (!is.null(set$design)) study <- do.call(set_design, c(list(study), set$design))
  study
}

same_everywhere <- function(set, study, pair) {
  relation <- tried(set, paste(c("relate", pair), collapse = " / "), relate(study, pair[1], pair[2]))
  if (is.null(relation)) return(NULL)
  tried(set, "its text", format(relation))
  tried(set, "its sentence", in_words(relation))
  matrix <- tried(set, "matrix of the pair", correlation_matrix(study, pair[1], pair[2]))
  if (!is.null(matrix)) {
    row <- matrix$pairs[1, ]
    expect(set, paste("matrix and relation differ:", toString(pair)), isTRUE(all.equal(
      c(row$r, row$n, row$ci_low, row$p), c(relation$r, relation$n, relation$ci_low, relation$p), tolerance = 1e-9
    )))
  }
  tried(set, "line", format(fit_line(study, pair[1], pair[2])))
  tried(set, "flag", format(flag_spurious(study, pair[1], pair[2])))
  tried(set, "scatter", ggplot2::ggplot_build(draw_scatter(study, pair[1], pair[2])))
  relation
}

ask_set <- function(set, folder) {
  study <- tried(set, "read", read_set(set))
  if (is.null(study)) return(NULL)
  if (!is.null(set$cases)) {
    expect(set, sprintf("%d cases, not %d", nrow(as.data.frame(study)), set$cases), nrow(as.data.frame(study)) == set$cases)
  }
  tried(set, "print", format(study))
  tried(set, "overview", format(overview(study)))
  relations <- lapply(set$pairs, function(pair) same_everywhere(set, study, pair))
  for (known in set$truth_r) {
    at <- which(vapply(set$pairs, identical, NA, known$pair))
    expect(set, sprintf("r of %s is not %.3f", toString(known$pair), known$r), abs(relations[[at]]$r - known$r) < 1e-6)
  }
  tried(set, "matrix", format(correlation_matrix(study)))
  tried(set, "flag all", format(flag_spurious(study)))
  measures <- codebook(study)
  measures <- measures$variable[measures$role == "measure" & measures$level != "nominal"]
  if (length(measures) >= 3L) {
    ranked <- tried(set, "rank", do.call(rank_predictors, c(list(study, measures[1]), as.list(utils::head(measures[-1], 4)))))
    if (!is.null(ranked)) tried(set, "its sentence", in_words(ranked))
  }
  for (name in utils::head(measures, 6)) {
    tried(set, paste("distribution", name), ggplot2::ggplot_build(draw_distribution(study, name)))
    tried(set, paste("box", name), ggplot2::ggplot_build(draw_box(study, name)))
  }
  if (!is.null(set$items)) tried(set, "items", format(do.call(check_items, c(list(study), as.list(set$items$names), set$items[-1]))))
  brief <- file.path(folder, "brief.yml")
  tried(set, "brief", write_brief(study, brief))
  if (file.exists(brief)) {
    out <- tried(set, "run", run_brief(brief, out = file.path(folder, "results"), quiet = TRUE))
    if (!is.null(out)) tried(set, "verify", verify_results(file.path(folder, "results")))
  }
  relations
}

makers <- ls(pattern = "^shelf_")
if (length(words) > 1L) makers <- intersect(makers, paste0("shelf_", words[-1]))
for (maker in makers) {
  set.seed(seed)
  folder <- tempfile(maker)
  dir.create(folder)
  set <- get(maker)(folder)
  time <- system.time(ask_set(set, folder))[["elapsed"]]
  cat(sprintf("%-28s %5.1f s\n", set$name, time))
}
if (length(refusals)) cat("\nRefused:\n", paste0("  ", unique(unlist(refusals)), "\n"), sep = "")
if (length(faults)) cat("\nFaults:\n", paste0("  ", unique(unlist(faults)), "\n"), sep = "")
cat(sprintf("shelf: %d sets, %d checks, %d faults\n", length(makers), checks, length(faults)))
quit("no", if (length(faults)) 1L else 0L)
