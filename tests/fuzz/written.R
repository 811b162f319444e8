# Columns of one kind each, written in the forms that people and machines use, and the one thing asked of them all: what is
# read is the value that was written, or the cell as text, or the file is refused.

date_forms <- c(
  "%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y", "%d/%m/%Y", "%m/%d/%Y", "%d.%m.%y", "%G-W%V-%u", "%d %b %Y", "%B %d, %Y",
  "%Y-%m-%d %H:%M", "%Y-%m-%d %H:%M:%S", "%Y-%m-%dT%H:%M:%S", "%Y-%m-%dT%H:%M:%SZ", "%d.%m.%Y %H:%M", "%m/%d/%Y %I:%M %p",
  "%d/%m/%Y %H:%M:%S", "%Y%m%dT%H%M%S"
)

written_kinds <- list(
  moments = function(n) {
    form <- one(date_forms)
    span <- one(86400 * 20, 86400 * 900, 86400 * 17000)
    at <- as.POSIXct(floor(runif(n, 1e9 - span, 1e9 + span)), origin = "1970-01-01", tz = "UTC")
    cells <- format(at, form, tz = "UTC")
    value <- if (grepl("%S", form)) at else if (grepl("[HI]:", form)) trunc(at, "mins") else trunc(at, "days")
    seconds <- as.numeric(value)
    if (runif(1) < 0.2 && grepl("T%H:%M:%S$", form)) {
      hours <- sample(-11:13, n, TRUE)
      cells <- sprintf("%s%s%02d:00", cells, ifelse(hours < 0, "-", "+"), abs(hours))
      seconds <- seconds - hours * 3600
    }
    list(cells = cells, value = seconds, of = function(read) as.numeric(read) * if (inherits(read, "Date")) 86400 else 1)
  },
  of_day = function(n) {
    minutes <- sample(0:1439, n, TRUE)
    form <- one("%02d:%02d", "%dh%02d")
    # Hours after midnight may be told as those of the next day.
    list(cells = sprintf(form, minutes %/% 60L, minutes %% 60L), value = minutes, of = function(read) read %% 1440)
  },
  lasting = function(n) {
    minutes <- sample(0:5000, n, TRUE)
    form <- one("PT%dH%dM", "%d h %d min")
    list(cells = sprintf(form, minutes %/% 60L, minutes %% 60L), value = minutes)
  },
  impossible = function(n) {
    cells <- format(as.Date("2023-01-01") + sample(300, n, TRUE), one("%Y-%m-%d", "%d.%m.%Y"))
    cells[sample(n, 1)] <- if (grepl("-", cells[1], fixed = TRUE)) "2023-02-30" else "31.11.2023"
    list(cells = cells, value = cells)
  },
  codes = function(n) {
    letters_in <- function() sprintf("%s%03d", sample(LETTERS, n, TRUE), sample(999, n))
    form <- one("zeros", "exponent", "long", "letters")
    cells <- switch(form,
      zeros = c("007", sprintf("%03d", sample(999, n - 1L))),
      exponent = sprintf("%dE%d", sample(10:99, n, TRUE), sample(9, n, TRUE)),
      long = paste0("90071992547409", sample(93:99, 1), sprintf("%03d", sample(999, n))), letters = letters_in()
    )
    list(cells = cells, value = cells)
  },
  scientific = function(n) {
    value <- signif(rnorm(n) * 10^sample(-9:9, n, TRUE), 4)
    list(cells = sub("e[+]", "e", formatC(value, digits = 3, format = "e")), value = value)
  },
  sums = function(n) {
    value <- round(runif(n, 0, 10^sample(3:7, n, TRUE)))
    sign <- one("", "$", "\u20ac ")
    list(cells = paste0(sign, format(value, big.mark = ",", trim = TRUE, scientific = FALSE)), value = value, grouped = TRUE)
  },
  people = function(n) {
    cells <- paste0(sample(c("Smith", "O'Hara", "de Vries", "M\u00fcller"), n, TRUE), ", ", sample(c("Ann", "Bo", "Cy"), n, TRUE))
    list(cells = cells, value = cells)
  },
  answers = function(n) {
    cells <- sample(c("<1 year", "1-2 years", ">5 years"), n, TRUE)
    list(cells = cells, value = cells)
  },
  measures = function(n) {
    value <- round(rnorm(n, 40, 9), sample(0:2, 1))
    list(cells = format(value, trim = TRUE, nsmall = 0), value = as.numeric(format(value, trim = TRUE)))
  }
)

write_cells <- function(columns, path) {
  names <- names(columns)
  cells <- lapply(columns, `[[`, "cells")
  quote <- function(text) ifelse(grepl("[,;\t\"]", text), paste0("\"", text, "\""), text)
  switch(tools::file_ext(path),
    csv = {
      mark <- one(",", ";", "\t")
      lines <- do.call(paste, c(lapply(unname(Map(c, names, cells)), quote), sep = mark))
    },
    txt = {
      padded <- lapply(unname(Map(c, names, cells)), function(text) formatC(text, width = one(-1, 1) * max(nchar(text))))
      lines <- do.call(paste, c(padded, sep = one("  ", "    ")))
    },
    html = {
      # Marks of footnotes, a break and what no browser shows are no part of a value.
      mark <- function(text) {
        extra <- c("", "", "", "<sup>1</sup>", "<span style=\"display: none\">99</span>", "<!-- 9 -->")
        paste0("<td>", htmltools::htmlEscape(text), sample(extra, length(text), TRUE, c(12, 1, 1, 1, 1, 1)), "</td>")
      }
      rows <- do.call(paste0, lapply(unname(cells), mark))
      unseen <- sprintf("<tr hidden>%s</tr>", rows[1])
      lines <- c(
        "<html><meta charset=\"utf-8\"><table>", sprintf("<tr>%s</tr>", paste0("<th>", names, "</th>", collapse = "")),
        append(sprintf("<tr>%s</tr>", rows), if (runif(1) < 0.3) unseen, sample(length(rows), 1)), "</table></html>"
      )
    },
    xlsx = return(openxlsx::write.xlsx(as.data.frame(cells, check.names = FALSE), path)),
    json = return(writeLines(jsonlite::toJSON(as.data.frame(cells, check.names = FALSE)), path))
  )
  writeLines(enc2utf8(lines), path, useBytes = TRUE)
}

try_written <- function() {
  n <- sample(c(5L, 12L, 40L), 1)
  kinds <- c("measures", sample(names(written_kinds), sample(4, 1)))
  columns <- lapply(kinds, function(kind) written_kinds[[kind]](n))
  names(columns) <- sprintf("%s_%d", kinds, seq_along(kinds))
  path <- tempfile("written", folder, one(".csv", ".csv", ".txt", ".html", ".xlsx", ".json"))
  write_cells(columns, path)
  told <- function(what) stop(what, " in ", basename(path), ": ", paste(utils::capture.output(
    print(utils::head(as.data.frame(lapply(columns, `[[`, "cells")), 9))), collapse = "\n"))
  study <- tryCatch(read_study(path), unsere_error_input = function(e) e)
  if (inherits(study, "error")) return("refused")
  read <- as.data.frame(study)
  if (nrow(read) != n) told(sprintf("%d cases for %d", nrow(read), n))
  if (!identical(names(read), names(columns))) told(paste("other names:", toString(names(read))))
  for (k in seq_along(columns)) {
    written <- columns[[k]]
    back <- read[[k]]
    if (is.character(back) && identical(squeeze(back), squeeze(written$cells))) next
    value <- if (is.null(written$of)) back else written$of(back)
    same <- if (is.numeric(written$value)) {
      is.numeric(value) && isTRUE(all.equal(as.double(value), written$value, tolerance = 1e-12))
    } else {
      identical(squeeze(as.character(value)), squeeze(written$value))
    }
    if (!same) told(sprintf("column %s came back as %s", names(columns)[k], toString(utils::head(back[!back %in% written$cells], 4))))
  }
}

squeeze <- function(text) gsub("[[:space:]\u00a0]+", " ", trimws(text))

# A condition of any shape keeps the cases for which it is true (of a missing value it is neither), as told apart here one comparison at a time.
try_condition <- function() {
  n <- 30L
  data <- data.frame(
    x = round(rnorm(n), 1), g = sample(c("a", "b'c", "d e", NA), n, TRUE), when = as.Date("2024-01-01") + sample(90, n, TRUE)
  )
  leaf <- function() {
    switch(sample(5, 1),
      { v <- sample(data$x, 1); list(sprintf("x >= %s", format(v)), data$x >= v) },
      { v <- sample(data$x, 3); list(sprintf("x in (%s)", toString(format(v))), data$x %in% v) },
      list("g = 'b''c'", data$g == "b'c"),
      list("g is missing", is.na(data$g)),
      { v <- sample(data$when, 1); list(sprintf("when < '%s'", v), data$when < v) }
    )
  }
  grow <- function(depth) {
    if (depth == 0L || runif(1) < 0.2) return(leaf())
    if (runif(1) < 0.15) {
      inner <- grow(depth - 1L)
      return(list(sprintf("not (%s)", inner[[1]]), !inner[[2]]))
    }
    parts <- lapply(seq_len(sample(2:4, 1)), function(k) grow(depth - 1L))
    both <- runif(1) < 0.5
    text <- paste(sprintf("(%s)", vapply(parts, `[[`, "", 1)), collapse = if (both) " and " else " or ")
    list(text, Reduce(if (both) `&` else `|`, lapply(parts, `[[`, 2)))
  }
  asked <- grow(sample(4, 1))
  write.csv(data, "cases.csv", row.names = FALSE, na = "")
  kept <- tryCatch(read_study("cases.csv", where = asked[[1]]), unsere_error_input = function(e) e)
  if (inherits(kept, "error")) {
    if (!any(asked[[2]], na.rm = TRUE)) return("no case")
    stop("refused: ", conditionMessage(kept), " of ", asked[[1]])
  }
  if (!identical(as.data.frame(kept)$x, data$x[which(asked[[2]])])) stop("other cases by ", asked[[1]])
}
