# What can be taken away from a place: its sentence, its figure, the R code and the command line of this very view.

#' The figure as a picture, and a pair as code, to copy or to save
#' @noRd
take_away <- function(brief, pair) {
  file <- gsub("[^A-Za-z0-9_-]+", "-", paste(pair$x, pair$y, sep = "-"))
  figure_button <- function(label, what) {
    htmltools::tags$button(
      type = "button", class = "quiet small", `data-figure` = what, `data-name` = file, translated(label)
    )
  }
  htmltools::tags$div(
    class = "take", figure_button("Copy figure", "copy"), figure_button("Save PNG", "png"), figure_button("Save SVG", "svg"),
    copy_button("R code", paste(code_of_pair(brief, pair), collapse = "\n")),
    copy_button("Command", paste(command_of_pair(brief, pair), collapse = "\n"))
  )
}

# What a brief says of its data beside the file, in R.
told_by_code <- c("data", "variables", "derive", "leave_out")

#' The calls that give this pair: how the file is read, what is said of it, and the question
#' @noRd
code_of_pair <- function(brief, pair) {
  part <- study_part(brief)
  if (length(setdiff(names(part), told_by_code)) || is_database(brief$data$file)) {
    return(c("# Save the brief first: it says what no single call does.", "unsere::run_brief(\"brief.yml\")"))
  }
  read <- brief$data
  read$file <- relative_to(read$file, getwd())
  c(
    "library(unsere)", sprintf("study <- read_study(%s)", code_arguments(unname_first(read))),
    unlist(Map(function(name, entry) {
      sprintf("study <- set_variable(study, %s, %s)", r_name(name), code_arguments(entry))
    }, names(brief$variables), brief$variables), use.names = FALSE),
    if (length(brief$derive)) sprintf("study <- derive(study, %s)", code_arguments(brief$derive)),
    unlist(Map(function(case, reason) {
      sprintf("study <- leave_out(study, %s, %s)", r_value(case), r_value(reason))
    }, names(brief$leave_out), brief$leave_out), use.names = FALSE),
    sprintf("relate(%s)", paste(c("study", pair_arguments(pair, asked_of_relation)), collapse = ", ")),
    sprintf("draw_scatter(%s)", paste(c("study", pair_arguments(pair, c("given", "shape"))), collapse = ", "))
  )
}

asked_of_relation <- c("coefficient", "expect", "interval", "given")

pair_arguments <- function(pair, fields) {
  arguments <- pair[intersect(fields, names(pair))]
  c(r_name(pair$x), r_name(pair$y), if (length(arguments)) code_arguments(arguments))
}

code_arguments <- function(arguments) {
  values <- vapply(arguments, function(value) r_value(unlist(value)), "")
  paste(ifelse(names(values) == "", values, sprintf("%s = %s", vapply(names(values), r_name, ""), values)), collapse = ", ")
}

unname_first <- function(read) {
  names(read)[names(read) == "file"] <- ""
  read[order(names(read) != "")]
}

#' The command of this pair; a brief's where the command line cannot say what the brief does
#' @noRd
command_of_pair <- function(brief, pair) {
  if (length(setdiff(names(study_part(brief)), "data"))) {
    return(c("# Save the brief first: it also describes the variables.", "unsere run brief.yml"))
  }
  read <- brief$data[setdiff(names(brief$data), "file")]
  step <- next_step("relate")
  step$arguments <- lapply(pair[intersect(asked_of_relation, names(pair))], unlist)
  file <- brief$data$file
  door <- door_shell(if (is_database(file)) file else relative_to(file, getwd()), lapply(read, unlist))
  step_in_shell(step, c(pair$x, pair$y), door)
}

# What a place can be saved as, by its ending.
saved_figures <- c(PNG = "png", PDF = "pdf", SVG = "svg", TIFF = "tiff")
saved_tables <- c(DOCX = "docx", XLSX = "xlsx", CSV = "csv", Markdown = "md", HTML = "html", LaTeX = "tex")

#' The form that saves the figure or the table of a place; nothing where it has neither
#' @noRd
saving_form <- function(desk, view, place) {
  if (is.null(place$figure) || place$id != "plan" && !has_data(desk$brief())) return(NULL)
  result <- if (!is.null(place$result)) tryCatch(with_files(place$result(desk, view)), error = function(e) NULL)
  if (!is.null(place$result) && is.null(result)) return(NULL)
  forms <- c(
    stats::setNames(saved_figures, say("Figure (%s)", names(saved_figures))),
    if (!is.null(result)) stats::setNames(saved_tables, say("Table (%s)", names(saved_tables)))
  )
  folded(say("Save figure or table"), act_form(
    class = "row", field_select("form", "Save as", forms), field_text("width", "Width (inches)", 7),
    field_text("height", "Height (inches)", 5), act_button("save_as", "Save")
  ))
}

#' The file that was asked for
#' @return A list: `address` under which the page finds it, and its `name`.
#' @noRd
save_what_stands <- function(desk, view, place, fields) {
  ending <- fields$form
  name <- paste0("unsere-", place$id, ".", ending)
  path <- file.path(saving_folder(desk), random_token(4L), name)
  dir.create(dirname(path))
  if (ending %in% saved_tables) {
    write_tables(place$result(desk, view), path)
  } else {
    save_figure(place$whole(desk, view), path, inches_of(fields$width), inches_of(fields$height), dpi = 300)
  }
  list(address = paste(desk$saving, basename(dirname(path)), name, sep = "/"), name = name)
}

inches_of <- function(text) {
  inches <- as_numbers(text)
  if (length(inches) != 1L || inches < 3 || inches > 20) {
    abort_usage(problem("A figure is 3 to 20 inches wide and high, not \"%s\".", text), "For example 7 and 5.")
  }
  inches[[1]]
}

# Files to be downloaded, under a name that nobody guesses.
saving_folder <- function(desk) {
  folder <- file.path(desk$folder, "saved")
  if (is.null(desk$saving)) {
    dir.create(folder, showWarnings = FALSE)
    desk$saving <- paste0("saved-", random_token(8L))
    shiny::addResourcePath(desk$saving, folder)
    guard_files(desk$port)
  }
  folder
}
