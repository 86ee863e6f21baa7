# The front end: Node, its packages from the lock file, the build.
WEB="$ROOT/web"

node_fits() {
  "$1" -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' 2>/dev/null
}

# Puts a fitting Node first on PATH: the machine's own, else one from a PyPI wheel in the virtual environment.
setup_node() {
  if command -v node >/dev/null && command -v npm >/dev/null && node_fits node; then return 0; fi
  setup_python
  if ! node_fits "$VENV/bin/node"; then
    say "this machine has no Node 20.19 or newer: taking one from PyPI into the virtual environment"
    "$VENV/bin/uv" pip install --python "$PY" --require-hashes -r "$ROOT/requirements/node.txt" >"$STATE/node.log" 2>&1 ||
      { tail -n 15 "$STATE/node.log" >&2; fail "no fitting Node could be installed; the whole log is .felloe/node.log"; }
  fi
  export PATH="$VENV/bin:$PATH"
  node_fits node || fail "the Node from PyPI does not run on this machine; install Node 20.19 or newer"
}

setup_web_packages() {
  setup_node
  local want
  want=$(hash_of "$WEB/package-lock.json" "$WEB/package.json")
  stamped "$WEB/node_modules/felloe.stamp" "$want" && return 0
  require_space_mb 800
  say "installing the front end's packages from web/package-lock.json"
  (cd "$WEB" && npm ci --no-audit --no-fund) >"$STATE/npm.log" 2>&1 ||
    { tail -n 20 "$STATE/npm.log" >&2; fail "npm ci failed; the whole log is .felloe/npm.log"; }
  printf '%s' "$want" >"$WEB/node_modules/felloe.stamp"
}

setup_web() {
  local want
  # The rooms' own files, of pages without a script, are collected with what is built.
  want=$( (cd "$WEB" && find src index.html vite.config.ts vite.verify.config.ts package-lock.json ../felloe/*/static -type f | LC_ALL=C sort | xargs sha256sum) |
    sha256sum | cut -c1-24)
  stamped "$WEB/dist/felloe.stamp" "$want" && [ -f "$STATE/static/felloe.stamp" ] && stamped "$STATE/static/felloe.stamp" "$want" && return 0
  setup_web_packages
  say "building the front end"
  (cd "$WEB" && npx vite build && npx vite build -c vite.verify.config.ts) >"$STATE/vite.log" 2>&1 || { tail -n 20 "$STATE/vite.log" >&2; fail "the front end did not build; see .felloe/vite.log"; }
  printf '%s' "$want" >"$WEB/dist/felloe.stamp"
  setup_python
  DJANGO_SETTINGS_MODULE=felloe.config.settings.demo "$PY" manage.py collectstatic --noinput --clear --ignore index.html >"$STATE/static.log" 2>&1 ||
    { tail -n 20 "$STATE/static.log" >&2; fail "static files could not be collected; see .felloe/static.log"; }
}
