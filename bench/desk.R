# How long a click on the desk takes, in a browser: until its words are there, and until its figure is and the page is
# calm. On the demo data and
# on 100,000 cases by 20 variables; beside it the round trip of a shiny page that does nothing but answer a click.
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

act <- function(what, value = "") sprintf(
  "Shiny.setInputValue('act', {turn: Math.random(), what: '%s', value: '%s', fields: {}}, {priority: 'event'})", what, value
)
set <- function(key, value) sprintf(
  "Shiny.setInputValue('set', {turn: Math.random(), key: '%s', value: '%s'}, {priority: 'event'})", key, value
)

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

clicks <- function(x, y, third) list(
  "another pair (x)" = c(set("pair:x", third), set("pair:x", x)),
  "a bent line" = c(set("pair:shape", "quadratic"), set("pair:shape", "linear")),
  "all pairs, as chosen" = c(act("go", "matrix"), act("go", "relate")),
  "one variable" = c(act("go", "look"), act("go", "relate")),
  "the table of variables" = c(act("go", "variables"), act("go", "relate")),
  "a level changed, and back" = c(
    set(paste0("variable:level:", third), "ordinal"),
    set(paste0("variable:level:", third), "numeric")
  )
)

measure_desk <- function(file, x, y, third) {
  desk <- open_browser(file)
  on.exit(close_browser(desk))
  for (code in c(act("go", "matrix"), act("start_matrix"), act("go", "relate"), set("pair:x", x), set("pair:y", y))) {
    timed_click(desk$page, code)
  }
  vapply(clicks(x, y, third), function(two) {
    each <- vapply(seq_len(runs), function(k) do.call(pmax, lapply(two, function(one) timed_click(desk$page, one))), c(0, 0))
    apply(each, 1, stats::median)
  }, c(0, 0))
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
small <- measure_desk(file.path(folder, "learners.csv"), "practice_hours", "speaking_score", "attendance_pct")
big <- measure_desk(file.path(folder, "large.csv"), "V1", "V2", "V3")
cat(sprintf("The round trip of a bare shiny page: %.3f s\n", round_trip))
cat("Seconds from a click to its answer (median of runs, the slower of there and back); times the bare round trip\n\n")
table <- function(found) print(data.frame(
  click = colnames(found), words = round(found[1, ], 2), all = round(found[2, ], 2),
  "all / bare" = round(found[2, ] / round_trip), check.names = FALSE
), row.names = FALSE)
cat("The demo data:\n")
table(small)
cat("\n100,000 cases by 20 variables:\n")
table(big)
cat("Wanted: 0.3 s on the demo data, 1.5 s on 100,000 cases by 20 variables.\n")
