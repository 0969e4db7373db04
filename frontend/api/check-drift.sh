#!/bin/sh
# Refuses when the committed API description or the types made from it differ from the server's.
set -eu
here=$(cd "$(dirname "$0")" && pwd)
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT
"$1" openapi > "$made/openapi.json"
diff -u "$here/openapi.json" "$made/openapi.json" || { echo "API description has drifted: run make types"; exit 1; }
cd "$here/.."
npx openapi-typescript "$made/openapi.json" -o "$made/schema.gen.ts" > /dev/null
diff -u src/api/schema.gen.ts "$made/schema.gen.ts" || { echo "API types have drifted: run make types"; exit 1; }
