# A verification as the terminal shows it, and its sentence.

#' @export
format.unsere_verification <- function(x, ..., door = door_r()) {
  shown <- utils::head(x$different, 20L)
  more <- nrow(x$different) - nrow(shown)
  files <- function(names, what) if (length(names)) sprintf("%s: %s", what, list_some(names, length(names) + 1L, 8L))
  c(
    set_title(if (is_confirmed(x)) say("The results come out again") else say(
      "The results do not come out as they stand here"
    )), "",
    set_entries(list(
      figures = say("%s compared, %s the same", format_count(x$figures), format_count(x$same)),
      from = switch(x$from,
        rows = say("the rows in the folder; cautions are compared with --data only"),
        moments = say("the moments in the folder: r, intervals, tests and lines of Pearson kinds"),
        say("the data file")
      ),
      data = if (x$digest_same) say("those of the run") else say("not those of the run"),
      "written by" = sprintf("Unsere %s", x$version)
    )),
    if (nrow(shown)) c("", "Different", set_table(
      list(where = shown$where, before = shorten(shown$before, 26), now = shorten(shown$now, 26)),
      left = 1L
    )),
    if (more > 0L) say("  and %d more; all of them in JSON and CSV", more),
    if (!is_confirmed(x) || length(x$added)) "",
    unlist(lapply(c(
      files(x$edited, say("Edited since the run")), files(x$lacking, "Lacking"),
      files(x$added, say("Added since the run, and not looked at"))
    ), set_paragraph))
  )
}

#' Whether all figures came out again and no file was edited
#' @noRd
is_confirmed <- function(x) !nrow(x$different) && !length(x$edited) && !length(x$lacking) && x$digest_same

#' @export
in_words.unsere_verification <- function(result, digits = 2, ...) {
  if (is_confirmed(result)) {
    return(say("All %s figures came out again, and no file was edited.", format_count(result$figures)))
  }
  gone <- length(c(result$edited, result$lacking))
  say(
    "Of %s figures %s came out again%s%s.", format_count(result$figures), format_count(result$same),
    if (gone) say("; %s edited or lacking", if (gone == 1L) say("one file is") else paste(gone, say("files are"))) else "",
    if (result$digest_same) "" else say("; the data are not those of the run")
  )
}

#' @export
as.data.frame.unsere_verification <- function(x, ...) x$different

#' @export
as_markdown.unsere_verification <- function(result) {
  c(in_words(result), if (nrow(result$different)) c("", markdown_table(as.list(result$different), left = 3L)))
}

#' @export
json_fields.unsere_verification <- function(result, door = door_r()) {
  c(json_head("verification"), unclass(result)[c("figures", "same")], list(
    different = result$different, digest_same = result$digest_same, edited = as.list(result$edited),
    lacking = as.list(result$lacking), added = as.list(result$added), written_by = result$version,
    sentence = in_words(result)
  ))
}
