command_relate <- function(words, options) {
  check_output(options, words[1])
  study <- study_option(words[1], options)
  result <- relate_names(study, words[2], words[3],
    coefficient = or_default(options$coefficient, "auto"), expect = or_default(options$expect, "either"),
    confidence = number_option(options, "confidence", 0.95), interval = or_default(options$interval, "analytic"),
    test = or_default(options$test, "analytic"), strength = strength_option(options),
    seed = number_option(options, "seed"), resamples = number_option(options, "resamples", 10000),
    threads = number_option(options, "threads")
  )
  put_result(result, options)
}

study_option <- function(file, options) {
  delimiter <- options$delimiter
  read_study(file,
    sheet = options$sheet, header_row = number_option(options, "header_row"), codebook = options$codebook,
    missing_codes = words_option(options, "missing_codes"), decimal = options$decimal,
    delimiter = if (!is.null(delimiter) && delimiter %in% c("tab", "\\t")) "\t" else delimiter,
      encoding = options$encoding
  )
}
