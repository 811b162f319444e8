# Columns that tell of the response and not of the person: when and from where a form was sent, how long it took, what the
# program that gathered it noted. They keep out of matrices.

about_words <- list(
  # When.
  paste(
    "time ?stamp", "(start|end|finish|begin)(ed|ing)? ?(time|date|at|on)", "(begun|begin|began|ended|started)",
    "(date|time|datum|zeit) ?(of )?(submission|completion|submitted|completed|sent|created|recorded)",
    "(sent|submitted|completed|created|updated|recorded|received|modified)( ?(at|on|date|time))?",
    "(answered|responded|filled in)( ?(at|on|date|time))?",
    "(created|updated|recorded|last seen|last modified) ?date", "zeitstempel", "(start|end)zeit(punkt)?", "abgesendet( am)?",
    "ausgef\u00fcllt( am)?", "horodat(eur|age)", "date d'(envoi|enregistrement)", "envoy\u00e9 le", "marca temporal",
    "fecha de env\u00edo", "enviado( el| em)?", "informazioni cronologiche", "inviato il", "carimbo de data ?/? ?hora",
    "tijdstempel", "verzonden op",
    sep = "|"
  ),
  # Where from, by what, and how far.
  paste(
    "ip( ?address)?", "ip-?adresse?", "adresse ip", "direcci\u00f3n ip", "indirizzo ip", "endere\u00e7o ip",
    "(location )?(latitude|longitude)", "user ?agent", "browser", "operating system", "device( type)?",
    "screen ?(size|width|height)",
    "referr?er( url)?", "(start|user|survey|form) ?language", "(distribution )?channel", "collector( id)?",
    "session( id)?", "token",
    "seed", "(last|pages?) ?(page|seen|viewed)", "finished", "complete(d)?", "progress", "status", "response ?(type|status)",
    "e-?mail( address)?", "e-?mail-?adresse", "courriel", "correo( electr\u00f3nico)?",
    "(indirizzo|endere\u00e7o de) e-?mail",
    "(user|full|first|last)? ?name of (the )?(sender|respondent)", "external (data )?reference",
    sep = "|"
  ),
  # How long.
  paste(
    "(total |completion |response |interview )?(time|duration)( taken| spent| to complete)?( \\(?in \\w+\\)?)?",
    "(duration|seconds|minutes)( \\(?in \\w+\\)?)?", "(total|completion|response|interview) ?time",
    "time (taken|spent|to complete)",
    "(bearbeitungs|gesamt|ausf\u00fcll)?(zeit|dauer)", "dur\u00e9e( totale)?", "temps (total|pass\u00e9)",
    "duraci\u00f3n", "durata",
    "dura\u00e7\u00e3o", "duur",
    sep = "|"
  )
)

#' Whether headings, or their labels, say that the columns are about the response
#' @return For each which of `about_words` says so, or 0.
#' @noRd
about_kind <- function(names, labels) {
  plain <- function(texts) tolower(trimws(gsub("[_.]+|(?<=[a-z])(?=[A-Z])", " ", texts, perl = TRUE)))
  kind <- integer(length(names))
  for (texts in list(plain(labels), plain(names))) {
    for (k in rev(seq_along(about_words))) kind[grepl(paste0("^(", about_words[[k]], ")$"), texts, perl = TRUE)] <- k
  }
  kind
}

#' The variables about the response, where others show that the file is a form's
#'
#' "status" or "time" alone may be what is studied; beside a time stamp, an address or several of their kind they are not. A
#' time in even steps is that of a series.
#' @param book A codebook whose roles are found already; `declared` whose roles were given.
#' @return A logical vector.
#' @noRd
about_response <- function(data, book, declared) {
  kind <- about_kind(book$variable, book$label)
  stamps <- kind == 1L & vapply(data, is_moment, NA)
  even <- stamps
  even[stamps] <- vapply(data[stamps], even_moments, NA)
  sure <- stamps & !even | kind == 2L & grepl("ip|user ?agent|stamp", tolower(book$variable))
  # A form has more than one such column, or a stamp for when each answer came.
  if (!any(sure) && (any(even) || sum(kind > 0L) < 3L)) return(rep(FALSE, nrow(book)))
  kind > 0L & !declared & !even & book$role != "case"
}

is_moment <- function(column) inherits(column, c("Date", "POSIXt")) || is.character(column) && all(is.na(column))

#' Whether times are those of a series: as far from each other, but for some that are missing, and each as often
#' @noRd
even_moments <- function(column) {
  if (!inherits(column, c("Date", "POSIXt"))) return(FALSE)
  at <- sort(as.numeric(column))
  often <- rle(at)$lengths
  steps <- diff(unique(at))
  if (length(steps) < 1L || mean(often == stats::median(often)) < 0.9) return(FALSE)
  if (diff(range(steps)) <= 0.12 * stats::median(steps)) return(TRUE)
  # Hours and business days: whole multiples of one step, most of which are there.
  whole <- abs(steps / min(steps) - round(steps / min(steps))) < 1e-6
  length(steps) >= 8L && all(whole) && length(steps) / (sum(steps) / min(steps)) >= 0.5
}

about_sentence <- function(names) {
  if (!length(names)) return(NULL)
  shown <- paste(names[seq_len(min(8L, length(names)))], collapse = ", ")
  if (length(names) > 8L) shown <- template("%s and %d more", shown, length(names) - 8L)
  c(about = template("%s: about the response, not the person (role about); excluded from matrices", shown))
}
