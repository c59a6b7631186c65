#!/usr/bin/env bash
# Writes web/src/api/schema.d.ts from the server's own OpenAPI document, and web/src/api/defaults.json, what the parts of a job are
# where nobody states otherwise and how conductors are painted, and web/src/messages/words.json, the words of each standard; with --check, only says whether they are stale.
# The last line of the file has the checksum of what it was made from and of itself: to make it again takes ten seconds.
set -euo pipefail
cd "$(dirname "$0")/.."
types=web/src/api/schema.d.ts
defaults=web/src/api/defaults.json
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

.venv/bin/python - "$folder/openapi.json" > "$folder/defaults.json" <<'PYTHON'
import json, sys

from vivid_lattice.core.rules.conductor_colours import PAINTS

schemas = json.load(open(sys.argv[1]))["components"]["schemas"]
parts = ["Rcd", "Room", "Section", "Load", "Board", "Circuit", "Enclosure", "Mounting", "BusbarStock", "ControlGear", "WeightsGiven"]
defaults = {
    part: {name: field["default"] for name, field in schemas[part]["properties"].items() if field.get("default") is not None}
    for part in parts
}
print(json.dumps(defaults | {"paints": dict(PAINTS)}, indent=2))
PYTHON

words=web/src/messages/words.json
.venv/bin/python - > "$folder/words.json" <<'PYTHON'
import json

from vivid_lattice.core.rules import rule_set, standard_ids

words = {standard: rule_set(standard).words for standard in standard_ids()}
print(json.dumps({name: {"english": each.english, "forms": dict(each.forms)} for name, each in words.items()}, ensure_ascii=False, indent=1))
PYTHON

checksum() { # checksum TYPES: of the document, the generator and the types made of them
  { cat "$folder/openapi.json" "$1"; grep '"version"' web/node_modules/openapi-typescript/package.json; } | sha256sum | cut -d ' ' -f 1
}

if [ "${1:-}" = "--check" ]; then
  sed '$d' "$types" > "$folder/schema.d.ts"
  [ "$(tail -n 1 "$types")" = "// sha256 $(checksum "$folder/schema.d.ts")" ] && cmp -s "$folder/defaults.json" "$defaults" && cmp -s "$folder/words.json" "$words" || { echo "$types is stale: run 'make api-types'." >&2; exit 1; }
else
  cp "$folder/defaults.json" "$defaults"
  cp "$folder/words.json" "$words"
  (cd web && npm run --silent api -- "$folder/openapi.json" -o "$folder/schema.d.ts" >/dev/null)
  { cat "$folder/schema.d.ts"; echo "// sha256 $(checksum "$folder/schema.d.ts")"; } > "$types"
fi
