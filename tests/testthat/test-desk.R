test_that("the whole way from a messy file to a report, by clicks; the brief gives the same figures", {
  desk <- open_browser(NULL)
  on.exit(close_browser(desk))
  file <- file.path(desk$folder, "school survey.csv")
  set.seed(3)
  hours <- round(runif(60, 0, 9), 1)
  score <- round(40 + 4 * hours + rnorm(60, 0, 6))
  score[5] <- 999
  words <- c("Never", "Rarely", "Sometimes", "Often", "Always")[pmin(5, 1 + hours %/% 2)]
  writeLines(c(
    "Spring survey;;;", "name;hours;score;reads",
    sprintf("P%02d;%s;%s;%s", 1:60, sub(".", ",", hours, fixed = TRUE), score, words)
  ), file)
  node <- desk$page$DOM$querySelector(desk$page$DOM$getDocument()$root$nodeId, "#file")
  desk$page$DOM$setFileInputFiles(list(file), nodeId = node$nodeId)
  waited(function() grepl("60 cases, 4 variables", text_of(desk, "#rest")))
  expect_match(text_of(desk, "#rest"), "Never < Rarely < Sometimes < Often < Always")
  expect_match(text_of(desk, ".odd"), "score holds 999, far outside")
  press(desk, "no_answer")
  expect_match(the_brief(desk), "score: {missing_codes: [999]}", fixed = TRUE)

  go_to(desk, "variables")
  set_control(desk, "variable:label:hours", "Weekly practice")
  set_control(desk, "variable:unit:hours", "h")
  expect_match(the_brief(desk), "hours: {label: Weekly practice, unit: h}", fixed = TRUE)
  press(desk, "undo")
  expect_false(grepl("unit: h", the_brief(desk)))
  press(desk, "redo")
  expect_match(the_brief(desk), "unit: h")
  press(desk, "derive", fields = list(name = "twice", expression = "2 * hours"))
  expect_match(the_brief(desk), "twice: \"2 * hours\"", fixed = TRUE)
  press(desk, "derive", fields = list(name = "bad", expression = "hours +"))
  expect_match(text_of(desk, ".status"), "hours \\+")
  expect_false(grepl("bad", the_brief(desk)))

  go_to(desk, "relate")
  set_control(desk, "pair:x", "hours")
  expect_match(in_page(desk, "document.querySelector('[data-set=\"pair:y\"]').innerText"), "score \u2013 Pearson")
  set_control(desk, "pair:y", "score")
  expect_match(text_of(desk, "#top"), "positively correlated")
  set_control(desk, "pair:predict_at", "3; 5")
  expect_match(text_of(desk, "#rest"), "Predicted from the line")
  set_control(desk, "pair:predict_at", "three")
  waited(function() grepl("holds what is no number", text_of(desk, ".status")))
  in_page(desk, "Shiny.setInputValue('figure_brush', {xmin: 0, xmax: 1, ymin: 0, ymax: 200})")
  calm(desk)
  expect_match(text_of(desk, ".chosen"), "marked: .*Without them r = .*with them r = ")
  press(desk, "leave_marked", fields = list(reason = "hardly any practice"))
  expect_match(the_brief(desk), "leave_out:")

  go_to(desk, "matrix")
  press(desk, "start_matrix")
  expect_match(text_of(desk, "#rest"), "Strongest first")
  go_to(desk, "write")
  shown <- in_page(desk, "document.querySelector('#brief pre').innerText")
  press(desk, "save", fields = list(path = file.path(desk$folder, "brief.yml")))
  expect_true(file.exists(file.path(desk$folder, "brief.yml")))
  press(desk, "run", fields = list(folder = file.path(desk$folder, "results")))
  waited(function() grepl("report.html", text_of(desk, ".files")), 90)
  by_desk <- jsonlite::fromJSON(file.path(desk$folder, "results", "results.json"), simplifyVector = FALSE)
  run_brief(file.path(desk$folder, "brief.yml"), out = file.path(desk$folder, "again"), quiet = TRUE)
  by_brief <- jsonlite::fromJSON(file.path(desk$folder, "again", "results.json"), simplifyVector = FALSE)
  expect_identical(by_desk$pairs, by_brief$pairs)
  expect_identical(by_desk$matrix, by_brief$matrix)
  r <- by_brief$pairs[[1]]$relation$r
  go_to(desk, "relate")
  expect_match(text_of(desk, ".strip-row"), sub("^0", "", sprintf("%.2f", r)))

  # An editor changes the brief meanwhile: taken up, or its mistake told with its line.
  brief <- readLines(file.path(desk$folder, "brief.yml"))
  writeLines(c(brief, "question: Does practice help?"), file.path(desk$folder, "brief.yml"))
  waited(function() grepl("Does practice help", the_brief(desk)))
  writeLines(c(brief, "quesion: wrong"), file.path(desk$folder, "brief.yml"))
  waited(function() grepl("quesion", text_of(desk, ".status")))

  # A second page shows the same; the last one closed ends the process.
  second <- suppressMessages(chromote::ChromoteSession$new())
  second$Page$navigate(desk$address)
  waited(function() {
    grepl("leave_out", second$Runtime$evaluate("(document.querySelector('#brief pre') || {}).innerText",
      returnByValue = TRUE
    )$result$value)
  })
  second$close()
  desk$page$close()
  waited(function() !desk$process$is_alive(), 20)
  expect_identical(desk$process$get_exit_status(), 0L)
})

test_that("nothing is answered without the token or at another host, and no cell or file name runs", {
  folder <- tempfile("hostile-")
  dir.create(folder)
  file <- file.path(folder, "<img src=x onerror=window.run=1>.csv")
  names <- c("<script>window.run=1</script>", "b\"><img src=x onerror=window.run=1>", "g")
  writeLines(c(
    paste0("\"", gsub("\"", "\"\"", names), "\"", collapse = ","),
    sprintf(
      "%d,%d,%s", 1:30, (1:30 * 7) %% 31,
      rep(c("<b onmouseover=window.run=1>a</b>", "javascript:window.run=1", "x"), 10)
    )
  ), file)
  desk <- open_browser(file)
  on.exit(close_browser(desk))
  root <- sub("[?].*$", "", desk$address)
  status <- function(url, host = NULL) {
    arguments <- c(
      "-s", "-o", "/dev/null", "-w", "%{http_code}",
      if (!is.null(host)) c("-H", shQuote(paste0("Host: ", host))), shQuote(url)
    )
    system2("curl", arguments, stdout = TRUE)
  }
  skip_if(!nzchar(Sys.which("curl")), "no curl")
  expect_identical(status(root), "403")
  expect_identical(status(sub("token=.", "token=x", desk$address)), "403")
  expect_identical(status(desk$address, "evil.example"), "403")
  expect_identical(status(desk$address), "200")
  files <- in_page(desk, "[...document.querySelectorAll('script[src], link[href]')].map((e) => e.src || e.href)")
  expect_gt(length(files), 3)
  for (file in grep("^http", files, value = TRUE)) expect_identical(status(file), "403")
  expect_identical(status(paste0(root, "shared/jquery.min.js")), "403")
  # A page that comes by a token of its own gets no session.
  other <- suppressMessages(chromote::ChromoteSession$new())
  other$Page$navigate(desk$address)
  waited(function() {
    isTRUE(other$Runtime$evaluate("!!document.querySelector('.way button')", returnByValue = TRUE)$result$value)
  })
  other$close()
  for (place in c(
    "bring", "variables", "look", "matrix", "predictors", "doubt", "items", "write", "relate"
  )) {
    go_to(desk, place)
    expect_identical(barriers(desk), character(), label = place)
  }
  set_control(desk, "pair:x", names[1])
  set_control(desk, "pair:y", names[2])
  expect_match(text_of(desk, "#top"), "correlat")
  waited(function() in_page(desk, "!!document.querySelector('#figure img')"))
  expect_identical(barriers(desk), character())
  expect_true(in_page(desk, "window.run === undefined"))
  # A click on a bar says who is in it, as the table has them.
  go_to(desk, "look")
  set_control(desk, "view:variable", names[1])
  waited(function() in_page(desk, "!!document.querySelector('#figure img')"))
  calm(desk)
  click_figure(desk, .5, .7)
  waited(function() grepl("[0-9]+ cases? there", text_of(desk, ".chosen")))
})

test_that("what the desk shows is worked out by the engine from its brief, place by place, also where it cannot be", {
  skip_if_not_installed("shiny")
  folder <- tempfile("state-")
  dir.create(folder)
  state <- unsere:::new_desk(unsere:::desk_brief(demo_file("learners.csv")), folder)
  view <- shiny::reactiveValues(place = "relate")
  shown <- function(place, part = "rest") {
    html <- shiny::isolate(unsere:::desk_places()[[place]][[part]](state, view))
    gsub("&lt;", "<", paste(gsub("<[^>]+>", " ", as.character(html)), collapse = " "), fixed = TRUE)
  }
  act <- function(...) shiny::isolate(unsere:::do_act(state, view, unsere:::desk_places(), ...))
  set <- function(key, value) shiny::isolate(unsere:::set_value(state, view, unsere:::desk_places(), key, value))
  set("pair:x", "practice_hours")
  set("pair:y", "speaking_score")
  relation <- relate(demo_study("learners"), practice_hours, speaking_score)
  expect_match(gsub("\\s+", " ", shown("relate", "top")), in_words(relation), fixed = TRUE)
  act("set_pair", "shape\rquadratic", list())
  expect_identical(shiny::isolate(state$brief())$pairs[[1]]$shape, "quadratic")
  set("variable:level:confidence", "numeric")
  expect_identical(shiny::isolate(state$study())$codebook$level[9], "numeric")
  # What a brief may not say changes nothing and is told.
  before <- shiny::isolate(state$brief())
  set("variable:values:study_partner", "never < ever")
  expect_match(shiny::isolate(state$trouble())$said, "which its order leaves out")
  expect_identical(shiny::isolate(state$brief()), before)
  act("leave_out", NULL, list(case = "L137", reason = "attendance mistyped"))
  expect_identical(nrow(shiny::isolate(state$study())$data), 239L)
  expect_match(shown("look"), "L137: attendance mistyped")
  act("start_matrix", NULL, list())
  expect_match(shown("matrix"), "Strongest first")
  set("rank:outcome", "speaking_score")
  set("rank-predictor:practice_hours", TRUE)
  set("rank-predictor:age_years", TRUE)
  expect_match(shown("predictors"), "went best with speaking score")
  expect_match(shown("write"), "What goes best with speaking_score")
  for (item in c("m1", "m2", "m3", "m4")) set(paste0("item:", item), TRUE)
  set("items-reverse", "m4")
  expect_identical(unlist(shiny::isolate(state$brief())$items), c(
    variables1 = "m1", variables2 = "m2", variables3 = "m3", variables4 = "m4", reverse = "m4"
  ))
  expect_match(shown("items"), "4 items had alpha")
  # The draft is a brief that runs: the desk can be lost and found.
  draft <- unsere:::open_brief(state$draft)
  expect_identical(unsere:::brief_text(draft), unsere:::brief_text(shiny::isolate(state$brief())))
  # Another desk beside it finds it, and goes on from it.
  home <- tempfile("desks-")
  beside <- file.path(home, c("desk-a", "desk-b"))
  for (one in beside) dir.create(one, recursive = TRUE)
  lost <- unsere:::new_desk(shiny::isolate(state$brief()), beside[1])
  found <- unsere:::new_desk(list(), beside[2])
  expect_match(as.character(shiny::isolate(unsere:::place_bring()$top(found, view))), "Go on where you were")
  shiny::isolate(unsere:::do_act(found, view, unsere:::desk_places(), "go_on", NULL, list()))
  expect_identical(unsere:::brief_text(shiny::isolate(found$brief())), unsere:::brief_text(shiny::isolate(lost$brief())))
  for (k in 1:20) act("undo", NULL, list())
  expect_null(shiny::isolate(state$brief())$pairs)
  expect_match(shown("bring"), "240 cases, 17 variables")
  years <- unsere:::new_desk(unsere:::desk_brief(demo_file("town_years.csv")), folder)
  shiny::isolate(unsere:::add_series(years, "ebook_loans", "hives"))
  html <- shiny::isolate(unsere:::desk_places()$doubt$rest(years, view))
  expect_match(as.character(html), "trend")
})

test_that("the desk refuses what is no port, no file, no brief", {
  withr::local_envvar(R_USER_CACHE_DIR = tempfile("cache-"))
  expect_error(open_desk(port = 80), "port", class = "unsere_error_usage")
  expect_error(open_desk("nowhere.csv"), "no file", class = "unsere_error_input")
  expect_error(open_desk(tempdir()), "folder", class = "unsere_error_input")
})
