# The grid of cases on the desk: what its cells offer becomes lines of the brief.

grid_desk <- function(file = demo_file("learners.csv"), env = parent.frame()) {
  skip_if_not_installed("DT")
  state <- unsere:::new_desk(unsere:::desk_brief(file), withr::local_tempdir(.local_envir = env))
  view <- shiny::reactiveValues(place = "bring")
  list(
    view = view,
    act = function(what, value, fields = list()) {
      shiny::isolate(unsere:::do_act(state, view, unsere:::desk_places(), what, value, fields))
    },
    side = function() gsub("<[^>]+>", " ", as.character(shiny::isolate(unsere:::grid_side(state, view)))),
    brief = function() shiny::isolate(state$brief()), study = function() shiny::isolate(state$study()),
    grid = function() unsere:::data_grid(state, shiny::isolate(state$study())), set = function(...) {
      shiny::isolate({
        given <- list(...)
        for (name in names(given)) view[[name]] <- given[[name]]
      })
    }
  )
}
column_at <- function(desk, name) match(name, names(desk$study()$data))

test_that("a cell offers its value as missing, its case to be left out, and its column as a filter", {
  desk <- grid_desk()
  expect_match(desk$side(), "Click a cell")
  desk$act("cell", paste(2, column_at(desk, "centre"), sep = "\r"))
  expect_match(desk$side(), "Centre.*Harbour.*Case L002.*Brook \\(52\\)")
  desk$set(kinds = c("Mill", "Brook"))
  desk$act("keep_filtered", "")
  expect_identical(desk$brief()$data$where, "centre in ('Mill', 'Brook')")
  expect_identical(nrow(desk$study()$data), 92L)
  desk$act("cell", paste(1, column_at(desk, "age_years"), sep = "\r"))
  desk$set(range = c(30, 74))
  desk$act("keep_filtered", "")
  expect_identical(desk$brief()$data$where, "(centre in ('Mill', 'Brook')) and (age_years >= 30)")
  expect_true(all(desk$study()$data$age_years >= 30))
  # All of a column is no condition.
  desk$act("cell", paste(1, column_at(desk, "attendance_pct"), sep = "\r"))
  desk$set(range = range(desk$study()$data$attendance_pct, na.rm = TRUE))
  before <- desk$brief()
  desk$act("keep_filtered", "")
  expect_identical(desk$brief(), before)
})

test_that("codes of a value join those of the codebook; a case is left out with its reason", {
  desk <- grid_desk()
  desk$act("cell", paste(1, column_at(desk, "age_years"), sep = "\r"))
  age <- desk$study()$data$age_years
  desk$act("no_answer", paste("age_years", age[1], sep = "\r"))
  expect_identical(unlist(desk$brief()$variables$age_years$missing_codes), c(-9, age[1]))
  expect_identical(sum(is.na(desk$study()$data$age_years)), sum(is.na(age) | age %in% age[1]))
  desk$act("cell", paste(3, column_at(desk, "centre"), sep = "\r"))
  desk$act("exclude_cell", "L003", list(reason = ""))
  expect_null(desk$brief()$leave_out)
  desk$act("exclude_cell", "L003", list(reason = "entered twice"))
  expect_identical(desk$brief()$leave_out, list(L003 = "entered twice"))
  for (odd in c("", "x", "1", "1\r99", "-1\r1", "999999\r2")) {
    desk$act("cell", odd)
    expect_match(desk$side(), "Click a cell|Case L", label = odd)
  }
})

test_that("conditions hold names and words that need quotes", {
  file <- withr::local_tempfile(fileext = ".csv")
  writeLines(c("Where do you live?,x", "O'Hara's,1", "O'Hara's,2", "\"a \"\"b\"\"\",3", "\"a \"\"b\"\"\",4"), file)
  desk <- grid_desk(file)
  for (row in c(1, 3)) {
    name <- names(desk$study()$data)[1]
    wanted <- sum(desk$study()$data[[1]] == desk$study()$data[[1]][row])
    condition <- unsere:::condition_of_value(name, desk$study()$data[[1]][row])
    desk$act("keep_like", condition)
    expect_identical(nrow(desk$study()$data), wanted)
    desk$act("undo", "")
  }
})

test_that("the grid marks missing and outlying cells and names its columns", {
  desk <- grid_desk()
  grid <- desk$grid()
  expect_identical(names(grid$x$data)[1:3], c("#", "learner", "centre"))
  marks <- grid$x$options$columnDefs[[1]]$createdCell
  expect_match(marks, "missing")
  ends <- jsonlite::fromJSON(sub("^.*const ends = (\\[.*\\])\\[column\\].*$", "\\1", marks))
  commute <- desk$study()$data$commute_min
  middle <- stats::quantile(commute, c(.25, .75), na.rm = TRUE, names = FALSE)
  expect_equal(ends[[1 + column_at(desk, "commute_min")]], middle + c(-3, 3) * diff(middle))
  expect_null(ends[[1 + column_at(desk, "centre")]])
})

test_that("in the browser a click on a cell opens it, and a filter reaches the brief", {
  skip_if_not_installed("DT")
  folder <- withr::local_tempdir()
  file.copy(demo_file(c("learners.csv")), folder)
  desk <- open_browser(file.path(folder, "learners.csv"), folder)
  withr::defer(close_browser(desk))
  go_to(desk, "bring")
  waited(function() in_page(desk, "document.querySelectorAll('.grid tbody td').length > 50"))
  in_page(desk, paste0(
    "[...document.querySelectorAll('.grid tbody td')].find(cell => cell.textContent === 'Harbour').",
    "dispatchEvent(new MouseEvent('click', {bubbles: true}))"
  ))
  waited(function() grepl("Case L", text_of(desk, "#beside")))
  press(desk, "keep_like")
  waited(function() grepl("54 cases", text_of(desk, "#rest")))
  expect_match(the_brief(desk), "where: \"?centre = 'Harbour'")
  expect_identical(barriers(desk), character())
})

test_that("a table is saved as it stands, with plain minus signs", {
  folder <- withr::local_tempdir()
  file.copy(demo_file("learners.csv"), folder)
  desk <- open_browser(file.path(folder, "learners.csv"), folder)
  withr::defer(close_browser(desk))
  go_to(desk, "look")
  waited(function() in_page(desk, "!!document.querySelector('[data-table=csv]')"))
  # What the browser would lay down is caught instead.
  in_page(desk, "URL.createObjectURL = (blob) => { blob.text().then((text) => { window.caught = text; }); return '#'; }")
  in_page(desk, "document.querySelector('[data-table=csv]').click()")
  waited(function() isTRUE(in_page(desk, "typeof window.caught === 'string'")))
  caught <- utils::read.csv(text = sub("^\ufeff", "", in_page(desk, "window.caught")), check.names = FALSE)
  expect_identical(caught$n, 240L)
  expect_identical(caught$min, -9L)
})
