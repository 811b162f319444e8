# Sourced: a folder for servers, which are stopped by their own ids ($pids) at the end, and Debian's packages, installed without
# letting their servers begin to serve by themselves.
work=$(mktemp -d)
pids=""
finish() {
  for pid in $pids; do kill "$pid" 2>/dev/null || true; done
  for pid in $pids; do wait "$pid" 2>/dev/null || true; done
  rm -rf "$work"
}
trap finish EXIT

install_packages() { # WHO LOG PACKAGE ...
  local who=$1 log=$2
  shift 2
  [ "$#" -gt 0 ] || return 0
  echo "$who: installing Debian's packages: $*"
  export DEBIAN_FRONTEND=noninteractive
  apt-get update -qq
  printf '#!/bin/sh\nexit 101\n' >/usr/sbin/policy-rc.d && chmod 755 /usr/sbin/policy-rc.d
  apt-get install -y -qq --no-install-recommends "$@" >"$log" 2>&1 || { tail -n 5 "$log"; exit 1; }
  rm -f /usr/sbin/policy-rc.d
}
