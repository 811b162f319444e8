# A desk in a process of its own, without a browser: what is sent to it is what any program or page could send.
open_bare_desk <- function(start, ..., env = parent.frame()) {
  for (package in c("shiny", "bslib", "callr", "websocket", "curl")) skip_if_not_installed(package)
  folder <- withr::local_tempdir(.local_envir = env)
  log <- file.path(folder, "log")
  withr::local_envvar(R_USER_CACHE_DIR = file.path(folder, "cache"))
  process <- callr::r_bg(function(start, ...) unsere::open_desk(start, browse = FALSE, ...), list(start, ...),
    stdout = log, stderr = log, libpath = .libPaths(), wd = folder
  )
  withr::defer(process$kill(), envir = env)
  address <- desk_address(process, log)
  root <- sub("/[?].*$", "", address)
  answer <- function(path = "/", headers = list(), ...) {
    handle <- curl::new_handle(...)
    curl::handle_setheaders(handle, .list = headers)
    curl::curl_fetch_memory(paste0(root, path), handle)
  }
  token <- sub("^.*token=", "", address)
  cookie <- sprintf("unsere-%s=%s", substr(token, 1, 6), token)
  list(
    root = root, host = sub("^http://", "", root), token = token, cookie = cookie, answer = answer, log = log,
    folder = folder,
    status = function(...) answer(...)$status_code, said = function() readLines(log, warn = FALSE)
  )
}

# What a socket is told after these messages; `closed` where it was shut before it was told anything.
talk <- function(desk, messages, headers, awaited = "nothing at all", seconds = 120) {
  told <- character()
  state <- "opening"
  socket <- websocket::WebSocket$new(
    sprintf("ws://%s/websocket/", desk$host),
    headers = headers, autoConnect = FALSE,
    errorLogChannels = "none", accessLogChannels = "none"
  )
  socket$onOpen(function(event) {
    state <<- "open"
    for (message in messages) try(socket$send(message), silent = TRUE)
  })
  socket$onMessage(function(event) told <<- c(told, event$data))
  socket$onClose(function(event) state <<- "closed")
  socket$onError(function(event) state <<- "closed")
  socket$connect()
  until <- Sys.time() + seconds
  while (Sys.time() < until && state != "closed" && !any(grepl(awaited, told))) later::run_now(0.1)
  heard <- list(told = told, state = state)
  try(socket$close(), silent = TRUE)
  later::run_now(0.2)
  heard
}
upload <- "{\"method\":\"uploadInit\",\"args\":[[{\"name\":\"x.csv\",\"size\":9,\"type\":\"text/csv\"}]],\"tag\":0}"
begin <- function(desk, search = paste0("?token=", desk$token)) {
  shown <- stats::setNames(
    as.list(rep(FALSE, 4)),
    sprintf(".clientdata_output_%s_hidden", c("top", "rest", "status", "about"))
  )
  data <- c(shown, .clientdata_url_search = search, .clientdata_pixelratio = 1)
  as.character(jsonlite::toJSON(list(method = "init", data = data), auto_unbox = TRUE))
}

test_that("headers are refused without the cookie and from elsewhere, for every route and method", {
  desk <- open_bare_desk(demo_file("dial.csv"))
  own <- list(Cookie = desk$cookie)
  expect_identical(desk$status(paste0("/?token=", desk$token)), 200L)
  for (path in c("/", "/?token=x", "/shared/shiny.min.js", "/session/x/upload/y", "/websocket/", "/none")) {
    for (method in c("GET", "POST", "OPTIONS")) {
      asked <- function(headers) desk$status(path, headers, customrequest = method, http09_allowed = TRUE)
      for (headers in list(
        list(), list(Cookie = "unsere-x=y"), list(Cookie = sub("=", "-a=", desk$cookie)),
        c(own, Origin = "http://evil.example"), c(own, Host = "evil.example"), c(own, Origin = "null")
      )) expect_identical(asked(headers), 403L, label = paste(method, path, toString(headers)))
    }
  }
  expect_identical(desk$status("/shared/shiny.min.js", own), 200L)
  expect_identical(desk$status("/none", c(own, Origin = desk$root)), 404L)
  expect_identical(desk$status("/%00", own), 400L)
  expect_identical(desk$status(paste0("/?token=", desk$token, "&a=%00"), own), 400L)
  expect_identical(desk$status("/session/x/upload/y", c(own, "Content-Length" = "600000000"), customrequest = "POST"), 413L)
  expect_identical(desk$status("/session/x/upload/y", c(own, "Transfer-Encoding" = "chunked"),
    post = TRUE, postfieldsize = -1L, readfunction = function(n) raw(0)
  ), 413L)
  expect_no_match(desk$said(), "rror|Warning|trace", all = TRUE)
})

test_that("a socket is shut before anything listens, unless the desk's own page opened it", {
  desk <- open_bare_desk(demo_file("dial.csv"))
  own <- list(Cookie = desk$cookie, Origin = desk$root)
  for (headers in list(
    list(), list(Origin = desk$root), list(Cookie = desk$cookie, Origin = "http://evil.example"),
    list(Cookie = "unsere-x=y", Origin = desk$root)
  )) {
    heard <- talk(desk, c(upload, begin(desk), upload), headers)
    expect_identical(heard$state, "closed", label = toString(headers))
    expect_no_match(paste(heard$told, collapse = ""), "upload|values", label = toString(headers))
  }
  heard <- talk(desk, begin(desk), own, "level_db")
  expect_identical(heard$state, "open")
  expect_match(paste(heard$told, collapse = ""), "level_db")
  # By the cookie, but of a page without the token.
  expect_identical(talk(desk, begin(desk, ""), own)$state, "closed")
  expect_identical(list.files(desk$folder, "x.csv", recursive = TRUE), character())
})

test_that("messages of odd types are dropped without a word, and the desk goes on", {
  desk <- open_bare_desk(demo_file("dial.csv"))
  own <- list(Cookie = desk$cookie, Origin = desk$root)
  update <- function(data) sprintf("{\"method\":\"update\",\"data\":%s}", data)
  odd <- c(
    "", "[]", "5", "null", "{", "{\"method\":5}", "{\"method\":\"init\"}", "{\"method\":\"none\",\"args\":[]}",
    "{\"method\":\"uploadInit\",\"args\":[]}", "{\"method\":\"uploadInit\",\"args\":[[{\"name\":5,\"size\":\"x\"}]]}",
    "{\"method\":\"uploadEnd\",\"args\":[\"x\",\"set\"]}", "{\"method\":\"makeRequest\",\"args\":[1]}",
    update("[1,2]"), update("{\"set\":5}"), update("{\"set\":{\"key\":[1],\"value\":2}}"),
    update("{\"act\":{\"what\":\"save\"}}"),
    update("{\"act\":{\"what\":{\"a\":1},\"value\":\"\",\"fields\":{}}}"),
    update("{\"act\":{\"what\":\"save\",\"value\":\"\",\"fields\":{\"path\":[\"a\",\"b\"]}}}"),
    update("{\"figure_click\":{\"x\":\"here\"}}"), update("{\"figure_brush\":[1]}"),
    update("{\"file\":{\"datapath\":\"/etc/passwd\"}}"),
    update("{\"file:shiny.file\":[{\"datapath\":\"/etc/passwd\"}]}"), update("{\"a:no.such.type\":1}")
  )
  heard <- talk(
    desk,
    c(begin(desk), odd, update("{\"act\":{\"turn\":1,\"what\":\"go\",\"value\":\"plan\",\"fields\":{}}}")), own, "plan:power"
  )
  expect_identical(heard$state, "open")
  expect_match(paste(heard$told, collapse = ""), "plan:power")
  expect_length(grep("rror|arning|  [0-9]+:", desk$said(), value = TRUE), 0L)
})

test_that("an upload is no file of the desk's own, and nothing is written into the system", {
  desk <- open_bare_desk(demo_file("dial.csv"), largest_upload = 0.001)
  act <- function(what, fields) {
    message <- list(method = "update", data = list(act = list(turn = 1, what = what, value = "", fields = fields)))
    as.character(jsonlite::toJSON(message, auto_unbox = TRUE))
  }
  own <- list(Cookie = desk$cookie, Origin = desk$root)
  for (path in c("/etc/unsere-test.yml", "/usr/local/unsere-test.yml", file.path(R.home(), "unsere-test.yml"))) {
    heard <- talk(desk, c(begin(desk), act("save", list(path = path))), own, "belongs to the system")
    expect_match(paste(heard$told, collapse = ""), "belongs to the system")
    expect_false(file.exists(path))
  }
  heard <- talk(desk, c(begin(desk), act("run", list(folder = "/etc/unsere-results"))), own, "belongs to the system")
  expect_match(paste(heard$told, collapse = ""), "belongs to the system")
  # Larger than is allowed: no address to send it to.
  large <- sub("\"size\":9", "\"size\":5000", upload, fixed = TRUE)
  expect_no_match(paste(talk(desk, c(begin(desk), large), own, "Maximum|uploadUrl")$told, collapse = ""), "uploadUrl")
  heard <- paste(talk(desk, c(begin(desk), sub("x.csv", "draft.yml", upload)), own, "uploadUrl")$told, collapse = "")
  expect_match(heard, "uploadUrl")
  draft <- list.files(desk$folder, "draft.yml", recursive = TRUE, full.names = TRUE)
  expect_length(draft, 1L)
  expect_match(readLines(draft), "dial.csv", all = FALSE)
})
