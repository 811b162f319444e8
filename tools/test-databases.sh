#!/usr/bin/env bash
# Asks the same questions of SQLite, PostgreSQL and MariaDB as of memory. Servers are Debian's, started on free loopback ports
# in temporary folders and stopped by their own ids; R's drivers are built once, into .build/drivers.
set -euo pipefail
export TZ=${TZ:-UTC}
cd "$(dirname "$0")/.."
export R_LIBS="$PWD/.build/library:$PWD/.build/drivers${R_LIBS:+:$R_LIBS}"
mkdir -p .build/drivers
work=$(mktemp -d)
chmod 755 "$work"
pids=""
finish() {
  for pid in $pids; do kill "$pid" 2>/dev/null || true; done
  for pid in $pids; do wait "$pid" 2>/dev/null || true; done
  rm -rf "$work"
}
trap finish EXIT

as_user() { # a server does not run as root
  if [ "$(id -u)" = 0 ]; then setpriv --reuid=nobody --regid=nogroup --clear-groups -- "$@"; else "$@"; fi
}
# In the background, by the id that stops it.
serve() { # LOG COMMAND ...
  log=$1
  shift
  if [ "$(id -u)" = 0 ]; then
    setpriv --reuid=nobody --regid=nogroup --clear-groups -- "$@" >"$log" 2>&1 &
  else
    "$@" >"$log" 2>&1 &
  fi
  pids="$pids $!"
}
free_port() { python3 -c 'import socket; s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])' 2>/dev/null || Rscript -e 'cat(httpuv::randomPort())'; }
wait_for() { for _ in $(seq 1 120); do "$@" >/dev/null 2>&1 && return 0; sleep 0.5; done; echo "test-databases: $1 does not answer."; return 1; }

wanted=""
[ -n "$(ls /usr/lib/postgresql/*/bin/postgres 2>/dev/null)" ] || wanted="$wanted postgresql"
[ -n "$(Rscript -e 'cat(nzchar(system.file(package = "RPostgres")))' | grep TRUE)" ] || wanted="$wanted libpq-dev"
command -v mariadbd >/dev/null || wanted="$wanted mariadb-server"
[ -n "$(Rscript -e 'cat(nzchar(system.file(package = "RMariaDB")))' | grep TRUE)" ] || wanted="$wanted libmariadb-dev"
if [ -n "$wanted" ]; then
  echo "test-databases: installing Debian's packages:$wanted"
  export DEBIAN_FRONTEND=noninteractive
  apt-get update -qq
  # Installed servers must not begin to serve by themselves.
  printf '#!/bin/sh\nexit 101\n' >/usr/sbin/policy-rc.d && chmod 755 /usr/sbin/policy-rc.d
  apt-get install -y -qq --no-install-recommends $wanted >"$work/apt.log" 2>&1 || { tail -n 5 "$work/apt.log"; exit 1; }
  rm -f /usr/sbin/policy-rc.d
fi
echo "test-databases: building R's drivers where they are lacking ..."
Rscript -e '
  lacking <- Filter(function(name) !nzchar(system.file(package = name)), c("RPostgres", "RMariaDB"))
  if (length(lacking)) {
    if (identical(unname(getOption("repos")["CRAN"]), "@CRAN@")) utils::chooseCRANmirror(ind = 1)
    install.packages(lacking, lib = ".build/drivers", quiet = TRUE, Ncpus = 2)
  }' >"$work/drivers.log" 2>&1 || { tail -n 10 "$work/drivers.log"; exit 1; }

status=0
ask() { Rscript tests/databases/questions.R "$@" || status=1; }
ask RSQLite "$work/one.sqlite"

postgres=$(ls -d /usr/lib/postgresql/*/bin | tail -n 1)
mkdir "$work/pg" && { [ "$(id -u)" != 0 ] || chown nobody:nogroup "$work/pg"; }
port=$(free_port)
as_user "$postgres/initdb" -D "$work/pg/data" -U asker --auth=trust >"$work/initdb.log" 2>&1 || { tail -n 5 "$work/initdb.log"; exit 1; }
serve "$work/pg.log" "$postgres/postgres" -D "$work/pg/data" -h 127.0.0.1 -p "$port" -k "$work/pg"
wait_for "$postgres/pg_isready" -h 127.0.0.1 -p "$port"
ask RPostgres 127.0.0.1 "$port" asker postgres

mkdir "$work/maria" && { [ "$(id -u)" != 0 ] || chown nobody:nogroup "$work/maria"; }
port=$(free_port)
as_user mariadb-install-db --datadir="$work/maria/data" --auth-root-authentication-method=normal --skip-test-db >"$work/maria-init.log" 2>&1 ||
  { tail -n 5 "$work/maria-init.log"; exit 1; }
serve "$work/maria.log" mariadbd --no-defaults --datadir="$work/maria/data" --bind-address=127.0.0.1 --port="$port" \
  --socket="$work/maria/sock" --pid-file="$work/maria/pid"
wait_for mariadb-admin --no-defaults -h 127.0.0.1 -P "$port" -u root ping
mariadb --no-defaults -h 127.0.0.1 -P "$port" -u root -e "CREATE DATABASE asked"
ask RMariaDB 127.0.0.1 "$port" root asked

[ "$status" = 0 ] && echo "test-databases: done; every engine answered as memory does." || echo "test-databases: failed."
exit "$status"
