# Files made at random, in every format and dialect, read back and compared value by value with what was written.

odd_words <- c("Ada", "O'Neil", "M\u00fcller", "a, b; c", "say \"no\"", "x\ty")

# A table and how each of its columns is to come back.
known_table <- function() {
  n <- sample(c(4, 7, 15, 60), 1)
  maker <- list(
    decimals = function() round(rnorm(n, 0, 20), 2), counts = function() as.double(sample(900, n, TRUE)),
    amounts = function() round(runif(n, 1000, 9e6), 2), shares = function() round(runif(n), 3),
    words = function() sprintf("%s %d", sample(odd_words, n, TRUE), seq_len(n)),
    answers = function() sample(c("yes", "no"), n, TRUE), dates = function() as.Date("2024-01-01") + sample(300, n)
  )
  kinds <- c("decimals", sample(names(maker), sample(2:5, 1), TRUE))
  data <- as.data.frame(lapply(kinds, function(kind) maker[[kind]]()))
  names(data) <- make.unique(sample(c("x", "score b", "z_1", "gr\u00f6\u00dfe", "item (a)", "t"), length(kinds)), "_")
  for (k in which(kinds %in% c("decimals", "words"))) if (runif(1) < 0.4) data[[k]][sample(n, 1)] <- NA
  list(data = data, kinds = kinds)
}

quoted <- function(text) paste0("\"", gsub("\"", "\"\"", text, fixed = TRUE), "\"")

# A column as text in a dialect.
column_text <- function(column, kind, dialect) {
  text <- as.character(column)
  if (is.numeric(column)) {
    big <- if (kind == "amounts" && dialect$grouped) if (dialect$decimal == ".") "," else "." else ""
    text <- vapply(column, function(v) {
      money <- kind == "amounts"
      cell <- formatC(v, digits = if (money) 2 else 15, format = if (money) "f" else "fg", big.mark = big)
      if (dialect$decimal == ".") return(cell)
      if (big == ".") sub("[.](?=[0-9]{2}$)", ",", cell, perl = TRUE) else sub(".", ",", cell, fixed = TRUE)
    }, "")
  }
  text[is.na(column)] <- dialect$missing
  text <- trimws(text)
  needs <- dialect$quote_all | grepl(dialect$mark, text, fixed = TRUE) | grepl("\"", text,
    fixed = TRUE
  ) | grepl("^\\s|\\s$", text)
  ifelse(needs, quoted(text), text)
}

write_dialect <- function(table, path) {
  mark <- sample(c(",", ";", "\t", "|"), 1)
  decimal <- if (mark == ",") "." else sample(c(".", ","), 1)
  dialect <- list(
    mark = mark, decimal = decimal, grouped = mark != "," && runif(1) < 0.4 || mark == "," && runif(1) < 0.2,
    quote_all = runif(1) < 0.3, missing = sample(c("", "NA", "-", "n/a"), 1)
  )
  cells <- Map(function(column, kind) column_text(column, kind, dialect), table$data, table$kinds)
  rows <- do.call(paste, c(unname(cells), sep = mark))
  head <- paste(quoted(names(table$data)), collapse = mark)
  if (runif(1) < 0.2) rows <- paste0(rows, mark)
  ends_empty <- endsWith(rows[1], paste0(mark)) && !dialect$quote_all
  titles <- if (runif(1) < 0.3) c(
    "A survey of readers",
    sample(c("", "made up"), 1)
  ) else if (runif(1) < 0.15) rep("# a remark", 40)
  notes <- if (runif(1) < 0.3) c("", "Source: nobody")
  gaps <- if (runif(1) < 0.2) sample(length(rows), 1)
  if (!is.null(gaps)) rows <- append(rows, strrep(mark, ncol(table$data) - 1L), gaps)
  text <- paste(c(titles, head, rows, notes), collapse = sample(c("\n", "\n", "\r\n"), 1))
  encoding <- sample(c("UTF-8", "UTF-8", "latin1", "UTF-16LE"), 1)
  bytes <- iconv(paste0(if (encoding == "UTF-16LE" || encoding == "UTF-8" && runif(1) < 0.2) "\ufeff", text, "\n"),
    "UTF-8", encoding,
    toRaw = TRUE
  )[[1]]
  writeBin(bytes, path)
  dialect
}

# Columns set by two blanks or more; a table of a web page among others.
write_aligned <- function(table, path) {
  cells <- lapply(table$data, function(column) {
    text <- if (is.numeric(column)) formatC(column, digits = 15, format = "fg") else gsub("\t", " ", column)
    trimws(ifelse(is.na(column), "NA", text))
  })
  cells <- Map(c, names(table$data), cells)
  padded <- lapply(cells, function(text) formatC(text, width = max(nchar(text)) * sample(c(-1, 1), 1)))
  writeLines(enc2utf8(do.call(paste, c(unname(padded), sep = "  "))), path, useBytes = TRUE)
}

write_page <- function(table, path) {
  cell <- function(text, tag = "td") sprintf("<%s>%s</%s>", tag, htmltools::htmlEscape(text), tag)
  cells <- lapply(table$data, function(column) {
    text <- if (is.numeric(column)) format(column, digits = 15, trim = TRUE) else as.character(column)
    cell(ifelse(is.na(column), "", text))
  })
  rows <- c(paste(cell(names(table$data), "th"), collapse = ""), do.call(paste0, unname(cells)))
  menu <- "<html><body><table><tr><td>menu</td></tr></table><table>"
  page <- c(menu, sprintf("<tr>%s</tr>", rows), "</table></body></html>")
  writeLines(enc2utf8(sub("<html>", "<html><meta charset=\"utf-8\">", page)), path, useBytes = TRUE)
}

write_known <- function(table, path) {
  switch(tools::file_ext(path),
    csv = return(write_dialect(table, path)),
    gz = {
      plain <- sub("[.]gz$", "", path)
      dialect <- write_dialect(table, plain)
      packed <- gzfile(path, "wb")
      writeBin(readBin(plain, "raw", file.size(plain)), packed)
      close(packed)
      return(dialect)
    },
    txt = write_aligned(table, path),
    html = write_page(table, path),
    xlsx = openxlsx::write.xlsx(table$data, path, startRow = sample(c(1, 3), 1)),
    ods = readODS::write_ods(table$data, path),
    parquet = nanoparquet::write_parquet(table$data, path),
    json = writeLines(jsonlite::toJSON(table$data, digits = NA, na = "null"), path)
  )
  list()
}

known_endings <- c(rep(".csv", 3), ".csv.gz", ".txt", ".html", ".xlsx", ".ods", ".parquet", ".json")

# Values compared one by one; what cannot be told for certain may be refused, never changed.
try_file <- function() {
  table <- known_table()
  path <- tempfile("known", folder, sample(known_endings, 1))
  dialect <- write_known(table, path)
  if (runif(1) < 0.3 && length(dialect)) {
    study <- tryCatch(read_study(path, decimal = dialect$decimal, delimiter = dialect$mark),
      unsere_error_input = function(e) e
    )
  } else {
    study <- tryCatch(read_study(path), unsere_error_input = function(e) e)
  }
  told <- function(what) {
    stop(what, " in ", basename(path), ": ", paste(utils::capture.output(dput(list(table, dialect))), collapse = ""))
  }
  if (inherits(study, "error")) {
    if (grepl("no other cell says which|has another number|fields where", conditionMessage(study))) return("refused")
    told(paste("refused:", conditionMessage(study)))
  }
  read <- as.data.frame(study)
  data <- table$data
  if (nrow(read) != nrow(data)) told(sprintf("%d cases for %d", nrow(read), nrow(data)))
  if (!identical(names(read), names(data))) told("other names")
  for (k in seq_along(data)) {
    a <- data[[k]]
    b <- read[[k]]
    same <- if (is.numeric(a)) {
      is.numeric(b) && isTRUE(all.equal(as.double(a), as.double(b), tolerance = 1e-12))
    } else {
      identical(gsub("[[:space:]]+", " ", as.character(a)), gsub("[[:space:]]+", " ", as.character(b)))
    }
    if (!same) told(sprintf("column %s came back as %s", names(data)[k], paste(utils::head(format(b), 4), collapse = " ")))
  }
  if (length(dialect)) {
    numeric <- names(data)[vapply(data, is.numeric, NA)]
    if (length(numeric) > 1L) {
      whole <- correlation_matrix(study, tidyselect::all_of(numeric), coefficient = "pearson")$pairs
      parts <- tryCatch(correlation_matrix(gather_moments(path, numeric, chunk_rows = 5))$pairs,
        unsere_error = function(e) NULL
      )
      if (!is.null(parts) && !isTRUE(all.equal(whole$r, parts$r, tolerance = 1e-9))) told("r from chunks differs")
    }
  }
}

# The same figures with years across or with names in a column, rows in any order, come back as they would have been.
try_turned <- function() {
  units <- sample(c(1, 2, 6), 1)
  times <- sample(3:12, 1)
  kinds <- sample(c("Visits", "Loans per head", "Share (%)", "Gr\u00f6\u00dfe", "a, b"), sample(2:4, 1))
  known <- expand.grid(year = 2000L + seq_len(times), unit = LETTERS[seq_len(units)], stringsAsFactors = FALSE)
  for (kind in kinds) known[[kind]] <- round(rnorm(nrow(known), 50, 20), 2)
  rows <- expand.grid(at = seq_len(units), kind = kinds, stringsAsFactors = FALSE)
  across <- one(c(TRUE, FALSE))
  if (across) {
    cells <- t(mapply(function(at, kind) known[[kind]][known$unit == LETTERS[at]], rows$at, rows$kind))
    table <- data.frame(Centre = LETTERS[rows$at], Indicator = rows$kind, cells)
    names(table)[-(1:2)] <- paste0(sample(c("", "X"), 1), unique(known$year))
    if (units == 1 && runif(1) < 0.5) table$Centre <- NULL
  } else {
    table <- do.call(rbind, lapply(kinds, function(kind) {
      data.frame(Centre = known$unit, Year = known$year, Indicator = kind, Value = known[[kind]])
    }))
  }
  path <- tempfile("turned", folder, sample(known_endings, 1))
  write_known(list(data = table[sample(nrow(table)), ], kinds = rep("words", ncol(table))), path)
  read <- as.data.frame(read_study(path))
  year <- match("year", tolower(names(read)))
  place <- match(
    paste(if ("Centre" %in% names(read)) read$Centre else "A", read[[year]]), paste(known$unit, known$year)
  )
  told <- function(what) stop(what, " in ", basename(path), ": ", paste(utils::capture.output(dput(table)), collapse = ""))
  if (nrow(read) != nrow(known) || anyNA(place) || anyDuplicated(place)) told("other cases")
  for (kind in kinds) if (!isTRUE(all.equal(as.double(read[[kind]]), known[[kind]][place]))) told(paste("other", kind))
}
