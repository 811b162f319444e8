# A desk in a process of its own and a browser on it, for tests of clicks.

open_browser <- function(start, folder = tempfile("desk-test-")) {
  for (package in c("shiny", "bslib", "chromote", "callr")) skip_if_not_installed(package)
  chrome <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
  chrome <- chrome[nzchar(chrome)]
  skip_if(!length(chrome), "no browser on this machine")
  # What the browser lays down for itself goes with this process.
  withr::local_envvar(CHROMOTE_CHROME = chrome[[1]], TMPDIR = tempdir(), .local_envir = parent.frame())
  dir.create(folder, showWarnings = FALSE)
  log <- file.path(folder, "log")
  withr::local_envvar(R_USER_CACHE_DIR = file.path(folder, "cache"))
  libraries <- .libPaths()
  process <- callr::r_bg(function(start) unsere::open_desk(start, browse = FALSE), list(start),
    stdout = log, stderr = log, libpath = libraries, wd = folder
  )
  address <- desk_address(process, log)
  suppressMessages(chromote::set_chrome_args(c("--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--headless")))
  page <- suppressMessages(chromote::ChromoteSession$new(width = 1280L, height = 800L))
  # On a busy machine the answer may come late: asked again, and waited for by what stands on the page.
  waited(function() {
    tryCatch(page$Page$navigate(address, timeout_ = 20), error = function(e) NULL)
    grepl("127.0.0.1|localhost", page$Runtime$evaluate("location.href")$result$value)
  }, 90)
  desk <- list(process = process, page = page, address = address, folder = folder, log = log)
  waited(function() in_page(desk, "!!document.querySelector('.way button') && !!window.Shiny && !!Shiny.setInputValue"), 90)
  calm(desk)
  desk
}

waited <- function(done, seconds = 120) {
  until <- Sys.time() + seconds
  while (Sys.time() < until) {
    if (isTRUE(tryCatch(done(), error = function(e) FALSE))) return(invisible(TRUE))
    Sys.sleep(0.1)
  }
  stop("waited in vain")
}

# The address of a desk that was started in another process: it may take minutes on a busy machine, so only the end of the
# process ends the waiting, and what it wrote is told.
desk_address <- function(process, log, seconds = 240) {
  lines <- function() grep("token=", readLines(log, warn = FALSE), value = TRUE)
  tryCatch(
    waited(function() length(lines()) > 0 || !process$is_alive(), seconds),
    error = function(e) stop("the desk did not start:\n", paste(readLines(log, warn = FALSE), collapse = "\n"))
  )
  if (!length(lines())) stop("the desk ended:\n", paste(readLines(log, warn = FALSE), collapse = "\n"))
  sub("^.*(http[^ ]+).*$", "\\1", lines()[[1]])
}

in_page <- function(desk, code) desk$page$Runtime$evaluate(code, returnByValue = TRUE)$result$value

# A click is done once what is clicked is there: on a busy machine a place may be drawn long after it was asked for.
clicked <- function(desk, code, what) {
  done <- tryCatch(waited(function() isTRUE(in_page(desk, code)), 60), error = function(e) FALSE)
  if (!isTRUE(done)) stop(what, "; ", state_of(desk))
  calm(desk)
}

# What a desk that does not answer is doing.
state_of <- function(desk) {
  paste(c(
    if (desk$process$is_alive()) "the desk runs" else paste("the desk ended with", desk$process$get_exit_status()),
    if (isTRUE(in_page(desk, "document.body.classList.contains('ended')"))) "its page is cut off",
    sprintf("status: %s", text_of(desk, ".status")), "its log:", utils::tail(readLines(desk$log, warn = FALSE), 20)
  ), collapse = "\n")
}

calm <- function(desk) {
  Sys.sleep(0.25)
  # Words come first and the figure after them: quiet is what stays quiet.
  quiet <- 0
  waited(function() {
    quiet <<- if (in_page(desk, "!document.documentElement.classList.contains('shiny-busy')")) quiet + 1 else 0
    quiet >= 3
  })
}

text_of <- function(desk, where) {
  in_page(desk, sprintf("(document.querySelector(%s) || {}).innerText || ''", jsonlite::toJSON(where, auto_unbox = TRUE)))
}

# What a click brings about may come late on a busy machine: waited for, then looked at.
expect_in_brief <- function(desk, text, fixed = TRUE) {
  try(waited(function() grepl(text, the_brief(desk), fixed = fixed)), silent = TRUE)
  expect_match(the_brief(desk), text, fixed = fixed)
}

expect_shown <- function(desk, where, pattern) {
  try(waited(function() grepl(pattern, text_of(desk, where))), silent = TRUE)
  expect_match(text_of(desk, where), pattern)
}

# A control is changed as a hand would: its value set, its event sent.
set_control <- function(desk, key, value) {
  js <- jsonlite::toJSON(list(key = key, value = value), auto_unbox = TRUE)
  clicked(desk, sprintf(
    "(() => { const a = %s; const f = [...document.querySelectorAll('[data-set]')].find((e) => e.dataset.set === a.key);
      if (!f) return false; if (f.type === 'checkbox') f.checked = a.value; else f.value = a.value;
      f.dispatchEvent(new Event('change', {bubbles: true})); return true; })()", js
  ), paste("no control", key))
}

press <- function(desk, what, value = NULL, fields = list()) {
  js <- jsonlite::toJSON(list(what = what, value = if (is.null(value)) NA else value, fields = fields),
    auto_unbox = TRUE, na = "null"
  )
  clicked(desk, sprintf(
    "(() => { const a = %s; const b = [...document.querySelectorAll('[data-act]')].find((e) => e.dataset.act === a.what &&
        (a.value === null || e.dataset.value === a.value));
      const fields = Object.keys(a.fields).map((k) => [document.querySelector('[data-field=' + k + ']'), a.fields[k]]);
      if (!b || fields.some((f) => !f[0])) return false;
      fields.forEach((f) => { f[0].value = f[1]; }); b.click(); return true; })()", js
  ), paste("no button", what, value))
}

go_to <- function(desk, place) press(desk, "go", place)

# What axe-core, the checker of accessible pages, finds on the page; nothing where it is not set up.
barriers <- function(desk) {
  checker <- file.path(Sys.getenv("UNSERE_ROOT", "nowhere"), ".build", "axe", "node_modules", "axe-core", "axe.min.js")
  if (!file.exists(checker)) return(character())
  if (!isTRUE(in_page(desk, "!!window.axe"))) {
    desk$page$Runtime$evaluate(paste(readLines(checker, warn = FALSE, encoding = "UTF-8"), collapse = "\n"))
  }
  found <- desk$page$Runtime$evaluate(
    "axe.run(document, {resultTypes: ['violations']}).then((r) => r.violations.map((v) => v.id + ': ' + v.nodes[0].html))",
    awaitPromise = TRUE, returnByValue = TRUE
  )
  as.character(unlist(found$result$value))
}

# A click at a share of the figure's width and height.
click_figure <- function(desk, across, down) {
  box <- in_page(desk, "(() => { const b = document.querySelector('#figure').getBoundingClientRect();
    window.scrollTo(0, b.top + scrollY - 20); const c = document.querySelector('#figure').getBoundingClientRect();
    return [c.left, c.top, c.width, c.height]; })()")
  box <- unlist(box)
  at <- list(x = box[1] + across * box[3], y = box[2] + down * box[4])
  for (type in c("mousePressed", "mouseReleased")) {
    desk$page$Input$dispatchMouseEvent(type, x = at$x, y = at$y, button = "left", clickCount = 1)
  }
  calm(desk)
}

press_key <- function(desk, key) {
  for (type in c("keyDown", "keyUp")) {
    desk$page$Input$dispatchKeyEvent(type, key = key, code = key, text = if (key == "Enter" && type == "keyDown") "\r")
  }
  calm(desk)
}

# Also where the drawer that holds it is closed.
the_brief <- function(desk) in_page(desk, "(document.querySelector('#brief pre') || {}).textContent || ''")

close_browser <- function(desk) {
  try(desk$page$close(), silent = TRUE)
  if (desk$process$is_alive()) desk$process$kill()
}
