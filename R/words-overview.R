#' @export
format.unsere_overview <- function(x, ..., door = door_r()) {
  c(
    import_lines(x$provenance, x$cases, nrow(x$variables)), "",
    numeric_lines(x), weight_note(x), count_lines(x), text_lines(x), missing_lines(x), answer_lines(x), next_lines(x, door)
  )
}

delimiter_names <- c("," = "comma", ";" = "semicolon", "\t" = "tab", "|" = "bar", spaces = "columns aligned by spaces")

#' How the file was read, and what was decided
#' @noRd
import_lines <- function(provenance, cases, variables) {
  from <- provenance$file
  details <- c(
    if (!is.null(provenance$delimiter)) {
      say(
        "%s, decimal %s", say(delimiter_names[[provenance$delimiter]]),
        provenance$decimal_mark
      )
    },
    if (!is.null(provenance$encoding) && provenance$encoding != "UTF-8") provenance$encoding
  )
  name <- if (is.null(from)) table_title(provenance$table) else file_name(from)
  c(
    set_title(sprintf(
      "%s: %s, %s", name, count_of(cases, "case"),
      count_of(variables, "variable")
    )),
    if (length(details)) paste0("  ", soft(paste(details, collapse = "; "))),
    unlist(lapply(
      gather_decisions(provenance$decisions),
      function(text) strwrap(text, text_width() - 1L, indent = 2, exdent = 4)
    ))
  )
}

# What a sign of careless answers means.
answer_details <- function(signs) {
  vapply(signs, function(sign) {
    switch(sign,
      straight = say("the same answer to every item of a battery (straight-lining)"),
      fast = say("completed in less than a third of the median time"),
      few = say("less than half of the questions answered"),
      repeated = say("duplicate of an earlier row")
    )
  }, "", USE.NAMES = FALSE)
}

#' Cases whose answers are worth a look, by what speaks against them
#' @noRd
answer_lines <- function(x) {
  if (is.null(x$answers) || !nrow(x$answers)) return(NULL)
  named <- vapply(x$answers$cases, function(cases) {
    more <- length(cases) - 6L
    paste0(paste(utils::head(cases, 6L), collapse = ", "), if (more > 0L) say(" and %d more", more))
  }, "")
  lines <- sprintf("%s, %s: %s.", vapply(x$answers$count, count_of, "", "case"), answer_details(x$answers$sign), named)
  c(
    say("Flagged response patterns"), set_paragraph(paste(lines, collapse = " ")),
    set_paragraph(say("No case is excluded; to exclude one: leave_out (in a brief), with a reason.")), ""
  )
}

weight_note <- function(x) {
  if (is.null(x$weight)) return(NULL)
  copies <- x$variables$variable[x$variables$role == "replicate"]
  notes <- c(
    say("Means and standard deviations are weighted by %s; all else is unweighted.", x$weight),
    if (length(copies)) say(
      "%d replicate weights (%s to %s) are not listed.", length(copies), copies[1],
      copies[length(copies)]
    )
  )
  c(set_paragraph(paste(notes, collapse = " ")), "")
}

# More variables than these are counted, not listed.
most_listed <- 150L

beyond_note <- function(count) {
  if (count <= most_listed) return(NULL)
  set_paragraph(say("and %s more; see JSON or CSV.", format(count - most_listed, big.mark = ",")))
}

numeric_lines <- function(x) {
  rows <- x$variables[!is.na(x$variables$mean) & x$variables$level == "numeric" & x$variables$role != "replicate", ]
  if (!nrow(rows)) return(NULL)
  beyond <- beyond_note(nrow(rows))
  rows <- utils::head(rows, most_listed)
  decimals <- mapply(
    function(sd, mean) if (is.na(sd) || sd == 0) decimals_for(mean, 3) else decimals_for(sd, 3),
    rows$sd, rows$mean
  )
  column <- function(values) mapply(format_decimals, values, decimals)
  c(say("Numeric"), set_table(list(
    variable = shorten(name_to_type(rows, rows$variable), 20), n = format(rows$n), missing = format(rows$missing),
    mean = column(rows$mean),
    sd = column(rows$sd), min = format_end(rows$min), median = format_end(rows$median),
    max = format_end(rows$max),
    outliers = format(rows$outliers)
  )), beyond, "")
}

count_lines <- function(x) {
  if (!length(x$counts)) return(NULL)
  beyond <- beyond_note(length(x$counts))
  counts <- utils::head(x$counts, most_listed)
  rows <- x$variables[match(names(counts), x$variables$variable), ]
  count_texts <- Map(function(counts, missing) {
    text <- paste(sprintf("%s:\u00a0%.0f", counts$value, counts$count), collapse = ", ")
    paste0(text, if (missing) say(", missing:\u00a0%.0f", missing))
  }, counts, rows$missing)
  lines <- set_entries(stats::setNames(count_texts, shorten(name_to_type(rows, rows$variable), 20)))
  c(say("Values and their frequencies"), lines, beyond, "")
}

#' Cases, groups, dates and texts: how many different ones
#' @noRd
text_lines <- function(x) {
  shown <- x$variables$variable %in% names(x$counts) | (x$variables$level == "numeric" & !is.na(x$variables$mean))
  rows <- x$variables[!shown, ]
  if (!nrow(rows)) return(NULL)
  beyond <- beyond_note(nrow(rows))
  rows <- utils::head(rows, most_listed)
  what <- say(ifelse(rows$role == "measure", rows$level, rows$role))
  c(say("Other"), set_table(list(
    variable = shorten(name_to_type(rows, rows$variable), 30), kind = what, n = format(rows$n),
    missing = format(rows$missing),
    different = format(rows$distinct)
  ), left_aligned = 2L), beyond, "")
}

missing_lines <- function(x) {
  if (x$complete == x$cases) return(c(say("Missing"), say("  None: every case has every value."), ""))
  gaps <- x$variables[x$variables$missing > 0, ]
  gaps <- gaps[order(-gaps$missing), ]
  shown <- utils::head(gaps, most_listed)
  listed <- paste(sprintf("%s %.0f", shorten(name_to_type(shown, shown$variable), 40), shown$missing), collapse = ", ")
  if (nrow(gaps) > nrow(shown)) listed <- say("%s and %d more", listed, nrow(gaps) - nrow(shown))
  c(
    say("Missing"),
    set_paragraph(say(
      "%s of %s cases have every value. Blank: %s.", format_count(x$complete),
      format_count(x$cases), listed
    )),
    if (!is.null(x$pairs)) set_paragraph(if (x$pairs[1] == x$pairs[2]) {
      say("Two measures share %s complete pairs.", format_count(x$pairs[1]))
    } else {
      say("Two measures share %s to %s complete pairs.", format_count(x$pairs[1]), format_count(x$pairs[2]))
    }), ""
  )
}

next_lines <- function(x, door) {
  rows <- x$variables[x$variables$variable %in% x$measures, ]
  numeric <- x$numeric
  ordinal <- rows$variable[rows$level == "ordinal" & !is.na(rows$mean)]
  binary <- rows$variable[rows$level == "binary"]
  first <- c(numeric, ordinal, if (length(numeric) + length(ordinal)) binary)
  far <- rows$variable[rows$outliers %in% seq_len(1e6)]
  pairs <- c(
    if (length(numeric) > 1) {
      say("%d numeric variables: %s for each pair, lines, scatter plots.", length(numeric), suits_words("numeric"))
    },
    if (length(ordinal)) sprintf("%s: %s.", count_of(length(ordinal), "ordinal variable"), suits_words("ordinal")),
    if (length(binary)) {
      kinds <- c(suits_words("binary", "numeric"), suits_words("binary"))
      say(
        "%s: %s with a numeric one, %s with each other.",
        count_of(length(binary), "binary variable"), kinds[1], kinds[2]
      )
    },
    if (length(far) && !isTRUE(x$vast)) say_next(say("Check outliers first:"), "draw box", far[1], x$variables, door),
    if (length(first) > 1) say_next(say("Then:"), "relate", first[1:2], x$variables, door),
    if (length(x$waves)) say_next(say("Over the periods:"), "waves", x$waves, x$variables, door),
    if (isTRUE(x$trend)) {
      say_next(say("Is it more than a shared trend?"), "flag", numeric[1:2], x$variables, door)
    }
  )
  if (length(pairs)) {
    c(say("Next steps"), unlist(lapply(pairs, strwrap, text_width() - 1L, indent = 2, exdent = 4)))
  }
}

#' What goes with a pair of levels, in words: "Pearson's r"
#' @noRd
suits_words <- function(a, b = a) {
  record <- choose_coefficient(c(a, b))
  possessive <- endsWith(record$adjective, "'s")
  if (possessive) paste(say(record$adjective), coefficient_symbol(record$name)) else say(record$name)
}

say_next <- function(lead, question, variables, book, door) {
  step <- list(question = question, arguments = list(), pair = FALSE, variables = name_to_type(book, variables))
  step_words(step, NULL, NULL, door, lead)
}
