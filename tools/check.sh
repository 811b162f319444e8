#!/usr/bin/env bash
# Builds the package and runs R CMD check on it, without network; ends in its status line.
set -uo pipefail
folder=.build/check
rm -rf "$folder" && mkdir -p "$folder"
root=$PWD
cd "$folder" || exit 1
echo "check: building ..."
R CMD build "$root" >build.log 2>&1 || { tail -n 20 build.log; echo "check: the build failed."; exit 1; }
echo "check: checking ..."
_R_CHECK_FORCE_SUGGESTS_=false _R_CHECK_CRAN_INCOMING_=false _R_CHECK_SYSTEM_CLOCK_=0 R CMD check --as-cran --no-manual unsere_*.tar.gz >check.log 2>&1
grep -E -A 12 '(ERROR|WARNING|NOTE)$' check.log
tail -n 1 check.log | grep -q Status || tail -n 10 check.log
# Two notes are known: the size, most of it compiled code and texts, and what only enhances and need not be there.
notes=$(grep -E '^\* checking .*NOTE$' check.log | grep -vE 'installed package size|package dependencies' | wc -l)
echo "check: $(grep '^Status' check.log || echo 'did not finish'); $notes of the notes are new"
grep -q '^Status' check.log && [ "$notes" = 0 ] && ! grep -qE '^Status:.*(ERROR|WARNING)' check.log
