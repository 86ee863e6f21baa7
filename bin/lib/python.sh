# The virtual environment, made from the lock file.
LOCK="$ROOT/requirements/lock.txt"

setup_python() {
  local want
  want=$(hash_of "$LOCK")
  if stamped "$VENV/felloe.stamp" "$want" && "$PY" -c '' 2>/dev/null; then return 0; fi
  have_venv || setup_debian
  require_space_mb 1500
  say "making the Python environment from requirements/lock.txt"
  rm -f "$VENV/felloe.stamp"
  "$PY" -c '' 2>/dev/null || { rm -rf "$VENV"; /usr/bin/python3 -m venv "$VENV"; }
  # uv itself by its hashes too: its own lines of the lock file, up to the next package.
  sed -n '/^uv==/,/^[a-z]/{/^uv==/p;/^ /p}' "$LOCK" >"$STATE/uv.txt"
  {
    "$VENV/bin/python" -m pip install -q --disable-pip-version-check --require-hashes -r "$STATE/uv.txt" &&
      "$VENV/bin/uv" pip install --python "$PY" --compile-bytecode --require-hashes -r "$LOCK"
  } >"$STATE/python.log" 2>&1 || {
    tail -n 15 "$STATE/python.log" >&2
    fail "the Python packages could not be installed; the whole log is .felloe/python.log"
  }
  printf '%s' "$want" >"$VENV/felloe.stamp"
}
