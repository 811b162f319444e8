# How many scales of words the recogniser puts in their order: those written before its rules, and those that no rule was
# tuned on; of words without an order, how many it leaves alone. bench/scales/*.txt hold them.
library(unsere)
shares <- NULL
for (file in c("first", "second", "third", "fourth", "fifth")) {
  lines <- readLines(file.path("bench", "scales", paste0(file, ".txt")), encoding = "UTF-8")
  lines <- strsplit(lines[!startsWith(lines, "#")], " | ", fixed = TRUE)
  outcome <- vapply(lines, function(line) {
    turned <- grepl(" > ", line[3], fixed = TRUE)
    words <- trimws(strsplit(line[3], if (line[1] == "?") ";" else "(?<= )[<>](?= )", perl = TRUE)[[1]])
    found <- unsere:::order_scale(sort(words))$order
    if (line[1] == "?") return(if (is.null(found)) "left alone" else "guessed")
    if (is.null(found)) return("asked")
    if (identical(found, if (turned) rev(words) else words)) return("right")
    "wrong"
  }, "")
  cat(sprintf("%s: %s\n", file, paste(names(table(outcome)), table(outcome), collapse = ", ")))
  for (k in which(outcome %in% c("asked", "wrong", "guessed"))) {
    cat(" ", outcome[k], ":", paste(lines[[k]], collapse = " | "), "\n")
  }
}
