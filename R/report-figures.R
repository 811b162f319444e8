# The figures of a report, laid out once: as drawings for the page and for printers (SVG), as pictures (PNG) for the rest.

page_width <- 6.5 # inches: the widest that a figure stands on a printed page

#' Every figure laid out once and written: its drawing at once, its picture meanwhile by another process
#'
#' @param pictures What [picture_writer()] gave.
#' @return The sections; each figure's block now holds its `name`, its `drawing` and the path of its `picture`.
#' @noRd
write_figures <- function(sections, folder, pictures) {
  lapply(sections, function(section) {
    k <- 0L
    section$blocks <- lapply(section$blocks, function(block) {
      if (block$kind != "figure") return(block)
      k <<- k + 1L
      block$plot <- laid_out(block$plot)
      block$name <- paste0(section$id, if (k > 1L) paste0("-", k))
      block$picture <- file.path(folder, paste0(block$name, ".png"))
      pictures$add(block)
      block$drawing <- drawing_of(block)
      write_lines(block$drawing, file.path(folder, paste0(block$name, ".svg")))
      block
    })
    section
  })
}

drawing_of <- function(block) {
  held <- svglite::svgstring(width = block$width, height = block$height, fix_text_size = FALSE)
  put_plot(block$plot)
  grDevices::dev.off()
  gsub("\u00a0", " ", as.character(held()))
}

#' Writes pictures in one other process at a time, which takes all that wait when it starts
#'
#' @return A list of functions: `add` a figure's block, `finish` to wait until all are written, `stop`.
#' @noRd
picture_writer <- function() {
  waiting <- list()
  job <- no_work()
  start <- function() {
    blocks <- waiting
    waiting <<- list()
    job <<- in_background(function() {
      for (block in blocks) {
        save_figure(block$plot, block$picture, block$width, block$height, dpi = 300, printed = page_width)
      }
    })
  }
  list(
    add = function(block) {
      waiting <<- c(waiting, list(block))
      if (job$done()) start()
    },
    finish = function() {
      job$wait()
      if (length(waiting)) start()
      job$wait()
    },
    stop = function() job$stop()
  )
}

no_work <- function() list(wait = function() NULL, done = function() TRUE, stop = function() NULL)

#' Work that another process does meanwhile, where the system can split processes; else it is done at once
#'
#' @return A list of functions: `wait` for its end, raising what it raised; whether it is `done`; and `stop`.
#' @noRd
in_background <- function(work) {
  if (.Platform$OS.type != "unix") {
    work()
    return(no_work())
  }
  job <- parallel::mcparallel(tryCatch({
    work()
    "done"
  }, error = function(e) e), silent = TRUE)
  running <- TRUE
  take <- function(wait) {
    if (!running) return(invisible())
    outcome <- parallel::mccollect(job, wait = wait)
    if (is.null(outcome) && !wait) return(invisible())
    running <<- FALSE
    if (inherits(outcome[[1]], "error")) stop(outcome[[1]])
    if (is.null(outcome[[1]])) {
      abort_input("The figures or tables could not be written.", "Is there room on the disk, and memory?")
    }
  }
  stop_now <- function() {
    if (!running) return(invisible())
    tools::pskill(job$pid, tools::SIGKILL)
    suppressWarnings(parallel::mccollect(job))
  }
  done <- function() {
    take(FALSE)
    !running
  }
  list(wait = function() take(TRUE), done = done, stop = stop_now)
}
