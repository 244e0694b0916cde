#!/bin/sh
# Says what to do if Python or Node are too old.
set -eu
python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { echo "Python 3.11 or newer is needed." >&2; exit 1; }
command -v node >/dev/null || { echo "Node 20 or newer is needed." >&2; exit 1; }
[ "$(node -p 'Number(process.versions.node.split(".")[0])')" -ge 20 ] || { echo "Node 20 or newer is needed." >&2; exit 1; }
