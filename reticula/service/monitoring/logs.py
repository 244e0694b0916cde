"""The log: one JSON object per line, in files that rotate. It holds neither documents nor secrets.

Of an exception the log keeps its type and where it came from; what it says may quote what somebody wrote, and is kept
for the kinds alone that cannot.
"""

from __future__ import annotations

import json
import logging
import time
import traceback
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from pathlib import Path

from flask import Flask, Response, g, request

from reticula.service.people.principal import principal

__all__ = ["JsonLines", "install_request_log", "start_log"]

MOST_BYTES, KEPT = 10 * 1024**2, 5
SAYS_NOTHING_OF_OTHERS = (OSError, MemoryError, TimeoutError)
FIELDS = ("method", "path", "status", "milliseconds", "who", "evaluator")
log = logging.getLogger("reticula.requests")


class JsonLines(logging.Formatter):
    """A record as one line of JSON: time (UTC), level, logger, message, and what the record carries besides."""

    def format(self, record: logging.LogRecord) -> str:
        line = {
            "time": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "logger": record.name,
            "message": record.getMessage(),
            **{name: getattr(record, name) for name in FIELDS if hasattr(record, name)},
        }
        if record.exc_info and record.exc_info[1] is not None:
            line["error"] = described(record.exc_info[1])
        elif record.exc_text:
            line["error"] = record.exc_text
        return json.dumps(line, ensure_ascii=False, default=str)


def described(error: BaseException) -> str:
    """Return the type of an exception and where it came from, what it says only if that quotes nobody."""
    frames = traceback.extract_tb(error.__traceback__)
    said = f": {error}" if isinstance(error, SAYS_NOTHING_OF_OTHERS) else ""
    places = " < ".join(f"{Path(one.filename).name}:{one.lineno} {one.name}" for one in reversed(frames))
    return f"{type(error).__name__}{said} at {places}"


def start_log(path: Path) -> None:
    """Write the log of this process to a file that is begun anew when it is full; five older ones are kept."""
    handler = RotatingFileHandler(path, maxBytes=MOST_BYTES, backupCount=KEPT, encoding="utf-8", delay=True)
    handler.setFormatter(JsonLines())
    root = logging.getLogger()
    root.handlers[:] = [handler]
    root.setLevel(logging.INFO)
    logging.raiseExceptions = False  # a full disk silences the log, not the service


def install_request_log(app: Flask) -> None:
    """Write a line for each request: method, path without its query, status, time taken and who asked."""

    @app.before_request
    def begin() -> None:
        g.began = time.perf_counter()

    @app.after_request
    def end(response: Response) -> Response:
        taken = (time.perf_counter() - g.get("began", time.perf_counter())) * 1e3
        told = {
            "method": request.method,
            "path": request.path[:300],
            "status": response.status_code,
            "milliseconds": round(taken, 1),
            "who": principal().name,
        }
        log.info("%s %s", request.method, request.url_rule or "-", extra=told)
        return response
