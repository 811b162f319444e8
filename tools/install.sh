#!/usr/bin/env bash
# Installs the package into the first library that may be written to, and puts `unsere` on the PATH.
set -euo pipefail
cd "$(dirname "$0")/.."
unset R_LIBS
library=$(Rscript --vanilla -e '
  own <- path.expand(Sys.getenv("R_LIBS_USER"))
  free <- .libPaths()[file.access(.libPaths(), 2) == 0]
  if (!length(free)) { dir.create(own, recursive = TRUE, showWarnings = FALSE); free <- own }
  cat(free[1])')
mkdir -p .build
R CMD INSTALL --library="$library" . >.build/install-user.log 2>&1 || { tail -n 20 .build/install-user.log; echo "install: failed."; exit 1; }
for bin in /usr/local/bin "$HOME/.local/bin"; do
  if mkdir -p "$bin" 2>/dev/null && [ -w "$bin" ]; then
    ln -sf "$library/unsere/exec/unsere" "$bin/unsere"
    echo "install: the package is in $library, the command is $bin/unsere."
    case ":$PATH:" in *":$bin:"*) ;; *) echo "install: add $bin to your PATH." ;; esac
    exit 0
  fi
done
echo "install: the package is in $library; no folder for the command may be written to."
exit 1
