# The page: one self-contained HTML file set from the sections of a report.

html_page <- function(title, question, sections) {
  tags <- htmltools::tags
  style <- paste(readLines(system.file("report", "page.css", package = "unsere"), encoding = "UTF-8"), collapse = "\n")
  head <- htmltools::tagList(
    tags$meta(charset = "utf-8"), tags$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
    tags$meta(name = "generator", content = page_mark()), tags$title(title), tags$style(htmltools::HTML(style))
  )
  body <- as.character(tags$main(
    tags$header(tags$p(class = "kicker", title), tags$h1(question)),
    lapply(sections, html_section)
  ))
  paste0(
    "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n", as.character(head), "\n</head>\n<body>\n", body,
    if (grepl("class='case'", body, fixed = TRUE)) page_script(), "\n</body>\n</html>\n"
  )
}

page_script <- function() {
  file <- system.file("report", "page.js", package = "unsere")
  paste0("\n<script>\n", paste(readLines(file, encoding = "UTF-8"), collapse = "\n"), "\n</script>")
}

page_mark <- function() paste("Unsere", utils::packageVersion("unsere"))

html_section <- function(section) {
  tags <- htmltools::tags
  tags$section(id = section$id, if (!is.null(section$heading)) tags$h2(section$heading),
    lapply(section$blocks, html_block))
}

html_block <- function(block) {
  switch(block$kind,
    text = lapply(hold_together(block$text), htmltools::tags$p),
    table = html_table(block),
    figure = html_figure(block),
    strip = html_strip(block$relation), code = htmltools::tags$details(htmltools::tags$summary(block$caption),
      htmltools::tags$pre(paste(block$lines, collapse = "\n"))),
    cautions = html_cautions(block$cautions)
  )
}

html_table <- function(block) {
  tags <- htmltools::tags
  side <- ifelse(seq_along(block$cells) <= block$left, "text", "figure")
  columns <- Map(function(texts, class) sprintf("<td class=\"%s\">%s</td>", class, html_powers(texts)), block$cells,
    side)
  rows <- paste0("<tr>", do.call(paste0, unname(columns)), "</tr>", collapse = "\n")
  heads <- sprintf("<th scope=\"col\" class=\"%s\">%s</th>", side, html_powers(names(block$cells)))
  tags$div(class = "table",
    tags$table(
      tags$caption(block$caption),
      tags$thead(htmltools::HTML(paste0("<tr>", paste0(heads, collapse = ""), "</tr>"))),
      tags$tbody(htmltools::HTML(rows))
    ),
    if (!is.null(block$note)) tags$p(class = "note", block$note)
  )
}

# "10^-37" is set as a raised exponent.
html_powers <- function(texts) {
  sub("( 10)\\^(\\S+)$", "\\1<sup>\\2</sup>", htmltools::htmlEscape(texts))
}

html_figure <- function(block) {
  tags <- htmltools::tags
  tags$figure(
    tags$div(role = if (is.null(block$relation)) "img" else "group", `aria-label` = block$alt,
      htmltools::HTML(figure_svg(block))),
    if (!is.null(block$relation)) tags$p(class = "told", `aria-live` = "polite"),
    if (!is.null(block$caption)) tags$figcaption(block$caption)
  )
}

#' Each dot says whose it is, to the pointer by its title and to the keyboard by the arrow keys
#'
#' Only where the picture holds one circle a case, in the cases' own order.
#' @noRd
name_dots <- function(svg, relation) {
  if (is.null(relation)) return(svg)
  pair <- relation$pair
  found <- gregexpr("<circle [^>]*/>", svg)
  circles <- regmatches(svg, found)[[1]]
  if (length(circles) != length(pair$x) || length(circles) > 3000L) return(svg)
  told <- sprintf("%s: %s%s, %s%s", pair$case, format_number(pair$x, 6), unit_after(pair$variables, pair$x_name),
    format_number(pair$y, 6), unit_after(pair$variables, pair$y_name))
  named <- sprintf("%s tabindex='%d' class='case'><title>%s</title></circle>", sub("/>$", "", circles),
    ifelse(seq_along(circles) == 1L, 0L, -1L), htmltools::htmlEscape(told))
  regmatches(svg, found) <- list(named)
  svg
}

figure_svg <- function(block) {
  svg <- or_default(block$drawing, drawing_of(block))
  svg <- sub("^<\\?xml[^>]*\\?>\\s*", "", svg)
  # Sizes by the page, type by the reader's own system.
  svg <- sub("width='[0-9.]+pt' height='[0-9.]+pt'", "width='100%'", svg)
  svg <- gsub("font-family: \"[^\"]+\"", "font-family: system-ui, sans-serif", svg)
  name_dots(svg, block$relation)
}

#' The r strip as a small drawing
#' @noRd
html_strip <- function(relation) {
  tags <- htmltools::tags
  at <- function(value) sprintf("%.1f", 300 + 270 * value)
  element <- function(name, ...) htmltools::tag(name, list(...))
  text <- function(x, label, ...) element("text", x = at(x), y = "44", `text-anchor` = "middle", ..., label)
  interval <- if (!is.na(relation$ci_low)) {
    element("line", x1 = at(relation$ci_low), x2 = at(relation$ci_high), y1 = "18", y2 = "18", class = "interval")
  }
  colour <- if (relation$r < 0) look$negative else look$dots
  strip <- element("svg", viewBox = "0 0 600 50", class = "strip", role = "img", `aria-label` = strip_alt(relation),
    element("line", x1 = at(-1), x2 = at(1), y1 = "18", y2 = "18", class = "rail"),
    lapply(c(-1, 0, 1), function(v) element("line", x1 = at(v), x2 = at(v), y1 = "10", y2 = "26", class = "tick")),
    interval,
    element("circle", cx = at(relation$r), cy = "18", r = "7", fill = colour),
    text(-1, format_r(-1)), text(0, "0"), text(1, "1")
  )
  tags$div(class = "strip-row",
    tags$p(class = "r", tags$span(coefficient_symbol(relation$coefficient), "=", format_r(relation$r)),
      if (!is.na(relation$ci_low)) tags$span(class = "range", format_interval(relation$ci_low, relation$ci_high))
    ),
    strip
  )
}

strip_alt <- function(relation) {
  if (is.na(relation$ci_low)) return(sprintf("r = %s on a scale from -1 to 1", format_r(relation$r)))
  sprintf("r = %s, interval from %s to %s, on a scale from -1 to 1", format_r(relation$r), format_r(relation$ci_low),
    format_r(relation$ci_high)
  )
}

html_cautions <- function(cautions) {
  tags <- htmltools::tags
  tags$ul(class = "cautions", Map(function(severity, evidence, advice) {
    tags$li(class = severity, tags$strong(capital(severity)), " ", evidence, " ", advice)
  }, cautions$severity, cautions$evidence, cautions$advice))
}
