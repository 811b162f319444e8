#!/usr/bin/env bash
# Installs what is missing, in the order: Debian's ready-built R packages where apt and root are at hand, else CRAN
# into the user's own library. Run again, it finds everything there and does nothing.
#   tools/setup.sh             what the package needs to run and to be tested
#   tools/setup.sh demo        only what it needs to run and to write every form of a report
#   tools/setup.sh check       also what `make check` and `make lint` need
#   tools/setup.sh coverage    also what `make coverage` needs
#   tools/setup.sh screenshots also what `make screenshots` needs
#   tools/setup.sh site        also what `make site` needs
set -euo pipefail
cd "$(dirname "$0")/.."
wanted=${1:-test}

need() { printf '%s\n' "$1" >&2; exit 1; }
command -v Rscript >/dev/null || need "setup: R is not installed. Install it first (on Debian: apt-get install r-base-dev)."

described() { # the packages a field of DESCRIPTION names, without R and the packages that come with it
  awk -v field="$1:" '$1 == field {on = 1; $1 = ""; print; next} /^[A-Za-z]/ {on = 0} on' DESCRIPTION | tr ',' '\n' |
    sed -E 's/\(.*\)//; s/[ ,]//g' |
    grep -Ev '^(|R|stats|utils|tools|methods|grDevices|graphics|grid|parallel)$' || true
}
packages="$(described Imports) $(described LinkingTo) $(described Suggests)"
programs="" # program:debian-package
case "$wanted" in
  test) ;;
  demo) packages="$(described Imports) $(described LinkingTo) flextable officer openxlsx ragg" ;;
  check) packages="$packages roxygen2 lintr styler decor brio desc tibble vctrs"; programs="qpdf:qpdf pandoc:pandoc pdflatex:texlive-latex-recommended tidy:tidy" ;;
  coverage) packages="$packages covr" ;;
  site) packages="$packages pkgdown"; programs="pandoc:pandoc" ;;
  screenshots) programs="chromium:chromium convert:imagemagick soffice:libreoffice-writer lowriter:libreoffice-writer loimpress:libreoffice-impress pdftoppm:poppler-utils" ;;
  *) need "setup: unknown part '$wanted'; use test, demo, check, coverage, screenshots or site." ;;
esac

missing_packages() {
  # shellcheck disable=SC2086
  printf '%s\n' $packages | sort -u | Rscript --vanilla -e '
    wanted <- readLines(file("stdin"))
    own <- path.expand(Sys.getenv("R_LIBS_USER"))
    found <- function(name) any(file.exists(file.path(unique(c(.libPaths(), own)), name, "DESCRIPTION")))
    cat(wanted[!vapply(wanted, found, NA)], sep = "\n")'
}
needed_below() { # the packages that those on standard input need, and those need, as far as they are not there
  Rscript -e '
    wanted <- readLines(file("stdin"))
    if (!length(wanted)) quit()
    if (identical(unname(getOption("repos")["CRAN"]), "@CRAN@")) utils::chooseCRANmirror(ind = 1)
    repos <- getOption("repos")
    known <- tryCatch(utils::available.packages(repos = repos), error = function(e) NULL)
    if (is.null(known)) quit()
    needs <- unique(unlist(tools::package_dependencies(wanted, known, recursive = TRUE)))
    cat(setdiff(needs, rownames(utils::installed.packages())), sep = "\n")' 2>/dev/null || true
}
missing_programs() {
  for pair in $programs; do
    command -v "${pair%%:*}" >/dev/null || printf '%s\n' "${pair##*:}"
  done
}
# The tests' validator of JSON, independent of this package; without root the tests that ask it are skipped.
validator() { [ "$wanted" != test ] || /usr/bin/python3 -c 'import jsonschema' 2>/dev/null || echo python3-jsonschema; }
# The desk's tests click through it in a browser; without one they are skipped.
browser() { [ "$wanted" != test ] || command -v chromium >/dev/null || echo chromium; }
# Other countries' locales are made by the tests from these; without them those tests are skipped.
locales() { [ "$wanted" != test ] || [ -f /usr/share/i18n/locales/tr_TR ] || echo locales; }
# So does a checker of accessible pages, from npm; without npm that check is left out.
axe=.build/axe/node_modules/axe-core/axe.min.js
checker() {
  [ "$wanted" = test ] && [ ! -f "$axe" ] && command -v npm >/dev/null || return 0
  echo "setup: installing from npm, for the tests: axe-core"
  mkdir -p .build/axe
  npm install --prefix .build/axe --no-save --no-audit --no-fund --silent axe-core >/dev/null 2>&1 ||
    echo "setup: axe-core could not be had; pages are tested without it."
}
# What talks to the browser is built from source, against these headers.
headers() { case " $(echo $lacking) " in *" chromote "*) [ -f /usr/include/openssl/ssl.h ] || echo libssl-dev ;; esac; }
root_apt() { [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; }
# Another package manager may hold the lock: that is waited for, ten minutes at most.
apt_waiting() {
  waited=0
  while :; do
    said=$(DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=600 "$@" 2>&1) && status=0 || status=$?
    printf '%s\n' "$said" >>"$log"
    [ "$status" != 0 ] && [ "$waited" -lt 600 ] || return "$status"
    case "$said" in *"ould not get lock"* | *"nable to lock"* | *"nable to acquire"*) ;; *) return "$status" ;; esac
    [ "$waited" != 0 ] || echo "setup: waiting for another package manager to finish ..."
    sleep 5
    waited=$((waited + 5))
  done
}
apt_install() { apt_waiting install -y --no-install-recommends "$@"; }

log=$(mktemp)
trap 'rm -f "$log"' EXIT
lacking=$(missing_packages)
tools_lacking=$(missing_programs)
if root_apt; then tools_lacking=$(echo $tools_lacking $(validator) $(browser) $(locales) $(headers)); fi
checker
if [ -z "$lacking$tools_lacking" ]; then
  echo "setup: everything is there already."
  exit 0
fi
echo "setup: missing:" $lacking $tools_lacking
if root_apt; then
  apt_waiting update || echo "setup: apt-get update failed; going on with the lists that are there."
  from_debian=""
  for name in $lacking; do
    debian="r-cran-$(printf '%s' "$name" | tr 'A-Z' 'a-z')"
    apt-cache show "$debian" >/dev/null 2>&1 && from_debian="$from_debian $debian"
  done
  if [ -n "$from_debian$tools_lacking" ]; then
    echo "setup: installing Debian's packages:" $from_debian $tools_lacking
    # shellcheck disable=SC2086
    apt_install $from_debian $tools_lacking || { tail -n 5 "$log"; need "setup: apt-get could not install them."; }
  fi
  # What the others are built upon comes ready-built too, where Debian has it.
  below=""
  for name in $(missing_packages | needed_below); do
    debian="r-cran-$(printf '%s' "$name" | tr 'A-Z' 'a-z')"
    apt-cache show "$debian" >/dev/null 2>&1 && below="$below $debian"
  done
  # shellcheck disable=SC2086
  [ -z "$below" ] || apt_install $below || true
elif [ -n "$tools_lacking" ]; then
  need "setup: these Debian packages are needed and want root: $(echo $tools_lacking). Run: sudo apt-get install $(echo $tools_lacking)"
fi
lacking=$(missing_packages)
if [ -n "$lacking" ]; then
  echo "setup: installing from CRAN into the user's library:" $lacking
  # Without symbols for a debugger they are built in two thirds of the time; who has settings of his own keeps them.
  makevars=$(mktemp)
  trap 'rm -f "$log" "$makevars"' EXIT
  for flags in CFLAGS CXXFLAGS CXX11FLAGS CXX14FLAGS CXX17FLAGS; do echo "$flags += -g0"; done >"$makevars"
  if [ -z "${R_MAKEVARS_USER:-}" ] && ! ls "$HOME"/.R/Makevars* >/dev/null 2>&1; then export R_MAKEVARS_USER="$makevars"; fi
  # shellcheck disable=SC2086
  printf '%s\n' $lacking | Rscript -e '
    wanted <- readLines(file("stdin"))
    own <- path.expand(Sys.getenv("R_LIBS_USER"))
    dir.create(own, recursive = TRUE, showWarnings = FALSE)
    repos <- getOption("repos")
    if (identical(unname(repos["CRAN"]), "@CRAN@")) {
      utils::chooseCRANmirror(ind = 1)
      repos <- getOption("repos")
    }
    # What is there but older than a package below those wanted asks for is brought up with them: R itself does not.
    known <- utils::available.packages(repos = repos)
    below <- unlist(tools::package_dependencies(wanted, known, recursive = TRUE))
    fields <- known[intersect(c(wanted, below), rownames(known)), c("Depends", "Imports", "LinkingTo")]
    asked <- trimws(unlist(strsplit(fields[!is.na(fields)], ",")))
    asked <- regmatches(asked, regexec("^([A-Za-z0-9.]+) *[(]>= *([0-9.-]+)[)]$", asked))
    old <- unlist(lapply(asked[lengths(asked) == 3 & vapply(asked, function(one) !"R" %in% one[2], NA)], function(one) {
      there <- tryCatch(utils::packageVersion(one[2], lib.loc = c(own, .libPaths())), error = function(e) NULL)
      if (!is.null(there) && there < one[3]) one[2]
    }))
    old <- setdiff(old, rownames(utils::installed.packages(priority = "base")))
    install.packages(unique(c(old, wanted)), lib = own, repos = repos, Ncpus = 2, quiet = TRUE)' >>"$log" 2>&1 || true
fi
lacking=$(missing_packages)
# What is only suggested may be lacking: the package asks for it when it is used, and tests without it are skipped.
must=" $(described Imports) $(described LinkingTo) testthat "
must=$(printf '%s' "$must" | tr '\n' ' ')
spared=""
for name in $lacking; do
  case "$must" in *" $name "*) ;; *) [ "$wanted" != test ] || spared="$spared $name" ;; esac
done
if [ -n "$spared" ]; then
  tail -n 5 "$log"
  echo "setup: could not install, and done without (what needs one asks for it when used):$spared"
  for name in $spared; do lacking=$(printf '%s\n' $lacking | grep -vx "$name" || true); done
fi
if [ -n "$lacking" ]; then
  tail -n 15 "$log"
  need "setup: could not install: $(echo $lacking). Is there a network? Try again, or install them in R with install.packages()."
fi
echo "setup: done."
