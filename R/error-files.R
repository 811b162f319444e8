# Files that cannot be opened, read or written any more.

# What R says where a file cannot be opened, read or written any more.
unreadable <- paste0(
  "cannot (be opened|be read to|open|fork)|processx_exec|error (writing|reading)|Input/output error|Permission denied|",
  "could not be written|unable to open|write error"
)

#' What a machine will not open, read or write any more is said as it is: it is no fault of ours
#' @noRd
with_files <- function(code) {
  unopened <- NULL
  withCallingHandlers(code,
    warning = function(w) if (grepl("^cannot open ", conditionMessage(w))) unopened <<- conditionMessage(w),
    error = function(e) {
      message <- conditionMessage(e)
      if (inherits(e, "unsere_error") || !grepl(unreadable, message)) return()
      # A full disk has words of its own.
      if (grepl("No space left", message, fixed = TRUE)) return()
      abort_input(
        problem("A file could not be read or written: %s", first_line(or_default(unopened, message))),
        "Nothing was lost; check the disk and its permissions, and run this again."
      )
    }
  )
}
