unsere:::heed_signals()
quit("no", unsere::run_command(commandArgs(trailingOnly = TRUE)))
