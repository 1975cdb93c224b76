#!/usr/bin/env bash
# A private PostgreSQL cluster on loopback, never run as root.
#   postgres.sh install                     make sure the server programs are there
#   postgres.sh start DIR MODE [PORT]       MODE durable or throwaway; prints the address of its database
#   postgres.sh stop DIR [fast|immediate]
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

free_port() {
  local port
  for port in $(seq "${1:-54320}" 54999); do
    (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null || { echo "$port"; return; }
  done
  die "no free loopback port between 54320 and 54999"
}

address() {
  local dir=$1
  echo "postgres://ample_crane:$(cat "$dir/pg-password")@127.0.0.1:$(cat "$dir/pg-port")/ample_crane"
}

running() { [ -f "$1/pg/postmaster.pid" ] && as_owner "$(programs)/pg_ctl" -D "$1/pg" status >/dev/null 2>&1; }

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
  if running "$dir"; then address "$dir"; return; fi
  if [ ! -s "$dir/pg/PG_VERSION" ]; then
    (umask 077; head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/pg-password")
    local handed; handed=$(mktemp)
    cp "$dir/pg-password" "$handed"
    [ "$(id -u)" -eq 0 ] && chown postgres "$handed"
    as_owner "$bin/initdb" -D "$dir/pg" -U ample_crane --pwfile="$handed" -A scram-sha-256 -E UTF8 --locale=C.UTF-8 >/dev/null
    rm -f "$handed"
  fi
  port=${wanted:-$(free_port "$([ -s "$dir/pg-port" ] && cat "$dir/pg-port" || echo 54320)")}
  echo "$port" > "$dir/pg-port"
  local options="-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c shared_buffers=64MB"
  [ "$mode" = throwaway ] && options="$options -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
  as_owner "$bin/pg_ctl" -D "$dir/pg" -l "$dir/pg/server.log" -w -t 60 -o "$options" start >/dev/null ||
    die "PostgreSQL did not start; its log is $dir/pg/server.log"
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
  *) die "usage: postgres.sh install | start DIR durable|throwaway [PORT] | stop DIR [fast|immediate] | address DIR" ;;
esac
