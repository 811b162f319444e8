# Two files of the same name, one in a folder of results and one made anew: where they differ, in what a reader would see.

#' Each file of a folder beside its like that was made anew
#'
#' @param recorded The names that the run's own list has.
#' @return A list: `same` (names), `different` (a data frame: `where`, `before`, `now`), `unchecked` (a data frame: `file`,
#'   `why`), `lacking` (names).
#' @noRd
compare_folders <- function(folder, anew, recorded) {
  there <- setdiff(list.files(folder, recursive = TRUE, all.files = TRUE), "results.json")
  made <- setdiff(list.files(anew, recursive = TRUE), "results.json")
  both <- intersect(made, there)
  # Where one picture is the same to the last byte, this machine draws as that of the run did.
  alike <- vapply(both, function(name) same_bytes(file.path(folder, name), file.path(anew, name)), NA)
  drawn_alike <- any(alike[grepl("[.](png|svg)$", both)])
  faults <- lapply(both[!alike], function(name) {
    or_unreadable_file(compare_file(file.path(folder, name), file.path(anew, name), drawn_alike), name)
  })
  faults <- stats::setNames(faults, both[!alike])
  unchecked <- Filter(is.character, faults)
  different <- Filter(function(fault) is.data.frame(fault) && nrow(fault) > 0L, faults)
  for (name in names(different)) different[[name]]$where <- sprintf("%s, %s", name, different[[name]]$where)
  beyond <- setdiff(intersect(there, recorded), made)
  list(
    same = setdiff(both, c(names(unchecked), names(different))), different = do.call(rbind, unname(different)),
    unchecked = data.frame(
      file = c(names(unchecked), beyond), why = c(unlist(unchecked), rep("it is not recreated", length(beyond)))
    ), lacking = setdiff(made, there)
  )
}

same_bytes <- function(a, b) file.size(a) == file.size(b) && identical(file_marks("", a), file_marks("", b))

or_unreadable_file <- function(code, name) {
  tryCatch(code, error = function(e) file_fault("the whole file", "cannot be read", "readable"))
}

#' @param drawn_alike Whether pictures must be the same to the last byte.
#' @return A data frame of what differs, or why it was not checked, as one string.
#' @noRd
compare_file <- function(before, now, drawn_alike) {
  switch(file_ending(before),
    csv = compare_cells(cells_of_csv(before), cells_of_csv(now)),
    html = compare_pages(before, now, drawn_alike),
    svg = compare_drawings(read_whole(before), read_whole(now), drawn_alike),
    png = if (drawn_alike) file_fault("the picture", "edited", "as drawn anew") else "this machine draws with other fonts",
    xlsx = compare_workbooks(before, now, drawn_alike),
    docx = ,
    pptx = compare_documents(before, now, drawn_alike),
    compare_texts(read_lines(before), read_lines(now))
  )
}

read_lines <- function(path) readLines(path, warn = FALSE, encoding = "UTF-8")

read_whole <- function(path) paste(read_lines(path), collapse = "\n")

compare_texts <- function(before, now, where = "line") {
  length <- max(length(before), length(now))
  odd <- which(!vapply(seq_len(length), function(k) identical(before[k], now[k]), NA))
  mark <- function(text) ifelse(is.na(text), "", text)
  if (!length(odd)) return(no_fault())
  # One line that was put in moves all that follow: the first is told.
  file_fault(sprintf("%s %d", where, odd[1]), mark(before[odd[1]]), mark(now[odd[1]]))
}

cells_of_csv <- function(path) {
  as.matrix(data.table::fread(path,
    colClasses = "character", na.strings = NULL, header = FALSE, data.table = FALSE,
    encoding = "UTF-8", fill = TRUE
  ))
}

#' Two tables of text, cell by cell: numbers to twelve digits, all else to the letter
#' @noRd
compare_cells <- function(before, now, most = 20L) {
  if (!identical(unname(dim(before)), unname(dim(now)))) {
    size <- function(cells) sprintf("%d rows of %d", nrow(cells), ncol(cells))
    return(file_fault("its size", size(before), size(now)))
  }
  odd <- which(before != now | is.na(before) != is.na(now))
  number <- suppressWarnings(cbind(as.numeric(before[odd]), as.numeric(now[odd])))
  odd <- odd[!(stats::complete.cases(number) & is_near(number[, 1], number[, 2]))]
  if (!length(odd)) return(no_fault())
  at <- arrayInd(utils::head(odd, most), dim(before))
  file_fault(sprintf("row %d, column %d", at[, 1], at[, 2]), before[at], now[at])
}

#' Two pages: every text that stands in them, in its order, and what is drawn
#' @noRd
compare_pages <- function(before, now, drawn_alike) {
  need_package("xml2", "to compare pages")
  drawings <- function(page) xml2::xml_find_all(page, "//*[local-name()='svg']")
  texts <- lapply(c(before, now), function(path) {
    page <- xml2::read_html(path)
    xml2::xml_remove(drawings(page))
    text <- trimws(gsub("[[:space:]]+", " ", xml2::xml_text(xml2::xml_find_all(page, "//text()"))))
    text[nzchar(text)]
  })
  fault <- compare_texts(texts[[1]], texts[[2]], "text")
  if (nrow(fault)) return(fault)
  if (drawn_alike) return(file_fault("what is not text", "edited", "as made anew"))
  drawn <- lapply(c(before, now), function(path) vapply(drawings(xml2::read_html(path)), as.character, ""))
  if (length(drawn[[1]]) != length(drawn[[2]])) return(file_fault("its drawings", length(drawn[[1]]), length(drawn[[2]])))
  do.call(rbind, c(list(no_fault()), Map(compare_drawings, drawn[[1]], drawn[[2]], drawn_alike = FALSE)))
}

#' Two drawings: texts, how many shapes of each kind, and where the dots lie within the reach of all
#' @noRd
compare_drawings <- function(before, now, drawn_alike) {
  if (drawn_alike) return(file_fault("the drawing", "edited", "as drawn anew"))
  facts <- lapply(list(before, now), function(text) {
    drawing <- xml2::read_xml(text)
    part <- function(name) xml2::xml_find_all(drawing, sprintf("//*[local-name()='%s']", name))
    dots <- part("circle")
    place <- function(name) {
      at <- as.numeric(xml2::xml_attr(dots, name))
      if (length(at) > 1L && diff(range(at)) > 0) (at - min(at)) / diff(range(at)) else at * 0
    }
    list(
      texts = xml2::xml_text(c(part("text"), part("title"))),
      shapes = vapply(c("circle", "rect", "path", "line", "polyline", "polygon"), function(name) length(part(name)), 0L),
      dots = cbind(place("cx"), place("cy"))
    )
  })
  fault <- compare_texts(facts[[1]]$texts, facts[[2]]$texts, "text")
  if (nrow(fault)) return(fault)
  if (!identical(facts[[1]]$shapes, facts[[2]]$shapes)) {
    return(file_fault("what is drawn", toString(facts[[1]]$shapes), toString(facts[[2]]$shapes)))
  }
  moved <- sum(rowSums(abs(facts[[1]]$dots - facts[[2]]$dots)) > 0.02)
  if (moved) file_fault("what is drawn", sprintf("%d dots lie elsewhere", moved), "") else no_fault()
}

compare_workbooks <- function(before, now, drawn_alike) {
  books <- lapply(c(before, now), open_workbook, "xlsx")
  sheets <- lapply(books, function(book) book$sheets()$name)
  fault <- compare_texts(sheets[[1]], sheets[[2]], "sheet")
  if (nrow(fault)) return(fault)
  faults <- lapply(sheets[[1]], function(sheet) {
    cells <- lapply(books, function(book) book$grid(sheet)$grid)
    fault <- compare_cells(cells[[1]], cells[[2]])
    fault$where <- sprintf("sheet %s, %s", rep(sheet, nrow(fault)), fault$where)
    fault
  })
  rbind(do.call(rbind, faults), compare_members(before, now, drawn_alike))
}

compare_documents <- function(before, now, drawn_alike) {
  check_archive(before, file_ending(before))
  texts <- lapply(c(before, now), texts_of_document)
  rbind(compare_texts(texts[[1]], texts[[2]], "paragraph"), compare_members(before, now, drawn_alike))
}

# The paragraphs of a document or of slides, in the order of their parts.
texts_of_document <- function(path) {
  members <- utils::unzip(path, list = TRUE)
  parts <- sort(grep("^(word|ppt/slides|ppt/notesSlides)/[^/]+[.]xml$", members$Name, value = TRUE), method = "radix")
  unlist(lapply(parts, function(part) {
    xml2::xml_text(xml2::xml_find_all(archive_xml(path, part, members), "//*[local-name()='p']"))
  }))
}

#' Two archives: the parts that they hold, and their pictures
#' @noRd
compare_members <- function(before, now, drawn_alike) {
  members <- lapply(c(before, now), function(path) utils::unzip(path, list = TRUE))
  more <- setdiff(members[[1]]$Name, members[[2]]$Name)
  if (length(more)) return(file_fault("a further part", more[1], ""))
  pictures <- grep("/media/", members[[1]]$Name, value = TRUE)
  if (!drawn_alike || !length(pictures)) return(no_fault())
  odd <- Filter(function(name) {
    !identical(archive_bytes(before, name, members[[1]]), archive_bytes(now, name, members[[2]]))
  }, pictures)
  if (length(odd)) file_fault(sprintf("picture %s", basename(odd)), "edited", "as drawn anew") else no_fault()
}
