# All tests, in the order in which they fail fastest. Sourced by ./surge test.
# The database is a throw-away cluster, so that a run touches nothing of the user's.

test_home=$(mktemp -d)
chmod 711 "$test_home"
data=$test_home/data
mkdir -p "$data"
on_exit "rm -rf '$test_home'"
on_exit pg_stop

step() {
  printf '\n== %s\n' "$1" >&2
  shift
  "$@"
}

step "types, lint, format, walls between packages" node scripts/checks.mjs
if [ -n "${DATABASE_URL:-}" ]; then say "tests use an own cluster; DATABASE_URL is not touched"; fi
PG_OPTIONS='-c fsync=off -c synchronous_commit=off -c full_page_writes=off' pg_start
export DATABASE_URL=$(pg_test_url surge "$data/owner.pgpass") DATABASE_APP_URL=$(pg_test_url surge_app "$data/app.pgpass")
export EVIDENCE_TO=$data/evidence
unit=(node node_modules/vitest/vitest.mjs run --reporter=default --reporter=json)
units() {
  if [ -n "${VAST_SURGE_LONG:-}" ]; then
    "${unit[@]}" --coverage --outputFile.json=test-results/unit.json
    return
  fi
  # What starts and kills servers waits most of its time: it runs beside what calculates, one file after the other. The other tests of
  # the server come afterwards, as one of those puts a broken migration into the tree for a moment.
  "${unit[@]}" --project alone --outputFile.json=test-results/unit-alone.json >"$data/alone.log" 2>&1 &
  local alone=$! code=0
  on_exit "kill $alone 2>/dev/null || true"
  "${unit[@]}" --project calculation --outputFile.json=test-results/unit.json
  wait "$alone" || code=$?
  cat "$data/alone.log"
  [ "$code" -eq 0 ] || return "$code"
  "${unit[@]}" --project system --outputFile.json=test-results/unit-system.json
}
rm -rf test-results
step "core, contract, server, terminal" units
step "book of evidence" npx --no-install tsx scripts/evidence.ts --check "$EVIDENCE_TO"
build_web
step "size of the interface" node scripts/bundle-size.mjs
if [ -z "${CHROMIUM:-}" ]; then
  # The one without windows does the same in less time.
  command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || apt_install chromium-headless-shell
  CHROMIUM=$(command -v chromium-headless-shell || command -v chromium)
fi
export CHROMIUM
E2E_PORT=$(free_port) && export E2E_PORT
step "the interface in a browser" npm run --silent e2e
step "summary" node scripts/test-summary.mjs
