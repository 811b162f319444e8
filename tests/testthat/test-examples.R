test_that("every help page has an example, and every example runs on the demo data", {
  root_of_project()
  pages <- tools::Rd_db("unsere")
  expect_gt(length(pages), 15)
  exported <- getNamespaceExports("unsere")
  documented <- character()
  for (page in names(pages)) {
    tags <- vapply(pages[[page]], function(part) attr(part, "Rd_tag"), "")
    aliases <- unlist(lapply(pages[[page]][tags == "\\alias"], as.character))
    if (!any(aliases %in% exported)) next
    documented <- c(documented, aliases)
    code <- tempfile(fileext = ".R")
    # Whole reports, marked as long, are run by `make check`.
    tools::Rd2ex(pages[[page]], code, commentDonttest = TRUE)
    expect_true(file.exists(code), label = paste(page, "has an example"))
    ragg::agg_png(tempfile())
    expect_error(utils::capture.output(suppressMessages(source(code,
      local = new.env(), echo = FALSE,
      print.eval = TRUE
    ))), NA)
    grDevices::dev.off()
  }
  expect_setequal(setdiff(exported, documented), character())
})

test_that("help says for each argument what it is, and which errors can be raised", {
  pages <- tools::Rd_db("unsere")
  for (page in pages) {
    tags <- vapply(page, function(part) attr(part, "Rd_tag"), "")
    if (!"\\usage" %in% tags || any(grepl("internal", unlist(page[tags == "\\keyword"])))) next
    expect_true(all(c("\\arguments", "\\value", "\\examples") %in% tags))
    sections <- vapply(page[tags == "\\section"], function(part) paste(unlist(part[[1]]), collapse = ""), "")
    expect_true("Errors" %in% sections)
  }
})
