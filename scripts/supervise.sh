# One launcher at a time, and what it watches over. Sourced by ./surge.
# Needs: $data, $root, $port, die, say, on_exit, postgres.sh, ${tsx[@]}.

alive() { [ -n "${1:-}" ] && kill -0 "$1" 2>/dev/null; }

# Whoever starts or stops the database holds this lock on the data folder: a second launcher finds it taken, and the
# system gives it back when its holder is killed.
take_lock() {
  exec 9>>"$data/lock"
  flock -n 9 || return 1
  echo "$$ $1" >"$data/holder"
}
holder_pid() { cut -d' ' -f1 "$data/holder" 2>/dev/null || true; }
holder_verb() { cut -d' ' -f2 "$data/holder" 2>/dev/null || true; }
lock_is_taken() { ! (exec 8>>"$data/lock" && flock -n 8); }

data_folder() {
  mkdir -p "$data" 2>/dev/null || die "the data folder $data cannot be made"
  { : >"$data/.writable" && rm "$data/.writable"; } 2>/dev/null ||
    die "the data folder $data cannot be written: it is read-only, of another user, or its disk is full"
}

# A server whose launcher was killed.
server_pid() {
  local pid
  pid=$(cat "$data/server.pid" 2>/dev/null || true)
  if alive "$pid" && tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q 'server/main.ts'; then echo "$pid"; fi
}

# end_process PID SECONDS: told to end, then ended.
end_process() {
  alive "$1" || return 0
  kill -TERM "$1" 2>/dev/null || true
  local n=0
  while alive "$1" && [ $n -lt $(($2 * 10)) ]; do sleep 0.1; n=$((n + 1)); done
  if alive "$1"; then
    kill -KILL "$1" 2>/dev/null || true
    while alive "$1" && [ $n -lt $(($2 * 10 + 20)) ]; do sleep 0.1; n=$((n + 1)); done
  fi
}

# Brings the tables up to this program, as the owner. The server that runs afterwards owns nothing.
upgrade() {
  if [ -n "${DATABASE_URL:-}" ]; then
    DATABASE_URL=${DATABASE_OWNER_URL:-$DATABASE_URL} VAST_SURGE_APP_URL=$DATABASE_URL VAST_SURGE_KEEP=$data "${tsx[@]}" server/upgrade.ts 9>&-
  else
    DATABASE_URL=$(pg_owner_url) VAST_SURGE_APP_URL=$(pg_app_url) PGPASSFILE=$data/owner.pgpass PG_BIN=$pg_bin VAST_SURGE_KEEP=$data "${tsx[@]}" server/upgrade.ts 9>&-
  fi
}

launch_server() {
  if [ -n "${DATABASE_URL:-}" ]; then
    PORT=$port VAST_SURGE_KEEP=$data "${tsx[@]}" server/main.ts 9>&- &
  else
    DATABASE_URL=$(pg_app_url) PGPASSFILE=$data/app.pgpass PORT=$port VAST_SURGE_KEEP=$data VAST_SURGE_PATIENCE=30000 "${tsx[@]}" server/main.ts 9>&- &
  fi
  server=$!
  since=$SECONDS
  echo "$server" >"$data/server.pid"
}

# Looks twice a second: a database that was killed is started again, a server that was killed as well. What ended by itself
# has said why, and ends the launcher.
watch_over() {
  local code=0 nap away= restarts=0 counted=$SECONDS
  while [ -z "$ending" ]; do
    if [ -z "${DATABASE_URL:-}" ] && ! pg_running; then
      [ -n "$away" ] || say "the database was killed; it is started again"
      away=1
      # A few seconds at most: a recovery that takes longer goes on while this looks again.
      if pg_launch 5; then say "the database is back"; away=; fi
    else
      away=
    fi
    if ! alive "$server"; then
      wait "$server" && code=0 || code=$?
      # What ends ten times within a minute is not helped by another start.
      [ $((SECONDS - counted)) -lt 60 ] || { counted=$SECONDS; restarts=0; }
      case $code in
        70 | 75 | 134 | 137 | 139)
          local how='was killed'
          [ "$code" -ne 70 ] || how='broke off by a fault of its own, told above'
          [ "$code" -ne 75 ] || how='found its database gone as it started'
          restarts=$((restarts + 1))
          [ $restarts -le 10 ] || { say "the server $how $restarts times within a minute: this launcher gives up"; return "$code"; }
          say "the server $how; what it had acknowledged is in the database. It is started again"
          launch_server
          ;;
        # What it could not do at its start it has said, however long that took; what failed later is tried again.
        1) return 1 ;;
        *)
          [ "$code" -ne 0 ] && [ $((SECONDS - since)) -ge 10 ] && [ $restarts -lt 10 ] || return "$code"
          restarts=$((restarts + 1))
          say "the server ended with code $code (see $data/log); it is started again"
          launch_server
          ;;
      esac
    fi
    sleep 0.5 9>&- &
    nap=$!
    wait -n "$server" "$nap" 2>/dev/null || true
    kill "$nap" 2>/dev/null || true
  done
  end_process "$server" 7
  return 0
}

start() {
  need_node
  data_folder
  if ! take_lock start; then
    [ "$(holder_verb)" = start ] && die "already running (process $(holder_pid)); ./surge stop ends it"
    die "./surge $(holder_verb) (process $(holder_pid)) is using the workshop: start again when it has ended"
  fi
  local left
  left=$(server_pid)
  if [ -n "$left" ]; then
    say "a server (process $left) was left by a launcher that was killed: it is ended"
    end_process "$left" 7
  fi
  ending=
  trap 'ending=1' INT TERM HUP
  install_packages
  [ -n "$ending" ] || build_web
  if [ -z "${DATABASE_URL:-}" ]; then
    on_exit pg_stop
    [ -n "$ending" ] || pg_start
  fi
  [ -n "$ending" ] || upgrade || exit $?
  local code=0
  if [ -z "$ending" ]; then
    launch_server
    watch_over || code=$?
  fi
  rm -f "$data/server.pid"
  case $code in 130 | 143) code=0 ;; esac
  exit "$code"
}

# Ends launcher, server and database within half a minute, whatever they do.
stop() {
  data_folder
  if ! take_lock stop; then
    local launcher
    launcher=$(holder_pid)
    kill -TERM "$launcher" 2>/dev/null || true
    if ! flock -w 20 9; then
      say "process $launcher does not end by itself: it is ended"
      kill -KILL "$launcher" 2>/dev/null || true
      flock -w 5 9 || die "the lock on $data is held by another process"
    fi
    echo "$$ stop" >"$data/holder"
  fi
  end_process "$(server_pid)" 6
  rm -f "$data/server.pid"
  pg_stop
  say "stopped"
}

status() {
  local pid
  pid=$(server_pid)
  if [ -n "$pid" ]; then
    echo "server: running, process $pid, http://127.0.0.1:$(tr '\0' '\n' <"/proc/$pid/environ" | sed -n 's/^PORT=//p')"
    lock_is_taken || echo "launcher: was killed; ./surge start takes over"
    [ ! -d node_modules ] || PORT=$(tr '\0' '\n' <"/proc/$pid/environ" | sed -n 's/^PORT=//p') "${tsx[@]}" server/status.ts
  else
    echo "server: stopped"
  fi
  if pg_running; then echo "database: running, port $(cat "$data/port")"; else echo "database: stopped"; fi
  echo "data: $data"
  [ -n "$pid" ]
}

# use_database VERB: over the running database, or over one that runs for this moment alone. Never stops one that another started.
use_database() {
  data_folder
  local waited=0
  until take_lock "$1"; do
    if [ "$(holder_verb)" = start ] && pg_running && [ -n "$(server_pid)" ]; then
      pg_find
      pg_port=$(sed -n 4p "$data/postgres/postmaster.pid")
      pg_socket=$(sed -n 5p "$data/postgres/postmaster.pid")
      return
    fi
    [ $waited -gt 0 ] || say "waits for ./surge $(holder_verb) (process $(holder_pid))"
    waited=$((waited + 1))
    [ $waited -lt 600 ] || die "./surge $(holder_verb) (process $(holder_pid)) is still at it: try again later"
    sleep 1
  done
  pg_running || on_exit pg_stop
  pg_start
  upgrade || exit $?
}

# service [FILE]: a unit for systemd, for those who have it.
service() {
  local unit=${1:-}
  if [ -z "$unit" ]; then
    if [ "$(id -u)" -eq 0 ]; then unit=/etc/systemd/system/vast-surge.service; else unit=${XDG_CONFIG_HOME:-$HOME/.config}/systemd/user/vast-surge.service; fi
  fi
  local how='--user '
  [ "$(id -u)" -ne 0 ] || how=
  local text="[Unit]
Description=Vast Surge, a workshop for pulsed power
After=network.target

[Service]
ExecStart=$root/surge start
ExecStop=$root/surge stop
Environment=PORT=$port
Environment=VAST_SURGE_DATA=$data
${VAST_SURGE_PROXY:+Environment=VAST_SURGE_PROXY=$VAST_SURGE_PROXY
}${VAST_SURGE_URL:+Environment=VAST_SURGE_URL=$VAST_SURGE_URL
}Restart=on-failure
RestartSec=5
TimeoutStartSec=600
TimeoutStopSec=40
KillMode=mixed

[Install]
WantedBy=$([ "$(id -u)" -eq 0 ] && echo multi-user.target || echo default.target)"
  if [ "$unit" = - ]; then echo "$text"; return; fi
  mkdir -p "$(dirname "$unit")" && echo "$text" >"$unit" || die "FILE: $unit cannot be written"
  say "$unit is written. Switch it on with: systemctl ${how}daemon-reload && systemctl ${how}enable --now vast-surge"
}
