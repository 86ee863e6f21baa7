# The demo shop, served on loopback.

# demo_flags COMMAND WORDS…: sets the caller's `fresh` and `port`.
demo_flags() {
  local command="$1"
  shift
  while [ $# -gt 0 ]; do
    case "$1" in
      --fresh) fresh=yes ;;
      --port)
        port="${2:-}"
        [ $# = 1 ] || shift
        ;;
      *) fail "$command takes --fresh and --port N; found “$1”" ;;
    esac
    shift
  done
  case "$port" in '' | *[!0-9]*) fail "--port takes a number" ;; esac
}

run_demo() {
  local fresh=no port=8460
  demo_flags demo "$@"
  ! port_taken "$port" || fail "port $port is in use, perhaps by a demo that runs already. Stop that, or say --port N."
  setup_debian
  setup_python
  setup_web
  [ "$fresh" = no ] || cluster_remove demo
  ! port_taken $((port + 1)) || fail "port $((port + 1)), for the live events, is in use. Say another --port N; N and N + 1 are taken."
  SERVER="" LIVE="" WORKER=""
  trap 'stop_demo' EXIT
  trap 'exit 130' INT TERM
  cluster_start demo
  prepare_demo_data
  start_server "$port"
  say "Felloe is ready at http://127.0.0.1:$port/"
  "$PY" -m felloe.demo.people
  say "Ctrl-C stops it; the data stay for the next start (--fresh starts over)."
  wait "$SERVER"
}

prepare_demo_data() {
  export DJANGO_SETTINGS_MODULE=felloe.config.settings.demo OPENBLAS_NUM_THREADS=1
  "$PY" manage.py migrate --noinput -v 0
  "$PY" manage.py load_demo
}

start_server() {
  export FELLOE_LIVE=":$(($1 + 1))" FELLOE_ADDRESS="${FELLOE_ADDRESS:-http://127.0.0.1:$1}"
  "$VENV/bin/uvicorn" felloe.live.server:app --host 127.0.0.1 --port "$(($1 + 1))" --log-level warning --no-access-log \
    >>"$STATE/live.log" 2>&1 &
  LIVE=$!
  bash -c "$AGAIN" worker nice -n 5 "$PY" manage.py procrastinate worker --concurrency 2 --fetch-job-polling-interval 1 >>"$STATE/worker.log" 2>&1 &
  WORKER=$!
  OPENBLAS_NUM_THREADS=1 "$VENV/bin/gunicorn" felloe.config.wsgi:application -c python:felloe.config.serving --bind "127.0.0.1:$1" --workers 2 --threads 4 \
    --access-logfile /dev/null --error-logfile "$STATE/server.log" &
  SERVER=$!
  local try
  for try in $(seq 1 60); do
    if "$PY" -c "import urllib.request as u; u.urlopen('http://127.0.0.1:$1/', timeout=2)" 2>/dev/null; then return 0; fi
    kill -0 "$SERVER" 2>/dev/null || { tail -n 15 "$STATE/server.log" >&2; fail "the server stopped while starting"; }
    sleep 0.5
  done
  fail "the server did not answer within 30 seconds; see .felloe/server.log"
}

stop_demo() {
  local process
  for process in ${SERVER:-} ${LIVE:-} ${WORKER:-}; do
    kill "$process" 2>/dev/null || true
    wait "$process" 2>/dev/null || true
  done
  cluster_stop
}

run_screenshots() {
  setup_debian browser
  setup_python
  setup_web
  SERVER=""
  trap 'stop_demo' EXIT
  cluster_remove pictures
  cluster_start pictures fast
  prepare_demo_data
  local port
  port=$(free_port)
  start_server "$port"
  "$PY" -m tests.screenshots "http://127.0.0.1:$port" "$ROOT/docs/screenshots"
}
