#!/usr/bin/env bash
# Runs all tests with the current versions of CRAN in the place of Debian's: what draws and what tests, with all that
# they need, in a library of their own. The first time takes a while, as they are built from their sources.
set -euo pipefail
cd "$(dirname "$0")/.."
library=$PWD/.build/current
mkdir -p "$library"
echo "test-current: looking for what is missing in .build/current ..."
export USE_BUNDLED_LIBUV=1 # one of them carries this library's source with it
Rscript --vanilla - "$library" <<'R' >.build/current.log 2>&1 || { tail -n 15 .build/current.log; echo "test-current: could not install them; the whole log is in .build/current.log"; exit 1; }
library <- commandArgs(TRUE)[1]
if (identical(unname(getOption("repos")["CRAN"]), "@CRAN@")) utils::chooseCRANmirror(ind = 1)
offered <- utils::available.packages()
wanted <- c("ggplot2", "testthat", "vdiffr", "rlang", "cli", "jsonlite", "htmltools", "Rcpp")
all <- unique(c(wanted, unlist(tools::package_dependencies(wanted, offered, c("Depends", "Imports", "LinkingTo"),
  recursive = TRUE))))
all <- setdiff(all, rownames(utils::installed.packages(priority = "high")))
there <- rownames(utils::installed.packages(library))
missing <- setdiff(all, there)
.libPaths(c(library, .libPaths()))
if (length(missing)) utils::install.packages(missing, lib = library, Ncpus = 2)
lacking <- setdiff(all, rownames(utils::installed.packages(library)))
if (length(lacking)) stop("not installed: ", paste(lacking, collapse = ", "))
R
echo "test-current: building unsere against them ..."
export R_LIBS="$library"
R CMD INSTALL --no-docs --no-test-load --library="$library" . >.build/current.log 2>&1 || { tail -n 15 .build/current.log; exit 1; }
Rscript -e 'for (name in c("ggplot2", "testthat", "rlang", "cli")) cat(sprintf("test-current: %s %s\n", name, packageVersion(name)))'
Rscript tools/test.R "$@"
