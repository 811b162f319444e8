# What these hold of S4 the command never asks for. While the dispatch of S4 is off its tables are not set up for them, and
# they load in a tenth of the time; then it is on again, as databases and JSON are asked with it.
switch_dispatch <- asNamespace("methods")$C_R_set_method_dispatch
if (!is.null(switch_dispatch)) {
  invisible(.isMethodsDispatchOn(FALSE))
  for (package in c("Rcpp", "data.table", "cli")) loadNamespace(package)
  for (on in c(FALSE, TRUE)) .Call(switch_dispatch, on)
}
unsere:::heed_signals()
quit("no", unsere::run_command(commandArgs(trailingOnly = TRUE)))
