#!/usr/bin/env bash
# Runs the scripts of bench/ and sets what they print as one page, docs/figures.md.
#   tools/bench.sh [NAME ...]   only these again (accuracy, speed, ...); the others' tables stay from the last run
set -euo pipefail
cd "$(dirname "$0")/.."
folder=.build/bench
texts=inst/figures # they ship, so that the article for the reviewer shows them
mkdir -p "$folder" "$texts" docs
all="accuracy spearman coverage phi jackknife designs designs-speed tests spurious units cautions scales exports reading planning items items-coverage lines matrix speed elsewhere desk report"
for name in "${@:-$all}"; do
  for one in $name; do
    echo "bench: $one ..."
    begun=$(date +%s)
    Rscript "bench/$one.R" >"$folder/$one.draft" 2>"$folder/$one.log" || { tail -n 5 "$folder/$one.log"; echo "bench: $one failed."; exit 1; }
    mv "$folder/$one.draft" "$texts/$one.txt"
    echo "bench: $one took $(($(date +%s) - begun)) s"
  done
done
{
  echo "# Figures"
  echo
  echo "What the scripts of \`bench/\` printed, put together by \`make bench\`: exactness, error rates, speed. Speed is given"
  echo "as a ratio to a yardstick in the same run, as machines differ and are never quite at rest."
  echo
  Rscript -e 'cat(sprintf("R %s, %d threads, %s.\n", getRversion(), parallel::detectCores(), format(Sys.Date())))'
  for name in $all; do
    [ -f "$texts/$name.txt" ] || continue
    echo
    echo "## $(tr '[:lower:]' '[:upper:]' <<<"${name:0:1}")${name:1}"
    echo
    sed -n '/^#/!q; s/^# \{0,1\}//; /^ *Rscript/d; p' "bench/$name.R"
    echo
    echo "\`Rscript bench/$name.R\`:"
    echo
    echo '```'
    cat "$texts/$name.txt"
    echo '```'
  done
} >docs/figures.md
echo "bench: done; the page is docs/figures.md"
