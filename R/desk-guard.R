# Who is answered: the page that opened the address with the token, in the same browser, at this machine's own address. The
# headers of each request are looked at before its body is taken, a socket before anything listens to it, and a message
# before it is acted on.

#' Guard a server that runs: nothing is taken or answered but what the desk's own page asks
#'
#' @param port The port of the server; `token` the desk's secret; `largest` the size of the largest upload, in bytes.
#' @section Errors: `unsere_error_input` where the server has another shape than is known here: no desk is opened then.
#' @noRd
guard_server <- function(port, token, largest) {
  app <- server_app(port)
  whole <- app$app
  passed_headers <- whole$onHeaders
  passed_socket <- whole$onWSOpen
  whole$onHeaders <- function(req) {
    if (!is_sound_path(req)) return(refusal(400L, "There is no such address."))
    if (!is_own_request(req, token)) return(refusal(403L, "This desk answers its own page alone."))
    size <- size_of_request(req)
    if (size > largest) return(refusal(413L, say("A file of at most %.0f MB is taken.", largest / 1e6)))
    # It is kept twice for a moment.
    if (size > 1e6 && 2 * size > free_space(tempdir())) return(refusal(507L, "There is no room for it on this disk."))
    passed_headers(req)
  }
  whole$onWSOpen <- function(ws) {
    if (!is_own_socket(ws$request, token)) return(ws$close())
    passed_socket(guarded_socket(ws, port))
  }
  app$app <- whole
  app$supportsOnHeaders <- TRUE
  guard_files(port)
}

#' The handlers of the server at a port, where they can be replaced
#' @noRd
server_app <- function(port) {
  servers <- servers_at(port)
  inner <- function(object) tryCatch(object$.__enclos_env__$private, error = function(e) NULL)
  app <- if (length(servers)) inner(inner(servers[[1]])$appWrapper)
  if (is.environment(app) && is.function(app$app$onHeaders) && is.function(app$app$onWSOpen)) return(app)
  abort_input(
    "The desk cannot be secured with this version of the package httpuv, and is not opened.",
    "In R: install.packages(\"httpuv\"), or write a brief: unsere brief FILE"
  )
}

servers_at <- function(port) {
  Filter(function(server) is.function(server$getPort) && server$getPort() == as.integer(port), httpuv::listServers())
}

refusal <- function(status, text) {
  list(status = status, headers = list("Content-Type" = "text/plain; charset=UTF-8"), body = text)
}

# A null byte, or what is no text, is in no address of the desk.
is_sound_path <- function(req) {
  address <- paste0(req$PATH_INFO, req$QUERY_STRING)
  is_word(address) && !grepl("%00|%0[ad]|[[:cntrl:]]", address, ignore.case = TRUE, useBytes = TRUE) &&
    validUTF8(utils::URLdecode(gsub("%(?![0-9A-Fa-f]{2})", "%25", address, perl = TRUE)))
}

size_of_request <- function(req) {
  lengths <- c(req$HTTP_CONTENT_LENGTH, req$CONTENT_LENGTH)
  if (length(lengths)) {
    size <- suppressWarnings(as.numeric(lengths[1]))
    return(if (is.na(size) || size < 0) Inf else size)
  }
  if (is.null(req$HTTP_TRANSFER_ENCODING)) 0 else Inf
}

# The first request of a page brings the token, all others the cookie that it left.
is_own_request <- function(req, token) {
  first <- req$REQUEST_METHOD %in% c("GET", "HEAD") && identical(req$PATH_INFO, "/") && has_token(req$QUERY_STRING, token)
  is_local(req$HTTP_HOST) && is_own_origin(req) && (first || has_cookie(req$HTTP_COOKIE, token))
}

# A browser says of every socket whose page opens it.
is_own_socket <- function(req, token) {
  is_local(req$HTTP_HOST) && is_own_origin(req) && has_cookie(req$HTTP_COOKIE, token)
}

is_own_origin <- function(req) {
  is.null(req$HTTP_ORIGIN) || identical(sub("^http://", "", req$HTTP_ORIGIN), req$HTTP_HOST)
}

is_local <- function(host) is_word(host) && grepl("^(127[.]0[.]0[.]1|localhost|\\[::1\\])(:[0-9]+)?$", host)

has_token <- function(query, token) is_word(query) && grepl(paste0("[?&]token=", token, "(&|$)"), sub("^[?]?", "?", query))

cookie_name <- function(token) paste0("unsere-", substr(token, 1, 6))

has_cookie <- function(cookies, token) {
  is_word(cookies) && paste0(cookie_name(token), "=", token) %in% trimws(strsplit(cookies, ";", fixed = TRUE)[[1]])
}

#' An application whose first answer leaves its token in a cookie; two desks on one machine have cookies of their own
#' @param app From [shiny::shinyApp()].
#' @noRd
with_cookie <- function(app, token) {
  answer <- app$httpHandler
  app$httpHandler <- function(req) {
    on.exit(guard_files(req$SERVER_PORT))
    # Also where its headers were not looked at.
    if (!is_own_request(req, token)) return(shiny::httpResponse(403L, "text/plain", "This desk answers its own page alone."))
    response <- answer(req)
    if (has_token(req$QUERY_STRING, token) && !is.null(response)) {
      response$headers[["Set-Cookie"]] <- sprintf(
        "%s=%s; Path=/; HttpOnly; SameSite=Strict", cookie_name(token), token
      )
    }
    response
  }
  app
}

#' Files of the libraries go through the guard too: the server at this port does not answer for them by itself
#' @noRd
guard_files <- function(port) {
  for (server in servers_at(port)) {
    paths <- server$getStaticPaths()
    open <- names(Filter(function(path) !isTRUE(path$options$exclude), paths))
    if (length(open)) server$setStaticPath(.list = stats::setNames(
      rep(list(httpuv::excludeStaticPath()), length(open)),
      open
    ))
  }
}

#' A socket whose messages are looked at before they are acted on; what the page does not send is dropped without a word
#' @noRd
guarded_socket <- function(ws, port) {
  list(
    request = ws$request, send = function(message) ws$send(message), close = function(...) ws$close(...),
    onClose = function(act) ws$onClose(act),
    onMessage = function(act) {
      ws$onMessage(function(binary, message) {
        if (isFALSE(binary) && is_sound_message(message)) act(binary, message)
        guard_files(port)
      })
    }
  )
}

# What the page sends: the values of its controls, what was clicked, and the two steps of an upload.
is_sound_message <- function(text) {
  message <- if (is_word(text) && validUTF8(text)) {
    tryCatch(jsonlite::fromJSON(text, simplifyVector = FALSE), error = function(e) NULL)
  }
  if (!is.list(message) || !is_word(message$method)) return(FALSE)
  switch(message$method,
    init = ,
    update = is_named_list(message$data) && all(mapply(is_sound_input, names(message$data), message$data)),
    uploadInit = length(message$args) == 1L && is.list(message$args[[1]]) && length(message$args[[1]]) == 1L &&
      is_sound_upload(message$args[[1]][[1]]),
    uploadEnd = length(message$args) == 2L && is_word(message$args[[1]]) && identical(message$args[[2]], "file"),
    FALSE
  )
}

is_named_list <- function(value) is.list(value) && (!length(value) || !is.null(names(value)) && all(nzchar(names(value))))

is_single_value <- function(value) is.null(value) || is.atomic(value) && length(value) == 1L && !is.na(value)

is_sound_input <- function(name, value) {
  if (grepl("^[.]clientdata_[A-Za-z0-9_]+$", name)) {
    return(if (endsWith(name, "_font")) is_named_list(value) else is_single_value(value))
  }
  if (grepl("^[cf]-[[:alnum:]-]+$", name)) return(is_single_value(value) || is.list(value) && all(lengths(value) == 1L))
  switch(name,
    "file:shiny.file" = is.null(value),
    set = is_named_list(value) && is_word(value$key) && is_single_value(value$value),
    act = is_named_list(value) && is_word(value$what) && is_single_value(value$value) && is_named_list(value$fields) &&
      all(vapply(value$fields, is_single_value, NA)),
    figure_click = is.null(value) || is_named_list(value) && is_number(value$x) && is_number(value$y),
    figure_brush = is.null(value) || is_named_list(value) &&
      all(vapply(value[c("xmin", "xmax", "ymin", "ymax")], is_number, NA)),
    FALSE
  )
}

is_sound_upload <- function(file) {
  is_named_list(file) && is_word(file$name) && nzchar(file$name) && is_number(file$size) && file$size >= 0 &&
    (is.null(file$type) || is_word(file$type))
}
