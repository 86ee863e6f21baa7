# Backup and restore. Without a database in the environment (FELLOE_DB_PORT) they work on the shop's, else on the demo's.

run_backup() {
  setup_debian
  setup_python
  with_database demo
  "$PY" manage.py backup "$@"
}

# The file is looked at before the fresh cluster is made, and the cluster goes again where it could not be filled.
run_restore() {
  local name=restored file="" passphrase=""
  while [ $# -gt 0 ]; do
    case "$1" in
      --name) name="${2:-}" && shift ;;
      --passphrase-file) passphrase="${2:-}" && shift ;;
      -*) fail "restore takes FILE, --passphrase-file FILE and --name NAME; found “$1”" ;;
      *) file="$1" ;;
    esac
    shift
  done
  case "$name" in demo | tests | bench | pictures | '' | *[!a-z0-9-]*) fail "--name takes a new name of small letters and digits" ;; esac
  [ -f "$file" ] && [ -f "$passphrase" ] || fail "restore takes a backup FILE and --passphrase-file FILE"
  [ ! -e "$STATE/$name.port" ] || fail "there is a cluster “$name” already: nothing is restored over it"
  setup_debian
  setup_python
  export DJANGO_SETTINGS_MODULE="${DJANGO_SETTINGS_MODULE:-felloe.config.settings.demo}" FELLOE_PG_BIN="$(pg_bin)"
  "$PY" -m felloe.cli.backup "$file" || fail "nothing was touched"
  trap 'cluster_stop' EXIT
  cluster_start "$name"
  if ! "$PY" manage.py restore "$file" --passphrase-file "$passphrase" --settings-to "$STATE/$name.env"; then
    cluster_remove "$name"
    rm -rf "$(cluster_dir "$name")" "${STATE:?}/$name" "$STATE/$name.port" "$STATE/$name.password"
    fail "the fresh cluster was removed again"
  fi
  say "the cluster “$name” holds the shop; its password is in .felloe/$name.password, its settings in .felloe/$name.env"
}

with_database() {
  export DJANGO_SETTINGS_MODULE="${DJANGO_SETTINGS_MODULE:-felloe.config.settings.demo}" FELLOE_PG_BIN="$(pg_bin)"
  [ -z "${FELLOE_DB_PORT:-}" ] || return 0
  if [ -f "$SHOP_ENV" ]; then
    trap 'cluster_stop' EXIT
    shop_settings
    shop_database
    return 0
  fi
  trap 'cluster_stop' EXIT
  cluster_start "$1"
}
