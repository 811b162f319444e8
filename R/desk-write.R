# Write up: title, question, forms; the run in a process of its own, its steps as they come, and the files at the end.

place_write <- function() {
  new_place("write", "Report", "How is it reported?", top = write_top, rest = write_rest, set = write_set, act = write_act)
}

format_labels <- c(html = "Page", docx = "Document", pptx = "Slides", pdf = "PDF")

write_top <- function(desk, view) {
  brief <- desk$brief()
  formats <- unlist(or_default(brief$report$formats, list("html")))
  tags <- htmltools::tags
  tags$div(
    tags$div(
      class = "row wide", control_text("write:title", "Title", brief$title),
      control_text("write:question", "Research question", brief$question)
    ),
    tags$fieldset(
      tags$legend(say("Formats")),
      tags$div(class = "checks", lapply(intersect(names(output_forms()), names(format_labels)), function(form) {
        control_check(paste0("form:", form), format_labels[[form]], form %in% formats)
      })),
      control_select(
        "language", "Language", stats::setNames(languages(), language_names()),
        or_default(brief$settings$language, "en")
      )
    ),
    share_controls(share_settings(brief)),
    tags$div(
      class = "row wide", act_form(
        class = "row", field_text("path", "Brief file", or_default(desk$path, proposed_path(desk, "brief.yml"))),
        act_button("save", "Save")
      ),
      act_form(
        class = "row", field_text(
          "folder", "Results folder",
          or_default(desk$target, proposed_path(desk, "results"))
        ),
        field_text("since", "Compare with the results in", desk$since, "folder of an earlier run"),
        act_button("run", "Create report", class = "main"), act_button("stop", "Stop")
      )
    )
  )
}

#' What the results hand on of the cases, with a word on each choice
#' @noRd
share_controls <- function(share) {
  tags <- htmltools::tags
  tags$fieldset(
    tags$legend(say("Data in the results folder")),
    tags$div(
      class = "row wide",
      control_select(
        "share:names", "Case names", c("as in the data" = "own", "by row number" = "numbers", "not named" = "none"),
        share$names,
        hint = "Row numbers refer to the original file."
      ),
      control_select(
        "share:rows", "Cases in the folder", c("the rows used" = "all", "moments of pairs" = "moments", "no data" = "none"),
        share$rows,
        hint = "With rows every result can be recomputed, with moments r and lines; without data the file is needed."
      ),
      control_text(
        "share:least", "Smallest group reported", share$least, "5",
        hint = "Smaller groups are suppressed, also where they could be found by subtraction."
      )
    )
  )
}

#' Beside the data where they are the user's own, else in the folder that the desk was opened in
#' @noRd
proposed_path <- function(desk, name) {
  file <- shiny::isolate(desk$brief()$data$file)
  own <- !is.null(file) && !startsWith(file, desk$folder) && !startsWith(file, system.file("extdata", package = "unsere"))
  file.path(if (own) dirname(file) else getwd(), name)
}

write_rest <- function(desk, view) {
  tags <- htmltools::tags
  run <- desk$run
  if (is.null(run)) return(tags$div(sections_to_come(desk$brief())))
  if (run_goes_on(desk)) shiny::invalidateLater(400)
  lines <- if (file.exists(run$log)) readLines(run$log, warn = FALSE) else character()
  status <- run$status()
  if (identical(status, 0L) && is.null(desk$served)) {
    # Under a name that nobody guesses, once the folder is there.
    desk$served <- paste0("results-", random_token(8L))
    shiny::addResourcePath(desk$served, run$folder)
    guard_files(desk$port)
  }
  tags$div(
    `aria-live` = "polite",
    tags$pre(class = "log", paste(lines, collapse = "\n")),
    if (identical(status, 0L)) tags$div(
      tags$p(class = "lead", say("Written into %s.", run$folder)),
      tags$ul(class = "files", lapply(list.files(run$folder), function(file) {
        tags$li(written_file(desk$served, run$folder, file))
      }))
    ) else if (length(status)) {
      tags$div(class = "trouble", role = "alert", say("Nothing was written; the lines above say why."))
    }
  )
}

# A file that was written: to open where a browser can, to download where it is none that holds others.
written_file <- function(served, folder, file) {
  tags <- htmltools::tags
  if (dir.exists(file.path(folder, file))) return(file)
  address <- paste0(served, "/", utils::URLencode(file))
  htmltools::tagList(
    if (grepl("[.](html|pdf|json|svg|png)$", file)) {
      tags$a(href = address, target = "_blank", rel = "noopener", file)
    } else {
      file
    },
    " ", tags$a(href = address, download = file, class = "hint", say("download"))
  )
}

#' The sections as they will stand: kinds of questions in their order, and the pairs in theirs
#' @noRd
sections_to_come <- function(brief) {
  tags <- htmltools::tags
  sections <- brief_sections()
  planned <- lapply(sections, function(section) {
    vapply(section_entries(section, brief), function(entry) capital(fill_template(section$about(entry))), "")
  })
  planned <- Filter(length, planned[order_of_sections(brief)])
  if (!length(planned)) return(tags$p(class = "lead", say("The report is still empty: add a pair first.")))
  up <- function(what, value, name) act_button(what, "Up", value, `aria-label` = say("Move up: %s", name))
  tags$div(tags$h2(say("Sections of the report")), tags$ol(class = "sections", lapply(seq_along(planned), function(k) {
    kind <- names(planned)[k]
    entries <- planned[[k]]
    lines <- lapply(seq_along(entries), function(line) {
      tags$li(entries[line], if (line > 1L && kind == "pairs") up("pair_up", as.character(line), entries[line]))
    })
    move <- if (k > 1L) up("kind_up", kind, entries[1])
    if (length(entries) == 1L) return(tags$li(entries, move))
    tags$li(fill_template(sections[[kind]]$title), move, tags$ol(lines))
  })))
}

#' One kind of question before that which stands above it
#' @noRd
kind_up <- function(brief, kind) {
  order <- order_of_sections(brief)
  sections <- order[order %in% names(brief)]
  at <- match(kind, sections)
  if (is.na(at) || at == 1L) return(brief)
  sections[c(at - 1L, at)] <- sections[c(at, at - 1L)]
  brief$report$order <- as.list(sections)
  brief
}

write_set <- function(desk, view, key, value) {
  if (startsWith(key, "form:")) {
    form <- sub("^form:", "", key)
    change_brief(desk, function(brief) {
      formats <- unlist(or_default(brief$report$formats, list("html")))
      formats <- if (isTRUE(as.logical(value))) union(formats, form) else setdiff(formats, form)
      if (!length(formats)) abort_usage("One form at least.", "Choose another first.")
      brief$report$formats <- as.list(formats)
      brief
    })
    return(TRUE)
  }
  if (startsWith(key, "share:")) {
    part <- sub("^share:", "", key)
    change_brief(desk, function(brief) {
      number <- suppressWarnings(as.numeric(value))
      if (part == "least" && !isTRUE(number >= 1 && number == round(number))) {
        abort_usage("The smallest group is a whole number from 1 on.", "For example 5.")
      }
      brief$share[[part]] <- if (part == "least") as.integer(number) else value
      brief
    })
    return(TRUE)
  }
  if (key == "language") {
    change_brief(desk, function(brief) {
      brief$settings$language <- if (!identical(value, "en")) value
      if (!length(brief$settings)) brief$settings <- NULL
      brief
    })
    return(TRUE)
  }
  if (!startsWith(key, "write:")) return(FALSE)
  change_brief(desk, function(brief) {
    brief[[sub("^write:", "", key)]] <- if (nzchar(trimws(value))) trimws(value)
    brief
  })
  TRUE
}

write_act <- function(desk, view, what, value, fields) {
  switch(what,
    save = desk$message(say("Saved as %s.", save_brief(desk, trimws(or_default(fields$path, ""))))),
    run = start_run(desk, trimws(or_default(fields$folder, "")), trimws(or_default(fields$since, ""))),
    stop = stop_run(desk),
    kind_up = change_brief(desk, function(brief) kind_up(brief, value)),
    pair_up = change_brief(desk, function(brief) {
      k <- as.integer(value)
      brief$pairs[c(k - 1L, k)] <- brief$pairs[c(k, k - 1L)]
      brief
    }),
    return(FALSE)
  )
  TRUE
}

#' Run the brief in a process of its own, so that the page stays awake and the run can be stopped
#' @noRd
start_run <- function(desk, folder, since = "") {
  if (!nzchar(folder)) abort_usage("The results need a folder.", "For example results.")
  if (run_goes_on(desk)) abort_usage("A run is already in progress.", "Stop it first.")
  folder <- path.expand(folder)
  check_user_place(folder)
  # What is run is what stands on the page, even where a disk was full when it was last changed.
  write_draft(desk)
  if (nzchar(since) && !dir.exists(path.expand(since))) {
    abort_usage(problem("There is no folder %s.", since), "Name the folder of an earlier run.")
  }
  desk$target <- folder
  desk$since <- if (nzchar(since)) path.expand(since)
  desk$run <- start_brief(desk$draft, desk$since, folder, tempfile("run", desk$folder, ".log"))
  desk$served <- NULL
  desk$steps(shiny::isolate(desk$steps()) + 1L)
}

run_goes_on <- function(desk) !is.null(desk$run) && is.null(desk$run$status())

stop_run <- function(desk) {
  if (!run_goes_on(desk)) return(invisible())
  desk$run$stop()
  desk$message(say("Stopped; nothing was written."))
}
