# What the desk knows: a brief, its history, and the study that the brief speaks of. Nothing else is kept; every view is
# worked out from it, so that `run_brief()` finds the same figures.

#' The state of a desk, shared by all pages that are open on it
#'
#' @param brief A brief as a list, or empty; `folder` where drafts and brought-in files lie; `path` the file of the
#'   brief, if it came from one.
#' @return An environment: `brief` and `trouble` (reactive values), `past` and `future` (briefs), `study()`.
#' @noRd
new_desk <- function(brief, folder, path = NULL) {
  desk <- new.env(parent = emptyenv())
  desk$folder <- folder
  desk$path <- path
  desk$draft <- file.path(folder, "draft.yml")
  desk$brief <- shiny::reactiveVal(brief)
  desk$trouble <- shiny::reactiveVal(NULL)
  desk$message <- shiny::reactiveVal(NULL)
  desk$past <- desk$future <- list()
  desk$steps <- shiny::reactiveVal(0L)
  desk$known <- new.env(parent = emptyenv())
  write_draft(desk)
  desk$study <- function() study_of_brief(desk, desk$brief())
  desk
}

#' Work in the language of the desk's brief, or of the session where it says none
#' @noRd
in_desk_language <- function(desk, work) with_language(shiny::isolate(desk$brief())$settings$language, work)

#' A file as the data of a new brief
#' @noRd
desk_brief <- function(path) {
  new_desk_brief(file_stem(path), list(file = normalizePath(path)))
}

new_desk_brief <- function(title, data) {
  list(title = title, data = data, report = list(formats = list("html"), folder = "results"))
}

has_data <- function(brief) !is.null(brief$data$file)

# What of a brief makes its study, apart from the questions.
study_part <- function(brief) {
  brief[intersect(names(brief), c("data", "variables", "derive", "scores", "plausible", "leave_out", "design", "share"))]
}

#' The study of a brief; the file is read again only where the brief says something else about it
#' @section Errors: `unsere_error_input` where there are no data yet, or they cannot be used.
#' @noRd
study_of_brief <- function(desk, brief) {
  if (!has_data(brief)) abort_input("There are no data yet.", "Open a file first.")
  key <- yaml_flow(brief$data)
  read <- list(brief = brief, path = desk$draft, lines = brief_text(brief))
  if (!identical(desk$known$key, key)) {
    desk$known$raw <- read_brief_data(read)
    desk$known$key <- key
    desk$known$study_key <- desk$known$images <- NULL
  }
  part_key <- yaml_flow(study_part(brief))
  if (!identical(desk$known$study_key, part_key)) {
    desk$known$study <- described_study(read, desk$known$raw)
    desk$known$study_key <- part_key
  }
  desk$known$study
}

#' The answer to a question of the brief, worked out once for its words and its figure
#'
#' @param what Which; `part` of the brief says what is asked; `work` is evaluated where that, or the data, changed.
#' @noRd
worked_out <- function(desk, what, part, work) {
  brief <- desk$brief()
  key <- yaml_flow(list(study_part(brief), part, brief$settings))
  known <- desk$known$answers[[what]]
  if (!identical(known$key, key)) {
    known <- list(key = key, answer = work)
    desk$known$answers[[what]] <- known
  }
  known$answer
}

#' Change the brief; what a brief may not say is told and changes nothing
#' @param change From a brief to a brief.
#' @noRd
change_brief <- function(desk, change) {
  before <- shiny::isolate(desk$brief())
  after <- tryCatch(change(before), unsere_error = function(e) e)
  if (!inherits(after, "unsere_error")) {
    if (identical(after, before)) return(invisible(TRUE))
    fault <- fault_of_brief(desk, after)
  } else {
    fault <- trouble_of(after)
  }
  if (!is.null(fault)) {
    desk$trouble(fault[c("text", "hint")])
    return(invisible(FALSE))
  }
  desk$past <- c(desk$past, list(before))
  desk$future <- list()
  set_brief(desk, after)
}

#' What a brief may not say: its first mistake; a study that it would spoil is one too
#' @return `NULL`, or a list: `text`, `hint`.
#' @noRd
fault_of_brief <- function(desk, brief) {
  faults <- check_against(brief, if (has_data(brief)) brief_schema() else schema_before_data(), character())
  if (length(faults)) return(list(text = faults[[1]]$text))
  if (!has_data(brief)) return(NULL)
  tryCatch(
    {
      study_of_brief(desk, brief)
      NULL
    },
    unsere_error = trouble_of
  )
}

# A plan comes before the data.
schema_before_data <- function() {
  schema <- brief_schema()
  schema$required <- NULL
  schema
}

set_brief <- function(desk, brief) {
  desk$trouble(NULL)
  desk$brief(brief)
  desk$steps(shiny::isolate(desk$steps()) + 1L)
  write_draft(desk)
  invisible(TRUE)
}

undo_change <- function(desk) {
  if (!length(desk$past)) return(invisible())
  desk$future <- c(list(shiny::isolate(desk$brief())), desk$future)
  last <- length(desk$past)
  before <- desk$past[[last]]
  desk$past <- desk$past[-last]
  set_brief(desk, before)
}

redo_change <- function(desk) {
  if (!length(desk$future)) return(invisible())
  desk$past <- c(desk$past, list(shiny::isolate(desk$brief())))
  after <- desk$future[[1]]
  desk$future <- desk$future[-1]
  set_brief(desk, after)
}

# The draft is what a lost page, or a killed browser, finds again.
write_draft <- function(desk) {
  lines <- brief_text(shiny::isolate(desk$brief()))
  replace_file(if (length(lines)) lines else "# Nothing yet.", desk$draft)
}

#' The latest draft of another desk that has data, or `NULL`
#' @noRd
last_draft <- function(desk) {
  drafts <- file.path(list.files(dirname(desk$folder), "^desk-", full.names = TRUE), "draft.yml")
  drafts <- drafts[file.exists(drafts) & dirname(drafts) != desk$folder]
  drafts <- drafts[order(file.mtime(drafts), decreasing = TRUE)]
  Find(function(draft) any(startsWith(readLines(draft, warn = FALSE), "data:")), drafts)
}

#' Save the brief beside its data, or where the user says
#' @return The path.
#' @noRd
save_brief <- function(desk, path) {
  if (!is_word(path) || !grepl("[.]ya?ml$", path, ignore.case = TRUE)) {
    abort_usage("A brief needs a name that ends in .yml.", "For example brief.yml.")
  }
  path <- path.expand(path)
  check_folder_of(path)
  check_user_place(path)
  brief <- shiny::isolate(desk$brief())
  if (file.exists(path) && !identical(desk$path, path) && !identical(desk$saved, path)) {
    abort_input(problem("%s is there already and is left alone.", path), "Give the brief another name.")
  }
  file <- brief$data$file
  if (is.null(file)) abort_input("There are no data yet.", "Open a file first; the plan is kept.")
  if (!is_database(file)) {
    # What was brought in by the browser lies in the desk's own folder, which goes with it.
    if (startsWith(file, paste0(desk$folder, "/"))) {
      target <- file.path(dirname(path), basename(file))
      if (file.exists(target) && !identical(cli::hash_file_sha256(target), cli::hash_file_sha256(file))) {
        abort_input(problem("%s is there already, with other data.", target), "Save the brief into another folder.")
      }
      copy_file(file, target)
      file <- target
    }
    brief$data$file <- relative_to(file, dirname(path))
  }
  replace_file(brief_text(brief), path)
  desk$path <- desk$saved <- path
  desk$stamp <- file.mtime(path)
  path
}

#' A place that the desk writes to is the user's: no folder of the system, of R, or of a program's settings
#' @section Errors: `unsere_error_input` for such a folder.
#' @noRd
check_user_place <- function(path) {
  folder <- path
  while (!dir.exists(folder) && dirname(folder) != folder) folder <- dirname(folder)
  whole <- c(normalizePath(folder), file.path(normalizePath(dirname(folder)), basename(folder)), path)
  systems <- c(
    "/bin", "/boot", "/dev", "/etc", "/lib", "/lib32", "/lib64", "/libx32", "/proc", "/root/.ssh", "/run", "/sbin", "/sys",
    "/usr", "/var", "/System", "/Library", "/Applications", "/opt", R.home(), .libPaths(),
    Sys.getenv(c("SystemRoot", "ProgramFiles"))
  )
  systems <- systems[nzchar(systems) & !startsWith(normalizePath(tempdir()), paste0(systems, "/"))]
  within <- function(one) any(path.expand(one) == systems | startsWith(path.expand(one), paste0(systems, "/")))
  hidden <- grepl("(^|/)[.](ssh|gnupg|config|local|bashrc|profile|Rprofile|Renviron)(/|$)", path)
  if (hidden || any(vapply(unique(whole), within, NA))) abort_input(
    problem("%s belongs to the system; the desk does not write there.", path), "Choose a folder of your own."
  )
}

#' A brief from a file, its data file named in full
#' @noRd
open_brief <- function(path) {
  read <- read_brief(path)
  brief <- read$brief
  if (!is_database(brief$data$file)) {
    brief$data$file <- normalizePath(beside(dirname(path), brief$data$file), mustWork = FALSE)
  }
  if (!is.null(brief$data$codebook)) brief$data$codebook <- normalizePath(beside(dirname(path), brief$data$codebook))
  brief
}

#' Take up what an editor has made of the brief meanwhile, or say its mistakes with their lines
#' @noRd
take_up_edits <- function(desk) {
  if (is.null(desk$path) || !file.exists(desk$path)) return(invisible())
  stamp <- file.mtime(desk$path)
  if (identical(stamp, desk$stamp)) return(invisible())
  desk$stamp <- stamp
  brief <- tryCatch(open_brief(desk$path), unsere_error = identity)
  if (inherits(brief, "unsere_error")) {
    desk$trouble(trouble_of(brief))
  } else if (!identical(brief, shiny::isolate(desk$brief()))) {
    desk$past <- c(desk$past, list(shiny::isolate(desk$brief())))
    desk$future <- list()
    set_brief(desk, brief)
    desk$message(say("%s was edited; the desk shows it as it is now.", basename(desk$path)))
  }
}

# Not from R's generator, whose seed is the user's.
random_token <- function(bytes = 24L) {
  source <- "/dev/urandom"
  raw <- if (file.exists(source)) {
    connection <- file(source, "rb", raw = TRUE)
    on.exit(close(connection))
    readBin(connection, "raw", bytes)
  } else {
    utils::head(charToRaw(cli::hash_sha256(paste(Sys.time(), Sys.getpid(), tempfile()))), bytes)
  }
  paste(format(raw), collapse = "")
}
