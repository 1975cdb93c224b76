#!/usr/bin/env bash
# Writes the whole database to one file, also while Ample Crane runs: npm run backup [-- FILE]
# FILE: data/backups/ample-crane-<time>.dump when left out. Restored by: npm run restore -- FILE
set -euo pipefail
cd "$(dirname "$0")/.."
. scripts/database.sh

file=${1:-$data/backups/ample-crane-$(date -u +%Y-%m-%dT%H%M%SZ).dump}
mkdir -p "$(dirname "$file")"
url=$(database_address)
# Under another name until it is whole: what has the name of a backup is one.
part="$file.part"
trap 'rm -f "$part"' EXIT
"$programs/pg_dump" --format=custom --no-owner --no-privileges --file="$part" "$url"
"$programs/pg_restore" --list "$part" > /dev/null
mv "$part" "$file"
echo "backup: $file, $(du -h "$file" | cut -f1)"
