# Oracles that share nothing with the package: definitions written out longhand, in exact fractions and 400 bits.

exact <- function(x) gmp::as.bigq(x)

big <- function(q) {
  Rmpfr::mpfr(gmp::numerator(q), 400) / Rmpfr::mpfr(gmp::denominator(q), 400)
}

longhand <- function(x, y) {
  n <- length(x)
  x <- exact(x)
  y <- exact(y)
  sum_of <- function(v) Reduce(`+`, lapply(seq_along(v), function(i) v[i]))
  sxx <- sum_of(x * x) - sum_of(x)^2 / n
  syy <- sum_of(y * y) - sum_of(y)^2 / n
  sxy <- sum_of(x * y) - sum_of(x) * sum_of(y) / n
  slope <- sxy / sxx
  rss <- syy - sxy * slope
  list(
    r = big(sxy) / sqrt(big(sxx) * big(syy)), unexplained = big(rss / syy), slope = big(slope),
    intercept = big((sum_of(y) - slope * sum_of(x)) / n), residual_sd = sqrt(big(rss / (n - 2))),
    t = big(sxy) / sqrt(big(sxx) * big(syy)) * sqrt((n - 2) / big(rss / syy)), sxx = big(sxx), n = n
  )
}

#' Digits of agreement: minus the log of the relative error
digits_of <- function(found, truth) {
  error <- Rmpfr::asNumeric(abs((Rmpfr::mpfr(found, 400) - truth) / truth))
  if (error == 0) 17 else -log10(error)
}

#' P(|T| > |t|) by the finite series for whole degrees of freedom (Fisher 1935), in enough bits for 1e-400
student_two_sided <- function(t, df, bits = 2000) {
  one <- Rmpfr::mpfr(1, bits)
  t <- Rmpfr::mpfr(t, bits)
  theta <- atan(abs(t) / sqrt(one * df))
  cosine <- cos(theta)
  sine <- sin(theta)
  pi <- Rmpfr::Const("pi", bits)
  term <- one
  if (df %% 2 == 1) {
    total <- 0 * one
    if (df > 1) {
      term <- cosine
      total <- term
      for (k in seq_len((df - 3) / 2)) {
        term <- term * cosine^2 * (2 * k) / (2 * k + 1)
        total <- total + term
      }
    }
    1 - 2 / pi * (theta + sine * total)
  } else {
    total <- one
    for (k in seq_len((df - 2) / 2)) {
      term <- term * cosine^2 * (2 * k - 1) / (2 * k)
      total <- total + term
    }
    1 - sine * total
  }
}

root_of_project <- function() {
  root <- Sys.getenv("UNSERE_ROOT")
  if (!nzchar(root) || !file.exists(file.path(root, "Makefile"))) skip("only in the project's own folder")
  root
}

#' The command `unsere`: the installed package's own, or another that is named, as while lines are counted
path_of_command <- function() Sys.getenv("UNSERE_COMMAND", system.file("exec", "unsere", package = "unsere"))

#' Run the command as a process: status, output, messages
unsere <- function(..., input = NULL, env = character()) {
  command <- path_of_command()
  out <- tempfile()
  err <- tempfile()
  on.exit(unlink(c(out, err)))
  status <- suppressWarnings(system2(command, shQuote(c(...)),
    stdout = out, stderr = err,
    input = input, env = c(env, paste0("R_LIBS=", paste(.libPaths(), collapse = ":")))
  ))
  list(status = status, out = readLines(out, encoding = "UTF-8"), err = readLines(err, encoding = "UTF-8"))
}

csv_file <- function(..., name = "own.csv") {
  folder <- tempfile()
  dir.create(folder)
  path <- file.path(folder, name)
  writeLines(c(...), path)
  path
}

# r of every two columns, written out.
cor_table <- function(x) {
  z <- apply(x, 2, function(v) (v - mean(v)) / sqrt(sum((v - mean(v))^2)))
  t(z) %*% z
}

# Files and folders are written beside their place first; nothing of that is left.
expect_no_drafts <- function(folder) expect_length(list.files(folder, "unsere-[0-9a-f]+", all.files = TRUE), 0)

# Every order of some values.
all_orders <- function(v) {
  if (length(v) <= 1) return(list(v))
  do.call(c, lapply(seq_along(v), function(i) lapply(all_orders(v[-i]), function(rest) c(v[i], rest))))
}

# A workbook with one of its members changed as text.
with_member <- function(from, member, change) {
  folder <- tempfile("workbook-")
  on.exit(unlink(folder, recursive = TRUE))
  utils::unzip(from, exdir = folder)
  path <- file.path(folder, member)
  text <- change(paste(readLines(path, warn = FALSE), collapse = "\n"))
  writeLines(text, path)
  out <- tempfile(fileext = paste0(".", tools::file_ext(from)))
  withr::with_dir(folder, utils::zip(out, list.files(".", recursive = TRUE, all.files = TRUE), flags = "-qr9X"))
  out
}

# The share of y's variance that a parabola in x explains.
summary_of_curve <- function(data) {
  left <- qr.resid(qr(outer(data$x - mean(data$x), 0:2, `^`)), data$y)
  1 - sum(left^2) / sum((data$y - mean(data$y))^2)
}

# p as if the cases were independent, whatever the relation reports.
textbook_p <- function(relation) if (is.null(relation$textbook)) relation$p else relation$textbook$p
