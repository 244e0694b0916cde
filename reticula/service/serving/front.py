"""The asynchronous front of the service: takes requests in whole, hands them to threads, and parks those that wait.

Uvicorn serves it: it speaks HTTP/1.1 and WebSocket on an event loop, so that a thousand open connections and waiting
requests cost no thread. It neither replaces threads by something else, as servers that patch the standard library do,
nor needs the application to be rewritten, and lets compression of WebSockets be left out, which would hold the loop. A
slow sender or reader holds no thread either: bodies are taken in before a thread is taken, and answers are handed out
by the loop.
"""

from __future__ import annotations

import asyncio
import logging
import tempfile
from collections.abc import Awaitable, Callable
from functools import partial
from typing import Any, cast

from a2wsgi import WSGIMiddleware
from flask import Flask
from werkzeug.wsgi import FileWrapper

from reticula.service.security import may_open
from reticula.service.serving.live import Line
from reticula.service.serving.parking import SLOT, Parking
from reticula.workers.tickets import Ticket

__all__ = ["LIVE", "Front"]

log = logging.getLogger(__name__)
THREADS = 12
PIECE = 1024**2
KEPT_IN_MEMORY = 4 * 1024**2
IDLE_SECONDS = 60.0
"""For how long a sender may pause within one request."""
LIVE = "/api/live"
FRAMING = (b"content-length", b"transfer-encoding")

Message = dict[str, Any]
Scope = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Scope, Receive, Send], Awaitable[None]]


def _served(app: Flask, threads: int) -> Application:
    """Return a Flask application as an ASGI one with threads of its own."""
    return cast(Application, WSGIMiddleware(_in_large_pieces(app), workers=threads, send_queue_size=64))


class Front:
    """An ASGI application around a Flask application."""

    def __init__(self, app: Flask) -> None:
        self.app = app
        self._most_bytes = int(app.config["MAX_CONTENT_LENGTH"]) + PIECE
        self._threads = _served(app, THREADS)
        self._own_thread = _served(app, 2)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "websocket":
            await self._line(scope, receive, send)
        elif scope["type"] == "http":
            await self._take(scope, receive, send)

    async def _take(self, scope: Scope, receive: Receive, send: Send) -> None:
        with tempfile.SpooledTemporaryFile(KEPT_IN_MEMORY) as body:
            try:
                size = await self._spool(receive, body)
            except (TimeoutError, ConnectionError):
                return
            headers = [(name, value) for name, value in scope["headers"] if name.lower() not in FRAMING]
            headers += [(b"content-length", str(size).encode())] if size else []
            await self.answer({**scope, "headers": headers}, body, send)

    async def _spool(self, receive: Receive, body: Any) -> int:
        """Take a body in and return its size; what is too large is read no further, and refused by the application."""
        more, size = True, 0
        while more and size <= self._most_bytes:
            message = await asyncio.wait_for(receive(), IDLE_SECONDS)
            if message["type"] == "http.disconnect":
                raise ConnectionError
            piece = message.get("body", b"")
            size += len(piece)
            body.write(piece)
            more = message.get("more_body", False)
        return size

    async def answer(
        self, scope: Scope, body: Any, send: Send, tell: Callable[[Ticket], Awaitable[None]] | None = None
    ) -> None:
        """Have the application answer one request, however often it is parked; tell what it waits for."""
        parking = Parking()
        scope = {**scope, SLOT: parking}
        while True:
            body.seek(0)
            answer = self._own_thread if scope["path"] == "/api/health" else self._threads
            await answer(scope, _reader(body), _unless_parked(parking, send))
            if parking.ticket is None:
                return
            await parking.wait(tell)

    async def _line(self, scope: Scope, receive: Receive, send: Send) -> None:
        message = await receive()
        if message["type"] != "websocket.connect":
            return
        if scope["path"] != LIVE:
            await send({"type": "websocket.close", "code": 1008})
            return
        parts = self.app.extensions["reticula"]
        await Line(self.answer, parts.pool, scope, receive, send).run(partial(may_open, parts.config))


def _reader(body: Any) -> Receive:
    """Return what hands a body on, piece by piece."""

    async def read() -> Message:
        piece = body.read(PIECE)
        return {"type": "http.request", "body": piece, "more_body": len(piece) == PIECE}

    return read


def _unless_parked(parking: Parking, send: Send) -> Send:
    """Return what passes an answer on, unless it only says that the request was parked."""

    async def pass_on(message: Message) -> None:
        if parking.ticket is None:
            await send(message)

    return pass_on


def _in_large_pieces(app: Flask) -> Any:
    """Files are handed out in pieces of a megabyte: each one is a step between threads."""

    def wrapped(environ: dict[str, Any], start: Any) -> Any:
        environ["wsgi.file_wrapper"] = lambda file, size=0: FileWrapper(file, PIECE)
        return app(environ, start)

    return wrapped
