# Every question, figure and report on every set of the shelf, through functions, the command, a brief and the desk, once;
# then the questions alone on further seeds: Rscript bench/shelf/run.R [SEED [SET ...]]. SEEDS=20 is how many seeds follow.
# What is no answer and no plain refusal is a fault; so is a warning of R, a pair that differs between doors, and a next step
# that does not run as it is printed. The pictures are gathered on one sheet, .build/shelf.png.
suppressMessages(library(unsere))
here <- "bench/shelf"
for (file in c("forms.R", "studies.R", "doors.R")) source(file.path(here, file))
words <- commandArgs(TRUE)
seed <- if (length(words)) as.integer(words[1]) else 1L
seeds <- as.integer(Sys.getenv("SEEDS", "20"))

faults <- list()
refusals <- list()
checks <- 0L
pictures <- list()
serious <- list()

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

figures_of <- function(found) {
  vapply(c("r", "n", "ci_low", "ci_high", "p"), function(field) c(as.numeric(found[[field]]), NA)[1], 0)
}

same_pair <- function(set, door, found, relation, pair) {
  same <- isTRUE(all.equal(figures_of(found), figures_of(relation), tolerance = 1e-9))
  expect(set, sprintf("%s and a relation differ: %s", door, toString(pair)), same)
}

# One pair: its relation, told and drawn, and the same from a matrix; every next step that a caution gives, as it is printed.
ask_pair <- function(set, study, pair, whole) {
  relation <- tried(set, paste(c("relate", pair), collapse = " / "), relate(study, pair[1], pair[2]))
  if (is.null(relation)) return(NULL)
  tried(set, "its text", format(relation))
  tried(set, "its sentence", in_words(relation))
  # Groups without an order stand in a matrix on request alone, and have no line and no trend.
  of_groups <- relation$coefficient %in% c("eta", "cramers-v")
  coefficient <- if (of_groups) relation$coefficient else "auto"
  matrix <- tried(set, "matrix of the pair", correlation_matrix(study, pair[1], pair[2], coefficient = coefficient))
  if (!is.null(matrix)) same_pair(set, "a matrix", matrix$pairs[1, ], relation, pair)
  if (!of_groups) {
    texts <- c(
      tried(set, "line", format(fit_line(study, pair[1], pair[2]))),
      tried(set, "flag", format(flag_spurious(study, pair[1], pair[2])))
    )
    if (whole) run_printed(set, study, texts)
  }
  if (whole) {
    figure <- tried(set, "scatter", draw_scatter(study, pair[1], pair[2]))
    if (!is.null(figure)) tried(set, "its drawing", ggplot2::ggplot_build(figure))
    if (is.null(pictures[[set$name]])) pictures[[set$name]] <<- figure
    for (code in steps_in_r(relation)) {
      before <- length(refusals)
      tried(set, paste("the next step", code), eval(parse(text = code), list(study = study), asNamespace("unsere")))
      expect(set, paste("refused though advised:", code), length(refusals) == before)
    }
    if (is.null(set$design)) same_by_command(set, relation, pair)
  }
  relation
}

# What a reviewer asks next: everywhere, under every choice, with a confounder that nobody measured.
ask_beyond <- function(set, study, measures) {
  book <- codebook(study)
  groups <- book$variable[book$role %in% c("group", "cluster", "time") | book$level %in% c("nominal", "binary")]
  told <- list(
    choices = tried(set, "choices", vary_choices(
      study, measures[1], measures[2],
      given = measures[3], permutations = 99, seed = 1
    )),
    unmeasured = tried(set, "unmeasured", relate(study, measures[1], measures[2], unmeasured = TRUE)),
    pooled = if (length(setdiff(groups, measures))) {
      tried(set, "pool", pool_relations(study, measures[1], measures[2], by = setdiff(groups, measures)[1]))
    }
  )
  if (all(c("person", "wave", "hours", "score") %in% book$variable)) {
    told$waves <- tried(set, "waves", relate_waves(study, "hours", "score", case = "person", time = "wave"))
  }
  for (name in names(Filter(Negate(is.null), told))) {
    tried(set, paste("text of", name), format(told[[name]]))
    tried(set, paste("sentence of", name), in_words(told[[name]]))
    if (name != "unmeasured") tried(set, paste("figure of", name), ggplot2::ggplot_build(ggplot2::autoplot(told[[name]])))
  }
}

ask_set <- function(set, folder, whole = TRUE) {
  study <- tried(set, "read", read_set(set))
  if (is.null(study)) return(NULL)
  if (!is.null(set$cases)) {
    expect(set, sprintf("%d cases, not %d", nrow(as.data.frame(study)), set$cases), nrow(as.data.frame(study)) == set$cases)
  }
  tried(set, "print", format(study))
  text <- tried(set, "overview", format(overview(study)))
  if (whole) run_printed(set, study, text)
  relations <- lapply(set$pairs, function(pair) ask_pair(set, study, pair, whole))
  for (relation in relations) for (code in relation$cautions$code[relation$cautions$severity == "serious"]) {
    serious[[set$name]] <<- c(serious[[set$name]], code)
  }
  for (known in set$truth_r) {
    at <- which(vapply(set$pairs, identical, NA, known$pair))
    expect(set, sprintf("r of %s is not %.3f", toString(known$pair), known$r), abs(relations[[at]]$r - known$r) < 1e-6)
  }
  texts <- c(
    tried(set, "matrix", format(correlation_matrix(study))), tried(set, "flag all", format(flag_spurious(study)))
  )
  if (whole) run_printed(set, study, texts)
  measures <- codebook(study)
  measures <- measures$variable[measures$role == "measure" & measures$level != "nominal"]
  if (length(measures) >= 3L) {
    ranked <- tried(set, "rank", do.call(rank_predictors, c(list(study, measures[1]), as.list(utils::head(measures[-1], 4)))))
    if (!is.null(ranked)) tried(set, "its sentence", in_words(ranked))
  }
  if (!is.null(set$items)) {
    items <- c(list(study), as.list(set$items$names), set$items[-1])
    tried(set, "items", format(do.call(check_items, items)))
  }
  if (whole && length(measures) >= 3L && nrow(as.data.frame(study)) < 50000) ask_beyond(set, study, measures)
  if (whole) {
    for (name in utils::head(measures, 6)) {
      tried(set, paste("distribution", name), ggplot2::ggplot_build(draw_distribution(study, name)))
      tried(set, paste("box", name), ggplot2::ggplot_build(draw_box(study, name)))
    }
    same_by_brief(set, study, relations, folder)
  }
  relations
}

makers <- ls(pattern = "^shelf_")
if (length(words) > 1L) makers <- intersect(makers, paste0("shelf_", words[-1]))
made <- function(maker, seed, ...) {
  set.seed(seed)
  folder <- tempfile(maker)
  dir.create(folder)
  list(set = get(maker)(folder, ...), folder = folder)
}
for (maker in makers) {
  one <- made(maker, seed)
  time <- system.time(ask_set(one$set, one$folder))[["elapsed"]]
  cat(sprintf("%-28s %5.1f s\n", one$set$name, time))
}
contact_sheet(pictures, ".build/shelf.png")

# The questions alone on further seeds; whether the interval that is told holds the r of a very large sample of the same kind.
inside <- c(held = 0, told = 0)
for (maker in if (seeds > 0L) setdiff(makers, "shelf_register")) {
  large <- if ("n" %in% names(formals(maker)) && !maker %in% c("shelf_diary", "shelf_gradebook")) {
    one <- made(maker, 1000L, n = 20000L)
    study <- tryCatch(read_set(one$set), error = function(e) NULL)
    lapply(one$set$pairs, function(pair) tryCatch(relate(study, pair[1], pair[2])$r, error = function(e) NA))
  }
  for (k in seq_len(seeds)) {
    one <- made(maker, seed + k)
    relations <- ask_set(one$set, one$folder, whole = FALSE)
    for (p in seq_along(large)) {
      found <- relations[[p]]
      if (is.null(found) || is.na(found$ci_low) || is.na(large[[p]])) next
      inside <- inside + c(found$ci_low <= large[[p]] && large[[p]] <= found$ci_high, 1)
    }
    unlink(one$folder, recursive = TRUE)
  }
}
if (inside[["told"]] > 0) {
  cat(sprintf("\nThe told interval holds the r of 20,000 cases in %.3f of %d.\n", inside[["held"]] / inside[["told"]], inside[["told"]]))
}
for (name in names(serious)) {
  counts <- sort(table(serious[[name]]), decreasing = TRUE)
  cat(sprintf("serious in %s: %s\n", name, paste(names(counts), counts, collapse = ", ")))
}
if (length(refusals)) cat("\nRefused:\n", paste0("  ", unique(unlist(refusals)), "\n"), sep = "")
if (length(faults)) cat("\nFaults:\n", paste0("  ", unique(unlist(faults)), "\n"), sep = "")
cat(sprintf("shelf: %d sets, %d checks, %d faults\n", length(makers), checks, length(faults)))
quit("no", if (length(faults)) 1L else 0L)
