"""Room on the disk: what would have to be kept is refused while there is hardly any left, so that the database never
meets a full disk, which ends it, and reading goes on.
"""

from __future__ import annotations

import shutil
from pathlib import Path

from flask import Flask, Response, request

from reticula.service.errors import FULL, refuse
from reticula.service.people.access import keeps_something

__all__ = ["LEAST_FREE", "install_room"]

LEAST_FREE = 64 * 1024**2
"""Bytes of free disk below which the database may fail at any moment."""


def install_room(app: Flask, var: Path) -> None:
    """Refuse what is to be kept while the disk of ``var`` is full. Taking things away is allowed: it makes room."""

    @app.before_request
    def look() -> Response | None:
        if request.method == "DELETE" or not keeps_something(request.endpoint):
            return None
        return refuse(507, "disk full", FULL) if shutil.disk_usage(var).free < LEAST_FREE else None
