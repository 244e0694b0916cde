"""Errors as answers: every one is JSON that says what is wrong and what to do."""

from __future__ import annotations

import errno
import logging
from typing import Any

from flask import Flask, Response, jsonify, request
from pydantic import ValidationError
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from werkzeug.exceptions import HTTPException

from reticula.core.errors import ReticulaError
from reticula.store.errors import NameTaken, NotFound, Stale, StoreError
from reticula.workers.tickets import Busy

__all__ = ["install_errors", "refuse", "refuse_validation"]

log = logging.getLogger(__name__)
DISK_FULL = (1021, 1041, 1114)
"""Numbers of MariaDB's errors that mean a full disk, memory or table space."""
FULL = "The disk is full. What was saved is there and can be read; edits are kept as soon as there is room again."
DOWN = "The database does not answer. It is being started again; try in a few seconds."


def refuse(status: int, code: str, message: str, **more: Any) -> Response:
    """Return an error answer."""
    response = jsonify({"code": code, "message": message, **more})
    response.status_code = status
    return response


def refuse_validation(error: ValidationError) -> Response:
    """Return what is wrong with a request that does not fit its schema."""
    first = error.errors(include_context=False, include_input=False, include_url=False)[0]
    place = ".".join(str(part) for part in first["loc"]) or "request"
    return refuse(422, "request", f"{place}: {first['msg']}")


def _told(error: HTTPException) -> tuple[str, str]:
    if error.code == 404:
        return "not found", f"There is no '{request.path}'."
    if error.code == 405:
        return "http", f"'{request.path}' knows no {request.method}."
    return "http", error.description or "The request failed."


def install_errors(app: Flask) -> None:
    """Turn every exception into an error answer."""

    @app.errorhandler(Stale)
    def stale(error: Stale) -> Response:
        return refuse(409, "stale", str(error), graph=error.current)

    @app.errorhandler(NotFound)
    def not_found(error: NotFound) -> Response:
        return refuse(404, "not found", str(error))

    @app.errorhandler(NameTaken)
    def name_taken(error: NameTaken) -> Response:
        return refuse(409, "name taken", str(error))

    @app.errorhandler(StoreError)
    def store(error: StoreError) -> Response:
        return refuse(409, "store", str(error))

    @app.errorhandler(Busy)
    def busy(error: Busy) -> Response:
        response = refuse(429, error.code, str(error))
        response.headers["Retry-After"] = str(error.seconds)
        return response

    @app.errorhandler(ReticulaError)
    def deliberate(error: ReticulaError) -> Response:
        details = {key: value for key, value in error.details().items() if key not in ("code", "message")}
        return refuse(422, error.code, str(error), **details)

    @app.errorhandler(DBAPIError)
    def database(error: DBAPIError) -> Response:
        number = error.orig.args[0] if error.orig is not None and error.orig.args else 0
        log.error("database: %s, error %s", type(error).__name__, number)
        if number in DISK_FULL or "No space left" in str(error.orig) or "Errcode: 28" in str(error.orig):
            return refuse(507, "disk full", FULL)
        if isinstance(error, (OperationalError, InterfaceError)) or error.connection_invalidated:
            return refuse(503, "database", DOWN)
        return refuse(422, "request", "This cannot be kept: a name or number in it is none that the database holds.")

    @app.errorhandler(OSError)
    def disk(error: OSError) -> Response:
        if error.errno in (errno.ENOSPC, errno.EDQUOT):
            return refuse(507, "disk full", FULL)
        if error.errno == errno.ENAMETOOLONG:
            return refuse(404, "not found", "There is nothing of so long a name.")
        return unexpected(error)

    @app.errorhandler(413)
    def too_large(error: HTTPException) -> Response:
        most = app.config["MAX_CONTENT_LENGTH"] // 1024**2
        return refuse(413, "too large", f"This is larger than {most} MB, the most that can be uploaded.")

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        response = refuse(error.code or 500, *_told(error))
        response.headers.extend({name: value for name, value in error.get_headers() if name != "Content-Type"})
        return response

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> Response:
        log.exception("unexpected error")
        return refuse(
            500, "internal", f"This should not happen: {type(error).__name__}. Nothing that was saved is lost."
        )
