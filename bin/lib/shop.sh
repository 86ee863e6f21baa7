# A real shop: made once, started, looked after, brought to a newer version.
SHOP_ENV="$STATE/shop.env"
RUN="$STATE/run"

# What a shop's processes read; values are written so that a shell and systemd read them alike.
shop_settings() {
  [ -f "$SHOP_ENV" ] || fail "there is no shop here yet: bin/felloe init"
  set -a
  # shellcheck source=/dev/null
  . "$SHOP_ENV"
  set +a
  export DJANGO_SETTINGS_MODULE=felloe.config.settings.production OPENBLAS_NUM_THREADS=1 FELLOE_PG_BIN
  FELLOE_PG_BIN="$(pg_bin)"
}

# shop_setting NAME VALUE: set or change one line.
shop_setting() {
  case "$2" in *[!A-Za-z0-9.,:/@_+=-]*) fail "$1 cannot hold “$2”: letters, digits and . , : / @ _ + = - only" ;; esac
  touch "$SHOP_ENV"
  chmod 600 "$SHOP_ENV"
  { grep -v "^$1=" "$SHOP_ENV" || true; printf '%s=%s\n' "$1" "$2"; } >"$SHOP_ENV.new"
  chmod 600 "$SHOP_ENV.new"
  mv "$SHOP_ENV.new" "$SHOP_ENV"
}
shop_has() { grep -q "^$1=" "$SHOP_ENV" 2>/dev/null; }
random_text() { head -c "$1" /dev/urandom | od -An -tx1 | tr -d ' \n'; }

# The private cluster, unless the settings name a database elsewhere.
shop_database() {
  CLUSTER_STARTED=no
  shop_has FELLOE_DB_PORT || cluster_start "${FELLOE_CLUSTER:-shop}"
}

run_init() {
  local first=()
  while [ $# -gt 0 ]; do
    case "$1" in
      --shop | --zone | --currency | --language | --owner | --owner-name | --password-file) first+=("$1" "${2:-}") && shift ;;
      --hosts) shop_setting FELLOE_HOSTS "${2:-}" && shift ;;
      --port)
        case "${2:-}" in '' | *[!0-9]*) fail "--port takes a number" ;; esac
        shop_setting FELLOE_PORT "$2" && shift
        ;;
      --address) shop_setting FELLOE_ADDRESS "${2:-}" && shift ;;
      --hsts-days)
        case "${2:-}" in '' | *[!0-9]*) fail "--hsts-days takes a number; 0 is none" ;; esac
        shop_setting FELLOE_HSTS_SECONDS $((${2:-0} * 86400)) && shift
        ;;
      *) fail "init takes --shop NAME --zone ZONE --currency CODE --language CODE --owner LOGIN --owner-name NAME --password-file FILE --hosts A,B --address URL --port N --hsts-days N; found “$1”" ;;
    esac
    shift
  done
  setup_debian
  setup_python
  setup_web
  shop_has FELLOE_SECRET_KEY || shop_setting FELLOE_SECRET_KEY "$(random_text 48)"
  shop_has FELLOE_PORT || shop_setting FELLOE_PORT 8470
  shop_has FELLOE_HOSTS || shop_setting FELLOE_HOSTS "$(hostname -f 2>/dev/null || hostname)"
  shop_has FELLOE_HSTS_SECONDS || shop_setting FELLOE_HSTS_SECONDS 0
  shop_has FELLOE_LIVE || shop_setting FELLOE_LIVE /live
  [ -f "$STATE/backup.passphrase" ] || (umask 077 && random_text 24 >"$STATE/backup.passphrase")
  shop_settings
  trap 'cluster_stop' EXIT
  shop_database
  "$PY" manage.py migrate --noinput -v 0
  "$PY" manage.py first_shop "${first[@]}"
  say "settings are in .felloe/shop.env; mail is set there too (docs/running.md)"
  say "backups are sealed under .felloe/backup.passphrase: keep a copy of it elsewhere"
  say "next: bin/felloe start, and a proxy with TLS before it (deploy/)"
}

# alive NAME: whether that process runs, by its file; a number that somebody else's process has by now does not count.
alive() {
  local pid
  pid=$(cat "$RUN/$1.pid" 2>/dev/null) || return 1
  [ -n "$pid" ] && [ -r "/proc/$pid/cmdline" ] && tr '\0' ' ' <"/proc/$pid/cmdline" | grep -q "$VENV"
}

# again COMMAND…: put up again whenever it ends by itself, as the worker does when its database was away for a moment.
AGAIN='trap "kill -TERM \$child 2>/dev/null; wait \$child; exit 0" TERM
while :; do "$@" & child=$!; wait $child; echo "ended with $?; started again"; sleep 2 & child=$!; wait $child; done'

spawn() { # NAME COMMAND…
  local name="$1"
  shift
  setsid nohup "$@" >>"$STATE/$name.log" 2>&1 </dev/null &
  echo $! >"$RUN/$name.pid"
}

run_start() {
  local foreground=no
  case "${1:-}" in '') ;; --foreground) foreground=yes ;; *) fail "start takes --foreground; found “$1”" ;; esac
  setup_python
  setup_web
  shop_settings
  mkdir -p "$RUN"
  ! alive server || fail "it runs already: bin/felloe status"
  ! port_taken "$FELLOE_PORT" || fail "port $FELLOE_PORT is in use by something else"
  shop_database
  start_processes
  if ! wait_ready; then
    tail -n 12 "$STATE/server.log" >&2
    stop_processes
    cluster_stop
    fail "it did not get ready"
  fi
  say "Felloe works on 127.0.0.1:$FELLOE_PORT, live events on $((FELLOE_PORT + 1)), for the proxy"
  [ "$foreground" = yes ] || return 0
  trap 'stop_processes; cluster_stop; exit 0' INT TERM
  while alive server; do sleep 5 & wait $! || true; done
  stop_processes
  cluster_stop
  fail "the server ended by itself; see .felloe/server.log"
}

# The places of FELLOE_PLACES that hold shops; each has a worker of its own.
place_names() { printf '%s' "${FELLOE_PLACES:-}" | tr ',' '\n' | sed -n 's/^ *\([a-z][a-z0-9]*\)=.*/\1/p'; }
process_names() {
  local place
  printf '%s\n' server live worker
  for place in $(place_names); do printf 'worker-%s\n' "$place"; done
}

start_processes() {
  local place
  rm -rf "$RUN/metrics"
  mkdir -p "$RUN/metrics"
  spawn live bash -c "$AGAIN" live "$VENV/bin/uvicorn" felloe.live.server:app --host 127.0.0.1 --port "$((FELLOE_PORT + 1))" --log-level warning --no-access-log
  spawn worker bash -c "$AGAIN" worker nice -n 5 "$PY" manage.py procrastinate worker --concurrency 2
  for place in $(place_names); do
    FELLOE_PLACE="$place" spawn "worker-$place" bash -c "$AGAIN" worker nice -n 5 "$PY" manage.py procrastinate worker --concurrency 2
  done
  # What a password's hash took goes back at once, instead of staying with each thread.
  MALLOC_MMAP_THRESHOLD_=16777216 PROMETHEUS_MULTIPROC_DIR="$RUN/metrics" spawn server "$VENV/bin/gunicorn" felloe.config.wsgi:application -c python:felloe.config.serving \
    --bind "127.0.0.1:$FELLOE_PORT" --workers 2 --threads 4 --access-logfile /dev/null
}

# asked PATH: what the server says there, and whether it is well.
asked() { "$PY" -c 'import sys, urllib.request as u
try:
    print(u.urlopen(sys.argv[1], timeout=5).read().decode().strip())
except Exception as error:
    print(getattr(error, "read", lambda: b"no answer")().decode().strip() or "no answer"); sys.exit(1)' "http://127.0.0.1:$FELLOE_PORT/$1"; }

wait_ready() {
  local try
  for try in $(seq 1 120); do
    ! asked ready >/dev/null 2>&1 || return 0
    alive server || return 1
    sleep 0.5
  done
  return 1
}

stop_processes() {
  local name try
  for name in $(process_names); do ! alive "$name" || kill -TERM "$(cat "$RUN/$name.pid")" 2>/dev/null || true; done
  for name in $(process_names); do
    for try in $(seq 1 60); do alive "$name" || break; sleep 0.5; done
    # With all that it started.
    ! alive "$name" || kill -KILL -- "-$(cat "$RUN/$name.pid")" 2>/dev/null || true
    rm -f "$RUN/$name.pid"
  done
}

run_stop() {
  setup_python
  shop_settings
  stop_processes
  if ! shop_has FELLOE_DB_PORT; then
    CLUSTER_DIR=$(cluster_dir "${FELLOE_CLUSTER:-shop}") CLUSTER_STARTED=yes
    cluster_stop
  fi
  say "stopped; the data stay"
}

run_status() {
  setup_python
  shop_settings
  local name bad=0
  for name in $(process_names); do
    if alive "$name"; then say "$name runs"; else say "$name does NOT run (.felloe/$name.log)" && bad=1; fi
  done
  if name=$(asked ready); then say "ready: $name"; else say "NOT ready: $name" && bad=1; fi
  return $bad
}

run_mail_test() {
  [ $# = 1 ] || fail "mail-test takes an address"
  setup_python
  shop_settings
  "$PY" manage.py sendtestemail "$1" && say "handed to $FELLOE_MAIL_HOST; look whether it arrives"
}

# To a newer version: backup, change the code, migrate, start, look. Where it does not get ready, code and data go back.
run_upgrade() {
  [ $# -le 1 ] || fail "upgrade takes a version (a tag, a branch or a commit); without one it follows this branch"
  setup_python
  shop_settings
  [ -z "${FELLOE_PLACES:-}" ] || fail "upgrade looks after one database and here are several: see docs/many-shops.md"
  git -C "$ROOT" diff --quiet HEAD || fail "files here were changed by hand; put them back first (git stash)"
  local was to branch follows=no folder="$STATE/backups" file
  was=$(git -C "$ROOT" rev-parse HEAD)
  branch=$(git -C "$ROOT" symbolic-ref -q --short HEAD || true)
  if [ $# = 1 ]; then
    to=$(git -C "$ROOT" rev-parse --verify -q "$1^{commit}") || { git -C "$ROOT" fetch -q --tags && to=$(git -C "$ROOT" rev-parse --verify -q "$1^{commit}"); } ||
      fail "there is no version “$1”"
  else
    follows=yes
    git -C "$ROOT" fetch -q && to=$(git -C "$ROOT" rev-parse '@{upstream}') || fail "no newer version could be fetched; name one"
  fi
  [ "$was" != "$to" ] || { say "this is that version already"; return 0; }
  shop_database
  mkdir -p "$folder"
  "$PY" manage.py backup --to "$folder" --passphrase-file "$STATE/backup.passphrase" || fail "without a backup nothing is changed"
  file=$(ls -t "$folder"/*.felloe-backup | head -n 1)
  stop_processes
  # Whoever follows a branch stays on it, so that the next upgrade follows it too.
  if { if [ "$follows" = yes ]; then git -C "$ROOT" merge -q --ff-only "$to"; else git -C "$ROOT" checkout -q --detach "$to"; fi; } &&
    "$ROOT/bin/felloe" upgrade-here; then
    say "this is ${to:0:12} now; it was ${was:0:12}"
    return 0
  fi
  say "${to:0:12} does not work here: going back to ${was:0:12}"
  stop_processes
  if [ "$follows" = yes ]; then git -C "$ROOT" reset -q --keep "$was"; else git -C "$ROOT" checkout -q "${branch:-$was}"; fi
  setup_python
  setup_web
  put_data_back "$file"
  start_processes
  wait_ready || fail "the former version does not get ready either: see .felloe/server.log and docs/running.md"
  fail "nothing was upgraded; the former version works on with the data of before"
}

# By the new version's own script, since it knows how it is set up.
run_upgrade_here() {
  setup_python
  setup_web
  shop_settings
  shop_database
  mkdir -p "$RUN"
  "$PY" manage.py migrate --noinput -v 0 && start_processes && wait_ready
}

# The former version's database, where the newer one has changed its tables; the changed one is kept aside.
put_data_back() {
  ! "$PY" manage.py fits || return 0
  local name
  if shop_has FELLOE_DB_PORT; then
    name="felloe_$(date +%Y%m%d%H%M%S)"
    PGPASSWORD="${FELLOE_DB_PASSWORD:-}" "$(pg_bin)/createdb" -h "${FELLOE_DB_HOST:-127.0.0.1}" -p "$FELLOE_DB_PORT" -U "${FELLOE_DB_USER:-felloe}" "$name" ||
      fail "this database's user may make no database: restore $1 into a new one by hand (docs/backup.md), set FELLOE_DB_NAME, then bin/felloe start"
    FELLOE_DB_NAME="$name" "$PY" manage.py restore "$1" --passphrase-file "$STATE/backup.passphrase" --settings-to "$STATE/$name.env" ||
      fail "the backup $1 could not be restored into the database “$name”"
    say "the data of before are in the database “$name”; what the newer version made of them stays in “${FELLOE_DB_NAME:-felloe}”"
    shop_setting FELLOE_DB_NAME "$name"
    shop_settings
    return 0
  fi
  name="shop-$(date +%Y%m%d%H%M%S)"
  CLUSTER_STARTED=yes
  cluster_stop
  (unset FELLOE_DB_PORT FELLOE_DB_PASSWORD; run_restore "$1" --passphrase-file "$STATE/backup.passphrase" --name "$name") || fail "the backup $1 could not be restored"
  shop_setting FELLOE_CLUSTER "$name"
  unset FELLOE_DB_PORT FELLOE_DB_PASSWORD
  shop_settings
  shop_database
  say "the data of before are in the cluster “$name”; what the newer version made of them stays in “shop”"
}
