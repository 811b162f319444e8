# Files and folders are written whole or not at all, and nothing of the user's is lost.

dial_run <- function(folder) {
  file.copy(c(demo_file("dial.csv"), demo_file("codebook.csv")), folder)
  path <- file.path(folder, "dial.yml")
  writeLines(c("data: {file: dial.csv, codebook: codebook.csv}", "pairs:", "  - {x: dial, y: level_db}"), path)
  path
}

test_that("files added to a result folder or edited in it outlive the next run", {
  brief <- dial_run(withr::local_tempdir())
  folder <- run_brief(brief, quiet = TRUE)
  writeLines("mine", file.path(folder, "figures", "notes.txt"))
  writeLines("edited", file.path(folder, "report.Rmd"))
  said <- testthat::capture_messages(run_brief(brief))
  expect_match(said, "Kept.*figures/notes.txt.*report-2.Rmd", all = FALSE)
  expect_identical(readLines(file.path(folder, "figures", "notes.txt")), "mine")
  expect_identical(readLines(file.path(folder, "report-2.Rmd")), "edited")
  expect_gt(length(readLines(file.path(folder, "report.Rmd"))), 20)
  # What the run itself wrote is not kept twice.
  expect_length(list.files(folder, "-2[.]", recursive = TRUE), 1)
})

test_that("a draft of a run that was killed is swept away, that of a run that goes on is not", {
  folder <- withr::local_tempdir()
  brief <- dial_run(folder)
  target <- file.path(folder, "results")
  gone <- system2("sh", c("-c", shQuote("echo $$")), stdout = TRUE) # a process that has ended
  alive <- system2("sh", c("-c", shQuote("sleep 60 >/dev/null 2>&1 & echo $!")), stdout = TRUE)
  withr::defer(tools::pskill(as.integer(alive)))
  drafts <- vapply(c(gone, alive), function(process) unsere:::draft_folder(target, process), "")
  for (draft in drafts) dir.create(draft)
  run_brief(brief, quiet = TRUE)
  expect_false(dir.exists(drafts[1]))
  expect_true(dir.exists(drafts[2]))
})

test_that("a full disk is said as what it is, and leaves nothing", {
  folder <- withr::local_tempdir()
  path <- file.path(folder, "figure.png")
  expect_error(unsere:::replace_by(path, function(draft) {
    writeBin(as.raw(1:99), draft)
    stop("No space left on device")
  }), "no room left to write", class = "unsere_error_input")
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 0)
})

test_that("a figure that was cut short is known by its end", {
  whole <- unsere:::is_whole_figure
  plot <- draw_scatter(demo_study("dial"), dial, level_db)
  for (kind in c("png", "svg", "pdf")) {
    path <- tempfile(fileext = paste0(".", kind))
    unsere:::save_figure(plot, path)
    expect_true(whole(path, kind))
    bytes <- readBin(path, "raw", file.size(path))
    writeBin(bytes[seq_len(length(bytes) - 40)], path)
    expect_false(whole(path, kind))
  }
})

test_that("an interrupt in the middle leaves the folder as it was", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  brief <- dial_run(folder)
  before <- list.files(folder, all.files = TRUE)
  command <- path_of_command()
  for (after in c("each variable", "figures and tables")) {
    log <- file.path(withr::local_tempdir(), "log")
    # The shell starts the run, waits until it has said that far, and stops it as Ctrl-C would.
    script <- sprintf(paste(
      "%s run %s 2>%s & run=$!; until grep -q '%s' %s 2>/dev/null; do sleep 0.05; done;",
      "kill -INT $run; wait $run; echo $?"
    ), shQuote(command), shQuote(brief), shQuote(log), after, shQuote(log))
    status <- system2("bash", c("-mc", shQuote(script)), stdout = TRUE, stderr = FALSE)
    expect_identical(tail(status, 1), "130")
    expect_match(readLines(log), "unsere: stopped", fixed = TRUE, all = FALSE)
    expect_identical(list.files(folder, all.files = TRUE), before)
  }
})

test_that("a file that cannot be written to its end leaves the old one whole, and no word of success", {
  skip_on_os("windows")
  folder <- withr::local_tempdir()
  wide <- as.data.frame(matrix(rnorm(60 * 210), 60))
  data.table::fwrite(wide, file.path(folder, "wide.csv"))
  for (form in c("json", "csv", "markdown")) {
    target <- file.path(folder, paste0("matrix.", form))
    writeLines("the old one", target)
    # No file may grow beyond 64 blocks, as on a disk that runs full.
    script <- sprintf(
      "trap '' XFSZ; ulimit -f 64; exec %s matrix %s --format %s --out %s", shQuote(path_of_command()),
      shQuote(file.path(folder, "wide.csv")), form, shQuote(target)
    )
    said <- suppressWarnings(system2("sh", c("-c", shQuote(script)), stdout = TRUE, stderr = TRUE))
    expect_identical(attr(said, "status"), 3L, label = form)
    expect_no_match(said, "Written|Warning", all = TRUE)
    expect_identical(readLines(target), "the old one")
  }
  expect_identical(list.files(folder, "unsere-", all.files = TRUE), character())
})
