#!/usr/bin/env bash
# A private PostgreSQL cluster on loopback, never run as root.
#   postgres.sh install                     make sure the server programs are there
#   postgres.sh start DIR MODE [PORT]       MODE durable or throwaway; prints the address of its database
#   postgres.sh stop DIR [fast|immediate]
#   postgres.sh running DIR                 leaves with 0 when it runs
#   postgres.sh floor DIR                   prints the address of the role that only files and reads
#   postgres.sh address DIR                 prints the address of a cluster that was started before
# DIR holds the cluster in DIR/pg, the password in DIR/pg-password and the port in DIR/pg-port.
set -euo pipefail

die() { echo "postgres: $*" >&2; exit 1; }

programs() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

install_programs() {
  [ -n "$(programs)" ] && return
  echo "Installing PostgreSQL (Debian package 'postgresql')…" >&2
  local as_root=""
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null && sudo -n true 2>/dev/null && as_root="sudo" ||
      die "PostgreSQL is not installed and this user may not install it. Run: sudo apt-get install postgresql"
  fi
  { $as_root apt-get update -qq && $as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq postgresql; } >&2 ||
    die "apt-get could not install 'postgresql'. Install it by hand: apt-get install postgresql"
  [ -n "$(programs)" ] || die "postgresql is installed but its programs are not under /usr/lib/postgresql"
}

# Runs a program of the cluster as the user that owns it: postgres when we are root, ourselves otherwise.
as_owner() {
  if [ "$(id -u)" -eq 0 ]; then (cd / && runuser -u postgres -- "$@"); else (cd / && "$@"); fi
}

# Below the ports the system hands to outgoing connections (32768 and up): one of those may be taken although nobody listens.
FIRST_PORT=24320
LAST_PORT=24999

answered() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

address() {
  local dir=$1
  echo "postgres://ample_crane:$(cat "$dir/pg-password")@127.0.0.1:$(cat "$dir/pg-port")/ample_crane"
}

# The address of the role the server works as: it files and reads, and owns nothing. Its password is made with the cluster.
floor_address() {
  local dir=$1
  [ -s "$dir/pg-floor-password" ] || (umask 077; head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/pg-floor-password")
  "$(programs)/psql" -qXAt -v ON_ERROR_STOP=1 "$(address "$dir")" > /dev/null <<SQL
DO \$\$ BEGIN
  IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'ample_crane_floor') THEN CREATE ROLE ample_crane_floor; END IF;
END \$\$;
ALTER ROLE ample_crane_floor LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOREPLICATION PASSWORD '$(cat "$dir/pg-floor-password")';
SQL
  echo "postgres://ample_crane_floor:$(cat "$dir/pg-floor-password")@127.0.0.1:$(cat "$dir/pg-port")/ample_crane"
}

running() { [ -f "$1/pg/postmaster.pid" ] && as_owner "$(programs)/pg_ctl" -D "$1/pg" status >/dev/null 2>&1; }

# Nobody answering on a port does not yet mean that it can be had: tried, and if it is taken the next one.
start_on_a_port() {
  local dir=$1 mode=$2 wanted=$3 bin port log=$1/pg/server.log before=0 options
  bin=$(programs)
  for port in ${wanted:-$(cat "$dir/pg-port" 2>/dev/null || true) $(seq $FIRST_PORT $LAST_PORT)}; do
    answered "$port" && continue
    options="-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c shared_buffers=64MB"
    # Short questions gain nothing from compiling them; a rack's state is packed at every filing, and lz4 packs fast.
    options="$options -c jit=off -c default_toast_compression=lz4"
    [ "$mode" = throwaway ] && options="$options -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
    before=$(as_owner stat -c %s "$log" 2>/dev/null || echo 0)
    if as_owner "$bin/pg_ctl" -D "$dir/pg" -l "$log" -w -t 60 -o "$options" start >/dev/null 2>&1; then
      echo "$port" > "$dir/pg-port"
      return
    fi
    as_owner tail -c "+$((before + 1))" "$log" 2>/dev/null | grep -q 'Address already in use' || break
  done
  echo "postgres: PostgreSQL did not start. The last lines of its log, $log:" >&2
  # Those who knocked meanwhile would fill the last lines with how they were turned away.
  as_owner tail -c "+$((before + 1))" "$log" 2>/dev/null |
    grep -vE 'the database system is |Consistent recovery state has not been' | tail -n 8 >&2 || true
  die "no free loopback port, or something else is wrong: see above"
}

start() {
  local dir=$1 mode=$2 wanted=${3:-} bin port
  install_programs
  bin=$(programs)
  mkdir -p "$dir/pg"
  dir=$(cd "$dir" && pwd)
  if [ "$(id -u)" -eq 0 ]; then
    chown postgres "$dir/pg"
    as_owner test -x "$dir/pg" || die "the user 'postgres' cannot reach $dir; put the data where it can (AMPLE_CRANE_DATA=/var/lib/ample-crane)"
  fi
  chmod 700 "$dir/pg"
  # One that was killed is still listed for a moment, and answers nobody.
  for _ in $(seq 50); do
    running "$dir" || break
    if answered "$(cat "$dir/pg-port")"; then address "$dir"; return; fi
    sleep 0.2
  done
  if [ ! -s "$dir/pg/PG_VERSION" ]; then
    (umask 077; head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/pg-password")
    local handed; handed=$(mktemp)
    cp "$dir/pg-password" "$handed"
    [ "$(id -u)" -eq 0 ] && chown postgres "$handed"
    as_owner "$bin/initdb" -D "$dir/pg" -U ample_crane --pwfile="$handed" -A scram-sha-256 -E UTF8 --locale=C.UTF-8 >/dev/null
    rm -f "$handed"
  fi
  start_on_a_port "$dir" "$mode" "$wanted"
  port=$(cat "$dir/pg-port")
  PGPASSWORD=$(cat "$dir/pg-password") "$bin/psql" -qXAt -h 127.0.0.1 -p "$port" -U ample_crane -d postgres \
    -c "SELECT 1 FROM pg_database WHERE datname = 'ample_crane'" | grep -q 1 ||
    PGPASSWORD=$(cat "$dir/pg-password") "$bin/createdb" -h 127.0.0.1 -p "$port" -U ample_crane ample_crane
  address "$dir"
}

stop() {
  running "$1" || return 0
  as_owner "$(programs)/pg_ctl" -D "$(cd "$1" && pwd)/pg" -m "${2:-fast}" -w -t 60 stop >/dev/null
}

case "${1:-}" in
  install) install_programs ;;
  start) start "$2" "$3" "${4:-}" ;;
  stop) stop "$2" "${3:-fast}" ;;
  address) address "$2" ;;
  floor) floor_address "$2" ;;
  running) running "$2" ;;
  *) die "usage: postgres.sh install | start DIR durable|throwaway [PORT] | stop DIR [fast|immediate] | address DIR" ;;
esac
