# Two of everything, on loopback: what stands on machines of their own elsewhere.
run_cluster() {
  [ "${1:-}" = demo ] || fail "cluster takes: demo [--fresh] [--port N]"
  shift
  local fresh=no port=8480
  demo_flags "cluster demo" "$@"
  setup_debian cluster
  setup_python
  setup_web
  local words=("$(cluster_dir pair)" "$STATE" "$(pg_bin)" "$port")
  [ "$fresh" = no ] || words+=(--fresh)
  exec "$PY" -m felloe.cli.cluster "${words[@]}"
}

run_failover_bench() { # how often
  setup_debian cluster
  setup_debian browser
  setup_python
  setup_web
  "$PY" -m tests.bench.failover "$(cluster_dir failover)" "$STATE" "$(pg_bin)" "$(free_port)" "${1:-10}"
}
