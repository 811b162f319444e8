# A verification as the terminal shows it, and its sentence.

#' @export
format.unsere_verification <- function(x, ..., door = door_r()) {
  shown <- utils::head(x$different, 20L)
  more <- nrow(x$different) - nrow(shown)
  files <- function(names, what) if (length(names)) sprintf("%s: %s", what, list_some(names, length(names) + 1L, 8L))
  c(
    set_title(if (is_confirmed(x)) say("The results were reproduced") else say(
      "The results were not reproduced"
    )), "",
    set_entries(Filter(Negate(is.null), list(
      figures = say("%s compared, %s the same", format_count(x$figures), format_count(x$same)),
      files = if (length(x$checked)) say("%s recreated and the same", count_of(length(x$checked), "file")) else say(
        "none recreated"
      ),
      from = switch(x$from,
        rows = say("the rows in the folder; cautions and the reading of the file as stated in the folder"),
        moments = say("the moments in the folder: r, intervals, tests and lines of Pearson kinds"),
        say("the data file")
      ),
      data = if (x$from == "data" && x$digest_same) {
        say("those of the run")
      } else if (!x$digest_same) {
        say("not those of the run")
      },
      "not checked" = unchecked_words(x$unchecked), "written by" = sprintf("Unsere %s", x$version)
    ))),
    if (nrow(shown)) c("", say("Different"), set_table(
      list(where = shorten(shown$where, 60), before = shorten(shown$before, 26), now = shorten(shown$now, 26)),
      left_aligned = 1L
    )),
    if (more > 0L) say("  and %d more; see JSON or CSV", more),
    "",
    unlist(lapply(c(
      files(x$edited, say("Edited since the run")), files(x$lacking, say("Missing")),
      files(x$added, say("Added since the run, and not looked at")),
      switch(x$from,
        rows = say("With --data FILE cautions, sentences and the reading of the file are reproduced from the data as well."),
        moments = say("With --data FILE all figures, tables, texts and pictures are reproduced from the data.")
      ),
      say("This shows that the folder agrees with itself or the data; only a signature would show who made it.")
    ), set_paragraph))
  )
}

# Which files were not checked, by the reason.
unchecked_words <- function(unchecked) {
  if (!NROW(unchecked)) return(NULL)
  by <- split(unchecked$file, factor(unchecked$why, unique(unchecked$why)))
  paste(sprintf("%s (%s)", vapply(by, function(names) list_some(names, length(names) + 1L, 4L), ""), say(names(by))),
    collapse = "; "
  )
}

#' Whether all that was worked out again is the same, and no file's mark is another
#' @noRd
is_confirmed <- function(x) !nrow(x$different) && !length(x$edited) && !length(x$lacking) && x$digest_same

#' @export
in_words.unsere_verification <- function(result, digits = 2, ...) {
  gone <- length(c(result$edited, result$lacking))
  odd <- nrow(result$different) - (result$figures - result$same)
  more <- c(
    if (gone) say("%s edited or lacking", if (gone == 1L) say("one file is") else paste(gone, say("files are"))),
    if (odd > 0L) say("%s in the files", count_of(odd, "difference")),
    if (!result$digest_same) say("the data are not those of the run"),
    if (NROW(result$unchecked)) say("%s not checked", count_of(nrow(result$unchecked), "file"))
  )
  beside <- if (length(more)) paste0("; ", paste(more, collapse = "; ")) else ""
  if (!is_confirmed(result)) return(
    say("Of %s figures %s were reproduced%s.", format_count(result$figures), format_count(result$same), beside)
  )
  if (!length(result$checked)) return(say("All %s figures were reproduced%s.", format_count(result$figures), beside))
  say(
    "All %s figures were reproduced, and %s recreated %s the same%s.", format_count(result$figures),
    count_of(length(result$checked), "file"), if (length(result$checked) == 1L) say("is") else say("are"), beside
  )
}

#' @export
as.data.frame.unsere_verification <- function(x, ...) x$different

#' @export
markdown_lines.unsere_verification <- function(result) {
  c(in_words(result), if (nrow(result$different)) c("", markdown_table(as.list(result$different), left_aligned = 3L)))
}

#' @export
json_fields.unsere_verification <- function(result, door = door_r()) {
  c(json_head("verification"), unclass(result)[c("figures", "same")], list(
    different = result$different, digest_same = result$digest_same, from = result$from, checked = as.list(result$checked),
    unchecked = result$unchecked, edited = as.list(result$edited),
    lacking = as.list(result$lacking), added = as.list(result$added), written_by = result$version,
    sentence = in_words(result)
  ))
}
