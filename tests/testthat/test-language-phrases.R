test_that("no text for readers falls back into a dialect of its own", {
  german <- system.file("languages", "de.yml", package = "unsere")
  templates <- names(yaml::read_yaml(german)$sentences)
  never <- paste(c(
    "clear of (chance|zero)", "tied most", "go(es)? together", "went together", "drawn one by one", "say as much as",
    "turns? round", "held constant", "left aside", "far out[^s]", "shuffl", "come out again", "parted by", "rise together",
    "hardly go", "drift", "predicted beforehand", "curve term", "Look also", "Keep in mind", "[0-9s] %% ?(CI|interval)"
  ), collapse = "|")
  expect_identical(grep(never, templates, value = TRUE), character())
  help <- tools::Rd_db("unsere")
  text <- vapply(help, function(page) paste(utils::capture.output(tools::Rd2txt(page, fragment = TRUE)), collapse = " "), "")
  found <- regmatches(text, regexpr("clear of (chance|zero)|drawn one by one|held constant|left aside|parted by", text))
  expect_length(found, 0)
})
