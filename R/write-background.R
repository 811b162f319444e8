# Work that another process does meanwhile; where none can be had, it is done in turn.

#' A process that works in the background, one piece after another
#'
#' @return A list of functions: `ask(work, input)` has the package's function `work` called with `input`, `wait()` returns
#'   when all that was asked is done, `stop()` ends the process.
#' @noRd
open_background <- function() {
  session <- if (isTRUE(getOption("unsere.background", TRUE))) start_session()
  if (is.null(session)) {
    return(list(ask = function(work, input) get(work, topenv())(input), wait = function() NULL, stop = function() NULL))
  }
  state <- new.env()
  state$stop_requested <- FALSE
  wait <- function() {
    if (!state$stop_requested) return(invisible())
    state$stop_requested <- FALSE
    answer <- answer_of(session)
    if (!identical(answer, "done")) abort_background(answer)
  }
  list(
    ask = function(work, input) {
      wait()
      # Where the process did not come up, as on a machine that allows none, the work is done here.
      if (!begin_session(session)) return(get(work, topenv())(input))
      session$call(run_in_background, list(work = work, input = input))
      state$stop_requested <- TRUE
    },
    wait = wait, stop = function() session$kill()
  )
}

start_session <- function() {
  if (!has_package("callr") || !can_load_itself()) return(NULL)
  # What runs there once gains nothing from being compiled.
  options <- callr::r_session_options(
    libpath = .libPaths(), env = c(R_ENABLE_JIT = "0"), stdout = NULL, stderr = NULL,
    supervise = TRUE # it ends with this process, however that ends
  )
  tryCatch(callr::r_session$new(options, wait = FALSE), error = function(e) NULL)
}

#' What the work ended with: "done", or what went wrong
#' @noRd
answer_of <- function(session) {
  repeat {
    session$poll_process(-1)
    message <- tryCatch(session$read(), error = function(e) list(code = 500))
    if (isTRUE(message$code == 200)) return(or_default(message$result, conditionMessage(message$error)))
    # Lower codes are news on the way, higher ones the end of the process.
    if (isTRUE(message$code >= 500) || !session$is_alive()) return("stopped")
  }
}

begin_session <- function(session) {
  while (session$get_state() == "starting") {
    if (session$poll_process(20000) == "timeout" || !session$is_alive()) return(FALSE)
    tryCatch(session$read(), error = function(e) NULL)
  }
  session$is_alive()
}

# Runs there, without the environment that it was written in.
run_in_background <- function(work, input) {
  tryCatch(
    {
      get(work, asNamespace("unsere"))(input)
      "done"
    },
    error = function(e) conditionMessage(e)
  )
}
environment(run_in_background) <- baseenv()

abort_background <- function(answer) {
  if (any(grepl("No space left", answer))) stop("No space left")
  abort_input("The figures or tables could not be written.", "Is there enough disk space and memory?")
}

can_load_itself <- function() {
  home <- getNamespaceInfo(topenv(), "path")
  dirname(home) %in% normalizePath(.libPaths(), mustWork = FALSE) || dirname(home) %in% .libPaths()
}

#' From now on this process, asked to end, puts away what it began
#' @noRd
heed_signals <- function() core_heed_signals()
