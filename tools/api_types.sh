#!/usr/bin/env bash
# Writes web/src/api/schema.d.ts from the server's own OpenAPI document; with --check, only says whether it is stale.
set -euo pipefail
cd "$(dirname "$0")/.."
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
.venv/bin/vivid-lattice openapi > "$folder/openapi.json"
(cd web && npm run --silent api -- "$folder/openapi.json" -o "$folder/schema.d.ts" >/dev/null)
if [ "${1:-}" = "--check" ]; then
  cmp -s "$folder/schema.d.ts" web/src/api/schema.d.ts || { echo "web/src/api/schema.d.ts is stale: run 'make api-types'." >&2; exit 1; }
else
  cp "$folder/schema.d.ts" web/src/api/schema.d.ts
fi
