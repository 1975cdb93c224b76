#!/usr/bin/env bash
# Puts a backup in the place of the database: npm run restore -- FILE
# It is brought to this version and its log is replayed first; only what agrees takes the place. What was there before is kept
# beside it as <name>_before_<time>.
set -euo pipefail
cd "$(dirname "$0")/.."
. scripts/database.sh
die() { echo "restore: $*" >&2; exit 1; }

file=${1:-}
[ -n "$file" ] || die "say which file: npm run restore -- data/backups/….dump"
[ -r "$file" ] || die "there is no file $file"
"$programs/pg_restore" --list "$file" > /dev/null 2>&1 || die "$file is no backup, or is damaged"
if [ -e "$data/lock" ]; then
  exec 9> "$data/lock"
  flock -n 9 || die "Ample Crane runs: stop it first (Ctrl-C where ./start runs)"
fi
scripts/prepare.sh

running=true
if [ -z "${DATABASE_URL:-}" ] && ! scripts/postgres.sh running "$data"; then running=false; fi
url=$(database_address)
trap '$running || scripts/postgres.sh stop "$data"' EXIT
stem=${url%/*} name=${url##*/}
name=${name%%\?*}
stamp=$(date -u +%Y%m%d%H%M%S)
fresh="${name}_restoring_$stamp"
sql() { "$programs/psql" -qXAt -v ON_ERROR_STOP=1 "$stem/postgres" -c "$1"; }

echo "  reading $file…"
sql "CREATE DATABASE \"$fresh\""
give_up() { sql "DROP DATABASE IF EXISTS \"$fresh\""; die "$*; the database is as it was"; }
"$programs/pg_restore" --no-owner --no-privileges --exit-on-error --dbname="$stem/$fresh" "$file" || give_up "$file cannot be read"
echo "  bringing it to this version…"
DATABASE_URL="$stem/$fresh" node server/dist/commands/migrate.js || give_up "it cannot be brought to this version"
echo "  replaying its log…"
DATABASE_URL="$stem/$fresh" node server/dist/commands/replay-check.js || give_up "its tables do not agree with its log"
sql "ALTER DATABASE \"$name\" RENAME TO \"${name}_before_$stamp\"" || give_up "somebody is connected to the database"
sql "ALTER DATABASE \"$fresh\" RENAME TO \"$name\""
echo "restore: $file is in place; what was there before is the database ${name}_before_$stamp"
