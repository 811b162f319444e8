progress_teller <- function(what) {
  started <- Sys.time()
  bar <- NULL
  frame <- parent.frame()
  function(share) {
    if (is.null(bar)) {
      if (as.numeric(difftime(Sys.time(), started, units = "secs")) < 2) return(invisible())
      bar <<- cli::cli_progress_bar(what, total = 100, .envir = frame, .auto_close = TRUE)
    }
    # A bar that is full is gone, and what comes after it may have parts of its own to tell.
    cli::cli_progress_update(set = min(99, round(100 * share)), id = bar, .envir = frame)
  }
}
