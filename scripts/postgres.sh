# The database cluster of Vast Surge: its own, on loopback, in $data/postgres, run by $pg_user. Sourced by ./surge.
# Needs: $data, $pg_user, die, say. Sets: $pg_url after pg_start.

pg_bin=
pg_find() {
  local found
  found=$(command -v pg_ctl || true)
  [ -n "$found" ] || found=$(ls -d /usr/lib/postgresql/*/bin/pg_ctl 2>/dev/null | sort -V | tail -1)
  pg_bin=${found:+$(dirname "$(readlink -f "$found")")}
  [ -n "$pg_bin" ] && [ -x "$pg_bin/initdb" ]
}

as_root() { if [ "$(id -u)" -eq 0 ]; then "$@"; else sudo -n "$@"; fi; }

# apt_install PACKAGE...: from Debian's packages, or one line that says what to do.
apt_install() {
  command -v apt-get >/dev/null || die "$* is missing, and this is no Debian: install it by hand"
  say "installing from Debian's packages: $*"
  { as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "$@"; } >"$data/apt.log" 2>&1 ||
    die "$* could not be installed (see $data/apt.log): run 'apt-get install $*' as root and start again"
}

# Runs a command as the cluster's user, from a folder that user can read.
as_pg() {
  if [ "$(id -un)" = "$pg_user" ]; then (cd / && "$@"); else (cd / && runuser -u "$pg_user" -- "$@"); fi
}

pg_running() { pg_find && [ -f "$data/postgres/PG_VERSION" ] && as_pg "$pg_bin/pg_ctl" -D "$data/postgres" status >/dev/null 2>&1; }

free_port() { node -e 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }
port_taken() { node -e 'const s=require("net").createServer();s.once("error",()=>process.exit(0));s.listen(+process.argv[1],"127.0.0.1",()=>s.close(()=>process.exit(1)))' "$1"; }

pg_init() {
  say "making a database cluster in $data/postgres"
  local secret
  secret=$(mktemp) # its own file in the temporary folder, readable by the cluster's user alone
  node -e 'process.stdout.write(require("crypto").randomBytes(24).toString("hex"))' >"$secret"
  [ "$(id -u)" -ne 0 ] || { chown "$pg_user" "$secret" && install -d -o "$pg_user" -m 700 "$data/postgres"; }
  as_pg "$pg_bin/initdb" -D "$data/postgres" -U surge --pwfile="$secret" --auth=scram-sha-256 -E UTF8 --locale=C.UTF-8 >"$data/initdb.log" 2>&1 ||
    { rm -f "$secret"; die "the database cluster could not be made: see $data/initdb.log"; }
  (umask 077 && cat "$secret" >"$data/password")
  rm -f "$secret"
}

pg_start() {
  pg_find || { apt_install postgresql; pg_find || die "PostgreSQL was installed and cannot be found"; }
  mkdir -p "$data"
  [ "$(id -u)" -ne 0 ] || chmod 711 "$data" # the cluster's user has to pass through
  as_pg test -x "$data" || die "the user $pg_user, who runs the database, cannot reach $data: set VAST_SURGE_DATA to a folder that user can reach"
  [ -f "$data/password" ] || { [ ! -e "$data/postgres" ] || rm -rf "$data/postgres"; pg_init; }
  if ! pg_running; then
    local at
    at=$(cat "$data/port" 2>/dev/null || true)
    if [ -z "$at" ] || port_taken "$at"; then at=$(free_port); fi
    echo "$at" >"$data/port"
    as_pg "$pg_bin/pg_ctl" -D "$data/postgres" -l "$data/postgres/server.log" -w -t 60 \
      -o "-p $at -c listen_addresses=127.0.0.1 -c unix_socket_directories= ${PG_OPTIONS:-}" start >/dev/null 2>&1 ||
      die "the database did not start: see $data/postgres/server.log"
  fi
  local base
  base="postgres://surge:$(cat "$data/password")@127.0.0.1:$(cat "$data/port")"
  pg_url=$base/surge
  local exists
  exists=$(psql_admin "$base" "select 1 from pg_database where datname = 'surge'") || die "the database cluster does not answer: see $data/postgres/server.log"
  [ "$exists" = 1 ] || psql_admin "$base" 'create database surge' >/dev/null || die "the database could not be created"
}

psql_admin() { (cd / && "$pg_bin/psql" -X -q -t -A -d "$1/postgres" -c "$2"); }

pg_stop() {
  pg_running || return 0
  as_pg "$pg_bin/pg_ctl" -D "$data/postgres" -m fast -w stop >/dev/null 2>&1 || say "the database did not stop"
}
