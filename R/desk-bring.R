# Bring in: a file, a pasted block or the demo data; what was understood stands over the first rows and can be corrected
# there.

place_bring <- function() {
  new_place("bring", "Data", "Which data?",
    top = bring_top, rest = bring_rest, side = grid_side, grid = TRUE, set = bring_set, act = bring_act
  )
}

bring_top <- function(desk, view) {
  tags <- htmltools::tags
  data <- desk$brief()$data
  draft <- if (is.null(data$file)) last_draft(desk)
  doors <- bring_doors()
  tags$div(
    if (!is.null(draft)) tags$p(act_button("go_on", "Continue", class = "main"), say(
      " The draft of %s.", format(file.mtime(draft), "%Y-%m-%d %H:%M")
    )),
    # Once there are data, they have the room.
    if (is.null(data$file)) doors else folded(say("Open other data"), doors),
    if (!is.null(data$file)) folded(say("How the file is read"), bring_options(desk, data))
  )
}

bring_doors <- function() {
  tags <- htmltools::tags
  htmltools::tagList(
    tags$div(
      class = "doors",
      tags$div(
        class = "door", tags$h2(say("File")),
        shiny::fileInput(
          "file", say("Choose or drop a file: delimited text, .xlsx, .ods, .parquet, .json"),
          width = "100%", buttonLabel = say("Browse\u2026"), placeholder = say("no file selected")
        )
      ),
      tags$div(
        class = "door", tags$h2(say("Cells from a spreadsheet")), act_form(
          tags$label(`for` = "f-block", say("Copy the cells with their headings and paste them here")),
          tags$textarea(id = "f-block", `data-field` = "block", rows = "3"), act_button("paste", "Use these cells")
        )
      ),
      tags$div(
        class = "door", tags$h2(say("Demo data")), tags$p(say("Made-up data of an evening school.")),
        act_button("demo", "Learners", "learners"), act_button("demo", "Form export", "feedback"),
        act_button("demo", "Yearly series", "town_years")
      )
    ),
    bring_database()
  )
}

#' A table of a database that the user's file of connections names
#' @noRd
bring_database <- function() {
  tags <- htmltools::tags
  known <- tryCatch(names(known_connections()), unsere_error = function(e) character())
  folded(
    say("Database table"),
    if (length(known)) act_form(
      class = "row", field_select("connection", "Connection", known), field_text("table", "Table"),
      act_button("database", "Use this table")
    ) else tags$p(class = "hint", say("Connections stand in %s; there is none yet.", connections_file()))
  )
}

#' How the file is read, each decision open to correction
#' @noRd
bring_options <- function(desk, data) {
  codes <- paste(unlist(data$missing_codes), collapse = "; ")
  coded <- control_text("data:missing_codes", "Missing codes (all columns)", codes, "-9; 99")
  where <- control_text("data:where", "Cases included", data$where, "age >= 18 and centre = 'Mill'")
  if (is_database(data$file)) return(htmltools::tags$div(class = "row wide", coded, where))
  text <- !file_ending(data$file) %in% c("xlsx", "xlsm", "ods", "parquet", "json", "jsonl", "ndjson")
  book <- file_ending(data$file) %in% c("xlsx", "xlsm", "ods")
  htmltools::tagList(htmltools::tags$div(
    class = "row",
    if (book) {
      control_select("data:sheet", "Sheet", workbook_sheets(data$file), data$sheet, none = "the first with a table")
    },
    control_text("data:header_row", "Header row", data$header_row, "found"),
    if (text) control_select("data:decimal", "Decimal mark", c(point = ".", comma = ","), data$decimal, none = "found"),
    if (text) {
      marks <- c(comma = ",", semicolon = ";", tab = "tab", bar = "|", spaces = "spaces")
      control_select("data:delimiter", "Delimiter", marks, data$delimiter, none = "found")
    },
    control_select(
      "data:turn", "Variables are", c("in rows, one column per year" = "rows", "in the header row" = "never"), data$turn,
      none = "found"
    ),
    coded
  ), htmltools::tags$div(class = "row wide", where))
}

bring_rest <- function(desk, view) {
  tags <- htmltools::tags
  if (is.null(desk$brief()$data$file)) {
    return(tags$p(class = "lead", say("Nothing leaves this computer, and the file is not changed.")))
  }
  or_trouble({
    study <- desk$study()
    tags$div(
      tags$h2(sprintf(
        "%s: %s, %s", basename(desk$brief()$data$file), count_of(study_size(study), "case"),
        count_of(length(study_names(study)), "variable")
      )),
      bring_decisions(study)
    )
  })
}

#' What was decided, beside the column it concerns, with a one-click answer where something looks odd
#' @noRd
bring_decisions <- function(study) {
  tags <- htmltools::tags
  decisions <- study_origin(study)$decisions
  odd <- suspicious_columns(study_at_hand(study))
  tags$ul(
    class = "decisions", lapply(gather_decisions(decisions[!names(or_default(
      decisions,
      ""
    )) %in% "suspicious"]), function(text) {
      tags$li(paste0(capital(text), "."))
    }),
    lapply(names(odd), function(name) {
      codes <- format_code(odd[[name]]$code)
      tags$li(
        class = "odd", say("%s contains %s, far outside its other values. ", name, paste(codes, collapse = ", ")),
        act_button("no_answer", "Treat as missing", paste(c(name, codes), collapse = "\r"))
      )
    })
  )
}

bring_set <- function(desk, view, key, value) {
  if (!startsWith(key, "data:")) return(FALSE)
  field <- sub("^data:", "", key)
  change_brief(desk, function(brief) {
    given <- trimws(as.character(value))
    number <- suppressWarnings(as.numeric(given))
    brief$data[[field]] <- if (!nzchar(given)) NULL else switch(field,
      header_row = if (is.na(number)) abort_usage("The row of the headings is a number.", "Counted from 1.") else number,
      missing_codes = as_codes(given),
      given
    )
    brief
  })
  TRUE
}

bring_act <- function(desk, view, what, value, fields) {
  switch(what,
    paste = bring_block(desk, fields$block),
    database = bring_table(desk, or_default(fields$connection, ""), trimws(or_default(fields$table, ""))),
    go_on = {
      draft <- last_draft(desk)
      if (is.null(draft)) abort_input("The draft no longer exists.", "Open a file.")
      change_brief(desk, function(brief) open_brief(draft))
    },
    demo = bring_file(desk, demo_file(paste0(one_of(value, c("learners", "feedback", "town_years"), "demo"), ".csv"))),
    no_answer = {
      parts <- strsplit(value, "\r", fixed = TRUE)[[1]]
      add_missing_codes(desk, parts[1], parts[-1])
    },
    return(grid_act(desk, view, what, value, fields))
  )
  TRUE
}

# Read first: a file that cannot be read leaves the brief as it was.
bring_file <- function(desk, path) {
  study <- read_study(path)
  begin_brief(desk, desk_brief(path), basename(path), study)
}

# A plan that was made before the data stays.
begin_brief <- function(desk, begun, name, study) {
  change_brief(desk, function(brief) c(begun, brief[names(brief) == "plan"]))
  desk$message(say("%s: %s read.", name, count_of(study_size(study), "case")))
}

bring_table <- function(desk, connection, table) {
  if (!nzchar(table)) abort_usage("Which table?", "Give its name as it stands in the database.")
  source <- paste0("db:", connection)
  study <- read_study(source, table = table)
  begin_brief(desk, new_desk_brief(table, list(file = source, table = table)), table, study)
}

bring_block <- function(desk, block) {
  if (!is_word(block) || !nzchar(trimws(block))) {
    abort_input("The block is empty.", "Copy the cells in the spreadsheet and paste them here.")
  }
  path <- file.path(brought_folder(desk), sprintf("block-%s.csv", substr(cli::hash_md5(block), 1, 6)))
  replace_file(block, path)
  bring_file(desk, path)
}

#' What the browser sent, under its own name, in a folder of its own: no file of the desk's is named so, and none lies beside
#' it
#' @noRd
bring_upload <- function(desk, upload) {
  name <- gsub("[^[:alnum:]._ -]", "_", basename(upload$name[1]))
  path <- file.path(brought_folder(desk), if (startsWith(name, ".")) paste0("file", name) else name)
  if (!file.rename(upload$datapath[1], path)) copy_file(upload$datapath[1], path)
  bring_file(desk, path)
}

brought_folder <- function(desk) {
  folder <- file.path(desk$folder, "brought", random_token(4L))
  dir.create(folder, recursive = TRUE, showWarnings = FALSE)
  folder
}
