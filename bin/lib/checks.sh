# Tests, checks and benches.
run_tests() {
  local checks=""
  if [ "${1:-}" = --checked ]; then
    checks=yes
    shift
  fi
  local labels=("$@")
  if [ "${1:-}" = core ]; then
    setup_python
    exec "$PY" -m tests.core_only
  fi
  setup_debian browser
  setup_debian cluster
  setup_python
  setup_web_packages
  setup_web
  trap 'cluster_stop' EXIT
  cluster_start tests fast
  export DJANGO_SETTINGS_MODULE=felloe.config.settings.test OPENBLAS_NUM_THREADS=1
  local i
  for i in "${!labels[@]}"; do
    case "${labels[$i]}" in
      scrap)
        export FELLOE_SCRAP=all
        labels[i]=tests.api.test_every_path
        labels+=(tests.api.test_schema)
        ;;
      core | outside | api | web | e2e) labels[i]="tests.${labels[$i]}" ;;
    esac
  done
  if [ ${#labels[@]} -gt 0 ]; then
    local parallel=(--parallel "$(nproc)")
    # As many databases as there are processors, and for the browser's tests a browser for each.
    "$PY" manage.py test --noinput "${parallel[@]}" "${labels[@]}"
    return
  fi
  # What needs no browser first, then the browser's tests: what fails most often fails soonest. Both in the same databases,
  # since it takes half a minute to make them; those of a run that was broken off are not used again.
  drop_test_databases
  local quiet=0 browser=0 checked=0 checking=""
  if [ -n "$checks" ]; then
    # What reads the sources fills the processors while databases are made and the slowest class runs alone.
    (run_check) >"$STATE/checks.log" 2>&1 &
    checking=$!
  fi
  "$PY" manage.py test --noinput --keepdb --exclude-tag e2e --parallel "$(nproc)" tests 2>&1 | tee "$STATE/tests.log" || quiet=$?
  if [ -n "$checking" ]; then
    wait "$checking" || checked=$?
    cat "$STATE/checks.log"
  fi
  # A browser waits for its server and the server for the browser: one more of them fills the processors.
  "$PY" manage.py test --noinput --keepdb --tag e2e --parallel "$(($(nproc) + 1))" tests 2>&1 | tee "$STATE/browser.log" || browser=$?
  drop_test_databases
  cat "$STATE/tests.log" "$STATE/browser.log" | awk '
    /^[0-9]+ passed, [0-9]+ failed, [0-9]+ skipped$/ { passed += $1; failed += $3; skipped += $5 }
    END { printf "%d passed, %d failed, %d skipped\n", passed, failed, skipped }'
  [ "$quiet" = 0 ] && [ "$browser" = 0 ] && [ "$checked" = 0 ]
}

drop_test_databases() {
  local at=("$(pg_bin)/psql" -h 127.0.0.1 -p "$FELLOE_DB_PORT" -U felloe -d felloe -qAt)
  PGPASSWORD="$FELLOE_DB_PASSWORD" "${at[@]}" -c "SELECT format('DROP DATABASE %I WITH (FORCE);', datname) FROM pg_database WHERE datname LIKE 'test\_%'" |
    PGPASSWORD="$FELLOE_DB_PASSWORD" "${at[@]}"
}

make_api() { # schema file, types file
  DJANGO_SETTINGS_MODULE=felloe.config.settings.test "$PY" manage.py spectacular --validate --fail-on-warn --file "$1"
  (cd "$WEB" && npx openapi-typescript "$1" --default-non-nullable=false -o "$2" >/dev/null)
}

step() {
  say "$1"
  shift
  "$@" || fail "check failed: $*"
}

run_check() {
  setup_python
  setup_web_packages
  local scratch page
  scratch=$(mktemp -d)
  # What only reads the page's own sources goes beside the rest.
  (
    step "TypeScript format" npm --prefix web run --silent format
    step "TypeScript lint" npm --prefix web run --silent lint
    step "TypeScript types" npm --prefix web run --silent types
  ) >"$scratch/page.log" 2>&1 &
  page=$!
  setup_web
  step "what the page weighs" node "$WEB/budget.mjs"
  step "Python format" "$VENV/bin/ruff" format --check .
  step "Python lint" "$VENV/bin/ruff" check .
  step "Python types" "$VENV/bin/mypy"
  step "import contracts" "$VENV/bin/lint-imports" --config pyproject.toml
  step "sentences that can be translated" "$PY" -m felloe.cli.sentences --check
  step "missing migrations" env DJANGO_SETTINGS_MODULE=felloe.config.settings.test "$PY" manage.py makemigrations --check --dry-run
  step "an empty database's tables (else: bin/felloe schema)" env DJANGO_SETTINGS_MODULE=felloe.config.settings.test "$PY" manage.py schema --check
  step "deployment settings" env DJANGO_SETTINGS_MODULE=felloe.config.settings.production FELLOE_SECRET_KEY="$(head -c 48 /dev/urandom | base64)" \
    FELLOE_HOSTS=shop.example FELLOE_HSTS_SECONDS=31536000 FELLOE_HSTS_ALL=yes "$PY" manage.py check --deploy --fail-level WARNING
  step "API description" make_api "$scratch/openapi.yaml" "$scratch/schema.d.ts"
  step "API description is current (else: bin/felloe api)" diff -u docs/formats/openapi.yaml "$scratch/openapi.yaml"
  step "TypeScript types are current (else: bin/felloe api)" diff -u web/src/api/schema.d.ts "$scratch/schema.d.ts"
  cp -r web/src/locales "$scratch/locales"
  step "the page's messages" npm --prefix web run --silent messages
  step "the page's messages are current (else: bin/felloe words)" diff -ru "$scratch/locales" web/src/locales
  local fine=0
  wait "$page" || fine=$?
  cat "$scratch/page.log"
  rm -rf "$scratch"
  [ "$fine" = 0 ] || fail "check failed: the page"
  say "all checks passed"
}

run_bench() {
  local what="${1:-all}"
  setup_python
  export OPENBLAS_NUM_THREADS=1
  case "$what" in model | all) "$PY" -m tests.bench.model ;; esac
  case "$what" in truing) "$PY" -m tests.bench.truing "${2:-36}" ;; esac
  case "$what" in live) "$PY" -m tests.bench.live_study ${2:+"$2"} ;; esac
  case "$what" in building) "$PY" -m tests.bench.building ${2:+"$2"} ;; esac
  case "$what" in promises) "$PY" -m tests.bench.promises ${2:+"$2"} ;; esac
  case "$what" in failover) run_failover_bench "${2:-}" ;; esac
  case "$what" in slips | lacing) "$PY" -m "tests.bench.$what" ${2:+"$2"} ;; esac
  case "$what" in
    http | reading | page | shop | load | all)
      setup_debian browser
      setup_web
      SERVER=""
      trap 'stop_demo' EXIT
      # A large shop takes minutes to make: it stays for the next run, unless it is asked for anew.
      local cluster=bench
      case "$what" in shop) cluster=large ;; esac
      if [ "$cluster" = bench ] || [ "${2:-}" = --fill ] || [ ! -f "$STATE/large.filled" ]; then
        cluster_remove "$cluster"
        rm -f "$STATE/$cluster.filled"
      fi
      cluster_start "$cluster"
      prepare_demo_data
      if [ "$cluster" = large ] && [ ! -f "$STATE/large.filled" ]; then
        "$PY" manage.py shell --no-imports -v 0 -c "from tests.bench.shop import fill; fill()"
        touch "$STATE/large.filled"
      fi
      local port
      port=$(free_port)
      start_server "$port"
      case "$what" in shop) "$PY" -m tests.bench.shop "http://127.0.0.1:$port" && "$PY" -m tests.bench.rail_keys "http://127.0.0.1:$port" && "$PY" -m tests.bench.reading "http://127.0.0.1:$port" ;; esac
      case "$what" in http | all) "$PY" -m tests.bench.http "http://127.0.0.1:$port" ;; esac
      case "$what" in reading | all) "$PY" -m tests.bench.reading "http://127.0.0.1:$port" ;; esac
      case "$what" in load) "$PY" -m tests.bench.load "http://127.0.0.1:$port" ;; esac
      case "$what" in page | all) "$PY" -m tests.bench.page "http://127.0.0.1:$port" ;; esac
      ;;
  esac
}
