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
    # A busy machine may hold one of them up; work that cannot be stopped is late each time.
    for (attempt in 1:4) {
      found <- stopped_after(work)
      expect_identical(found$said, c("stopped", "TRUE"), label = deparse(work))
      if (found$seconds < 1.5) break
    }
    expect_lt(found$seconds, 1.5, label = deparse(work))
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

test_that("an index or a length that comes from R is looked at before the core uses it", {
  core <- function(name, ...) get(paste0("core_", name), asNamespace("unsere"))(...)
  columns <- list(c(1, 3, 2, 5, 4, 6), c(2, 1, 4, 3, 6, 5))
  wanted <- rep(TRUE, 4)
  weight <- rep(1, 6)
  unit <- rep(1:3, 2)
  good <- core("unit_matrix", columns, weight, unit, c(1L, 1L, 2L), wanted, 2L)
  expect_length(good$r, 4L)
  refused <- list(
    quote(core("unit_matrix", columns, weight, c(1L, 2L, 3L, 1L, 2L, 99L), c(1L, 1L, 1L), wanted, 2L)),
    quote(core("unit_matrix", columns, weight, unit, c(1L, 1L, 1000000000L), wanted, 2L)),
    quote(core("unit_matrix", columns, weight, unit, c(0L, 1L, 1L), wanted, 2L)),
    quote(core("unit_matrix", columns, weight, c(NA, unit[-1]), c(1L, 1L, 1L), wanted, 2L)),
    quote(core("unit_matrix", columns, weight, unit, c(1L, 1L, 1L), TRUE, 2L)),
    quote(core("unit_matrix", columns, 1, unit, c(1L, 1L, 1L), wanted, 2L)),
    quote(core("unit_sums", columns, unit, 2L, 2L)), quote(core("unit_sums", columns, unit, -1L, 2L)),
    quote(core("replicate_matrix", columns, weight, rep(1, 12), c(1, 1), TRUE, 2L)),
    quote(core("replicate_matrix", columns, weight, rep(1, 11), c(1, 1), wanted, 2L)),
    quote(core("kendall_matrix", columns, c(TRUE, FALSE), 2L)), quote(core("rank_matrix", columns, TRUE, TRUE, 2L, 0L)),
    quote(core("moments", list(1:6, 1:6), 2L)), quote(core("pearson", 1:3 + 0, 1:4 + 0)),
    quote(core("freed", 1:6 + 0, 1:3 + 0, 4)), quote(core("freed", 1:6 + 0, 1:3 + 0, 0)),
    quote(core("holds_any", c(1, 2), Inf)), quote(core("holds_any", c(1, 2), NA_real_)),
    quote(core("phi_limits", 1:3 + 0, 3.84)), quote(core("uniforms", -1, 1, 1)), quote(core("uniforms", NA_real_, 1, 1)),
    quote(core("bootstrap", c(1, 2, 3), c(1, 3, 2), FALSE, -5, 1, 2L)),
    quote(core("bootstrap", c(1, 2, 3), c(1, 3, 2), FALSE, 5, Inf, 2L)),
    quote(core("json_rows", "a", list(c(1, 2)), list(NULL), list(NULL), 0, 5, 2L, 2L)),
    quote(core("json_rows", "a", list(c(1L, 9L)), list(c("x", "y")), list(NULL), 0, 2, 2L, 2L)),
    quote(core("json_rows", c("a", "b"), list(c(1, 2)), list(NULL), list(NULL), 0, 2, 2L, 2L)),
    quote(core("moments_table", list(
      columns = 5, rows = 3, complete = TRUE, centre = 1, scale = 1, products = 1, sums = 1, squares = 1, counts = 1
    )))
  )
  for (call in refused) expect_error(eval(call), class = "error", label = paste(deparse(call), collapse = ""))
  # The user's random numbers stay where they are.
  set.seed(5)
  before <- .Random.seed
  core("uniforms", 10, 1, 1)
  core("bootstrap", c(1, 2, 3, 4), c(1, 3, 2, 4), FALSE, 50, 1, 2L)
  expect_identical(.Random.seed, before)
})
