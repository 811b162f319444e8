# The next step as each reader can take it: a call, a command that a shell takes as it stands, or nothing.

steps_of <- function(text) regmatches(text, regexpr("(?<=Try: ).*$", text, perl = TRUE))

told_advice <- function(found, door) unsere:::words_of_cautions(found$cautions, found$sample$variables, door)$advice

test_that("commands quote what a shell would read, keep the path as given, and can be run as they stand", {
  folder <- file.path(withr::local_tempdir(), "my $HOME `data`")
  dir.create(folder)
  set.seed(51)
  x <- sort(runif(60, 1, 9))
  data <- data.frame(x, log(x) + rnorm(60, sd = .1))
  names(data) <- c("hours a week", "it's $5; 'now'")
  path <- file.path(folder, "own file.csv")
  data.table::fwrite(data, path)
  json <- jsonlite::fromJSON(json_of("relate", path, names(data)[1], names(data)[2], "--missing-codes=-9"))
  step <- steps_of(json$cautions$advice[json$cautions$code == "curved"])
  expect_match(step, "^unsere line ")
  command <- sub("^unsere", shQuote(path_of_command()), step)
  ran <- system2("bash", c("-c", shQuote(command)),
    stdout = TRUE, env = paste0("R_LIBS=", paste(.libPaths(), collapse = ":"))
  )
  expect_match(ran, "fits best|cannot be told apart", all = FALSE)
  expect_match(step, "--missing-codes=-9", fixed = TRUE)
})

test_that("R users get a call that runs, the page no call and no command", {
  study <- demo_study("learners")
  found <- relate(study, practice_hours, speaking_score)
  step <- steps_of(told_advice(found, unsere:::door_r()))
  expect_s3_class(eval(parse(text = step)), "unsere_lines")
  odd <- data.frame(check.names = FALSE, "a b" = c(1:30, 99), y = sin(1:31))
  coded <- relate(odd, "a b", y)
  advice <- told_advice(coded, unsere:::door_r())[coded$cautions$code == "codes_not_numbers"]
  study <- as_study(odd)
  expect_identical(codebook(eval(parse(text = steps_of(advice))))$variable, c("a b", "y"))
  expect_no_match(told_advice(found, unsere:::door_page()), "Next|unsere|\\(")
})

test_that("facts stand in results and their JSON, and no result changes with the locale", {
  found <- relate(demo_study("learners"), commute_min, listening_score)
  caution <- jsonlite::fromJSON(unsere:::as_json(found), simplifyVector = FALSE)$cautions[[1]]
  expect_equal(caution$figures$groups, 5)
  expect_length(caution$figures$turned, 5)
  expect_identical(caution$next_step$question, "draw scatter")
  all <- jsonlite::fromJSON(unsere:::as_json(correlation_matrix(demo_study("learners"))), simplifyVector = FALSE)$cautions
  expect_true(all(vapply(all, function(one) length(one$figures) > 0, NA)))
  plain <- callr::r(function() {
    learners <- unsere::demo_study("learners")
    unsere::relate(learners, "commute_min", "listening_score")[c("r", "p", "cautions")]
  }, libpath = .libPaths(), env = c(callr::rcmd_safe_env(), LC_ALL = "C"))
  expect_identical(plain, unclass(found)[c("r", "p", "cautions")])
})
