# Codebooks as the survey archives keep them: DDI-Codebook 2.5 (XML), read and written.

ddi_space <- "ddi:codebook:2_5"

#' The entries of a DDI codebook
#'
#' Read without network, without external parts, and not at all where the file defines entities.
#' @return A data frame as from a CSV codebook, with the attribute `labels`: by variable, codes named by their labels.
#' @noRd
read_codebook_ddi <- function(path) {
  document <- read_plain_xml(path)
  variables <- xml2::xml_find_all(document, ".//*[local-name()='dataDscr']/*[local-name()='var']")
  if (!length(variables)) {
    abort_input(problem("%s describes no variable.", file_name(path)), "A DDI codebook has them under dataDscr as var.")
  }
  entries <- lapply(variables, ddi_entry)
  book <- do.call(rbind, lapply(entries, `[[`, "entry"))
  labels <- stats::setNames(lapply(entries, `[[`, "labels"), book$variable)
  structure(book, labels = Filter(Negate(is.null), labels))
}

read_plain_xml <- function(path) {
  need_package("xml2", "to read codebooks in XML")
  head <- readBin(path, "raw", 65536)
  if (any(grepRaw("<!ENTITY", head, fixed = TRUE), 0L)) {
    abort_input(problem("%s defines entities of its own; it is not opened.", file_name(path)), "Save it without them.")
  }
  tryCatch(xml2::read_xml(path, options = c("NONET", "NOBLANKS")), error = function(e) {
    abort_input(problem("%s cannot be read as XML.", file_name(path)), first_line(conditionMessage(e)))
  })
}

ddi_entry <- function(node) {
  find <- function(name) xml2::xml_find_all(node, sprintf("./*[local-name()='%s']", name))
  text_of <- function(nodes) if (length(nodes)) trimws(xml2::xml_text(nodes[[1]])) else NA_character_
  attribute <- function(name) xml2::xml_attr(node, name)
  question <- text_of(xml2::xml_find_all(node, "./*[local-name()='qstn']/*[local-name()='qstnLit']"))
  label <- text_of(xml2::xml_find_all(node, "./*[local-name()='labl'][not(@level='short')]"))
  categories <- ddi_categories(find("catgry"))
  gone <- ddi_missing(node)
  nature <- attribute("nature")
  level <- if (nature %in% c("nominal", "ordinal")) nature else if (nature %in% c(
    "interval", "ratio",
    "percent"
  )) "numeric" else
    NA_character_
  if (is.na(level) && attribute("intrvl") %in% "contin") level <- "numeric"
  named <- categories[!categories$missing, ]
  # Words of an order that are no answer stand with the order, codes with the codes.
  apart <- if (level %in% "ordinal") categories$code[categories$missing & is.na(categories$number)]
  gone <- setdiff(c(gone, categories$code[categories$missing]), apart)
  if (level %in% "nominal" && nrow(named) == 2L) level <- "binary"
  role <- if (!is.na(attribute("wgt"))) "weight" else ddi_note(node, "role")
  list(
    entry = data.frame(
      variable = attribute("name"), label = if (is.na(label)) question else label, short = ddi_short(node),
      unit = attribute("measUnit"),
      level = if (is.na(ddi_note(node, "level"))) level else ddi_note(node, "level"), role = role,
      missing_codes = or_na(paste(unique(gone), collapse = ";")),
      source = if (is.na(label)) NA_character_ else question,
      values = if (level %in% "ordinal" && nrow(named) > 1L) paste(c(ddi_order(named), apart),
        collapse = "; "
      ) else NA_character_,
      range = ddi_range(node)
    ),
    labels = if (nrow(named) && !level %in% "ordinal" && !anyNA(named$number)) stats::setNames(named$number, named$label)
  )
}

or_na <- function(text) if (nzchar(text)) text else NA_character_

ddi_categories <- function(nodes) {
  inner <- function(name) {
    vapply(nodes, function(node) {
      first_found <- xml2::xml_find_first(node, sprintf("./*[local-name()='%s']", name))
      if (inherits(first_found, "xml_missing")) NA_character_ else trimws(xml2::xml_text(first_found))
    }, "")
  }
  code <- inner("catValu")
  label <- inner("labl")
  missing <- toupper(substr(xml2::xml_attr(nodes, "missing"), 1, 1)) %in% "Y"
  out <- data.frame(
    code = as.character(code), number = suppressWarnings(as.numeric(code)),
    label = as.character(ifelse(is.na(label), code, label)), missing = missing
  )
  out[!is.na(out$code), ]
}

ddi_order <- function(categories) {
  if (anyNA(categories$number)) return(paste(spell_words(categories$code), collapse = " < "))
  categories <- categories[order(categories$number), ]
  order_text(categories$number, ifelse(categories$label == categories$code, NA, categories$label))
}

#' What a variable declares as invalid: single values, and ranges of whole numbers
#' @noRd
ddi_missing <- function(node) {
  items <- xml2::xml_find_all(node, "./*[local-name()='invalrng']/*[local-name()='item']")
  ranges <- xml2::xml_find_all(node, "./*[local-name()='invalrng']/*[local-name()='range']")
  ends <- cbind(xml2::xml_attr(ranges, "min"), xml2::xml_attr(ranges, "max"))
  c(xml2::xml_attr(items, "VALUE"), if (nrow(ends)) paste(ends[, 1], ends[, 2], sep = "-"))
}

ddi_range <- function(node) {
  valid <- xml2::xml_find_first(node, "./*[local-name()='valrng']/*[local-name()='range']")
  ends_of(xml2::xml_attr(valid, "min"), xml2::xml_attr(valid, "max"))
}

ddi_short <- function(node) ddi_text(node, "labl", "level", "short")

ddi_note <- function(node, type) ddi_text(node, "notes", "type", type)

#' The text of the first child of a name with an attribute of some value
#' @noRd
ddi_text <- function(node, name, attribute, value) {
  first_found <- xml2::xml_find_first(node, sprintf("./*[local-name()='%s'][@%s='%s']", name, attribute, value))
  if (inherits(first_found, "xml_missing")) NA_character_ else trimws(xml2::xml_text(first_found))
}

#' A codebook as DDI
#' @param book Its entries; `title` of the study.
#' @noRd
codebook_as_ddi <- function(book, title) {
  need_package("xml2", "to write codebooks in XML")
  root <- xml2::xml_new_root("codeBook", xmlns = ddi_space, version = "2.5")
  study <- xml2::xml_add_child(root, "stdyDscr")
  statement <- xml2::xml_add_child(xml2::xml_add_child(study, "citation"), "titlStmt")
  xml2::xml_add_child(statement, "titl", title)
  data <- xml2::xml_add_child(root, "dataDscr")
  for (k in seq_len(nrow(book))) add_ddi_variable(data, as.list(book[k, ]), k)
  root
}

add_ddi_variable <- function(data, entry, number) {
  nature <- c(ordinal = "ordinal", nominal = "nominal", binary = "nominal", numeric = "interval")[[entry$level]]
  attributes <- list(ID = sprintf("V%d", number), name = entry$variable, nature = nature)
  attributes$intrvl <- if (entry$level == "numeric") "contin" else "discrete"
  if (!is.na(entry$unit)) attributes$measUnit <- entry$unit
  if (entry$role == "weight") attributes$wgt <- "wgt"
  node <- do.call(xml2::xml_add_child, c(list(data, "var"), attributes))
  if (!is.na(entry$label)) xml2::xml_add_child(node, "labl", entry$label)
  if (!is.na(entry$short)) xml2::xml_add_child(node, "labl", entry$short, level = "short")
  if (!is.na(entry$source)) xml2::xml_add_child(xml2::xml_add_child(node, "qstn"), "qstnLit", entry$source)
  if (!is.na(entry$range)) {
    ends <- format_code(parse_range(entry$range, entry$variable))
    xml2::xml_add_child(xml2::xml_add_child(node, "valrng"), "range", min = ends[1], max = ends[2])
  }
  codes <- if (!is.na(entry$missing_codes)) trimws(strsplit(entry$missing_codes, ";", fixed = TRUE)[[1]])
  if (length(codes)) {
    invalid <- xml2::xml_add_child(node, "invalrng")
    for (code in codes) xml2::xml_add_child(invalid, "item", VALUE = code)
  }
  if (!is.na(entry$values)) {
    values <- parse_order(entry$values, entry$variable)
    shown <- if (is.null(values$codes)) values$order else format_code(values$codes)
    for (k in seq_along(shown)) add_category(node, shown[k], if (values$order[k] != shown[k]) values$order[k])
    for (word in values$apart) add_category(node, word, NULL, missing = "Y")
  }
  xml2::xml_add_child(node, "notes", entry$role, type = "role")
  xml2::xml_add_child(node, "notes", entry$level, type = "level")
}

add_category <- function(node, code, label, ...) {
  category <- xml2::xml_add_child(node, "catgry", ...)
  xml2::xml_add_child(category, "catValu", code)
  if (!is.null(label)) xml2::xml_add_child(category, "labl", label)
}
