# Claims that are counted, of the scripts beside this one; each ends in "N passed, N failed".
counts <- c(passed = 0L, failed = 0L)
claim <- function(what, holds) {
  holds <- isTRUE(tryCatch(holds, error = function(e) {
    message(what, ": ", conditionMessage(e))
    FALSE
  }))
  counts[[if (holds) "passed" else "failed"]] <<- counts[[if (holds) "passed" else "failed"]] + 1L
  if (!holds) cat("failed:", what, "\n")
}
end_claims <- function(what) {
  cat(sprintf("%s: %d passed, %d failed\n", what, counts[["passed"]], counts[["failed"]]))
  quit("no", if (counts[["failed"]]) 1L else 0L)
}
