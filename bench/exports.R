# Twelve exports of twelve habits, made for this purpose before a rule was written, read with no option given. Of every
# column
# it is known what it is; each is counted as right, as asked (left open and said, ready to copy), or as wrong.
library(unsere)

folder <- file.path("bench", "exports")

# What each column is: its role where it is no measure, else its level; `*` a question that the file cannot answer.
truth <- list(
  "questions.csv" = c("about", "ordinal", "ordinal", "nominal", rep("binary", 4), "numeric", "nominal"),
  "codes-above-questions.csv" = c(rep("about", 5), rep("ordinal", 4), "numeric"),
  "question-over-options.csv" = c("case", rep("binary", 3), rep("ordinal", 3), "numeric"),
  "german.csv" = c("about", "ordinal", "ordinal", "numeric", "binary"),
  "ends-in-words.csv" = c("case", "ordinal", "ordinal", "numeric"),
  "codes-only.csv" = c("case", "binary", "numeric", rep("ordinal*", 4), "numeric*"),
  "battery-in-brackets.csv" = c("case", "about", "about", rep("ordinal", 5), "about"),
  "bands.csv" = c("ordinal", "ordinal", "ordinal", "ordinal", "numeric"),
  "workbook.xlsx" = c("case", rep("ordinal", 3), "numeric", "binary"),
  "repeated-headings.csv" = c("case", "nominal", "ordinal", "nominal", "ordinal", "numeric"),
  "french.tsv" = c("about", "ordinal", "ordinal", "about", "numeric"),
  "commas.csv" = c("about", "about", "nominal", rep("binary", 4), "ordinal", "ordinal", "numeric", "nominal")
)
habits <- c(
  "questions as headings, answers in one cell", "codes above questions, a row for machines", "a question over its options",
  "German, decimal commas, windows-1252", "numbers with words at the ends", "codes only, 99 for no answer",
  "a battery in brackets, all quoted", "bands and class years", "a workbook with titles and two rows of headings",
  "repeated and nameless headings", "French, tabs, durations, percent", "answers parted by commas, currency, day/month/year"
)
cases <- c(48, 52, 44, 50, 60, 70, 55, 64, 40, 45, 46, 50)

rows <- lapply(seq_along(truth), function(k) {
  study <- read_study(file.path(folder, names(truth)[k]))
  book <- codebook(study)
  found <- ifelse(book$role == "measure", book$level, book$role)
  wanted <- sub("*", "", truth[[k]], fixed = TRUE)
  if (nrow(book) != length(wanted)) return(data.frame(
    file = names(truth)[k], columns = nrow(book), right = 0,
    asked = 0, wrong = nrow(book)
  ))
  said <- vapply(book$variable, function(name) {
    any(grepl(paste0(name, ": "), format(study$provenance$decisions), fixed = TRUE) & grepl(
      "until you say so|say which",
      format(study$provenance$decisions)
    ))
  }, NA)
  asked <- found != wanted & said | endsWith(truth[[k]], "*") & said
  wrong <- found != wanted & !asked
  if (any(wrong)) message(
    names(truth)[k], ": ",
    toString(sprintf("%s is %s, found %s", book$variable, wanted, found)[wrong])
  )
  data.frame(
    file = names(truth)[k], habit = habits[k], cases = if (nrow(study$data) == cases[k]) "all" else "LOST",
    columns = nrow(book), right = sum(!wrong & !asked), asked = sum(asked), wrong = sum(wrong)
  )
})
table <- do.call(rbind, rows)
options(width = 120)
print(table, row.names = FALSE, right = FALSE)
cat(sprintf(
  "\n%d columns: %d right, %d asked, %d wrong\n", sum(table$columns), sum(table$right), sum(table$asked), sum(table$wrong)
))
