# Work over the parts of a source: by the workers that are set, else in turn; kept as it goes, and in a fixed order.

#' @param parts From [parts_of()]; `work` from a part to its result.
#' @param keep A folder for finished parts, or `NULL`; `skip` whether a part that fails is left out.
#' @param key What else the result rests on.
#' @return A list: `results` in the order of the parts (`NULL` where left out), `skipped`, their names.
#' @noRd
over_parts <- function(parts, work, keep, skip, key) {
  saved <- kept_parts(parts, keep, key)
  open <- which(vapply(saved$results, is.null, NA))
  done <- run_parts(parts[open], work)
  for (k in seq_along(open)) {
    result <- done[[k]]
    if (inherits(result, "part_failure")) {
      if (skip) next
      name <- parts[[open[k]]]$name
      named <- length(parts) == 1L || grepl(name, in_english(result$problem), fixed = TRUE)
      abort_input(if (named) result$problem else problem("%s: %s", name, result$problem), result$hint)
    }
    saved$results[open[k]] <- list(result)
    if (!is.null(keep)) keep_part(result, saved$files[open[k]])
  }
  failed <- vapply(done, inherits, NA, "part_failure")
  list(results = saved$results, skipped = vapply(parts[open][failed], `[[`, "", "name"))
}

# Put in place whole: half a part would be none.
keep_part <- function(result, file) {
  draft <- paste0(file, "-draft")
  on.exit(unlink(draft))
  saveRDS(result, draft)
  settle_file(draft)
  file.rename(draft, file)
}

# What an earlier run of the same question has finished.
kept_parts <- function(parts, keep, key) {
  results <- vector("list", length(parts))
  if (is.null(keep)) return(list(results = results))
  dir.create(keep, recursive = TRUE, showWarnings = FALSE)
  if (!dir.exists(keep)) abort_input(problem("The folder %s cannot be created.", keep), "Name another folder for `keep`.")
  table <- paste(format_table(or_default(key$table, "")))
  key_text <- paste(c(key$wanted, unlist(key$codes), key$where, table, "2"), collapse = "\r")
  files <- file.path(keep, vapply(parts, function(part) {
    paste0(substr(cli::hash_sha256(paste(part_mark(part), key_text)), 1, 24), ".rds")
  }, ""))
  for (k in which(file.exists(files))) {
    results[k] <- list(tryCatch(readRDS(files[k]), error = function(e) NULL))
  }
  list(results = results, files = files)
}

#' Each part by a worker, or in turn; one that fails by its worker's death is tried once more
#' @noRd
run_parts <- function(parts, work) {
  safely <- function(part) {
    tryCatch(work(part), unsere_error = function(e) structure(e[c("problem", "hint")], class = "part_failure"))
  }
  movable <- length(parts) > 1L && !any(vapply(parts, function(part) !is.null(part$connection) || part$kind == "chunks", NA))
  if (movable && has_daemons()) return(by_daemons(parts, safely))
  if (movable && has_plan()) {
    ask <- function(part) {
      future::future(safely(part), globals = list(safely = safely, part = part), packages = "unsere", seed = NULL)
    }
    started <- lapply(parts, ask)
    return(lapply(seq_along(parts), function(k) {
      # A worker that died: once elsewhere, then told.
      tryCatch(future::value(started[[k]]), error = function(e) {
        tryCatch(future::value(ask(parts[[k]])), error = died)
      })
    }))
  }
  lapply(parts, safely)
}

has_daemons <- function() {
  "mirai" %in% loadedNamespaces() &&
    isTRUE(tryCatch(sum(as.integer(mirai::status()$connections)) > 0, error = function(e) FALSE))
}

has_plan <- function() {
  "future" %in% loadedNamespaces() && !inherits(future::plan(), "sequential")
}

by_daemons <- function(parts, safely) {
  ask <- function(part) {
    mirai::mirai(
      {
        loadNamespace("unsere")
        safely(part)
      },
      safely = safely,
      part = part
    )
  }
  started <- lapply(parts, ask)
  lapply(seq_along(parts), function(k) {
    answer <- mirai::call_mirai(started[[k]])$data
    # A worker that died: once elsewhere, then told.
    if (mirai::is_error_value(answer)) answer <- mirai::call_mirai(ask(parts[[k]]))$data
    if (mirai::is_error_value(answer)) died(simpleError(paste(as.character(answer), collapse = " "))) else answer
  })
}

died <- function(e) {
  structure(list(problem = problem("The worker died (%s).", first_line(conditionMessage(e))), hint = "Run this again."),
    class = "part_failure"
  )
}
