# A private PostgreSQL cluster on loopback, one for the demo and one for tests.

# PostgreSQL refuses root; as root the cluster belongs to the user postgres.
as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else (cd / && "$@"); fi
}

# Where the cluster's files are: in .felloe, or under /var/tmp where a closed parent folder keeps postgres out.
cluster_dir() {
  local name="$1" dir="$STATE/$1"
  mkdir -p "$dir"
  if [ "$(id -u)" = 0 ] && ! runuser -u postgres -- test -x "$dir" 2>/dev/null; then
    dir="/var/tmp/felloe-$(printf '%s' "$ROOT" | sha256sum | cut -c1-12)-$name"
    mkdir -p "$dir"
  fi
  chmod 700 "$dir"
  [ "$(id -u)" != 0 ] || chown postgres: "$dir"
  printf '%s' "$dir"
}

free_port() { /usr/bin/python3 -c 'import socket; s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])'; }
port_taken() { /usr/bin/python3 -c 'import socket, sys; s = socket.socket(); s.settimeout(1); sys.exit(s.connect_ex(("127.0.0.1", int(sys.argv[1]))) != 0)' "$1"; }

cluster_running() { as_pg "$(pg_bin)/pg_ctl" -D "$1/data" status >/dev/null 2>&1; }

# cluster_start NAME [fast]: initialise once, start, and export the settings that Django reads.
# Sets CLUSTER_STARTED=yes when this call started it, so that only then it is stopped.
cluster_start() {
  local name="$1" mode="${2:-}" dir bin secret
  bin=$(pg_bin)
  dir=$(cluster_dir "$name")
  secret="$STATE/$name.password"
  if [ -f "$dir/ready" ] && [ ! -f "$secret" ]; then
    # Its state folder was removed. What tests and demo hold is made anew; what a shop holds is never given up.
    [ "$name" != shop ] || fail "the shop's cluster is there and its password is not: put .felloe/$name.password back"
    as_pg rm -f "$dir/ready"
  fi
  if [ ! -f "$dir/ready" ]; then
    say "making a private PostgreSQL cluster ($name)"
    ! cluster_running "$dir" || as_pg "$bin/pg_ctl" -D "$dir/data" -m fast -w stop >/dev/null
    as_pg rm -rf "$dir/data"
    (umask 077 && head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' >"$secret")
    as_pg sh -c 'umask 077; cat >"$0"' "$dir/pw" <"$secret"
    as_pg "$bin/initdb" -D "$dir/data" -U felloe --auth=scram-sha-256 --pwfile="$dir/pw" -E UTF8 \
      --locale=C.UTF-8 --locale-provider=icu --icu-locale=en-GB --no-sync --no-instructions >"$STATE/initdb.log" 2>&1 ||
      { tail -n 10 "$STATE/initdb.log" >&2; fail "the PostgreSQL cluster could not be made"; }
    as_pg rm -f "$dir/pw"
    as_pg sh -c 'cat >>"$0"' "$dir/data/postgresql.conf" <<TXT
listen_addresses = '127.0.0.1'
unix_socket_directories = ''
max_connections = 60
TXT
    [ "$mode" != fast ] || as_pg sh -c 'cat >>"$0"' "$dir/data/postgresql.conf" <<TXT
fsync = off
synchronous_commit = off
full_page_writes = off
TXT
    as_pg touch "$dir/ready"
  fi
  CLUSTER_STARTED=no
  if ! cluster_running "$dir"; then
    local port try
    for try in 1 2 3 4 5; do
      port=$(free_port)
      printf '%s' "$port" >"$STATE/$name.port"
      if as_pg "$bin/pg_ctl" -D "$dir/data" -l "$dir/log" -o "-p $port" -w -t 30 start >/dev/null 2>&1; then
        CLUSTER_STARTED=yes
        break
      fi
      sleep 2
    done
    [ "$CLUSTER_STARTED" = yes ] || { as_pg tail -n 8 "$dir/log" >&2; fail "PostgreSQL did not start"; }
  fi
  CLUSTER_DIR="$dir"
  FELLOE_DB_PORT=$(cat "$STATE/$name.port")
  FELLOE_DB_PASSWORD=$(cat "$secret")
  export FELLOE_DB_PORT FELLOE_DB_PASSWORD FELLOE_DB_USER=felloe FELLOE_DB_NAME=felloe
  if ! PGPASSWORD="$FELLOE_DB_PASSWORD" "$bin/psql" -h 127.0.0.1 -p "$FELLOE_DB_PORT" -U felloe -d felloe -c '' >/dev/null 2>&1; then
    PGPASSWORD="$FELLOE_DB_PASSWORD" "$bin/createdb" -h 127.0.0.1 -p "$FELLOE_DB_PORT" -U felloe felloe
  fi
}

cluster_stop() {
  [ "${CLUSTER_STARTED:-no}" = yes ] || return 0
  as_pg "$(pg_bin)/pg_ctl" -D "$CLUSTER_DIR/data" -m fast -w stop >/dev/null 2>&1 || true
  CLUSTER_STARTED=no
}

cluster_remove() {
  local dir
  dir=$(cluster_dir "$1")
  if [ -d "$dir/data" ]; then
    ! cluster_running "$dir" || as_pg "$(pg_bin)/pg_ctl" -D "$dir/data" -m fast -w stop >/dev/null
    as_pg rm -rf "$dir/data" "$dir/ready"
  fi
}
