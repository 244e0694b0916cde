"""Serves the depot on loopback: ``python -m reticula.depot FOLDER PORT``."""

from __future__ import annotations

import os
import sys
from pathlib import Path

import uvicorn
from a2wsgi import WSGIMiddleware

from reticula.depot.app import create_depot

if __name__ == "__main__":
    depot = create_depot(Path(sys.argv[1]), os.environ.get("RETICULA_DEPOT_TOKEN", ""))
    uvicorn.run(
        WSGIMiddleware(depot, workers=4),  # type: ignore[arg-type]  # each library has its own types
        host="127.0.0.1",
        port=int(sys.argv[2]),
        server_header=False,
        access_log=False,
        timeout_graceful_shutdown=1,
        lifespan="off",
    )
