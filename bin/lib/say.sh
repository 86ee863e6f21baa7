# Messages.
say() { printf '\033[1m·\033[0m %s\n' "$*"; }
fail() {
  printf 'felloe: %s\n' "$*" >&2
  exit 1
}

# The hash of what a step was made from; a step is repeated only when it changes.
hash_of() { cat "$@" 2>/dev/null | sha256sum | cut -c1-24; }
stamped() { [ -f "$1" ] && [ "$(cat "$1")" = "$2" ]; }

require_space_mb() {
  local free
  free=$(df -Pm "$ROOT" | awk 'NR==2 {print $4}')
  [ "$free" -ge "$1" ] || fail "set-up needs about $1 MB free beside the project; only $free MB are left"
}
