command_demo <- function(words, options) {
  folder <- or_default(options$out, "unsere-demo")
  note(options, "Relating weekly practice and speaking score of the demo file learners.csv ...")
  writeLines(enc2native(format(relate_names(demo_study("learners"), "practice_hours", "speaking_score"))))
  note(options, "\nRunning the demo brief learners.yml ...")
  run_brief(demo_file("learners.yml"), out = folder, quiet = isTRUE(options$quiet))
  writeLines(c("", sprintf("The page: %s", file.path(folder, "report.html"))))
}
