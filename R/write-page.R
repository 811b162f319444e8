# The page: one self-contained HTML file set from the blocks of a report.

form_page <- function() new_form("html", 1, function(report, path) write_lines(html_page(report), path))

# Characters that no page may hold.
without_controls <- function(text) gsub("[\001-\010\013\014\016-\037]", "", text, perl = TRUE)

html_page <- function(report) {
  tags <- htmltools::tags
  style <- paste(readLines(system.file("report", "page.css", package = "unsere"), encoding = "UTF-8"), collapse = "\n")
  head <- htmltools::tagList(
    tags$meta(charset = "utf-8"), tags$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
    tags$meta(name = "generator", content = page_mark()), tags$title(report$title), tags$style(htmltools::HTML(style))
  )
  above <- if (!identical(report$title, report$question)) tags$p(class = "kicker", report$title)
  header <- tags$header(above, tags$h1(report$question))
  sections <- Filter(Negate(is.null), lapply(report$sections, html_section))
  body <- paste(c(as.character(page_contents(sections)), as.character(tags$main(header, sections))), collapse = "\n")
  script <- if (grepl("class='case'", body, fixed = TRUE)) page_script()
  without_controls(paste0(
    sprintf("<!DOCTYPE html>\n<html lang=\"%s\">\n<head>\n", language_in_use()), as.character(head),
    "\n</head>\n<body>\n", body, script,
    "\n</body>\n</html>\n"
  ))
}

# From so many sections on a page has a table of contents beside it.
least_for_contents <- 6L

page_contents <- function(sections) {
  tags <- htmltools::tags
  headings <- lapply(sections, function(section) Find(function(child) identical(child$name, "h2"), section$children))
  headed <- which(!vapply(headings, is.null, NA))
  if (length(headed) < least_for_contents) return(NULL)
  tags$nav(class = "contents", `aria-label` = say("Contents"), tags$ol(lapply(headed, function(k) {
    tags$li(tags$a(href = paste0("#", sections[[k]]$attribs$id), headings[[k]]$children))
  })))
}

page_script <- function() {
  file <- system.file("report", "page.js", package = "unsere")
  script <- paste(readLines(file, encoding = "UTF-8"), collapse = "\n")
  hint <- "Point at a dot, or use the arrow keys, to identify the case."
  paste0("\n<script>\n", sub(hint, say(hint), script, fixed = TRUE), "\n</script>")
}

page_mark <- function() paste("Unsere", utils::packageVersion("unsere"))

#' Whether a file is a page written here
#' @noRd
is_own_page <- function(path) {
  any(grepl("name=\"generator\" content=\"Unsere", readLines(path, 30L, warn = FALSE), fixed = TRUE))
}

html_section <- function(section) {
  shown <- lapply(section$blocks, page_block)
  if (all(vapply(shown, is.null, NA))) return(NULL)
  tags <- htmltools::tags
  tags$section(id = section$id, if (!is.null(section$heading)) tags$h2(section$heading), shown)
}

page_block <- function(block) UseMethod("page_block")

#' @export
page_block.default <- function(block) NULL

#' @export
page_block.block_text <- function(block) lapply(set_html(block$text), htmltools::tags$p)

#' @export
page_block.block_conclusion <- page_block.block_text

#' @export
page_block.block_code <- function(block) {
  tags <- htmltools::tags
  tags$details(tags$summary(block$caption), tags$pre(paste(block$lines, collapse = "\n")))
}

#' @export
page_block.block_table <- function(block) {
  tags <- htmltools::tags
  side <- ifelse(seq_along(block$cells) <= block$left_aligned, "text", "figure")
  columns <- Map(
    function(texts, class) sprintf("<td class=\"%s\">%s</td>", class, html_powers(texts)), block$cells,
    side
  )
  rows <- paste0("<tr>", do.call(paste0, unname(columns)), "</tr>", collapse = "\n")
  heads <- sprintf("<th scope=\"col\" class=\"%s\">%s</th>", side, html_powers(names(block$cells), head = TRUE))
  tags$div(
    class = "table",
    tags$table(
      tags$caption(set_html(or_default(block$caption, ""))),
      tags$thead(htmltools::HTML(paste0("<tr>", paste0(heads, collapse = ""), "</tr>"))),
      tags$tbody(htmltools::HTML(rows))
    ),
    if (!is.null(block$note)) tags$p(class = "note", set_html(block$note))
  )
}

# "10^-37" is set as a raised exponent.
html_powers <- function(texts, head = FALSE) {
  sub("( 10)\\^(\\S+)$", "\\1<sup>\\2</sup>", statistics_html(texts, head))
}

#' Sentences with their statistics set, and what belongs together on one line
#' @noRd
set_html <- function(texts) lapply(statistics_html(hold_together(texts)), htmltools::HTML)

#' @export
page_block.block_figure <- function(block) {
  tags <- htmltools::tags
  tags$figure(
    tags$div(
      role = if (is.null(block$relation)) "img" else "group", `aria-label` = block$alt,
      htmltools::HTML(figure_svg(block))
    ),
    if (!is.null(block$relation)) tags$p(class = "told", `aria-live` = "polite"),
    if (!is.null(block$caption)) tags$figcaption(set_html(block$caption))
  )
}

#' Each dot says whose it is, to the pointer by its title and to the keyboard by the arrow keys
#'
#' Only where the picture holds one circle a case, in the cases' own order.
#' @noRd
name_dots <- function(svg, relation) {
  if (is.null(relation)) return(svg)
  sample <- relation$sample
  circle_marks <- gregexpr("<circle [^>]*/>", svg)
  circles <- regmatches(svg, circle_marks)[[1]]
  if (length(circles) != length(sample$x) || length(circles) > 3000L) return(svg)
  units <- vapply(sample$names, function(name) unit_after(sample$variables, name), "")
  titles <- sprintf(
    "%s: %s%s, %s%s", sample_cases(sample), format_number(sample$x, 6), units[1], format_number(sample$y, 6), units[2]
  )
  named <- sprintf(
    "%s tabindex='%d' class='case'><title>%s</title></circle>", sub("/>$", "", circles),
    ifelse(seq_along(circles) == 1L, 0L, -1L), htmltools::htmlEscape(titles)
  )
  regmatches(svg, circle_marks) <- list(named)
  svg
}

figure_svg <- function(block) {
  svg <- or_default(block$drawing, drawing_of(block))
  svg <- sub("^<\\?xml[^>]*\\?>\\s*", "", svg)
  # Sizes by the page.
  svg <- sub("width='[0-9.]+pt' height='[0-9.]+pt'", "width='100%'", svg)
  name_dots(in_own_type(svg), block$relation)
}

#' The r strip as a small drawing
#' @noRd
#' @export
page_block.block_strip <- function(block) {
  relation <- block$relation
  tags <- htmltools::tags
  start <- strip_start(relation$coefficient)
  marks <- unique(c(start, 0, 1))
  at <- function(value) sprintf("%.1f", 30 + 540 * (value - start) / (1 - start))
  element <- function(name, ...) htmltools::tag(name, list(...))
  text <- function(x, label, ...) element("text", x = at(x), y = "44", `text-anchor` = "middle", ..., label)
  interval <- if (!is.na(relation$ci_low)) {
    element("line", x1 = at(relation$ci_low), x2 = at(relation$ci_high), y1 = "18", y2 = "18", class = "interval")
  }
  colour <- if (relation$r < 0) look$negative else look$dots
  strip <- element("svg",
    viewBox = "0 0 600 50", class = "strip", role = "img", `aria-label` = strip_alt(relation),
    element("line", x1 = at(start), x2 = at(1), y1 = "18", y2 = "18", class = "rail"),
    lapply(marks, function(v) element("line", x1 = at(v), x2 = at(v), y1 = "10", y2 = "26", class = "tick")),
    interval,
    element("circle", cx = at(relation$r), cy = "18", r = "7", fill = colour),
    lapply(marks, function(v) text(v, if (v == 0) "0" else format_r(v)))
  )
  tags$div(
    class = "strip-row",
    tags$p(
      class = "r",
      tags$span(set_html(paste(coefficient_symbol(relation$coefficient), "=", format_r(relation$r, digits_for(relation))))),
      if (!is.na(relation$ci_low)) tags$span(
        class = "range",
        format_interval(relation$ci_low, relation$ci_high, digits_for(relation))
      )
    ),
    strip
  )
}

#' @export
page_block.block_cautions <- function(block) {
  tags <- htmltools::tags
  cautions <- block$cautions
  tags$ul(class = "cautions", Map(function(severity, evidence, advice) {
    tags$li(class = severity, tags$strong(capital(say(severity))), " ", evidence, " ", advice)
  }, cautions$severity, set_html(cautions$evidence), set_html(cautions$advice)))
}
