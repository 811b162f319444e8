# `unsere desk`: the door of the shell to the page.

desk_command <- function() {
  list(
    name = "desk", about = "open the desk, a local page for the whole analysis",
    usage = "desk [FILE or BRIEF] [--port N] [--demo]",
    words = character(), open = TRUE, arguments = list(
      port = argument("whole", "the port on 127.0.0.1", otherwise = "a free one", value = "N", from = 1024, to = 65535),
      demo = argument("flag", "open the demo data"),
      largest_upload = argument(
        "number", "the largest file that can be uploaded, in megabytes",
        value = "MB", otherwise = "500", from = 0, inside = TRUE
      ),
      no_browser = argument("flag", "print the address without opening a browser"),
      allow_sql = allow_sql_argument()$allow_sql
    ),
    run = run_desk, example = "desk --demo"
  )
}

run_desk <- function(words, options, door) {
  if (length(words) > 1L) abort_usage("The desk opens one file.", "Use: unsere desk [FILE or BRIEF]")
  start <- if (isTRUE(options$demo)) demo_file("learners.csv") else if (length(words)) words[1]
  largest <- or_default(options$largest_upload, getOption("unsere.largest_upload", 500))
  open_desk(start, port = options$port, browse = !isTRUE(options$no_browser), largest_upload = largest)
}
