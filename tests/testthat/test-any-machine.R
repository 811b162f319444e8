# The main ways on a machine that has R and nothing else: no shell, no programs, no process beside this one.

bare <- function(code) {
  folder <- tempfile("Bücher \\ und mehr ")
  dir.create(folder)
  script <- file.path(folder, "way.R")
  writeLines(c(
    "forbid <- function(...) stop('a program was called: ', deparse(sys.call())[1])",
    "for (name in c('system', 'system2', 'pipe', 'shell')) if (exists(name, baseenv())) {",
    "  unlockBinding(name, baseenv())",
    "  assign(name, forbid, baseenv())",
    "}",
    "library(unsere)",
    sprintf("setwd(%s)", deparse(folder)), code, "cat('all of it\\n')"
  ), script, useBytes = TRUE)
  environment <- c(
    PATH = file.path(folder, "nothing"), R_HOME = R.home(), R_LIBS = paste(.libPaths(), collapse = ":"),
    LD_LIBRARY_PATH = paste(c(R.home("lib"), Sys.getenv("LD_LIBRARY_PATH")), collapse = ":"), NOT_CRAN = "true",
    LC_ALL = "C.UTF-8", R_ENABLE_JIT = "0", R_USER_CACHE_DIR = folder
  )
  out <- suppressWarnings(system2(
    file.path(R.home("bin"), "exec", "R"), c("--no-echo", "--no-restore", "--no-save", "-f", shQuote(script)),
    stdout = TRUE, stderr = TRUE, env = paste0(names(environment), "=", vapply(environment, shQuote, ""))
  ))
  list(out = enc2utf8(out), folder = folder, files = list.files(folder, recursive = TRUE))
}

skip_without_binary <- function() {
  skip_on_os("windows")
  skip_if(nzchar(Sys.getenv("UNSERE_COMMAND")), "lines are counted")
  skip_if_not(file.exists(file.path(R.home("bin"), "exec", "R")))
}

test_that("from R the demo, a report, figures and the desk need no program and no second process", {
  skip_without_binary()
  run <- bare(c(
    "run_demo(quiet = TRUE)",
    "study <- read_study('unsere-demo/data/learners.csv')",
    "write_report(study, 'Übung und Erfolg.html', practice_hours, speaking_score)",
    "ggplot2::ggsave('a figure.png', draw_scatter(study, practice_hours, speaking_score), width = 7, height = 5)",
    "invisible(correlation_matrix(study))",
    "write_tables(correlation_matrix(study), 'table.docx')",
    "write_brief(demo_study('dial'), 'brief.yml')",
    # What the desk does where no other process can be started.
    "run <- unsere:::start_brief('brief.yml', NULL, 'results', 'run.log')",
    "for (i in 1:600) if (is.null(run$status())) Sys.sleep(.1) else break",
    "stopifnot(identical(run$status(), 0L))",
    "later::later(shiny::stopApp, 0.5)", "open_desk(study, browse = FALSE)"
  ))
  expect_true("all of it" %in% run$out)
  expect_match(run$out, "The desk is open at", all = FALSE)
  wanted <- c(
    "unsere-demo/report.html", "unsere-demo/results.json", "a figure.png", "table.docx", "Übung und Erfolg.html",
    "results/report.html"
  )
  expect_identical(setdiff(wanted, run$files), character())
})

test_that("the command answers as a function, with its words and its exit status", {
  skip_on_os("windows")
  ask <- function(...) {
    words <- c("-e", shQuote("unsere::run_command()"), shQuote(c(...)))
    out <- suppressWarnings(system2(
      file.path(R.home("bin"), "Rscript"), words,
      stdout = TRUE, stderr = TRUE,
      env = paste0("R_LIBS=", shQuote(paste(.libPaths(), collapse = ":")))
    ))
    list(out = out, status = if (is.null(attr(out, "status"))) 0L else attr(out, "status"))
  }
  found <- ask("relate", demo_file("dial.csv"), "dial", "level_db", "--format", "json")
  expect_identical(found$status, 0L)
  expect_identical(jsonlite::fromJSON(found$out)$r, relate(demo_study("dial"), dial, level_db)$r)
  expect_identical(ask("relate", demo_file("dial.csv"), "dial", "volume")$status, 3L)
})
