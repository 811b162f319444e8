# Files and folders that are written whole or not at all: beside their place first, then put there.

replace_file <- function(text, path) replace_by(path, function(draft) write_lines(text, draft))

#' Whether two paths, which need not exist, lead to one file
#' @noRd
is_same_file <- function(a, b) core_same_file(enc2utf8(path.expand(a)), enc2utf8(path.expand(b)))

#' A file written by `write(draft)` beside its place, then put there
#' @noRd
replace_by <- function(path, write) {
  if (!is_regular(path)) return(write_through(path, write))
  draft <- tempfile("unsere-", dirname(path), paste0(".", file_ending(path)))
  on.exit(unlink(draft))
  with_files(with_room(path, {
    write(draft)
    settle_file(draft)
  }))
  if (!file.rename(draft, path)) {
    abort_input(problem("%s cannot be written.", path), "Ask for permission to write there.")
  }
  invisible(path)
}

# A copy is there whole, or not at all.
copy_file <- function(from, to) {
  replace_by(to, function(draft) {
    if (!file.copy(from, draft) || file.size(draft) != file.size(from)) stop("write error: the copy is not whole")
  })
}

#' Into a pipe or a device: written to, never replaced
#' @noRd
write_through <- function(path, write) {
  draft <- tempfile("unsere-", fileext = paste0(".", file_ending(path)))
  on.exit(unlink(draft))
  write(draft)
  target <- file(path, "ab", raw = TRUE)
  on.exit(close(target), add = TRUE)
  writeBin(readBin(draft, "raw", file.size(draft)), target)
  invisible(path)
}

#' What cannot be written for want of room is no fault of ours, and is said as it is
#' @noRd
with_room <- function(path, code) {
  lost <- function(w) if (grepl(no_room_words, conditionMessage(w))) stop(conditionMessage(w))
  tryCatch(withCallingHandlers(code, warning = lost), error = function(e) {
    if (has_room(dirname(path)) && !grepl(no_room_words, conditionMessage(e))) stop(e)
    abort_input(
      problem("There is no room left to write %s; nothing was written.", path),
      "Make room on that disk, or choose another folder."
    )
  })
}

no_room_words <- "[Ww]rite error|No space left|problem writing|Disk quota"

has_room <- function(folder, bytes = 65536L) {
  trial <- tempfile("unsere-", folder)
  on.exit(unlink(trial))
  tryCatch(suppressWarnings({
    writeBin(raw(bytes), trial)
    file.size(trial) == bytes
  }), error = function(e) FALSE)
}

#' A folder written by `write(draft)` beside its place, then put there with what others had laid in it
#'
#' @param keep Finds, in the folder that is there, the files that must not be lost.
#' @return The names that the kept files now have.
#' @noRd
write_folder <- function(target, write, keep = function(folder) character()) {
  sweep_drafts(target)
  draft <- draft_folder(target)
  if (!dir.create(draft, showWarnings = FALSE)) {
    abort_input(problem("You have no permission to write to %s.", dirname(target)), "Choose another folder.")
  }
  on.exit(unlink(draft, recursive = TRUE))
  with_room(target, {
    write(draft)
    for (file in list.files(draft, recursive = TRUE, full.names = TRUE)) settle_file(file)
  })
  had <- dir.exists(target)
  saved <- if (had) with_room(target, keep_files(target, keep(target), draft))
  aside <- paste0(draft, "-old")
  if (had && !file.rename(target, aside)) {
    abort_input(problem("%s cannot be replaced.", target), "Close the program that has it open.")
  }
  if (!file.rename(draft, target)) {
    if (had) file.rename(aside, target)
    abort_input(problem("%s cannot be written.", target), "Choose another folder.")
  }
  unlink(aside, recursive = TRUE)
  saved
}

draft_folder <- function(target, process = Sys.getpid()) {
  file.path(dirname(target), sprintf(".%s.unsere-%s", basename(target), process))
}

# What a run that was killed left behind; a run that still goes on has a process.
sweep_drafts <- function(target) {
  if (.Platform$OS.type != "unix") return(invisible())
  start <- basename(draft_folder(target, ""))
  there <- list.files(dirname(target), all.files = TRUE)
  process <- substring(there[startsWith(there, start)], nchar(start) + 1L)
  process <- as.integer(process[grepl("^[0-9]+$", process)]) # earlier results put aside end in -old and stay
  gone <- process[!vapply(process, tools::pskill, NA, signal = 0L)]
  unlink(draft_folder(target, gone), recursive = TRUE)
}

#' Copied into the new folder; where it has a file of that name, under a name beside it
#' @noRd
keep_files <- function(from, names, to) {
  vapply(names, function(name) {
    free <- name
    k <- 1L
    while (file.exists(file.path(to, free))) {
      k <- k + 1L
      free <- sub("([.][^.]*)?$", sprintf("-%d\\1", k), name)
    }
    dir.create(dirname(file.path(to, free)), recursive = TRUE, showWarnings = FALSE)
    if (!file.copy(file.path(from, name), file.path(to, free), copy.date = TRUE)) stop("No space left")
    free
  }, "", USE.NAMES = FALSE)
}

#' Output that a full disk swallows is no output
#' @section Errors: `unsere_error_input` where standard output took less than it was given.
#' @noRd
check_written <- function() {
  flush(stdout())
  if (core_all_written()) return(invisible())
  abort_input("The output could not be written completely.", "Is there enough space on that disk?")
}

#' How many bytes may still be written where a folder lies
#' @noRd
free_space <- function(folder) core_free_space(enc2utf8(path.expand(folder)))
