quit("no", unsere::run_command(commandArgs(trailingOnly = TRUE)))
