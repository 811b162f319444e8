test_that("set-up finds everything there the second time, in under three seconds of work", {
  root <- root_of_project()
  withr::local_dir(root)
  # What the processor spends; other work on the machine is no matter.
  spent <- system.time(said <- system2("tools/setup.sh", stdout = TRUE))
  took <- sum(spent[c("user.self", "sys.self", "user.child", "sys.child")])
  expect_identical(said, "setup: everything is there already.")
  expect_lt(took, 3)
})

test_that("every target of the Makefile says what it does", {
  root <- root_of_project()
  lines <- readLines(file.path(root, "Makefile"))
  phony <- strsplit(sub("^.PHONY: ", "", grep("^.PHONY:", lines, value = TRUE)), " ")[[1]]
  described <- sub(":.*", "", grep("^[a-z-]+:.*## ", lines, value = TRUE))
  expect_setequal(described, phony)
})

test_that("DESCRIPTION names what the code uses, and no more", {
  root <- root_of_project()
  fields <- read.dcf(file.path(root, "DESCRIPTION"))
  named <- trimws(gsub("\\(.*?\\)|\n", " ", unlist(strsplit(fields[, c("Imports", "Suggests", "Enhances")], ","))))
  files <- list.files(root, "[.](R|Rmd)$", recursive = TRUE, full.names = TRUE)
  files <- files[!grepl("/[.]build/", files)]
  code <- unlist(lapply(files, readLines, encoding = "UTF-8"))
  used <- unique(unlist(regmatches(code, gregexpr("[A-Za-z][A-Za-z0-9.]+(?=::)", code, perl = TRUE))))
  outside <- c(
    "unsere", "xml2", "zip", "codetools", "datasets", "lintr", "styler", "roxygen2", "covr", "parallel", "methods",
    "future.batchtools", "pkgdown", "base", "ancestor", "sibling" # the last two are axes of XPath
  )
  expect_setequal(setdiff(used, c(named, outside)), character())
  expect_setequal(setdiff(named, c(used, "testthat")), character())
})

test_that("pictures in docs/screenshots are linked from the README, and fewer than twenty", {
  root <- root_of_project()
  pictures <- list.files(file.path(root, "docs", "screenshots"), "[.]png$")
  readme <- paste(readLines(file.path(root, "README.md")), collapse = "\n")
  linked <- regmatches(readme, gregexpr("(?<=docs/screenshots/)[a-z-]+[.]png", readme, perl = TRUE))[[1]]
  expect_setequal(linked, pictures)
  expect_lt(length(pictures), 20)
})

test_that("the site's reference lists every public function, and its articles are there", {
  root <- root_of_project()
  site <- yaml::read_yaml(file.path(root, "_pkgdown.yml"))
  listed <- gsub("`", "", unlist(lapply(site$reference, `[[`, "contents")))
  expect_length(setdiff(getNamespaceExports("unsere"), listed), 0)
  # Each page of the help is under one of its names, methods that need words among them.
  for (page in setdiff(list.files(file.path(root, "man"), "Rd$"), "unsere-package.Rd")) {
    names <- gsub("^.alias.|.$", "", grep("^.alias", readLines(file.path(root, "man", page)), value = TRUE))
    expect_true(any(names %in% listed), label = page)
  }
  articles <- sub("[.]Rmd$", "", list.files(file.path(root, "vignettes"), "Rmd$"))
  expect_setequal(unlist(lapply(site$articles, `[[`, "contents")), articles)
})
