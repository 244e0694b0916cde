"""Serves the application: ``python -m reticula.service``, with settings from the environment.

With ``--told`` it loads its code first, and then reads settings for its environment from a line of JSON.
"""

from __future__ import annotations

import contextlib
import json
import logging
import os
import socket
import sys
import threading
import time

import uvicorn

from reticula.service.app import create_app
from reticula.service.config import Config
from reticula.service.context import Context
from reticula.service.monitoring.logs import start_log
from reticula.service.request_limits import JSON_BYTES
from reticula.service.serving.front import Front

log = logging.getLogger(__name__)
TIDY_EVERY = 60.0
BACKLOG = 512


def main() -> None:
    if sys.argv[1:] == ["--told"]:
        settings = sys.stdin.readline()
        if not settings:
            return  # who was to tell them has ended
        os.environ.update(json.loads(settings))
    config = Config.from_environment()
    start_log(config.var / "service.log")
    app = create_app(config)
    parts: Context = app.extensions["reticula"]
    threading.Thread(target=_tidy, args=(parts,), daemon=True).start()
    threading.Thread(target=_go_on, args=(parts,), daemon=True).start()
    try:
        uvicorn.Server(server_config(Front(app), config)).run(sockets=bound_sockets(config))
    finally:
        parts.close()
        logging.shutdown()
        os._exit(0)  # threads that still wait for a database or a reader hold nobody up


def server_config(front: Front, config: Config) -> uvicorn.Config:
    """Return how Uvicorn serves: answers uncompressed over lines of pages, since it compresses on the event loop."""
    return uvicorn.Config(
        front,
        http="httptools",
        ws="websockets-sansio",
        ws_max_size=JSON_BYTES,
        ws_per_message_deflate=False,
        backlog=BACKLOG,
        timeout_keep_alive=120,
        timeout_graceful_shutdown=1,
        server_header=False,
        access_log=False,
        log_config=None,
        lifespan="off",
    )


def bound_sockets(config: Config) -> list[socket.socket]:
    """Return where it listens: on loopback always, so that the launcher reaches it."""
    hosts = ["127.0.0.1"]
    if config.host == "0.0.0.0":
        hosts = ["0.0.0.0"]
    elif config.host not in ("127.0.0.1", "localhost"):
        hosts.append(config.host.strip("[]"))
    made = []
    for host in hosts:
        family = socket.AF_INET6 if ":" in host else socket.AF_INET
        made.append(socket.create_server((host, config.port), family=family, backlog=BACKLOG))
    return made


def _go_on(parts: Context) -> None:
    """Go on with proof sheets, as soon as the database answers."""
    while True:
        try:
            return parts.sheets.go_on()
        except Exception:
            log.exception("proof sheets are gone on with later")
        time.sleep(TIDY_EVERY)


def _tidy(parts: Context) -> None:
    while True:
        time.sleep(TIDY_EVERY)
        with contextlib.suppress(Exception):
            parts.pool.buffers.tidy()
        try:
            with parts.database.session() as session:
                parts.files.sweep(session)
                parts.drawn.sweep(session)
        except Exception:
            log.exception("tidying is tried again later")


if __name__ == "__main__":
    main()
