# Texts of a figure in SVG, as svglite writes it: those that leave the picture, overlap each other, are smaller than 7
# points or, in the panel's notes, lie over dots.

#' The boxes of the texts of a figure
#' @return A data frame: `text`, `size` in points, `left`, `top`, `right`, `bottom`; with `width` and `height` as attributes.
text_boxes <- function(path) {
  root <- xml2::read_xml(path, options = c("NOBLANKS", "HUGE"))
  box <- as.numeric(strsplit(xml2::xml_attr(root, "viewBox"), "[ ,]+")[[1]])
  nodes <- xml2::xml_find_all(root, ".//*[local-name()='text']")
  rows <- lapply(nodes, function(node) {
    text <- trimws(xml2::xml_text(node))
    if (!nzchar(text)) return(NULL)
    style <- gsub(" ", "", xml2::xml_attr(node, "style"))
    size <- as.numeric(sub("^.*font-size:([0-9.]+)px.*$", "\\1", style))
    length <- as.numeric(sub("px$", "", xml2::xml_attr(node, "textLength")))
    if (is.na(length)) length <- 0.55 * size * nchar(text)
    turn <- xml2::xml_attr(node, "transform")
    numbers <- function(what) {
      found <- regmatches(turn, regexec(sprintf("%s\\(([-0-9.]+)[, ]*([-0-9.]*)", what), turn))[[1]][-1]
      as.numeric(found)
    }
    at <- if (is.na(turn) || !grepl("translate", turn)) {
      as.numeric(c(xml2::xml_attr(node, "x"), xml2::xml_attr(node, "y")))
    } else {
      numbers("translate")
    }
    angle <- if (!is.na(turn) && grepl("rotate", turn)) numbers("rotate")[1] %% 360 else 0
    anchor <- or_start(xml2::xml_attr(node, "text-anchor"))
    shift <- c(start = 0, middle = -0.5, end = -1)[[anchor]] * length
    edges <- if (angle == 0) {
      c(at[1] + shift, at[2] - 0.75 * size, at[1] + shift + length, at[2] + 0.22 * size)
    } else if (angle == 270) {
      c(at[1] - 0.75 * size, at[2] - shift - length, at[1] + 0.22 * size, at[2] - shift)
    } else if (angle == 90) {
      c(at[1] - 0.22 * size, at[2] + shift, at[1] + 0.75 * size, at[2] + shift + length)
    }
    if (!is.null(edges)) data.frame(
      text = text, size = size, left = edges[1], top = edges[2], right = edges[3], bottom = edges[4]
    )
  })
  structure(do.call(rbind, rows), width = box[3], height = box[4])
}

or_start <- function(anchor) if (is.na(anchor)) "start" else anchor

#' The dots of a figure: circles, with their radius
dots_of <- function(path) {
  nodes <- xml2::xml_find_all(xml2::read_xml(path, options = c("NOBLANKS", "HUGE")), ".//*[local-name()='circle']")
  data.frame(
    x = as.numeric(xml2::xml_attr(nodes, "cx")), y = as.numeric(xml2::xml_attr(nodes, "cy")),
    r = as.numeric(sub("(pt|px)$", "", xml2::xml_attr(nodes, "r")))
  )
}

#' What is wrong with the texts of a figure, one line each
text_faults <- function(path, least = 6.99) {
  boxes <- text_boxes(path)
  if (is.null(boxes) || !nrow(boxes)) return("no text: none at all")
  out <- boxes$left < -1 | boxes$top < -1 | boxes$right > attr(boxes, "width") + 1 | boxes$bottom > attr(boxes, "height") + 1
  faults <- sprintf("leaves the picture: '%s'", substr(boxes$text[out], 1, 60))
  small <- unique(boxes$text[boxes$size < least])
  if (length(small)) faults <- c(faults, sprintf("too small: '%s' (%.1f pt)", substr(small[1], 1, 40), min(boxes$size)))
  for (k in seq_len(nrow(boxes))[-1]) {
    before <- seq_len(k - 1L)
    wide <- pmin(boxes$right[k], boxes$right[before]) - pmax(boxes$left[k], boxes$left[before])
    high <- pmin(boxes$bottom[k], boxes$bottom[before]) - pmax(boxes$top[k], boxes$top[before])
    hit <- which(wide > 1.5 & high > 1.5)
    faults <- c(faults, sprintf("overlap: '%s' and '%s'", substr(boxes$text[hit], 1, 40), substr(boxes$text[k], 1, 40)))
  }
  # A note about the relation, such as "r = .36 [.22, .48]", may not lie over dots.
  notes <- boxes[grepl("^(r|r\u209b|rs|rpb|\u03c4b|tau-b|phi|\u03c6|eta|V)\\S* = ", boxes$text), ]
  dots <- dots_of(path)
  for (k in seq_len(nrow(notes))) {
    over <- sum(dots$x > notes$left[k] & dots$x < notes$right[k] & dots$y > notes$top[k] & dots$y < notes$bottom[k])
    if (over) faults <- c(faults, sprintf("over dots: '%s' (%d)", notes$text[k], over))
  }
  faults
}
