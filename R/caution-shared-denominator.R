#' Two ratios with one denominator
#' @noRd
caution_shared_denominator <- function() {
  new_caution("shared_denominator",
    place = 9, check = check_denominator, meaning = "Ratios with a common denominator.",
    evidence = function(f, pair) {
      if (is.null(f$held)) {
        return(template(
          "Ratios with a common denominator: both are rates per %s, which alone can make them correlate.",
          f$base
        ))
      }
      template(
        if (f$stands) {
          paste(
            "Ratios with a common denominator: both are divided by %s. Controlling for it, the counts have r = %s",
            "(%s): it does not account for the correlation."
          )
        } else {
          "Ratios with a common denominator: both are divided by %s. Controlling for it, the counts have r = %s (%s)."
        }, shown(f$base, "label"), shown(f$held, "r"), shown(f$p, "p")
      )
    },
    advice = function(f, pair) template("Relate the counts themselves, or control for their denominator."),
    clause = function(f, digits) {
      template(
        "Both are divided by %s; controlling for it, the counts had r = %s (%s).", shown(f$base, "label"),
        shown(f$held, "r", digits), shown(f$p, "p")
      )
    }
  )
}

#' Two rates of one base: divided by a column of the study, as their digits show, or by their units or names
#'
#' What both are divided by makes them go together by itself. Where the base is at hand, the counts are looked at with it
#' controlled for.
#' @noRd
check_denominator <- function(sample, evidence) {
  columns <- evidence$once$columns
  base <- if (length(columns) > 2L) shared_base(columns)
  if (!is.null(base)) return(divided_by(base, sample, evidence))
  bases <- bases_said(sample$variables)
  if (anyNA(bases) || bases[1] != bases[2]) return(NULL)
  list(new_finding("shared_denominator", "warning", list(base = bases[1])))
}

divided_by <- function(base, sample, evidence) {
  by <- as.double(sample$more$numbers_at(base, sample$row)[[1]])
  known <- which(!is.na(by))
  counts <- lapply(list(sample$x, sample$y), function(rate) rate[known] * by[known])
  partial <- tryCatch(measure_partial(counts[[1]], counts[[2]], cbind(by[known])), unsere_error = function(e) NULL)
  if (is.null(partial)) return(NULL)
  p <- p_of_r(partial$r, length(known) - 3)
  gone <- evidence$p < evidence$alpha && (p >= evidence$alpha || sign(partial$r) != sign(evidence$r))
  less <- abs(atanh(clip(partial$r))) < abs(atanh(clip(evidence$r))) - 0.1
  severity <- if (gone) "serious" else if (less) "warning" else "note"
  list(new_finding("shared_denominator", severity, list(base = base, held = partial$r, p = p, stands = !gone && !less)))
}

#' What each is a rate of, by its unit, else its label or name: "cases per 1000 residents", "cost_per_pupil"
#'
#' So much a week is no such rate: all have the same week.
#' @noRd
bases_said <- function(variables) {
  per <- "^.*?\\b(?:per|pro|je|par|por)\\b\\s*"
  base <- rep(NA_character_, nrow(variables))
  for (texts in list(variables$unit, variables$label, gsub("[_.]", " ", variables$variable))) {
    texts <- tolower(trimws(ifelse(is.na(texts), "", texts)))
    open <- is.na(base) & grepl(paste0(per, "[[:alnum:]]"), texts, perl = TRUE)
    base[open] <- sub(per, "", texts[open], perl = TRUE)
  }
  base <- trimws(sub("[])]+$", "", base))
  base[grepl(paste0("^(an?|une?|eine?[mnrs]?)? ?", even_bases), base, perl = TRUE)] <- NA
  base
}

even_bases <- paste0(
  "([0-9.,]+ ?)?(seconds?|secs?|s|minutes?|mins?|hours?|hrs?|h|days?|d|nights?|weeks?|wk|months?|terms?|semesters?|",
  "quarters?|years?|yr|sekunden?|stunden?|std|tage?|wochen?|monate?|jahre?|heures?|jours?|semaines?|mois|ans?|",
  "ann\u00e9es?|horas?|d\u00edas?|dias?|semanas?|mes(es)?|a\u00f1os?|anos?|cent|hundert|se)$"
)
