"""Serves the application with a production WSGI server: ``python -m reticula.service``."""

from __future__ import annotations

import logging
import signal
import sys
import threading
import time

from waitress import serve

from reticula.service.app import create_app
from reticula.service.config import Config
from reticula.workers.pool import MOST_WAITS

log = logging.getLogger(__name__)
TIDY_EVERY = 60.0
THREADS = MOST_WAITS + 16


def main() -> None:
    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(levelname)s %(name)s: %(message)s")
    config = Config.from_environment()
    app = create_app(config)
    parts = app.extensions["reticula"]

    def end(number: int, frame: object) -> None:
        parts.pool.close()
        sys.exit(0)

    signal.signal(signal.SIGTERM, end)
    signal.signal(signal.SIGINT, end)

    def tidy() -> None:
        while True:
            time.sleep(TIDY_EVERY)
            try:
                parts.pool.buffers.tidy()
                with parts.database.session() as session:
                    parts.files.sweep(session)
            except Exception:
                log.exception("tidying is tried again later")

    threading.Thread(target=tidy, daemon=True).start()
    serve(app, host=config.host, port=config.port, threads=THREADS, ident="reticula", channel_timeout=120)


if __name__ == "__main__":
    main()
