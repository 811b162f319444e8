# The same file gives the same figures and texts whatever country the machine is set to, and whatever its clock does.

made_locale <- function(name, folder) {
  made <- suppressWarnings(system2("localedef", c("-i", name, "-f", "UTF-8", file.path(folder, paste0(name, ".utf8"))),
    stdout = FALSE, stderr = FALSE
  ))
  made == 0L
}

everything <- function(file, stamped) {
  study <- unsere::read_study(file)
  stamps <- unsere::read_study(stamped)
  matrix <- unsere::correlation_matrix(study)
  list(
    names = names(study$data), book = unsere::codebook(study),
    text = format(unsere::relate(study, INITIAL, WEIGHT)), sorted = unsere::overview(study)$answers,
    pairs = matrix$pairs[c("x", "y", "r", "p")],
    chosen = unsere::relate(unsere::read_study(file, where = "TITLE = 'ISIL'"), INITIAL, WEIGHT)$n,
    stamps = as.numeric(stamps$data[[1]]), by_time = unsere::relate(stamps, sent, value)$r
  )
}

test_that("Turkish and German machines read, sort and print as any other; the change of the clocks moves nothing", {
  skip_if(!nzchar(Sys.which("localedef")))
  folder <- withr::local_tempdir()
  skip_if_not(all(vapply(c("tr_TR", "de_DE"), made_locale, NA, folder)))
  file <- csv_file(
    "INITIAL;WEIGHT;TITLE;MISSING_i",
    sprintf("%d,5;%d,25;%s;%s", 1:12, c(3, 1, 2), c("ISIL", "\u0130zmir", "title", "IS"), "ja")
  )
  stamped <- csv_file(
    "sent,value", "2024-03-31 01:30,1", "2024-03-31 02:30,3", "2024-03-31 03:30,2", "2024-10-27 02:30,5",
    "2024-10-27 03:30,4"
  )
  in_locale <- function(...) {
    callr::r(everything, list(file, stamped), libpath = .libPaths(), env = c(callr::rcmd_safe_env(), LOCPATH = folder, ...))
  }
  plain <- in_locale(LC_ALL = "C.UTF-8", TZ = "UTC")
  for (name in c("tr_TR.utf8", "de_DE.utf8")) {
    expect_identical(in_locale(LC_ALL = name, TZ = "Europe/Berlin"), plain, label = name)
  }
  expect_identical(diff(plain$stamps)[1:2], c(3600, 3600))
})
