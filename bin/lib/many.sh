# Two of everything, on loopback: what stands on machines of their own elsewhere.
run_cluster() {
  [ "${1:-}" = demo ] || fail "cluster takes: demo [--fresh] [--port N]"
  shift
  local fresh=no port=8480
  while [ $# -gt 0 ]; do
    case "$1" in
      --fresh) fresh=yes ;;
      --port)
        port="${2:-}"
        shift
        ;;
      *) fail "cluster demo takes --fresh and --port N; found “$1”" ;;
    esac
    shift
  done
  case "$port" in '' | *[!0-9]*) fail "--port takes a number" ;; esac
  ! port_taken "$port" || fail "port $port is in use. Stop what has it, or say --port N."
  setup_debian cluster
  setup_python
  setup_web
  local dir
  dir=$(many_dir pair "$fresh")
  exec "$PY" -m felloe.cli.cluster "$dir" "$STATE" "$(pg_bin)" "$port"
}

# The folder of a cluster of two, emptied where asked. One that still runs is not emptied under its own feet.
many_dir() { # NAME fresh?
  local dir which
  dir=$(cluster_dir "$1")
  for which in one two; do
    ! cluster_running_at "$dir/pg-$which" || [ "$2" = no ] || as_pg "$(pg_bin)/pg_ctl" -D "$dir/pg-$which" -m immediate -w stop >/dev/null 2>&1 || true
  done
  if [ "$2" = yes ]; then
    as_pg sh -c 'rm -rf "$0"/pg-* "$0"/etcd' "$dir"
    rm -f "$STATE/$(basename "$dir").passwords.json"
  fi
  printf '%s' "$dir"
}

cluster_running_at() { as_pg "$(pg_bin)/pg_ctl" -D "$1" status >/dev/null 2>&1; }

run_failover_bench() { # how often
  setup_debian cluster
  setup_debian browser
  setup_python
  setup_web
  local dir
  dir=$(many_dir failover yes)
  "$PY" -m tests.bench.failover "$dir" "$STATE" "$(pg_bin)" "$(free_port)" "${1:-10}"
}
