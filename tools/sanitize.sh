#!/usr/bin/env bash
# Builds the core's claims with every warning an error and with the address and undefined-behaviour sanitizers, runs
# them, and counts with gcov which lines of the core they reach.
set -euo pipefail
cd "$(dirname "$0")/.."
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
flags="-std=c++17 -Wall -Wextra -Wpedantic -Werror -pthread -Isrc"
echo "sanitize: building with warnings as errors and both sanitizers ..."
# shellcheck disable=SC2086
g++ $flags -O1 -g -fsanitize=address,undefined -fno-sanitize-recover=all tests/core/test_core.cpp -o "$folder/sanitized"
"$folder/sanitized"
echo "sanitize: building to count lines ..."
# shellcheck disable=SC2086
g++ $flags -O0 --coverage tests/core/test_core.cpp -o "$folder/counted"
(cd "$folder" && ./counted >/dev/null)
root=$PWD
(cd "$folder" && gcov -r -s "$root" counted-test_core.gcda 2>/dev/null) |
  awk '/^File .*src\/core/ {file = $2} /^Lines executed/ && file {split($0, a, /[:% ]+/); n = $NF; hit += a[3] * n / 100; all += n; file = ""}
    END {printf "sanitize: %d of %d lines of the core reached, %.1f %%\n", hit + .5, all, 100 * hit / all}'
echo "sanitize: done."
