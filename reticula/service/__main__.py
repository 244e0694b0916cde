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

TIDY_EVERY = 60.0


def main() -> None:
    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(levelname)s %(name)s: %(message)s")
    config = Config.from_environment()
    app = create_app(config)
    pool = app.extensions["reticula"].pool

    def end(number: int, frame: object) -> None:
        pool.close()
        sys.exit(0)

    signal.signal(signal.SIGTERM, end)
    signal.signal(signal.SIGINT, end)

    def tidy() -> None:
        while True:
            time.sleep(TIDY_EVERY)
            pool.buffers.tidy()

    threading.Thread(target=tidy, daemon=True).start()
    serve(app, host=config.host, port=config.port, threads=24, ident="reticula", channel_timeout=120)


if __name__ == "__main__":
    main()
