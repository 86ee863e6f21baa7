# What comes from Debian. Nothing is touched when the programs are there already.
pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

have_postgres() { [ -n "$(pg_bin)" ] && [ -x "$(pg_bin)/initdb" ]; }
have_venv() { /usr/bin/python3 -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; }

setup_debian() { # wanted: "browser" adds Chromium, "cluster" what stands on two machines
  local packages=()
  have_postgres || packages+=(postgresql)
  have_venv || packages+=(python3 python3-venv)
  # What sets the type of a PDF.
  compgen -G "/usr/lib/*/libpangoft2-1.0.so.0" >/dev/null && compgen -G "/usr/lib/*/libharfbuzz-subset.so.0" >/dev/null ||
    packages+=(libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0)
  if [ "${1:-}" = cluster ]; then
    [ -x /usr/bin/patroni ] || packages+=(patroni python3-etcd)
    [ -x /usr/bin/etcd ] || packages+=(etcd-server)
    [ -x /usr/sbin/haproxy ] || packages+=(haproxy)
    [ -x /usr/sbin/pgbouncer ] || packages+=(pgbouncer)
  fi
  if [ "${1:-}" = browser ]; then
    # The same browser without windows, menus and pages of its own, which cost processor time and show nothing here.
    [ -x /usr/bin/chromium-headless-shell ] || [ -x /usr/bin/chromium ] || packages+=(chromium-headless-shell)
    [ -f /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf ] || packages+=(fonts-dejavu-core)
  fi
  [ ${#packages[@]} -eq 0 ] && return 0
  command -v apt-get >/dev/null || fail "missing: ${packages[*]}. Install them; this machine has no apt-get."
  local root=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "missing: ${packages[*]}. Run once as root, or install them."
    root=(sudo)
  fi
  require_space_mb 1500
  say "installing from Debian: ${packages[*]}"
  "${root[@]}" apt-get update -q >"$STATE/apt.log" 2>&1 &&
    "${root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "${packages[@]}" >>"$STATE/apt.log" 2>&1 ||
    { tail -n 15 "$STATE/apt.log" >&2; fail "Debian's packages could not be installed; the whole log is .felloe/apt.log"; }
}
