# Long work can be stopped, threads and memory may be short, and nothing of that costs a digit or the process.

#' R in a process of its own that begins long work and is interrupted
stopped_after <- function(work) {
  begun <- tempfile()
  process <- callr::r_bg(function(work, begun) {
    library(unsere)
    set.seed(1)
    data <- as.data.frame(matrix(rnorm(4e6), 1e4))
    data[1:500, ] <- NA
    data[cbind(1:400 + 600, 1:400)] <- NA
    pair <- data.frame(x = rnorm(1e4), y = rnorm(1e4))
    file.create(begun)
    ended <- tryCatch(
      {
        eval(work)
        "ended"
      },
      interrupt = function(e) "stopped"
    )
    c(ended, format(relate(pair[1:50, ], x, y)$r > -2)) # and the next question is answered
  }, list(work, begun), libpath = .libPaths())
  on.exit(process$kill())
  while (!file.exists(begun) && process$is_alive()) Sys.sleep(0.05)
  Sys.sleep(0.7)
  began <- Sys.time()
  process$interrupt()
  process$wait(20000)
  list(seconds = as.numeric(Sys.time() - began, units = "secs"), said = process$get_result())
}

test_that("a long matrix, a long resampling and a long count stop within a second, and R goes on", {
  skip_if_not_installed("callr")
  works <- list(
    quote(correlation_matrix(data, coefficient = "spearman")), quote(correlation_matrix(data, coefficient = "tau-b")),
    quote(relate(pair, x, y, test = "permutation", resamples = 1e6)),
    quote(relate(pair, x, y, "spearman", interval = "bootstrap", resamples = 1e6))
  )
  for (work in works) {
    found <- stopped_after(work)
    expect_identical(found$said, c("stopped", "TRUE"), label = deparse(work))
    expect_lt(found$seconds, 1.5)
  }
})

test_that("more threads than can be started change nothing", {
  file <- csv_file("a,b,c", apply(matrix(sin(1:3000), ncol = 3), 1, paste, collapse = ","))
  asked <- c("matrix", file, "--coefficient=spearman", "--format=csv", "--quiet")
  command <- path_of_command()
  run <- function(limit, threads) {
    words <- paste(shQuote(c(command, asked, paste0("--threads=", threads))), collapse = " ")
    libraries <- paste0("R_LIBS=", paste(.libPaths(), collapse = ":"))
    suppressWarnings(system2("bash", c("-c", shQuote(paste(limit, words))), stdout = TRUE, stderr = FALSE, env = libraries))
  }
  alone <- run("", 1)
  expect_length(alone, 4)
  expect_identical(run("", 256), alone)
  skip_on_os(c("mac", "windows"))
  # A thread's stack of two gigabytes does not fit into what is allowed: none can be started.
  expect_identical(run("ulimit -s 2000000; ulimit -v 1500000;", 256), alone)
})

test_that("memory that runs out is said as that", {
  skip_on_os(c("mac", "windows"))
  code <- paste(
    "library(unsere); columns <- rep(list(c(1, 3, 2)), 8000)",
    "said <- tryCatch(unsere:::core_rank_matrix(columns, rep(TRUE, 8000^2), TRUE, 2L, 0L), error = identity)",
    "cat(class(said)[1], conditionMessage(said))",
    sep = "; "
  )
  words <- paste("ulimit -v 2000000;", file.path(R.home("bin"), "Rscript"), "-e", shQuote(code))
  said <- system2("bash", c("-c", shQuote(words)),
    stdout = TRUE, stderr = FALSE, env = paste0("R_LIBS=", paste(.libPaths(), collapse = ":"))
  )
  expect_match(said, "unsere_error_input.*not enough memory", all = FALSE)
})
