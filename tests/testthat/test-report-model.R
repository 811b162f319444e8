# One report model: a page of one pair is a brief of one pair, and every form is set from the same typed blocks.

report_of <- function(name) {
  read <- unsere:::read_brief(demo_file(name))
  unsere:::new_report(unsere:::brief_results(read, unsere:::brief_study(read)))
}

test_that("blocks are typed, and each form has a method, or says nothing, for each", {
  types <- unique(unlist(lapply(c("learners.yml", "town_years.yml", "pulse.yml"), function(name) {
    vapply(unsere:::all_blocks(report_of(name)), function(block) class(block)[1], "")
  })))
  expect_true(all(c("block_text", "block_table", "block_figure", "block_cautions", "block_strip") %in% types))
  house <- asNamespace("unsere")
  for (generic in c("page_block", "document_block", "slide_block", "source_block")) {
    methods <- ls(house, pattern = paste0("^", generic, "[.]"))
    expect_true(paste0(generic, ".default") %in% methods, label = generic)
    known <- sub(paste0(generic, "."), "", methods, fixed = TRUE)
    possible <- c(types, "block_code", "block_rows", "block_conclusion")
    expect_true(all(setdiff(known, "default") %in% possible), label = generic)
  }
})

test_that("write_report() writes what a brief of that pair writes", {
  folder <- withr::local_tempdir()
  file.copy(c(demo_file("dial.csv"), demo_file("codebook.csv")), folder)
  path <- file.path(folder, "own.yml")
  writeLines(c(
    "title: Sound level", "question: Does the dial set the level?", "data: {file: dial.csv, codebook: codebook.csv}",
    "pairs: [{x: dial, \"y\": level_db, shape: linear}]"
  ), path)
  read <- unsere:::read_brief(path)
  study <- unsere:::brief_study(read)
  by_brief <- unsere:::new_report(unsere:::brief_results(read, study))
  write_report(study, file.path(folder, "own.html"), dial, level_db,
    title = "Sound level", question = "Does the dial set the level?"
  )
  page <- gsub("\\s+", " ", paste(readLines(file.path(folder, "own.html"), warn = FALSE), collapse = " "))
  texts <- unlist(lapply(unsere:::all_blocks(by_brief), function(block) if (inherits(block, "block_text")) block$text))
  texts <- gsub("\u00a0", " ", grep("brief|Unsere", texts, invert = TRUE, value = TRUE))
  plain <- gsub("\u00a0", " ", page)
  told <- vapply(as.character(htmltools::htmlEscape(texts)), grepl, NA, x = plain, fixed = TRUE)
  expect_gt(mean(told), .8)
})

test_that("the numbers of results.json are those that --since compares, without going through text", {
  read <- unsere:::read_brief(demo_file("pulse.yml"))
  results <- unsere:::brief_results(read, unsere:::brief_study(read))
  document <- unsere:::results_document(results)
  back <- jsonlite::fromJSON(unsere:::json_text(document), simplifyVector = FALSE)
  expect_identical(back$pairs[[1]]$relation$r, document$pairs[[1]]$relation$r)
  again <- unsere:::changes_since(document, results)
  expect_match(paste(format(again), collapse = " "), "[Nn]othing|no change|same", all = FALSE)
})
