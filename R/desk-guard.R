# Who is answered: the page that opened the address with the token, at this machine's own address. Libraries, styles and
# fonts are held back as well as the page.

#' An application that answers nothing without its token
#'
#' The address carries the token once; the page's answer leaves it in a cookie, which the requests that follow bring; two
#' desks on one machine have cookies of their own.
#' @param app From [shiny::shinyApp()].
#' @noRd
guard_app <- function(app, token) {
  answer <- app$httpHandler
  refused <- shiny::httpResponse(403L, "text/plain", "This desk answers its own address alone.")
  app$httpHandler <- function(req) {
    on.exit(guard_files(req$SERVER_PORT))
    asked <- has_token(req$QUERY_STRING, token)
    if (!is_local(req$HTTP_HOST) || !asked && !has_cookie(req$HTTP_COOKIE, token)) return(refused)
    if (identical(req$PATH_INFO, "/") && !asked) return(refused)
    response <- answer(req)
    if (asked && !is.null(response)) {
      response$headers[["Set-Cookie"]] <- sprintf(
        "unsere-%s=%s; Path=/; HttpOnly; SameSite=Strict", substr(token, 1, 6), token
      )
    }
    response
  }
  app
}

#' Files of the libraries go through the guard too: the server at this port does not answer for them by itself
#' @noRd
guard_files <- function(port) {
  ours <- function(server) is.function(server$getPort) && server$getPort() == as.integer(port)
  for (server in Filter(ours, httpuv::listServers())) {
    paths <- server$getStaticPaths()
    open <- names(Filter(function(path) !isTRUE(path$options$exclude), paths))
    if (length(open)) server$setStaticPath(.list = stats::setNames(
      rep(list(httpuv::excludeStaticPath()), length(open)),
      open
    ))
  }
}

is_local <- function(host) is_word(host) && grepl("^(127[.]0[.]0[.]1|localhost|\\[::1\\])(:[0-9]+)?$", host)

has_token <- function(query, token) is_word(query) && grepl(paste0("[?&]token=", token, "(&|$)"), sub("^[?]?", "?", query))

has_cookie <- function(cookies, token) is_word(cookies) && grepl(paste0("=", token, "(;|$)"), cookies)
