# How long a click on the desk takes, in a browser: until its words are there, and until its figure is and the page is
# calm. First what was never drawn before, then what was seen already. On the demo data and on 100,000 cases by 20
# variables; beside it the round trip of a shiny page that does nothing but answer a click.
suppressMessages(library(testthat))
library(unsere)
source("tests/testthat/helper-desk.R")
skip_if <- skip_if_not_installed <- function(...) invisible()
runs <- as.integer(Sys.getenv("RUNS", "5"))

# From the click to the words' coming, and to the moment from which on the page stays idle, as the browser itself sees it.
click_script <- "new Promise((done) => {
  const root = document.documentElement, start = performance.now();
  let words = 0, idle = 0, timer = null;
  const read = new MutationObserver(() => { if (!words) words = performance.now(); });
  read.observe(document.querySelector('#top') || document.body, { childList: true, subtree: true, characterData: true });
  const finish = () => { watch.disconnect(); read.disconnect(); done([words - start, idle - start]); };
  const watch = new MutationObserver(() => {
    clearTimeout(timer);
    if (root.classList.contains('shiny-busy')) return;
    idle = performance.now();
    timer = setTimeout(finish, 100);
  });
  watch.observe(root, { attributes: true, attributeFilter: ['class'] });
  setTimeout(() => { if (!idle) finish(); }, 8000);
  %s;
})"

# Two numbers: seconds until the words, and until all.
timed_click <- function(page, code) {
  unlist(page$Runtime$evaluate(sprintf(click_script, code), awaitPromise = TRUE, returnByValue = TRUE)$result$value) / 1000
}

sent <- "Shiny.setInputValue('%s', {turn: Math.random(), %s: '%s', value: '%s', fields: {}}, {priority: 'event'})"
act <- function(what, value = "") sprintf(sent, "act", "what", what, value)
set <- function(key, value) sprintf(sent, "set", "key", key, value)

bare_page <- function() {
  log <- tempfile()
  process <- callr::r_bg(function() {
    shiny::runApp(shiny::shinyApp(
      shiny::fluidPage(shiny::textOutput("said")),
      function(input, output) output$said <- shiny::renderText(paste(input$act$turn))
    ), launch.browser = function(url) cat(url, "\n"), quiet = TRUE)
  }, stdout = log, stderr = log)
  waited(function() length(readLines(log, warn = FALSE)) > 0)
  suppressMessages(chromote::set_chrome_args(c("--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--headless")))
  page <- suppressMessages(chromote::ChromoteSession$new(width = 1280L, height = 800L))
  page$Page$navigate(trimws(readLines(log, warn = FALSE)[1]))
  Sys.sleep(2)
  list(process = process, page = page)
}

# Clicks on what was seen before, there and back.
clicks <- function(names) {
  list(
    "another pair (x)" = c(set("pair:x", names[3]), set("pair:x", names[1])),
    "a bent line" = c(set("pair:shape", "quadratic"), set("pair:shape", "linear")),
    "all pairs, as chosen" = c(act("go", "matrix"), act("go", "relate")),
    "one variable" = c(act("go", "look"), act("go", "relate")),
    "the table of variables" = c(act("go", "variables"), act("go", "relate")),
    "a level changed, and back" = c(
      set(paste0("variable:level:", names[3]), "ordinal"), set(paste0("variable:level:", names[3]), "numeric")
    )
  )
}

# Clicks that each ask for a figure that was never drawn: the place where they are made, and one for each further name.
new_clicks <- function(names) {
  list(
    "a new pair (x)" = list("relate", set("pair:x", names)),
    "a new bent line" = list("relate", set("pair:shape", "quadratic"), before = set("pair:x", names)),
    "a new variable looked at" = list("look", set("view:variable", names)),
    "another size stands out" = list("matrix", set("matrix:highlight", seq_along(names) / 20))
  )
}

median_of <- function(each) apply(each, 1, stats::median)

measure_desk <- function(file, names) {
  desk <- open_browser(file)
  on.exit(close_browser(desk))
  tap <- function(code) timed_click(desk$page, code)
  for (code in c(
    act("go", "matrix"), act("start_matrix"), act("go", "relate"), set("pair:x", names[1]), set("pair:y", names[2])
  )) tap(code)
  further <- utils::head(names[-(1:2)], runs)
  first <- vapply(new_clicks(further), function(new) {
    tap(act("go", new[[1]]))
    median_of(vapply(seq_along(further), function(k) {
      if (!is.null(new$before)) {
        for (code in c(set("pair:x", names[1]), set("pair:shape", "linear"), new$before[k])) tap(code)
      }
      tap(rep_len(new[[2]], length(further))[k])
    }, c(0, 0)))
  }, c(0, 0))
  for (code in c(act("go", "relate"), set("pair:x", names[1]))) tap(code)
  again <- vapply(clicks(names), function(two) {
    for (code in two) tap(code)
    median_of(vapply(seq_len(runs), function(k) do.call(pmax, lapply(two, tap)), c(0, 0)))
  }, c(0, 0))
  cbind(first, again)
}

bare <- bare_page()
round_trip <- stats::median(vapply(1:10, function(k) timed_click(bare$page, act("nothing"))[2], 0))
invisible(bare$page$close())
invisible(bare$process$kill())

folder <- tempfile("desk-bench-")
dir.create(folder)
invisible(file.copy(file.path(dirname(demo_file("learners.csv")), c("learners.csv", "codebook.csv")), folder))
set.seed(1)
large <- as.data.frame(matrix(round(rnorm(2e6), 3), ncol = 20))
large$V2 <- large$V1 * 0.5 + large$V2
data.table::fwrite(large, file.path(folder, "large.csv"))
small <- measure_desk(file.path(folder, "learners.csv"), c(
  "practice_hours", "speaking_score", "attendance_pct", "listening_score", "age_years", "commute_min", "confidence", "m1"
))
big <- measure_desk(file.path(folder, "large.csv"), paste0("V", 1:8))
cat(sprintf("The round trip of a bare shiny page: %.3f s\n", round_trip))
cat("Seconds from a click to its answer (median of runs; of what was seen already the slower of there and back);\n")
cat("times the bare round trip\n\n")
table <- function(found) {
  print(data.frame(
    click = colnames(found), words = round(found[1, ], 2), all = round(found[2, ], 2),
    "all / bare" = round(found[2, ] / round_trip), check.names = FALSE
  ), row.names = FALSE)
}
cat("The demo data:\n")
table(small)
cat("\n100,000 cases by 20 variables:\n")
table(big)
cat("Wanted: 0.3 s on the demo data, 1.5 s on 100,000 cases by 20 variables.\n")
