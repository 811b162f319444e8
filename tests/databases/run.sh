#!/usr/bin/env bash
# Asks the same questions of SQLite, PostgreSQL (one server, and a table
# over three), MariaDB and ClickHouse (two servers) as of memory, and of workers: mirai's, and those of a Slurm of one
# node (tests/databases/cluster.sh). Servers are Debian's, started on free loopback ports
# in temporary folders and stopped by their own ids; R's drivers are built once, into .build/drivers.
#   BENCH=yes also measures what bench/elsewhere.R measures, on the servers
set -euo pipefail
export TZ=${TZ:-UTC}
cd "$(dirname "$0")/../.."
. tests/databases/servers.sh
export R_LIBS="$PWD/.build/library:$PWD/.build/drivers${R_LIBS:+:$R_LIBS}"
mkdir -p .build/drivers
chmod 755 "$work"

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
command -v clickhouse-server >/dev/null || wanted="$wanted clickhouse-server"
install_packages test-databases "$work/apt.log" $wanted
echo "test-databases: building R's drivers where they are lacking ..."
Rscript -e '
  wanted <- c("RPostgres", "RMariaDB", "RClickhouse", "mirai")
  lacking <- Filter(function(name) !nzchar(system.file(package = name)), wanted)
  if (length(lacking)) {
    if (identical(unname(getOption("repos")["CRAN"]), "@CRAN@")) utils::chooseCRANmirror(ind = 1)
    install.packages(lacking, lib = ".build/drivers", quiet = TRUE, Ncpus = 2)
  }' >"$work/drivers.log" 2>&1 || { tail -n 10 "$work/drivers.log"; exit 1; }

status=0
ask() { Rscript tests/databases/questions.R "$@" || status=1; }
ask RSQLite "$work/one.sqlite"

postgres=$(ls -d /usr/lib/postgresql/*/bin | tail -n 1)
ports=""
for k in 1 2 3 4; do
  place="$work/pg$k"
  mkdir "$place" && { [ "$(id -u)" != 0 ] || chown nobody:nogroup "$place"; }
  port=$(free_port)
  as_user "$postgres/initdb" -D "$place/data" -U asker --auth=trust >"$work/initdb.log" 2>&1 || { tail -n 5 "$work/initdb.log"; exit 1; }
  # Who is a guest needs a password.
  rules=$(cat "$place/data/pg_hba.conf")
  { echo "host all guest 127.0.0.1/32 scram-sha-256"; echo "$rules"; } >"$place/data/pg_hba.conf"
  serve "$work/pg$k.log" "$postgres/postgres" -D "$place/data" -h 127.0.0.1 -p "$port" -k "$place"
  wait_for "$postgres/pg_isready" -h 127.0.0.1 -p "$port"
  ports="$ports $port"
done
first=${ports# }
first=${first%% *}
ask RPostgres 127.0.0.1 "$first" asker postgres ${ports# "$first"}
[ -z "${BENCH:-}" ] || Rscript bench/elsewhere.R RPostgres 127.0.0.1 "$first" asker postgres

mkdir "$work/maria" && { [ "$(id -u)" != 0 ] || chown nobody:nogroup "$work/maria"; }
port=$(free_port)
as_user mariadb-install-db --datadir="$work/maria/data" --auth-root-authentication-method=normal --skip-test-db >"$work/maria-init.log" 2>&1 ||
  { tail -n 5 "$work/maria-init.log"; exit 1; }
serve "$work/maria.log" mariadbd --no-defaults --datadir="$work/maria/data" --bind-address=127.0.0.1 --port="$port" \
  --socket="$work/maria/sock" --pid-file="$work/maria/pid"
wait_for mariadb-admin --no-defaults -h 127.0.0.1 -P "$port" -u root ping
mariadb --no-defaults -h 127.0.0.1 -P "$port" -u root -e "CREATE DATABASE asked"
ask RMariaDB 127.0.0.1 "$port" root asked
[ -z "${BENCH:-}" ] || Rscript bench/elsewhere.R RMariaDB 127.0.0.1 "$port" root asked

first=$(free_port)
second=$(free_port)
for port in "$first" "$second"; do
  place="$work/click-$port"
  mkdir -p "$place/data" "$place/tmp"
  cat >"$place/users.xml" <<XML
<yandex><profiles><default/></profiles><quotas><default/></quotas><users><default><password></password>
<networks><ip>127.0.0.1</ip></networks><profile>default</profile><quota>default</quota></default></users></yandex>
XML
  cat >"$place/config.xml" <<XML
<yandex><logger><level>error</level><console>1</console></logger><tcp_port>$port</tcp_port>
<listen_host>127.0.0.1</listen_host><path>$place/data/</path><tmp_path>$place/tmp/</tmp_path>
<users_config>$place/users.xml</users_config><default_profile>default</default_profile>
<default_database>default</default_database><mark_cache_size>100000000</mark_cache_size>
<remote_servers><both><shard><replica><host>127.0.0.1</host><port>$first</port></replica></shard>
<shard><replica><host>127.0.0.1</host><port>$second</port></replica></shard></both></remote_servers></yandex>
XML
  [ "$(id -u)" != 0 ] || chown -R nobody:nogroup "$place"
  serve "$place.log" clickhouse-server --config-file="$place/config.xml"
done
answers() { Rscript -e 'DBI::dbConnect(RClickhouse::clickhouse(), host = "127.0.0.1", port = as.integer(commandArgs(TRUE)))' "$1"; }
wait_for answers "$first"
wait_for answers "$second"
ask RClickhouse 127.0.0.1 "$first" default default "$second"

echo "test-databases: workers of mirai, and of a batch system ..."
Rscript tools/test.R study-database >"$work/workers.log" 2>&1 || { tail -n 20 "$work/workers.log"; status=1; }
tail -n 1 "$work/workers.log"
tests/databases/cluster.sh 2>"$work/cluster.log" || { tail -n 20 "$work/cluster.log"; status=1; }

[ "$status" = 0 ] && echo "test-databases: done; every engine answered as memory does." || echo "test-databases: failed."
exit "$status"
