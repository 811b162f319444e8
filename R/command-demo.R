command_demo <- function(words, options) {
  folder <- or_default(options$out, "unsere-demo")
  if (file.exists(folder) && !dir.exists(folder)) abort_input(sprintf("%s is a file, not a folder.", folder),
    "Give --out another name.")
  if (!dir.exists(folder) && !dir.create(folder, recursive = TRUE, showWarnings = FALSE)) {
    abort_input(sprintf("The folder %s cannot be made.", folder), "Give --out another place.")
  }
  note(options, "Reading the demo file learners.csv ...")
  study <- demo_study("learners")
  note(options, "Relating weekly practice and speaking score ...")
  writeLines(enc2native(format(relate_names(study, "practice_hours", "speaking_score"))))
  note(options, "Writing the page ...")
  page <- write_report_names(study, file.path(folder, "report.html"), "practice_hours", "speaking_score",
    title = "Practice and speaking at the evening school",
    question = "Does weekly practice go with a higher speaking score?"
  )
  writeLines(c("", sprintf("The page: %s", page)))
}
