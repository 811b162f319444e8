# The command's help, in the language in force: the list of commands, and the options of one.

#' @param known All commands.
#' @noRd
general_help <- function(known) {
  c(
    say("Unsere: correlations for survey and education researchers"), "",
    lines_of_entries(list(
      "unsere demo" = say("run the full example on the demo data"), "unsere look FILE" = say("describe your own file")
    )), "",
    lines_of_entries(stats::setNames(
      say(vapply(known, `[[`, "", "about")), sub(" .*$", "", vapply(known, `[[`, "", "usage"))
    ), 12L), "",
    say("What a command takes, with an example: %s", "unsere relate --help"),
    say("FILE is delimited text, .xlsx, .ods, .parquet, .json or .jsonl; - reads standard input.")
  )
}

lines_of_entries <- function(entries, width = 18L) {
  unlist(Map(function(name, text) {
    lines <- wrap_held(text, text_width() - width - 3L)
    sprintf("  %-*s %s", width, c(name, rep("", length(lines) - 1L)), lines)
  }, names(entries), entries), use.names = FALSE)
}

command_help <- function(command) {
  declared <- c(command$arguments, closing_arguments())
  values <- vapply(declared, function(one) c(one$value, "")[1], "")
  usages <- trimws(paste(option_name(names(declared)), values))
  example <- sub("DEMO", system.file("extdata", package = "unsere"), command$example, fixed = TRUE)
  c(
    sprintf("unsere %s", command$usage), paste0("  ", c(say(command$about), command$more)), "",
    say("Options"), set_entries(stats::setNames(lapply(declared, option_help), usages)), "",
    say("Example"), paste0("  unsere ", example)
  )
}

#' What an option is, what it may be, and its default
#' @param one From [argument()].
#' @noRd
option_help <- function(one) {
  text <- say(one$help)
  if (!all(vapply(one$allowed, grepl, NA, x = one$help, fixed = TRUE))) {
    text <- say("%s; one of %s", text, paste(one$allowed, collapse = ", "))
  }
  default <- or_default(one$default, one$otherwise)
  if (is.null(default) || isFALSE(default)) return(text)
  if (is.numeric(default)) default <- format(default, scientific = FALSE)
  if (!default %in% one$allowed) default <- say(default)
  sprintf("%s (%s)", text, say("default: %s", default))
}
