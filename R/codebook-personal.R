# Columns that look as if they told who a person is: names, e-mail, telephone, addresses, dates of birth, free text, network
# addresses. They are not measures, and stay out of what is handed on unless they are asked for.

personal_headings <- list(
  name = paste(
    "((first|last|full|family|given|middle|sur|fore|maiden|nick|pupil|student|learner|teacher|parent|respondent",
    "|participant|child|user)",
    "? ?names?( of (the )?(pupil|student|learner|teacher|parent|respondent|participant|child|sender))?)",
    "|vor-? ?(und )?(nach)?name|(nach|familien|zu)name|name,? ?vorname|vorname,? ?name|nom( de famille)?|pr\u00e9nom",
    "|nombre|apellidos?",
    "|nome|cognome|voornaam|achternaam",
    sep = ""
  ),
  email = "(.* )?e-?mails?( .*)?|e-?mail-?adresse|courriel|correo.*",
  telephone = paste0(
    "(.* )?(tele)?phone( ?(number|no))?|mobile( ?(number|phone))?|cell ?phone|tel|telefon(nummer)?|handy(nummer)?",
    "|t\u00e9l\u00e9phone|m\u00f3vil"
  ),
  address = paste(
    "((home|postal|street|mailing|residential) ?)?address( line)? ?[0-9]?|street( name)?|post ?code|postal ?code",
    "zip( ?code)?",
    "(wohn)?anschrift|adresse|stra\u00dfe|strasse|plz|postleitzahl|direcci\u00f3n|indirizzo|domicile",
    sep = "|"
  ),
  birth = paste0(
    "(date of birth|birth ?da(te|y)|dob|born( on)?|geburts(datum|tag)|geboren( am)?|date de naissance",
    "|fecha de nacimiento|data di nascita)"
  ),
  network = "(.* )?(ip|mac)([ -]?address|-?adresse)?"
)

personal_values <- list(
  email = "^[^@[:space:]]+@[^@[:space:]]+[.][[:alpha:]]{2,}$",
  telephone = "^(?![0-9]{1,2}([/.-])[0-9]{1,2}\\1[0-9]{2,4}$)(\\+|00|0)[0-9][0-9 ()/.-]{5,18}[0-9]$",
  network = "^([0-9]{1,3}([.][0-9]{1,3}){3}|([0-9a-f]{0,4}:){3,7}[0-9a-f]{0,4}|([0-9a-f]{2}[:-]){5}[0-9a-f]{2})$",
  address = paste0(
    "^([[:alpha:]][[:alpha:] .'-]*(street|st\\.|road|rd\\.|avenue|lane|drive",
    "|stra\u00dfe|strasse|str\\.|weg|platz|gasse|rue|via|calle).*[0-9]+.*",
    "|[0-9]+[a-z]? [[:alpha:]].*(street|st\\.?|road|rd\\.?|avenue|ave\\.?|lane|drive|way|court))$"
  )
)

#' Which columns look personal, and of what kind
#'
#' By what most of their values look like, or by a heading that says so of values that can be so: a heading "name" over few
#' different words is no list of persons.
#' @return A character vector by name of the column: `"name"`, `"email"`, `"telephone"`, `"address"`, `"birth"`, `"network"`,
#'   `"text"` (free text).
#' @noRd
personal_columns <- function(data, book) {
  kinds <- vapply(seq_along(data), function(k) {
    words <- gsub("[_.]+|(?<=[a-z])(?=[A-Z])", " ", c(names(data)[k], book$label[k]), perl = TRUE)
    personal_kind(data[[k]], tolower(trimws(words)))
  }, "")
  names(kinds) <- names(data)
  kinds[!is.na(kinds)]
}

personal_kind <- function(column, headings) {
  headings <- headings[!is.na(headings)]
  says <- vapply(personal_headings, function(pattern) any(grepl(paste0("^(", pattern, ")$"), headings, perl = TRUE)), NA)
  if (inherits(column, c("Date", "POSIXt"))) return(if (says[["birth"]]) "birth" else NA_character_)
  if (is.numeric(column) && !is.factor(column)) {
    # Digits alone tell nothing; a heading does.
    long <- says[["telephone"]] && any(column > 1e5, na.rm = TRUE)
    is_address <- long || says[["address"]] && !any(column %% 1 != 0, na.rm = TRUE)
    return(if (is_address) names(says)[says & names(says) %in% c("telephone", "address")][1] else NA_character_)
  }
  if (is.logical(column)) return(NA_character_)
  text <- trimws(as.character(column))
  text <- text[!is.na(text) & nzchar(text)]
  if (length(text) < 3L) return(NA_character_)
  sample <- text[even_places(length(text), 400L)]
  looks <- vapply(personal_values, function(pattern) mean(grepl(pattern, sample, ignore.case = TRUE, perl = TRUE)), 0)
  # A key of ten digits is no telephone number.
  keyed <- named_like(headings, code_words) | grepl("schl(\u00fc|ue)ssel|kennziffer|kennung|nummer", headings)
  if (any(keyed) && !says[["telephone"]]) looks[["telephone"]] <- 0
  if (any(looks >= 0.6)) return(names(looks)[which.max(looks)])
  distinct <- length(unique(sample)) / length(sample)
  lengths <- lengths(strsplit(sample, "[[:space:]]+"))
  if (distinct > 0.5 && stats::median(lengths) >= 5) return("text")
  worded <- mean(grepl("^[[:alpha:]][[:alpha:] .,'\u2019-]*$", sample)) > 0.8
  if (says[["name"]] && worded && distinct > 0.25 && length(unique(sample)) >= 8L) return("name")
  for (kind in c("email", "telephone", "network", "birth")) if (says[[kind]] && distinct > 0.5) return(kind)
  if (says[["address"]] && distinct > 0.3) return("address")
  if (distinct > 0.9 && mean(is_full_name(sample)) > 0.8) return("name")
  NA_character_
}

# "Ada Moreno", "Moreno, Ada".
is_full_name <- function(text) {
  word <- "[[:upper:]][[:alpha:]'\u2019-]+"
  grepl(sprintf("^%1$s,? (%2$s )*%1$s$", word, "(?:[[:upper:]][.]|von|van|de|da|di|del)"), text, perl = TRUE)
}

personal_words <- c(
  name = "names of persons", email = "e-mail addresses", telephone = "telephone numbers", address = "addresses",
  birth = "dates of birth", network = "network addresses", text = "free text"
)

personal_sentence <- function(personal) {
  if (!length(personal)) return(NULL)
  by <- split(names(personal), factor(personal, unique(personal)))
  parts <- Map(function(names, kind) joined(toString(names), " (", template(personal_words[[kind]]), ")"), by, names(by))
  c(personal = template(
    "appears personal: %s; not treated as a measure, and excluded from reports unless named",
    shown(unname(parts), "parts", "; ")
  ))
}
