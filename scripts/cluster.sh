#!/usr/bin/env bash
# A throw-away database cluster for tests: scripts/cluster.sh start|kill|stop FOLDER. `start` prints the addresses of its owner and of the application, with their passwords: tests alone.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
say() { printf 'cluster: %s\n' "$*" >&2; }
die() { say "$*"; exit 1; }
data=${2:?a folder}
if [ "$(id -u)" -eq 0 ]; then pg_user=postgres; else pg_user=$(id -un); fi
exit_work=()
on_exit() { exit_work+=("$1"); }
trap 'for work in "${exit_work[@]}"; do eval "$work" || true; done' EXIT
source scripts/postgres.sh

# The whole cluster at once, as a power cut would: the master first, then what it had under it.
pg_kill() {
  local master
  master=$(head -1 "$data/postgres/postmaster.pid")
  local below
  below=$(ps -o pid= --ppid "$master" | tr '\n' ' ')
  # shellcheck disable=SC2086
  kill -KILL "$master" $below 2>/dev/null || true
  # What was forked in that very moment sees that its master is gone and leaves too; until then it holds the port.
  for _ in $(seq 200); do
    if ! kill -0 "$master" 2>/dev/null && ! port_taken "$(cat "$data/port")"; then return 0; fi
    sleep 0.05
  done
  die "the cluster does not die"
}

case $1 in
  start) mkdir -p "$data" && pg_start && pg_test_url surge "$data/owner.pgpass" && pg_test_url surge_app "$data/app.pgpass" ;;
  kill) pg_kill ;;
  stop) pg_stop ;;
esac
