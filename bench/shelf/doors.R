# The same pairs through the command, a brief and the desk; the next steps that cautions give; the pictures on one sheet.

#' Calls that cautions print after "Try:", for functions
steps_in_r <- function(relation) {
  told <- unsere:::words_of_cautions(relation$cautions, relation$sample$variables, unsere:::door_r())
  steps <- sub("^.*Try: ", "", grep("Try: ", told$advice, value = TRUE, fixed = TRUE))
  unique(steps[grepl("^[a-z_]+\\(", steps)])
}

#' Calls of public functions that a text prints, whole ones alone
printed_calls <- function(text) {
  text <- gsub("[[:space:]]+", " ", paste(unclass(text), collapse = " "))
  found <- regmatches(text, gregexpr("\\b[a-z_]+(?<brackets>\\((?:[^()]|(?&brackets))*\\))", text, perl = TRUE))[[1]]
  found <- unique(found[sub("[(].*$", "", found) %in% getNamespaceExports("unsere") & !grepl("[.]{3}|FILE", found)])
  found[vapply(found, function(code) !inherits(try(str2lang(code), silent = TRUE), "try-error"), NA)]
}

#' What a text tells its reader to call next does run on the study that it is about
run_printed <- function(set, study, text) {
  for (code in printed_calls(text)) {
    if (!grepl("study", code, fixed = TRUE)) next
    before <- length(refusals)
    tried(set, paste("the call", code), eval(parse(text = code), list(study = study), asNamespace("unsere")))
    expect(set, paste("refused though printed:", code), length(refusals) == before)
  }
}

same_by_command <- function(set, relation, pair) {
  codes <- if (length(set$missing_codes)) c("--missing-codes", paste(set$missing_codes, collapse = ","))
  asked <- c("relate", set$file, pair, codes, "--format", "json", "--quiet")
  written <- tried(set, "relate by the command", utils::capture.output(status <- run_command(asked)))
  if (is.null(written)) return()
  expect(set, sprintf("the command ends in %d: %s", status, toString(pair)), status == 0L)
  if (status == 0L) same_pair(set, "the command", jsonlite::fromJSON(written), relation, pair)
  # What the shell is told to do next runs there.
  door <- unsere:::door_shell(set$file, if (length(codes)) list(missing_codes = set$missing_codes) else list())
  told <- unsere:::words_of_cautions(relation$cautions, relation$sample$variables, door)
  steps <- sub("^.*Try: unsere ", "", grep("Try: unsere ", told$advice, value = TRUE, fixed = TRUE))
  for (step in unique(steps)) {
    words <- scan(text = step, what = "", quote = "'", quiet = TRUE)
    words[words == "figure.png"] <- tempfile(fileext = ".png")
    status <- NULL
    tried(set, paste("the next step unsere", step), {
      utils::capture.output(status <- run_command(c(words, "--quiet")), type = "output")
    })
    expect(set, sprintf("unsere %s ends in %s", step, status), identical(as.integer(status), 0L))
  }
}

# A starter brief with the pairs of the set: the same figures in its results and on the desk, and it verifies; last month's
# brief takes next month's file.
same_by_brief <- function(set, study, relations, folder) {
  path <- file.path(folder, "brief.yml")
  tried(set, "brief", write_brief(study, path))
  if (!file.exists(path)) return()
  brief <- unsere:::read_brief(path)$brief
  known <- which(lengths(relations) > 0L)
  if (length(known)) brief$pairs <- lapply(set$pairs[known], function(pair) list(x = pair[1], y = pair[2]))
  writeLines(unsere:::brief_text(brief), path)
  out <- file.path(folder, "results")
  tried(set, "run", run_brief(path, out = out, quiet = TRUE))
  if (!file.exists(file.path(out, "results.json"))) return(expect(set, "the brief was not run", FALSE))
  written <- jsonlite::fromJSON(file.path(out, "results.json"), simplifyVector = FALSE)
  desk <- unsere:::new_desk(brief, folder)
  for (k in seq_along(known)) {
    pair <- set$pairs[[known[k]]]
    told <- Find(function(one) one$relation$x == pair[1] && one$relation$y == pair[2], written$pairs)
    same_pair(set, "a brief", told$relation, relations[[known[k]]], pair)
    shown <- tried(set, "desk", shiny::isolate(unsere:::desk_answer(desk, brief$pairs[[k]]))$relation)
    if (!is.null(shown)) same_pair(set, "the desk", shown, relations[[known[k]]], pair)
  }
  tried(set, "verify", verify_results(out))
  if (!is.null(set$later)) {
    tried(set, "next month", run_brief(path, data = set$later, since = out, out = file.path(folder, "later"), quiet = TRUE))
    expect(set, "next month's file does not run", file.exists(file.path(folder, "later", "results.json")))
  }
}

contact_sheet <- function(pictures, path) {
  if (!length(pictures)) return()
  across <- ceiling(sqrt(length(pictures)))
  down <- ceiling(length(pictures) / across)
  ragg::agg_png(path, width = across * 520, height = down * 390, res = 72)
  on.exit(grDevices::dev.off())
  grid::grid.newpage()
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(down, across)))
  for (k in seq_along(pictures)) {
    place <- grid::viewport(layout.pos.row = (k - 1) %/% across + 1, layout.pos.col = (k - 1) %% across + 1)
    print(pictures[[k]], vp = place)
  }
}
