#!/usr/bin/env bash
# Lets each open, write, rename, folder and fork of a run of the demo brief, of a walk through the desk, of a matrix that is
# written as it comes (stream), or of a question to a database (query), fail once in turn,
# and looks whether a file was lost: the folder of the run before must be there as it was, or a whole new one, and nothing that
# was read may have changed.
#   tests/faults/run.sh [BRIEF, desk, stream or query] [EVERY] [FROM]   BRIEF of the demo (dial.yml), only each EVERY-th call (1), from the
#   FROM-th on (1)
set -euo pipefail
export TZ=${TZ:-UTC}
cd "$(dirname "$0")/../.."
brief=${1:-dial.yml}
every=${2:-1}
from=${3:-1}
export R_LIBS="$PWD/.build/library${R_LIBS:+:$R_LIBS}"
unsere="$PWD/.build/library/unsere/exec/unsere"
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
gcc -O2 -shared -fPIC -o "$work/fail_once.so" tests/faults/fail_once.c -ldl
root=$PWD
demo="$PWD/.build/library/unsere/extdata"
place="$work/place"
mkdir -p "$place/tmp"
cp "$demo"/* "$place/"
cd "$place"
# What tells a whole folder: its files, and every table (a workbook tells the time, and results.json its digest).
mark() { (cd "$1" && find . -type f -size +0 | sort | grep -v '/\.' && find . -name '*.csv' -o -name '*.Rmd' -o -name 'pairs.json' | sort | xargs sha256sum) | sha256sum; }
inputs() { (cd "$demo" && ls) | xargs sha256sum | sha256sum; }
# A brief that the desk saved is there whole, whatever failed.
saved() { [ ! -f kept.yml ] || grep -q '^report: {' kept.yml; }
run() { # AT
  rm -f kept.yml
  env TMPDIR="$place/tmp" LD_PRELOAD="$work/fail_once.so" FAULT_BELOW="$place" FAULT_LOG="$work/log" FAULT_TOLD="$work/told" ${1:+FAULT_AT="$1"} \
    "${walk[@]}" >"$work/said" 2>&1
}
walk=(sh "$unsere" run "$brief" --out out --quiet)
[ "$brief" != desk ] || walk=(Rscript --vanilla "$root/tests/faults/desk_walk.R")
if [ "$brief" = stream ]; then
  mkdir out
  Rscript -e 'set.seed(1); d <- as.data.frame(round(matrix(rnorm(210 * 30), 30), 2)); data.table::fwrite(d, "wide.csv")'
  walk=(sh "$unsere" matrix wide.csv --format json --out out/pairs.json --quiet)
fi
if [ "$brief" = query ]; then
  mkdir -p out R/unsere
  export R_USER_CONFIG_DIR="$place"
  Rscript -e 'con <- DBI::dbConnect(RSQLite::SQLite(), "own.sqlite"); DBI::dbWriteTable(con, "learners", read.csv("learners.csv")); DBI::dbDisconnect(con)'
  echo "own: {driver: RSQLite, dbname: '$place/own.sqlite'}" >R/unsere/connections.yml
  walk=(sh "$unsere" relate db:own practice_hours speaking_score --table learners --format csv --out out/relation.csv --quiet)
fi
unset LD_PRELOAD
"${walk[@]}"
whole=$(mark out)
read_before=$(inputs)
run "" || { echo "faults: the run fails without a fault."; cat "$work/said"; exit 1; }
calls=$(cut -d' ' -f1 "$work/log")
echo "faults: $brief makes $calls calls: $(cut -d' ' -f2 "$work/log" | fold -w1 | sort | uniq -c | awk '{printf "%s%s ", $1, $2}')(r read, w open to write, f write, m rename, d folder, k fork)"
lost=0 refused=0 done_anyway=0 odd=0
for at in $(seq "$from" "$every" "$calls"); do
  rm -rf tmp && mkdir tmp
  status=0
  run "$at" || status=$?
  now=$( [ -d out ] && mark out || echo none)
  if [ "$now" != "$whole" ] || [ "$(inputs)" != "$read_before" ] || ! saved; then
    lost=$((lost + 1))
    echo "faults: call $at ($(cut -d' ' -f2 "$work/log" | cut -c"$at")) lost a file; status $status: $(head -c 200 "$work/said" | tr '\n' ' ')"
    rm -rf out kept.yml && cp "$demo"/* . && "${walk[@]}"
  fi
  case $status in
    0) done_anyway=$((done_anyway + 1)) ;;
    3) refused=$((refused + 1)) ;;
    *) odd=$((odd + 1)); echo "faults: call $at on $(cat "$work/told") ended with status $status: $(head -c 200 "$work/said" | tr '\n' ' ')" ;;
  esac
  left=$(find . -maxdepth 1 -name '.*unsere-*' | wc -l)
  [ "$left" = 0 ] || { echo "faults: call $at left $left drafts"; rm -rf ./.*unsere-*; }
  rm -f run*.log run*.pid run*.status
done
echo "faults: $brief, of $(seq "$from" "$every" "$calls" | wc -l) calls that failed $lost lost a file; $refused were told (status 3), $done_anyway did no harm, $odd ended otherwise."
[ "$lost" = 0 ] && [ "$odd" = 0 ]
