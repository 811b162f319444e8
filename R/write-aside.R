# Work that another process does meanwhile; where none can be had, it is done in turn.

#' @param work A function of this package, by its name; `input` its argument.
#' @return A list of functions: `wait()` until it is done (an error in it is raised here) and `stop()`.
#' @noRd
do_aside <- function(work, input) {
  in_turn <- function() list(wait = function() NULL, stop = function() NULL)
  if (!requireNamespace("callr", quietly = TRUE) || !can_load_itself()) {
    get(work, topenv())(input)
    return(in_turn())
  }
  run <- function(work, input) {
    tryCatch(
      {
        get(work, asNamespace("unsere"))(input)
        NULL
      },
      error = function(e) conditionMessage(e)
    )
  }
  environment(run) <- baseenv()
  job <- callr::r_bg(run, list(work = work, input = input), libpath = .libPaths(), supervise = FALSE, stderr = NULL)
  list(
    wait = function() {
      job$wait()
      told <- tryCatch(job$get_result(), error = function(e) "stopped")
      if (is.null(told)) return(invisible())
      if (grepl("No space left", told)) stop("No space left")
      abort_input("The figures or tables could not be written.", "Is there room on the disk, and memory?")
    },
    stop = function() job$kill()
  )
}

#' Whether a new process would find this package as it is here
#' @noRd
can_load_itself <- function() {
  home <- getNamespaceInfo(topenv(), "path")
  dirname(home) %in% normalizePath(.libPaths(), mustWork = FALSE) || dirname(home) %in% .libPaths()
}
