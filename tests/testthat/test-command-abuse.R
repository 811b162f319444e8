# Every option that is declared, with values that make no sense: an answer or one or two plain lines, never a fault.

asked <- function(words) {
  told <- character()
  warned <- character()
  utils::capture.output(status <- withCallingHandlers(
    run_command(words),
    message = function(m) {
      told <<- c(told, conditionMessage(m))
      invokeRestart("muffleMessage")
    },
    warning = function(w) {
      warned <<- c(warned, conditionMessage(w))
      invokeRestart("muffleWarning")
    }
  ))
  list(status = status, lines = length(strsplit(paste(told, collapse = ""), "\n")[[1]]), told = told, warned = warned)
}

trouble <- function(words) {
  got <- asked(words)
  wrong <- c(
    if (!got$status %in% c(0L, 2L, 3L, 4L)) sprintf("status %d", got$status),
    if (got$status != 0L && !got$lines %in% 1:2) sprintf("%d lines", got$lines),
    if (length(got$warned)) sprintf("R warns: %s", got$warned[1])
  )
  if (length(wrong)) paste(paste(words, collapse = " "), "gave", paste(wrong, collapse = ", "), got$told[1])
}

starts <- function() {
  dial <- demo_file("dial.csv")
  list(
    look = c("look", dial), relate = c("relate", dial, "dial", "level_db"), matrix = c("matrix", dial),
    line = c("line", dial, "dial", "level_db"),
    rank = c("rank", demo_file("learners.csv"), "speaking_score", "practice_hours", "age_years"),
    flag = c("flag", demo_file("town_years.csv"), "hives", "ebook_loans"),
    levels = c("levels", demo_file("learners.csv"), "commute_min", "listening_score"),
    waves = c(
      "waves", demo_file("three_terms.csv"), "practice_hours", "speaking_score", "--case", "learner", "--time", "term"
    ),
    choices = c("choices", demo_file("dial.csv"), "dial", "level_db", "--permutations", "99"),
    pool = c("pool", demo_file("learners.csv"), "practice_hours", "speaking_score", "--by", "centre"),
    items = c("items", demo_file("learners.csv"), "m1", "m2", "m3", "m4"), plan = c("plan", "--r", "0.3", "--power", "0.8"),
    demonstrate = c("demonstrate", "groups"),
    draw = c("draw", "scatter", dial, "dial", "level_db"), brief = c("brief", dial)
  )
}

#' Values that an option of this type should never be given
odd_values <- function(type) {
  switch(type,
    number = ,
    whole = ,
    numbers = c("", "0", "-1", "1e308", "-1e308", "999999999999", "NaN", "1,2", "x"),
    flag = c("", "yes"),
    choice = ,
    choices = c("", "x", ",", strrep("z", 300)),
    c("", "-1", "x", "a=", ".", "no/such/place", strrep("z", 300))
  )
}

test_that("no option of any command falls over a value that makes no sense", {
  withr::local_dir(withr::local_tempdir())
  known <- unsere:::commands()
  starts <- starts()
  shared <- names(c(unsere:::intake_arguments(), unsere:::output_arguments(), unsere:::closing_arguments()))
  expect_true(all(names(unsere:::questions()) %in% names(starts)))
  faults <- character()
  tried <- 0
  for (name in names(starts)) {
    options <- setdiff(names(known[[name]]$arguments), "threads")
    # What all commands share is tried on one of them; a figure takes its time.
    if (name != "relate") options <- setdiff(options, shared)
    for (argument in options) {
      option <- paste0("--", gsub("_", "-", argument))
      values <- odd_values(known[[name]]$arguments[[argument]]$type)
      # Each option gets one or two of them, each another: options of one type are read in one place.
      tried <- tried + 1
      if (name == "draw" && tried %% 2) next
      at <- if (name == "relate") 2 * tried + 0:1 else tried
      values <- if (name == "draw") "1e308" else unique(values[at %% length(values) + 1])
      out <- if (name == "draw" && option != "--out") c("--out", "figure.svg")
      for (value in values) faults <- c(faults, trouble(c(starts[[name]], out, paste0(option, "=", value))))
      bare <- if (tried %% 2) option else c(option, "1", option, "2")
      if (name != "draw") faults <- c(faults, trouble(c(starts[[name]], bare)))
    }
  }
  expect_identical(faults, character())
})

#' A value that an option takes, as the declaration has it
sound_value <- function(one) {
  switch(one$type,
    number = ,
    whole = format(min(max(one$from + 0.5 * one$inside, 0.5, if (one$type == "whole") 1), one$to), scientific = FALSE),
    numbers = "4.5,60",
    choice = ,
    choices = rev(one$allowed)[1],
    scale = "evans",
    variable = ,
    variables = "dial",
    values = "practice_hours=5",
    texts = "-9",
    path = "written.csv",
    "1"
  )
}

test_that("options that do not go together are refused or answered, two at a time", {
  withr::local_dir(withr::local_tempdir())
  known <- unsere:::commands()
  faults <- character()
  for (name in c("relate", "matrix", "line", "rank", "flag")) {
    declared <- known[[name]]$arguments
    shared <- names(c(unsere:::intake_arguments(), unsere:::output_arguments()))
    declared <- declared[setdiff(names(declared), c("threads", if (name != "relate") shared, "codebook"))]
    words <- Map(function(option, one) {
      option <- paste0("--", gsub("_", "-", option))
      if (is.null(one$value)) option else paste0(option, "=", sound_value(one))
    }, names(declared), declared)
    two <- utils::combn(unlist(words), 2)
    # Every ninth: `make fuzz` tries all of them, at random.
    for (k in seq(1, ncol(two), 9)) faults <- c(faults, trouble(c(starts()[[name]], two[, k])))
  }
  expect_identical(faults, character())
})

test_that("a run that is asked to end, or killed, leaves no process, and no draft after the next run", {
  skip_on_os("windows")
  skip_if(!nzchar(Sys.which("pgrep")), "no pgrep")
  script <- withr::local_tempfile(fileext = ".sh")
  writeLines(c(
    "cd \"$1\"; \"$2\" run learners.yml --out results --quiet 2> log & run=$!",
    # However slow the machine: counted from when the run has begun, and has a first worker.
    "for k in $(seq 300); do grep -q reading log && pgrep -x -P $run R > /dev/null && break; sleep 0.1; done; sleep \"$4\"",
    "children=$(pgrep -P $run)",
    "kill -\"$3\" $run", "wait $run 2> /dev/null; status=$?", "sleep \"$5\"", "left=0",
    "for child in $children; do kill -0 $child 2> /dev/null && left=$((left + 1)); done",
    "echo \"$status $left $(ls -A | grep -c unsere-)\" > told"
  ), script)
  # One beside the other, each in a folder of its own. Killed outright, a run's workers are ended by another.
  ends <- list(c("TERM", 0.2, 2.5), c("TERM", 2, 2.5), c("HUP", 0.5, 2.5), c("HUP", 3, 2.5), c("KILL", 2, 8))
  folders <- replicate(length(ends), withr::local_tempdir(.local_envir = parent.frame(4)))
  for (folder in folders) for (name in c("learners.yml", "learners.csv", "codebook.csv")) file.copy(demo_file(name), folder)
  withr::local_envvar(R_LIBS = paste(.libPaths(), collapse = ":"))
  for (k in seq_along(ends)) {
    words <- shQuote(c(script, folders[k], path_of_command(), ends[[k]]))
    system2("bash", words, stdout = FALSE, stderr = FALSE, wait = FALSE)
  }
  told <- file.path(folders, "told")
  waited(function() all(file.exists(told)) && all(file.size(told) > 0), 240)
  told <- lapply(told, function(file) as.integer(strsplit(readLines(file), " ")[[1]]))
  for (k in 1:4) expect_identical(told[[k]], c(130L, 0L, 0L))
  expect_identical(told[[5]][1:2], c(137L, 0L))
  folder <- folders[5]
  expect_false(dir.exists(file.path(folder, "results")))
  out <- file.path(folder, "results")
  # The next run may have less to write.
  brief <- readLines(file.path(folder, "learners.yml"))
  writeLines(sub("formats: *\\[[^]]*\\]", "formats: [html]", brief), file.path(folder, "learners.yml"))
  expect_identical(unsere("run", file.path(folder, "learners.yml"), "--out", out, "--quiet")$status, 0L)
  expect_no_drafts(folder)
})
