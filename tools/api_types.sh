#!/usr/bin/env bash
# Writes web/src/api/schema.d.ts from the server's own OpenAPI document; with --check, only says whether it is stale.
set -euo pipefail
cd "$(dirname "$0")/.."
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
# The examples of answers are for readers of the document; in the types they would only be a thousand lines of comment.
.venv/bin/vivid-lattice openapi | .venv/bin/python -c '
import json, sys
document = json.load(sys.stdin)
for path in document["paths"].values():
    for operation in path.values():
        for response in operation["responses"].values():
            for content in response.get("content", {}).values():
                content.pop("example", None)
json.dump(document, sys.stdout)
' > "$folder/openapi.json"
(cd web && npm run --silent api -- "$folder/openapi.json" -o "$folder/schema.d.ts" >/dev/null)
if [ "${1:-}" = "--check" ]; then
  cmp -s "$folder/schema.d.ts" web/src/api/schema.d.ts || { echo "web/src/api/schema.d.ts is stale: run 'make api-types'." >&2; exit 1; }
else
  cp "$folder/schema.d.ts" web/src/api/schema.d.ts
fi
