#' Open the desk: a local page for the whole analysis
#'
#' Opens a page in the browser on which data are read, variables described, relations analysed and reports written by
#' clicking. It runs on this machine only, at an address with a random token, and ends when its last page is closed or the
#' session is interrupted. Each step becomes a line of a brief, and [run_brief()] gives the same results from that brief.
#' Files are written only where you choose to save them.
#'
#' @param start A data file, a brief (`.yml`), a study or a data frame to begin with. Default: none.
#' @param port The port on 127.0.0.1. Default: a free one.
#' @param browse Whether to open a browser at the address, which is also printed. Default: `TRUE` in an interactive session.
#' @param largest_upload The largest file that can be uploaded on the page, in megabytes; one number. A file given as
#'   `start` may be larger. Default: the option `unsere.largest_upload`, or 500.
#' @return Nothing, when the desk is closed.
#' @section Errors: `unsere_error_input` if the file cannot be read or a package that it needs is missing (shiny, bslib,
#'   ragg); `unsere_error_usage` for an invalid port.
#' @examples
#' if (interactive()) open_desk(demo_file("learners.csv"))
#' @export
open_desk <- function(start = NULL, port = NULL, browse = interactive(),
                      largest_upload = getOption("unsere.largest_upload", 500)) {
  for (package in c("shiny", "bslib")) need_package(package, "for the desk")
  if (!is.null(port) && (!is_whole(port) || port < 1024 || port > 65535)) {
    abort_usage("`port` must be a whole number from 1024 to 65535.", "Omit it for a free one.")
  }
  if (!is_number(largest_upload) || largest_upload <= 0) {
    abort_usage("`largest_upload` must be a number above 0.", "In megabytes, for example 500.")
  }
  with_named_tables(run_desk_page(start, port, browse, largest_upload * 1e6))
}

run_desk_page <- function(start, port, browse, largest) {
  folder <- desk_folder()
  opened <- desk_start(start, folder)
  token <- random_token()
  before <- options(shiny.maxRequestSize = largest, shiny.autoload.r = FALSE, shiny.port = NULL)
  on.exit(options(before))
  desk <- shiny::withReactiveDomain(NULL, new_desk(opened$brief, folder, opened$path))
  announce <- function(url) {
    address <- sprintf("%s/?token=%s", sub("/$", "", url), token)
    desk$port <- as.integer(sub("^.*:([0-9]+)/?$", "\\1", url))
    guard_server(desk$port, token, largest)
    tell(say("The desk is open at %s", address))
    tell("Close its page, or press Ctrl+C here, to end it.")
    if (isTRUE(browse)) utils::browseURL(address)
  }
  suppressPackageStartupMessages(shiny::runApp(
    desk_app(desk, token),
    port = port, host = "127.0.0.1", quiet = TRUE, launch.browser = announce
  ))
  if (is.null(shiny::isolate(desk$brief())$data$file)) unlink(folder, recursive = TRUE)
  invisible()
}

#' What the desk begins with: a brief, and its file where there is one
#' @noRd
desk_start <- function(start, folder) {
  if (is.null(start)) return(list(brief = list()))
  if (is.data.frame(start) || inherits(start, "unsere_study")) {
    study <- check_study(start)
    path <- study_origin(study)$path
    if (is.null(path)) {
      path <- file.path(folder, "data.csv")
      replace_by(path, function(draft) data.table::fwrite(study_columns(study, study_names(study)), draft))
    }
    return(list(brief = desk_brief(path)))
  }
  check_path(start)
  if (grepl("[.]ya?ml$", start, ignore.case = TRUE)) return(list(brief = open_brief(start), path = normalizePath(start)))
  read_study(start)
  list(brief = desk_brief(normalizePath(start)))
}

# The desk's own folder, for drafts and for what the browser brings in: kept a week, so that a killed browser or session
# loses nothing.
desk_folder <- function() {
  base <- tools::R_user_dir("unsere", "cache")
  old <- list.files(base, "^desk-", full.names = TRUE)
  unlink(old[difftime(Sys.time(), file.mtime(old), units = "days") > 7], recursive = TRUE)
  folder <- file.path(base, paste0("desk-", random_token(4L)))
  if (!dir.create(folder, recursive = TRUE, showWarnings = FALSE)) {
    folder <- file.path(tempdir(), basename(folder))
    dir.create(folder)
  }
  Sys.chmod(folder, "700")
  normalizePath(folder)
}

#' The application: nothing is answered to who lacks the token, or asks for another host
#' @noRd
desk_app <- function(desk, token) {
  desk$pages <- 0L
  desk$seen <- FALSE
  with_cookie(shiny::shinyApp(
    ui = function(request) in_desk_language(desk, desk_page()),
    server = function(input, output, session) {
      search <- shiny::isolate(session$clientData$url_search)
      request <- session$request
      if (!is_own_socket(request, token) || !has_token(search, token)) return(session$close())
      session$onFlushed(function() guard_files(desk$port), once = FALSE)
      count_page(desk, session)
      desk_server(desk)(input, output, session)
    },
    onStart = function() shiny::observe(end_when_left(desk))
  ), token)
}

count_page <- function(desk, session) {
  desk$pages <- desk$pages + 1L
  desk$seen <- TRUE
  session$onSessionEnded(function() {
    desk$pages <- desk$pages - 1L
    desk$left_at <- Sys.time()
  })
}

# A reload closes a page and opens it again; so a few seconds are waited for.
end_when_left <- function(desk, patience = 4) {
  shiny::invalidateLater(500, NULL)
  if (desk$seen && desk$pages == 0L && difftime(Sys.time(), desk$left_at, units = "secs") > patience) {
    stop_run(desk)
    shiny::stopApp()
  }
}
