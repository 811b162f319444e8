# What the code says to readers, and what of it a language lacks: Rscript tools/language.R [CODE] lists it.

# The templates of an expression: constants, joined where paste() joins constants, of every branch.
templates_of <- function(e) {
  if (is.character(e)) return(e)
  if (!is.call(e)) return(character())
  parts <- as.list(e)[-1]
  switch(as.character(e[[1]])[1],
    "if" = unlist(lapply(parts[-1], templates_of)),
    ifelse = unlist(lapply(parts[2:3], templates_of)),
    paste = ,
    paste0 = {
      if (length(names(parts))) parts <- parts[!names(parts) %in% c("collapse", "sep")]
      options <- lapply(unname(parts), templates_of)
      if (!all(lengths(options))) return(character())
      joined <- expand.grid(options, stringsAsFactors = FALSE)
      apply(joined, 1, paste, collapse = if (identical(e[[1]], as.name("paste"))) " " else "")
    },
    c = ,
    "{" = ,
    "(" = unlist(lapply(parts, templates_of)),
    character()
  )
}

# Of "3 rows": the words for one and for many.
counted_words <- function(e) {
  one <- templates_of(e[[3]])
  c(one, if (length(e) > 3L) templates_of(e[[4]]) else if (length(one)) paste0(one, "s"))
}

# The label of a control of the desk, what it says where nothing is chosen, what it hints at, and its options' names.
label_templates <- function(e) {
  parts <- as.list(e)[-1]
  given <- names(parts)
  if (is.null(given)) given <- rep("", length(parts))
  named <- function(name) if (name %in% given) templates_of(parts[[name]])
  options <- Filter(function(part) is.call(part) && identical(part[[1]], as.name("c")), parts[given == ""])
  offered <- unlist(lapply(options, function(part) names(as.list(part)[-1])))
  c(templates_of(parts[given == ""][[2]]), named("none"), named("hint"), offered[nzchar(offered)])
}

#' All templates that are said, by file
#' @return A data frame: `file`, `template`.
said_templates <- function(root = ".") {
  found <- list()
  walk <- function(e, file) {
    templates <- if (is.call(e) && is.name(e[[1]]) && length(e) > 1L) {
      switch(as.character(e[[1]]),
        say = ,
        template = templates_of(e[[2]]),
        problem = templates_of(e[[2]]),
        abort_usage = ,
        abort_input = ,
        abort_undefined = unlist(lapply(as.list(e)[-1], templates_of)),
        counted = if (length(e) > 2L) counted_words(e),
        new_caution = templates_of(e$meaning),
        argument = c(templates_of(e[[3]]), templates_of(e$otherwise)),
        new_question = templates_of(e[[4]]),
        list = c(if (is.character(e$about)) e$about, if (is.character(e[["label"]])) e[["label"]]),
        new_place = c(templates_of(e[[3]]), templates_of(e[[4]])),
        control_select = ,
        control_text = ,
        control_check = ,
        field_text = ,
        field_select = ,
        cases_table = ,
        act_button = label_templates(e),
        copy_button = ,
        figure_button = ,
        table_button = ,
        step = ,
        translated = templates_of(e[[2]]),
        "<-" = if (grepl("_labels$", deparse(e[[2]])[1])) templates_of(e[[3]])
      )
    }
    if (length(templates)) found[[length(found) + 1L]] <<- data.frame(file = file, template = templates)
    if (is.call(e) || is.expression(e) || is.pairlist(e)) for (k in seq_along(e)) {
      part <- e[[k]]
      if (!missing(part) && !is.null(part)) walk(part, file)
    }
  }
  for (file in list.files(file.path(root, "R"), "[.]R$", full.names = TRUE)) walk(parse(file), basename(file))
  unique(do.call(rbind, found))
}

# The places of a template, whatever their order: "%2$s of %1$d" and "%d of %s" are alike.
places_of <- function(template) {
  places <- regmatches(template, gregexpr("%([0-9]+[$])?[-0-9.]*[a-z%]", template))
  lapply(places, function(one) sort(sub("[0-9]+[$]", "", one)))
}

#' What a language lacks, and what it fills in otherwise than the English
#' @return A list: `lacking` (templates), `uneven` (templates whose places differ).
language_faults <- function(code, root = ".") {
  sentences <- unlist(yaml::read_yaml(file.path(root, "inst", "languages", paste0(code, ".yml")))$sentences)
  wanted <- unique(said_templates(root)$template)
  # What holds no word is the same in every language.
  worded <- grepl("[[:alpha:]]{2,}", gsub("%[-0-9.$]*[a-z]", "", wanted))
  uneven <- !mapply(identical, places_of(names(sentences)), places_of(unname(sentences)))
  list(lacking = setdiff(wanted[worded], names(sentences)), uneven = names(sentences)[uneven])
}

if (sys.nframe() == 0L) {
  words <- commandArgs(TRUE)
  faults <- language_faults(if (length(words)) words[1] else "de")
  cat(sprintf("%d templates lack a translation, %d differ in their places\n", length(faults$lacking), length(faults$uneven)))
  cat(unlist(faults), sep = "\n")
}
