# The database cluster of Vast Surge: its own, on loopback, in $data/postgres, run by $pg_user. Sourced by ./surge.
# Needs: $data, $pg_user, die, say, on_exit. Sets: $pg_port, $pg_socket after pg_start.
#
# A cluster is made in a folder of another name and renamed into place when it is whole. Nothing here ever removes one.

pg_bin=
# Programs of the version that made the cluster, where there is one: another version cannot read it.
pg_find() {
  local wanted found=
  wanted=$(cat "$data/postgres/PG_VERSION" 2>/dev/null || true)
  [ -z "$wanted" ] || found=$(ls -d "/usr/lib/postgresql/$wanted/bin/pg_ctl" 2>/dev/null || true)
  [ -n "$found" ] || found=$(ls -d /usr/lib/postgresql/*/bin/pg_ctl 2>/dev/null | sort -V | tail -1)
  [ -n "$found" ] || found=$(command -v pg_ctl || true)
  pg_bin=${found:+$(dirname "$(readlink -f "$found")")}
  [ -n "$pg_bin" ] && [ -x "$pg_bin/initdb" ]
}

as_root() { if [ "$(id -u)" -eq 0 ]; then "$@"; else sudo -n "$@"; fi; }

# apt_install PACKAGE...: from Debian's packages, or one line that says what to do.
apt_install() {
  command -v apt-get >/dev/null || die "$* is missing, and this is no Debian: install it by hand"
  say "installing from Debian's packages: $*"
  { as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "$@"; } >"$data/apt.log" 2>&1 9>&- ||
    die "$* could not be installed (see $data/apt.log): run 'apt-get install $*' as root and start again"
}

# Runs a command as the cluster's user, from a folder that user can read. What it leaves running does not hold the launcher's lock.
as_pg() {
  if [ "$(id -un)" = "$pg_user" ]; then (cd / && "$@") 9>&-; else (cd / && runuser -u "$pg_user" -- "$@") 9>&-; fi
}

# The process of the cluster, if it lives. Cheap: it is asked twice a second.
pg_pid() {
  local pid name
  pid=$(head -1 "$data/postgres/postmaster.pid" 2>/dev/null || true)
  [ -n "$pid" ] && name=$(cat "/proc/$pid/comm" 2>/dev/null) && case $name in postgres | postmaster) echo "$pid" ;; esac
  return 0
}
pg_running() { [ -n "$(pg_pid)" ]; }

free_port() { node -e 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }
port_taken() { node -e 'const s=require("net").createServer();s.once("error",()=>process.exit(0));s.listen(+process.argv[1],"127.0.0.1",()=>s.close(()=>process.exit(1)))' "$1"; }

random_secret() { node -e 'process.stdout.write(require("crypto").randomBytes(24).toString("hex"))'; }

# keep_secret FILE: what comes in, in a file that its owner alone can read, whole or not at all.
keep_secret() { (umask 077 && cat >"$1.new" && mv "$1.new" "$1"); }

# The last words of the database, for a line that says why it does not start.
pg_last_words() {
  local newest
  newest=$(ls -t "$data/postgres/server.log" "$data"/postgres/log/*.log 2>/dev/null | head -1)
  [ -z "$newest" ] || grep -E 'FATAL|PANIC|ERROR|could not' "$newest" 2>/dev/null | tail -1 | sed 's/^[-0-9: .]*[A-Z]* *\[[0-9]*\] *//' | cut -c1-200
}

pg_init() {
  local making secret
  if [ -d "$data/postgres" ] && [ -n "$(ls -A "$data/postgres" 2>/dev/null)" ]; then
    die "$data/postgres is there and is no database cluster (its PG_VERSION is missing). It was left as it is. Bring it back from a copy, or move it away and start again for an empty workshop: ./surge restore FILE then brings a backup back"
  fi
  say "making a database cluster in $data/postgres"
  # What an interrupted first start left was never a cluster that anything was kept in.
  rm -rf "$data"/making-cluster.*
  making=$(mktemp -d "$data/making-cluster.XXXXXX")
  on_exit "rm -rf '$making'"
  [ "$(id -u)" -ne 0 ] || chown "$pg_user" "$making"
  secret=$(mktemp) # its own file in the temporary folder, readable by the cluster's user alone
  on_exit "rm -f '$secret'"
  random_secret >"$secret"
  keep_secret "$data/password" <"$secret"
  [ "$(id -u)" -ne 0 ] || chown "$pg_user" "$secret"
  # A signal is kept until initdb has ended: it may go on as if none had come, with a cluster that is whole and was tuned in a hurry.
  local broken_off= before
  before=$(trap -p INT TERM HUP)
  trap 'broken_off=1' INT TERM HUP
  as_pg "$pg_bin/initdb" -D "$making/postgres" -U surge --pwfile="$secret" --auth=scram-sha-256 -E UTF8 --locale=C.UTF-8 >"$data/initdb.log" 2>&1 ||
    [ -n "$broken_off" ] ||
    die "the database cluster could not be made: $(grep -q 'No space left' "$data/initdb.log" && echo 'the disk is full' || echo "see $data/initdb.log")"
  trap - INT TERM HUP
  eval "$before"
  [ -z "$broken_off" ] || die "broken off; nothing was made"
  rm -f "$secret"
  mv -T "$making/postgres" "$data/postgres" || die "the database cluster could not be put into $data/postgres"
  sync "$data" 2>/dev/null || true
  rmdir "$making"
}

# Who may come in: over the socket the one who runs the launcher, as the owner, by the name of the system; over loopback whoever has a password.
pg_configure() {
  local rules="local all surge peer map=surge
local all all scram-sha-256
host all all 127.0.0.1/32 scram-sha-256"
  local names="surge $pg_user surge"
  as_pg sh -c '
    cd "$1" || exit 1
    put() { [ "$(cat "$1" 2>/dev/null)" = "$2" ] || { printf "%s\n" "$2" >"$1.new" && mv "$1.new" "$1"; }; }
    put pg_hba.conf "$2" && put pg_ident.conf "$3"' sh "$data/postgres" "$rules" "$names" ||
    die "the rules of the database in $data/postgres cannot be written: is the folder read-only?"
}

# Starts the cluster's process and waits until it answers, for some seconds. Fails without a word.
pg_launch() {
  local socket=$data/socket
  # A path of a socket has at most 107 bytes.
  [ ${#socket} -le 80 ] || socket=/tmp/vast-surge-$(printf %s "$data" | cksum | cut -d' ' -f1)
  mkdir -p -m 700 "$socket" && { [ "$(id -u)" -ne 0 ] || chown "$pg_user" "$socket"; }
  as_pg "$pg_bin/pg_ctl" -D "$data/postgres" -l "$data/postgres/server.log" -w -t "${1:-60}" \
    -o "-p $(cat "$data/port") -c listen_addresses=127.0.0.1 -c unix_socket_directories='$socket' -c unix_socket_permissions=0700 \
        -c logging_collector=on -c log_directory=log -c log_filename=postgres-%a.log -c log_rotation_age=1d -c log_truncate_on_rotation=on ${PG_OPTIONS:-}" \
    start >/dev/null 2>&1
}

pg_start() {
  pg_find || { apt_install postgresql; pg_find || die "PostgreSQL was installed and cannot be found"; }
  [ "$(id -u)" -ne 0 ] || chmod 711 "$data" # the cluster's user has to pass through
  as_pg test -x "$data" || die "the user $pg_user, who runs the database, cannot reach $data: set VAST_SURGE_DATA to a folder that user can reach"
  [ -f "$data/postgres/PG_VERSION" ] || pg_init
  local made
  made=$(cat "$data/postgres/PG_VERSION")
  case $("$pg_bin/postgres" --version) in *" $made."* | *" $made "*) ;; *) die "the database in $data/postgres was made by PostgreSQL $made, which is not installed: install postgresql-$made" ;; esac
  [ -s "$data/password" ] ||
    die "the password of the database is missing ($data/password). The data in $data/postgres were not touched. Put the file back, or run ./surge new-password to give the database another"
  pg_configure
  # One that was started without a socket, by an older program, is started again.
  if pg_running && [ -z "$(sed -n 5p "$data/postgres/postmaster.pid")" ]; then pg_stop; fi
  if ! pg_running; then
    local at
    at=$(cat "$data/port" 2>/dev/null || true)
    if [ -z "$at" ] || port_taken "$at"; then at=$(free_port); fi
    echo "$at" >"$data/port"
    # What was killed a moment ago may still hold its memory: a few tries.
    local tries=0
    until pg_launch; do
      tries=$((tries + 1))
      pg_running || [ $tries -lt 5 ] || die "the database did not start: $(pg_last_words). Nothing was removed; $data/postgres/log tells more, and ./surge restore FILE brings a backup back into an empty workshop"
      pg_running && break
      sleep 1
    done
  fi
  pg_port=$(sed -n 4p "$data/postgres/postmaster.pid")
  pg_socket=$(sed -n 5p "$data/postgres/postmaster.pid")
  pg_prepare
}

# psql as the owner, over the socket; statements come in, so that none stands in a list of processes.
pg_owner() { as_pg "$pg_bin/psql" -X -q -t -A -v ON_ERROR_STOP=1 -h "$pg_socket" -p "$pg_port" -U surge -d "${1:-postgres}"; }

# The database, the role of the application, and the files of passwords that libpq and the server read.
pg_prepare() {
  local exists tries=0
  until exists=$(echo "select count(*) from pg_database where datname = 'surge'" | pg_owner 2>"$data/psql.log"); do
    # It may still be recovering from a blow.
    tries=$((tries + 1))
    [ $tries -lt 120 ] && pg_running || die "the database does not answer: $(tail -1 "$data/psql.log")"
    sleep 0.5
  done
  [ "$exists" = 1 ] || echo 'create database surge' | pg_owner >/dev/null || die "the database could not be created"
  printf '127.0.0.1:*:*:surge:%s\n' "$(cat "$data/password")" | keep_secret "$data/owner.pgpass"
  if [ ! -s "$data/app.pgpass" ] || [ "$(echo "select count(*) from pg_roles where rolname = 'surge_app'" | pg_owner)" != 1 ]; then
    local secret
    secret=$(random_secret)
    { echo "do \$\$ begin if not exists (select from pg_roles where rolname = 'surge_app') then create role surge_app; end if; end \$\$;"
      echo "alter role surge_app login nosuperuser nocreatedb nocreaterole noinherit password '$secret';"; } | pg_owner >/dev/null ||
      die "the role of the application could not be made"
    printf '127.0.0.1:*:*:surge_app:%s\n' "$secret" | keep_secret "$data/app.pgpass"
  fi
}

# Addresses without a password: it comes from the file that PGPASSFILE names.
pg_owner_url() { echo "postgres://surge@127.0.0.1:$pg_port/surge"; }
pg_app_url() { echo "postgres://surge_app@127.0.0.1:$pg_port/surge"; }

# pg_test_url ROLE FILE: an address with its password, for a cluster that is thrown away.
pg_test_url() { echo "postgres://$1:$(cut -d: -f5 "$2")@127.0.0.1:$pg_port/surge"; }

# Sets the owner's password anew, over the socket, whatever it was.
pg_new_password() {
  local secret
  secret=$(random_secret)
  echo "$secret" | tr -d '\n' | keep_secret "$data/password"
  pg_start
  echo "alter role surge password '$secret';" | pg_owner >/dev/null || die "the password could not be set"
}

pg_stop() {
  pg_running || return 0
  pg_find || return 0
  as_pg "$pg_bin/pg_ctl" -D "$data/postgres" -m fast -w -t 20 stop >/dev/null 2>&1 && return 0
  pg_running || return 0
  say "the database does not end by itself: it is stopped at once, and recovers at the next start"
  as_pg "$pg_bin/pg_ctl" -D "$data/postgres" -m immediate -w -t 10 stop >/dev/null 2>&1 || say "the database did not stop"
}
