#!/usr/bin/env bash
# Runs the scripts of bench/ and sets what they print as one page, docs/figures.md.
#   tools/bench.sh [NAME ...]   only these again (accuracy, speed, ...); the others' tables stay from the last run
set -euo pipefail
cd "$(dirname "$0")/.."
folder=.build/bench
texts=inst/figures # they ship, so that the article for the reviewer shows them
mkdir -p "$folder" "$texts" docs
all="accuracy spearman coverage phi jackknife route designs designs-speed tests spurious serial panels units places cautions likeness scales exports reading planning items items-coverage lines matrix speed elsewhere desk report"
# What takes no times may run beside another.
simulated=" accuracy coverage phi jackknife route designs spurious serial panels units places likeness items-coverage "
run_one() {
  begun=$(date +%s)
  Rscript "bench/$1.R" >"$folder/$1.draft" 2>"$folder/$1.log" || { tail -n 5 "$folder/$1.log"; echo "bench: $1 failed."; return 255; }
  mv "$folder/$1.draft" "$texts/$1.txt"
  echo "bench: $1 took $(($(date +%s) - begun)) s"
}
export -f run_one
export folder texts
beside=""
alone=""
for name in ${@:-$all}; do
  if [[ $simulated == *" $name "* ]]; then beside+="$name "; else alone+="$name "; fi
done
echo "bench: two at a time: ${beside:-none}"
for name in $beside; do echo "$name"; done | xargs -r -P 2 -I{} bash -c 'run_one {}'
echo "bench: one by one: ${alone:-none}"
for name in $alone; do run_one "$name" || exit 1; done
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
