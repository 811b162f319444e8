#!/usr/bin/env bash
# Moments gathered by the workers of a batch system: a Slurm of one node, Debian's, started on free loopback ports in a
# temporary folder and stopped by its own ids.
set -euo pipefail
export TZ=${TZ:-UTC}
cd "$(dirname "$0")/../.."
. tests/databases/servers.sh
export R_LIBS="$PWD/.build/library${R_LIBS:+:$R_LIBS}"
if [ "$(id -u)" != 0 ]; then echo "test-cluster: left out, as a batch system is started by root."; exit 0; fi

wanted=""
command -v slurmctld >/dev/null || wanted="$wanted slurm-wlm"
[ -n "$(Rscript -e 'cat(nzchar(system.file(package = "future.batchtools")))' | grep TRUE)" ] || wanted="$wanted r-cran-future.batchtools"
install_packages test-cluster "$work/apt.log" $wanted

free_port() { Rscript -e 'cat(httpuv::randomPort())'; }
node=$(hostname -s)
mkdir "$work/state" "$work/spool" "$work/shared"
cat >"$work/slurm.conf" <<CONF
ClusterName=one
SlurmctldHost=$node(127.0.0.1)
SlurmctldPort=$(free_port)
SlurmdPort=$(free_port)
AuthType=auth/none
CredType=cred/none
SlurmUser=root
SlurmdUser=root
StateSaveLocation=$work/state
SlurmdSpoolDir=$work/spool
SlurmctldPidFile=$work/controller.pid
SlurmdPidFile=$work/node.pid
ProctrackType=proctrack/pgid
TaskPlugin=task/none
SelectType=select/cons_tres
SelectTypeParameters=CR_CPU
MpiDefault=none
NodeName=$node NodeAddr=127.0.0.1 CPUs=2 State=UNKNOWN
PartitionName=all Nodes=$node Default=YES MaxTime=INFINITE State=UP OverSubscribe=FORCE:2
CONF
export SLURM_CONF="$work/slurm.conf"
slurmctld -D >"$work/controller.log" 2>&1 &
pids="$pids $!"
slurmd -D >"$work/node.log" 2>&1 &
pids="$pids $!"
for _ in $(seq 1 60); do sinfo -h -o %T 2>/dev/null | grep -q idle && break; sleep 0.5; done
sinfo -h -o %T 2>/dev/null | grep -q idle || { echo "test-cluster: Slurm does not start."; tail -n 5 "$work"/*.log; exit 1; }

cat >"$work/job.tmpl" <<'JOB'
#!/bin/sh
#SBATCH --job-name=<%= job.name %>
#SBATCH --output=<%= log.file %>
Rscript -e 'batchtools::doJobCollection("<%= uri %>")'
JOB
cd "$work/shared"
Rscript "$OLDPWD/tests/databases/cluster.R" "$work/job.tmpl" && echo "test-cluster: done." || { echo "test-cluster: failed."; exit 1; }
