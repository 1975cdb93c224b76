# Read by the scripts that speak to the database: where PostgreSQL's programs, the data folder and the database are.
data=${AMPLE_CRANE_DATA:-$PWD/data}
programs=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1)
[ -n "$programs" ] || { echo "$(basename "$0" .sh): PostgreSQL's programs are missing (Debian package 'postgresql')" >&2; exit 1; }

# The database at DATABASE_URL, or the one ./start keeps in the data folder, which is started if it does not run.
database_address() {
  if [ -n "${DATABASE_URL:-}" ]; then echo "$DATABASE_URL"; return; fi
  [ -d "$data/pg" ] || { echo "there are no data in $data: run ./start first, or set DATABASE_URL" >&2; return 1; }
  scripts/postgres.sh start "$data" durable
}
