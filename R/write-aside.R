# The run of a brief in a process of its own, so that who asked for it stays awake and can stop it.

#' Begin the run of a brief; where no other process can be had, it is done here and now
#'
#' @param path,since,out As in [run_brief()].
#' @param log The file that its messages go to.
#' @return A list: `folder`, `log`, and two functions: `status()`, `NULL` while it runs, then 0 where it went well; `stop()`.
#' @noRd
start_brief <- function(path, since, out, log) {
  input <- list(path = path, since = since, out = out, allowed = isTRUE(getOption("unsere.allow_sql")))
  process <- if (has_package("callr") && can_load_itself()) tryCatch(
    callr::r_bg(
      function(input) quit("no", asNamespace("unsere")$run_brief_telling(input)), list(input),
      libpath = .libPaths(), stdout = log, stderr = log, supervise = TRUE, user_profile = FALSE, system_profile = FALSE,
      env = c(R_ENABLE_JIT = "0", LC_CTYPE = Sys.getlocale("LC_CTYPE"))
    ),
    error = function(e) NULL
  )
  run <- list(folder = out, log = log)
  if (is.null(process)) {
    status <- into_log(log, run_brief_telling(input))
    return(c(run, status = function() status, stop = function() NULL))
  }
  ended <- function() if (!process$is_alive()) or_default(process$get_exit_status(), 1L)
  c(run, status = ended, stop = function() tools::pskill(process$get_pid()))
}

#' @return 0, or 3 where it could not be done; why not is then told.
#' @noRd
run_brief_telling <- function(input) {
  tryCatch(
    {
      with_named_tables(run_brief(input$path, since = input$since, out = input$out), allowed = input$allowed)
      0L
    },
    error = function(e) {
      message(if (inherits(e, "unsere_error")) error_text(e) else conditionMessage(e))
      if (inherits(e, "unsere_error") && !is.null(e$hint)) message("  ", error_hint(e))
      3L
    }
  )
}

into_log <- function(log, code) {
  connection <- file(log, "w", encoding = "UTF-8")
  sink(connection)
  sink(connection, type = "message")
  on.exit({
    sink(type = "message")
    sink()
    close(connection)
  })
  code
}
