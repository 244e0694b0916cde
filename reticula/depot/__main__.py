"""Serves the depot on loopback: ``python -m reticula.depot FOLDER PORT``."""

from __future__ import annotations

import sys
from pathlib import Path

from waitress import serve

from reticula.depot.app import create_depot

if __name__ == "__main__":
    serve(create_depot(Path(sys.argv[1])), host="127.0.0.1", port=int(sys.argv[2]), threads=4, ident="reticula depot")
