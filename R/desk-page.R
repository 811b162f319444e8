# The desk's page: the way through it, one place at a time, the brief beside it, and what the controls do.

desk_places <- function() {
  places <- list(
    place_bring(), place_variables(), place_look(), place_relate(), place_matrix(), place_predictors(), place_doubt(),
    place_items(), place_plan(), place_write()
  )
  stats::setNames(places, vapply(places, `[[`, "", "id"))
}

desk_file <- function(name) {
  paste(readLines(system.file("desk", name, package = "unsere"), encoding = "UTF-8"), collapse = "\n")
}

desk_page <- function() {
  tags <- htmltools::tags
  report <- paste(readLines(system.file("report", "page.css", package = "unsere"), encoding = "UTF-8"), collapse = "\n")
  bslib::page_fluid(
    lang = language_in_use(), title = "Unsere desk", theme = bslib::bs_theme(version = 5),
    tags$head(
      tags$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
      tags$meta(name = "referrer", content = "no-referrer"), tags$link(rel = "icon", href = "data:,"),
      tags$style(htmltools::HTML(paste(report, desk_file("desk.css"), sep = "\n"))),
      tags$script(htmltools::HTML(desk_file("desk.js")))
    ),
    tags$a(class = "skip", href = "#place", say("Skip to content")),
    tags$header(
      class = "bar", tags$h1(class = "brand", tags$strong("Unsere"), " desk"), shiny::uiOutput("about", class = "about"),
      tags$div(
        class = "tools", shiny::uiOutput("tools", inline = TRUE), shiny::uiOutput("report_button", inline = TRUE)
      )
    ),
    tags$nav(class = "way", `aria-label` = say("Steps"), shiny::uiOutput("way")),
    tags$div(class = "status", role = "status", `aria-live` = "polite", shiny::uiOutput("status")),
    tags$div(
      class = "sheet",
      tags$aside(id = "variables", `aria-label` = say("Variables"), shiny::uiOutput("list")),
      tags$main(
        id = "place", tabindex = "-1", shiny::uiOutput("top"),
        tags$div(id = "drawing", class = "drawing", shiny::imageOutput("figure",
          height = "390px", click = "figure_click",
          brush = shiny::brushOpts("figure_brush", fill = "#0F6B75", resetOnNew = TRUE)
        ), shiny::uiOutput("cells")),
        shiny::uiOutput("rest"), shiny::uiOutput("saving"), shiny::uiOutput("grid_frame"), shiny::uiOutput("onward"),
        shiny::uiOutput("figure_state")
      ),
      tags$aside(id = "side", `aria-label` = say("Cautions and details"), shiny::uiOutput("beside"))
    ),
    tags$aside(
      id = "brief", class = "hidden", `aria-label` = say("The brief"), tags$h2(say("The brief")),
      shiny::uiOutput("brief_text"), act_button("show_brief", "Close")
    )
  )
}

#' What happens on a page: the view of one, over the desk that all share
#' @noRd
desk_server <- function(desk) {
  places <- desk_places()
  function(input, output, session) {
    view <- shiny::reactiveValues(place = "bring")
    begun <- shiny::isolate(desk$brief())
    if (has_data(begun)) view$place <- if (length(begun$pairs)) "relate" else "variables"
    here <- function() places[[view$place]]
    show_beside(desk, view, here, output)
    show_place(desk, view, here, output)
    show_figure(desk, view, here, output, session)
    show_grid(desk, view, here, input, output)
    show_frame(desk, view, places, output)
    take_input(desk, view, places, here, input, session)
  }
}

show_place <- function(desk, view, here, output) {
  output$onward <- shiny::renderUI(in_desk_language(desk, next_place(here())))
  output$top <- shiny::renderUI(in_desk_language(desk, or_trouble(here()$top(desk, view))))
  output$saving <- shiny::renderUI(in_desk_language(desk, saving_form(desk, view, here())))
  output$rest <- shiny::renderUI({
    desk$steps()
    in_desk_language(desk, or_trouble(here()$rest(desk, view)))
  })
}

# The list at the left and the details at the right, where a place has them.
show_beside <- function(desk, view, here, output) {
  part <- function(name) {
    shiny::renderUI({
      text <- here()[[name]]
      if (is.null(text) || !has_data(desk$brief())) return(NULL)
      in_desk_language(desk, or_trouble(text(desk, view)))
    })
  }
  output$list <- part("list")
  output$beside <- part("side")
  # Empty, they take no room, and yet are to be filled.
  for (name in c("list", "beside")) shiny::outputOptions(output, name, suspendWhenHidden = FALSE)
}

next_place <- function(here) {
  places <- desk_places()
  at <- match(here$id, names(places))
  if (at == length(places)) return(NULL)
  after <- places[[at + 1L]]
  htmltools::tags$p(class = "onward", act_button("go", say("Next: %s", translated(after$title)), after$id))
}

show_frame <- function(desk, view, places, output) {
  tags <- htmltools::tags
  language <- shiny::reactiveVal()
  shiny::observe(language(desk$brief()$settings$language))
  render <- function(work) {
    shiny::renderUI({
      language()
      in_desk_language(desk, work())
    })
  }
  output$tools <- render(function() {
    tags$span(
      # The page's own texts follow the language.
      lang = language_in_use(), id = "tools-in", `data-copied` = say("Copied"), `data-saved` = say("Saved"),
      `data-not` = say("Not possible here"), act_button("undo", "Undo", `accesskey` = "z"), act_button("redo", "Redo"),
      act_button("show_brief", "Brief", `aria-expanded` = "false", `aria-controls` = "brief", id = "show-brief")
    )
  })
  output$report_button <- render(function() {
    parts <- count_of_parts(desk$brief())
    act_button("go", if (parts) say("Report \u00b7 %s", count_of(parts, "part")) else "Report", "write", class = "main")
  })
  output$way <- render(function() {
    tags$ol(lapply(places[setdiff(names(places), "write")], function(place) {
      on <- place$id == view$place
      tags$li(act_button("go", place$title, place$id, class = if (on) "on", `aria-current` = if (on) "step"))
    }))
  })
  output$about <- render(function() {
    brief <- desk$brief()
    if (has_data(brief)) tags$span(paste(data_told(desk, brief), collapse = " \u00b7 "))
  })
  output$brief_text <- shiny::renderUI({
    brief <- desk$brief()
    # As it would be written here.
    if (has_data(brief) && !is_database(brief$data$file)) brief$data$file <- relative_to(brief$data$file, getwd())
    lines <- brief_text(brief)
    tags$pre(if (length(lines)) paste(lines, collapse = "\n") else say("Nothing yet."))
  })
  shiny::outputOptions(output, "brief_text", suspendWhenHidden = FALSE)
  output$status <- shiny::renderUI({
    trouble <- desk$trouble()
    message <- desk$message()
    if (!is.null(trouble)) trouble_lines(trouble) else if (!is.null(message)) tags$p(class = "told", message)
  })
}

#' The file, how large it is, and which cases count, as far as that can be told
#' @noRd
data_told <- function(desk, brief) {
  study <- tryCatch(desk$study(), unsere_error = function(e) NULL)
  aside <- length(brief$leave_out)
  c(
    basename(brief$data$file),
    if (!is.null(study)) {
      sprintf("%s, %s", count_of(study_size(study), "case"), count_of(length(study_names(study)), "variable"))
    },
    if (aside) say("%d excluded", aside), if (!is.null(brief$data$where)) say("only: %s", brief$data$where)
  )
}

# How many parts a report of this brief has.
count_of_parts <- function(brief) {
  single <- c("matrix", "rank", "items", "plan")
  several <- c("pairs", "levels", "pool", "choices")
  sum(lengths(brief[several])) + length(brief$spurious$pairs) + sum(single %in% names(brief))
}

take_input <- function(desk, view, places, here, input, session) {
  guarded <- function(code) {
    desk$trouble(NULL)
    desk$message(NULL)
    in_desk_language(desk, tryCatch(with_files(code), error = function(e) desk$trouble(trouble_of(e))))
  }
  shiny::observeEvent(input$set, guarded(set_value(desk, view, places, input$set$key, input$set$value)))
  shiny::observeEvent(input$act, guarded({
    fields <- as.list(input$act$fields)
    if (input$act$what == "save_as") {
      session$sendCustomMessage("take", save_what_stands(desk, view, here(), fields))
    } else {
      do_act(desk, view, places, input$act$what, input$act$value, fields)
    }
  }))
  shiny::observeEvent(input$file, guarded({
    bring_upload(desk, input$file)
    view$place <- "bring"
  }))
  shiny::observeEvent(input$figure_brush, {
    if (view$place == "relate") view$brush <- input$figure_brush[c("xmin", "xmax", "ymin", "ymax")]
  })
  shiny::observeEvent(input$figure_click, {
    click <- input$figure_click
    guarded(switch(view$place,
      look = look_click(desk, view, click),
      relate = view$brush <- around_click(click)
    ))
  })
  shiny::observe({
    shiny::invalidateLater(2000, session)
    tryCatch(take_up_edits(desk), error = function(e) desk$trouble(trouble_of(e)))
  })
}

set_value <- function(desk, view, places, key, value) {
  if (startsWith(key, "view:")) {
    field <- sub("^view:", "", key)
    if (field %in% c("pair", "series")) value <- suppressWarnings(as.integer(value))
    view[[field]] <- if (!identical(value, "") && !anyNA(value)) value
    if (field == "pair") view$draft <- view$x <- view$y <- view$brush <- NULL
    if (field %in% c("variable", "drawn")) view$clicked <- NULL
    if (field == "by" && is.null(view$by)) view$panels <- NULL
    if (field %in% c("by", "panels", "flat_line")) view$options_open <- TRUE
    return(invisible())
  }
  if (startsWith(key, "pair:") && !key %in% c("pair:x", "pair:y")) view$options_open <- TRUE
  for (place in places) if (!is.null(place$set) && place$set(desk, view, key, value)) return(invisible())
}

do_act <- function(desk, view, places, what, value, fields) {
  if (what == "undo") return(undo_change(desk))
  if (what == "redo") return(redo_change(desk))
  if (what == "go") {
    if (isTRUE(value %in% names(places))) {
      view$place <- value
      view$brush <- view$clicked <- view$options_open <- NULL
    }
    return(invisible())
  }
  if (what == "part") {
    parts <- strsplit(value, "\r", fixed = TRUE)[[1]]
    return(places[[view$place]]$part(desk, view, parts[1], parts[2]))
  }
  for (place in places) if (!is.null(place$act) && place$act(desk, view, what, value, fields)) return(invisible())
}
