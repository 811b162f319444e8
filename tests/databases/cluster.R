# Parts gathered by jobs of a batch system, against the same in turn; ends in "N passed, N failed".
# Rscript tests/databases/cluster.R TEMPLATE (of a job), with a Slurm that answers
suppressMessages(library(unsere))
template <- commandArgs(TRUE)[1]
source(file.path(dirname(sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE))), "claim.R"))
set.seed(8)
cases <- as.data.frame(matrix(rnorm(4e5), ncol = 8))
folder <- file.path(getwd(), "parts")
dir.create(folder)
for (k in 1:4) data.table::fwrite(cases[seq(k, nrow(cases), 4), ], file.path(folder, sprintf("part%d.csv", k)))
in_turn <- gather_moments(folder)
jobs_done <- function() {
  sum(grepl("JobState=COMPLETED", system2("scontrol", c("show", "job"), stdout = TRUE, stderr = FALSE)))
}

future::plan(future.batchtools::batchtools_slurm, template = template, workers = 2)
claim("four parts, each a job, join to the digits of one after the other", {
  identical(gather_moments(folder)$sums, in_turn$sums) && jobs_done() >= 4
})
claim("what a part holds wrongly is told with its name", {
  writeLines(c(paste0("V", 1:8, collapse = ","), "1,2,3,x,5,6,7,8"), file.path(folder, "part5.csv"))
  said <- tryCatch(gather_moments(folder), unsere_error_input = function(e) cli::ansi_strip(conditionMessage(e)))
  file.remove(file.path(folder, "part5.csv"))
  is.character(said) && grepl("part5.csv", said) && grepl("text", said)
})
claim("a job that dies is tried once more, and then told with its part", {
  # Parts are connections that jobs open: the second kills the first job that opens it, or every one.
  base <- file.path(getwd(), "base.sqlite")
  con <- DBI::dbConnect(RSQLite::SQLite(), base)
  DBI::dbWriteTable(con, "cases", cases[1:5000, ])
  DBI::dbDisconnect(con)
  opens <- function(mark, always) {
    force(mark)
    function() {
      if (!is.na(mark) && (always || !file.exists(mark))) {
        here <- Sys.getenv("SLURM_JOB_ID")
        if (nzchar(here)) {
          cat("x", file = mark, append = TRUE)
          tools::pskill(Sys.getpid(), 9)
          Sys.sleep(10)
        }
      }
      DBI::dbConnect(RSQLite::SQLite(), base)
    }
  }
  environment(opens) <- list2env(list(base = base), parent = globalenv())
  plain <- opens(NA, FALSE)
  once <- gather_moments(list(plain, opens(file.path(getwd(), "once"), FALSE)), "V1", "V2", table = "cases")
  said <- tryCatch(
    gather_moments(list(plain, opens(file.path(getwd(), "ever"), TRUE)), "V1", "V2", table = "cases"),
    unsere_error_input = function(e) e$said
  )
  cat("  told:", said, "\n")
  once$n == 10000 && is.character(said) && grepl("died", said) && file.size("ever") == 2
})
end_claims("Slurm")
