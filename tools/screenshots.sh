#!/usr/bin/env bash
# Takes the pictures of docs/screenshots again, from the demo data: figures from the command itself, pages and text output
# through a headless browser. Slides and tables of documents are taken where LibreOffice is at hand.
set -euo pipefail
cd "$(dirname "$0")/.."
unsere=$PWD/.build/library/unsere/exec/unsere
data=$PWD/.build/library/unsere/extdata
out=$PWD/docs/screenshots
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
mkdir -p "$out"

figure() { "$unsere" draw "${@:2}" --quiet --out "$out/$1.png"; }

page() { # name, HTML file, width, height
  chromium --headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking \
    --disable-component-update --disable-sync --hide-scrollbars --user-data-dir="$work/profile" \
    --window-size="$3,$4" --screenshot="$out/$1.png" "file://$2" >/dev/null 2>&1
}

document() { # name, docx or pptx, pixels kept from the top of the first page
  (cd "$work" && soffice --headless --convert-to pdf "$2" >/dev/null 2>&1)
  pdftoppm -r 90 -png -l 1 "${2%.*}.pdf" "$work/$1"
  convert "$work/$1"-*1.png -crop "x$3+0+40" +repage "$out/$1.png"
}

terminal() { # name, rows, command: the text as a browser sets it in a terminal's type
  {
    printf '<!DOCTYPE html><meta charset="utf-8"><pre style="margin:14px;font:17px/22px monospace;color:#22303C">$ %s\n' "$3"
    (cd "$data" && unsere() { "$unsere" "$@"; } && eval "$3") | sed 's/&/\&amp;/g; s/</\&lt;/g'
    printf '</pre>\n'
  } >"$work/$1.html"
  page "$1" "$work/$1.html" 1078 "$((24 + $2 * 22))"
}

figure scatter scatter "$data/learners.csv" practice_hours speaking_score
figure scatter-groups scatter "$data/learners.csv" commute_min listening_score --by centre --flat-line
figure distribution distribution "$data/learners.csv" practice_hours speaking_score confidence study_partner
figure predictors predictors "$data/learners.csv" speaking_score practice_hours commute_min --at practice_hours=5,commute_min=20
figure pooled pooled "$data/learners.csv" commute_min listening_score --by centre
figure waves waves "$data/three_terms.csv" practice_hours speaking_score --case learner --time term
figure choices choices "$data/learners.csv" practice_hours speaking_score --given age_years,attendance_pct --seed 1
figure over-time over-time "$data/town_years.csv" ebook_loans cycle_path_km
figure matrix matrix "$data/learners.csv"
"$unsere" demo --out "$work/demo" --quiet >/dev/null
page page "$work/demo/report.html" 1280 1800
if command -v soffice >/dev/null && command -v pdftoppm >/dev/null; then
  (cd "$work" && soffice --headless --convert-to pdf "$work/demo/report.pptx" >/dev/null 2>&1)
  pdftoppm -r 40 -png "$work/report.pdf" "$work/slide"
  montage "$work"/slide-*.png -tile 3x -geometry +6+6 -background '#D9DEE2' "$out/slides.png"
  "$unsere" matrix "$data/learners.csv" practice_hours speaking_score listening_score confidence study_partner --table "$work/table.docx" --stars --quiet >/dev/null
  document table "$work/table.docx" 300
fi
terminal look 49 "unsere look learners.xlsx"
terminal flag 24 "unsere flag town_years.csv ebook_loans cycle_path_km"
terminal relate 25 "unsere relate learners.csv practice_hours speaking_score"
terminal line 43 "unsere line dial.csv dial level_db --at 4.5 --solve 55,62"
R_LIBS=.build/library Rscript tools/desk-pictures.R "$out"
echo "screenshots: $(ls "$out" | wc -l) pictures in docs/screenshots."
