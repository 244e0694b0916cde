"""The line of a page: one WebSocket over which its questions go out, and progress, answers and arrays come in.

A message of the page is a line of JSON ``{"id": 7, "method": "POST", "path": "/api/…"}``, a newline, and the body as it
would be sent by HTTP; ``{"id": 7, "cancel": true}`` gives a question up. Answers are a line of JSON with ``id`` and
either ``progress`` or ``status``, a newline, and the body. An array that an answer refers to is sent before it, once
per line, as a binary message: its digest in 32 letters, then its bytes.
"""

from __future__ import annotations

import asyncio
import io
import json
import logging
import re
import secrets
from collections.abc import Awaitable, Callable
from typing import Any
from urllib.parse import unquote

from reticula.workers.pool import Pool
from reticula.workers.tickets import Ticket

__all__ = ["Line"]

log = logging.getLogger(__name__)
MOST_AT_ONCE = 40
DIGEST = re.compile(rb'"digest": ?"([0-9a-f]{32})"')
MOST_SENT = 60
"""How many arrays a page keeps; older ones are sent again, or fetched."""
ALLOWED = re.compile(r"/api/(graphs|evaluations)/[^?#]*(\?[^#]*)?\Z")
KEPT_HEADERS = (b"host", b"origin", b"cookie", b"authorization", b"x-forwarded-for", b"x-forwarded-proto")


class Line:
    """One open line; questions are answered beside each other, in any order."""

    def __init__(self, answer: Callable[..., Awaitable[None]], pool: Pool, scope: Any, receive: Any, send: Any):
        self._answer, self._pool = answer, pool
        self._scope, self._receive, self._send = scope, receive, send
        self._name = secrets.token_hex(8)
        self._asked: dict[int, asyncio.Task[None]] = {}
        self._waited: dict[int, Ticket] = {}
        self._sent: dict[str, None] = {}
        self._one_at_a_time = asyncio.Lock()

    async def run(self, may_open: Callable[[dict[str, str]], bool]) -> None:
        """Serve until the page closes the line; what it waited for is stopped then."""
        headers = {name.decode("latin1").lower(): value.decode("latin1") for name, value in self._scope["headers"]}
        if not may_open(headers):
            await self._send({"type": "websocket.close", "code": 1008})
            return
        await self._send({"type": "websocket.accept"})
        try:
            while (message := await self._receive())["type"] == "websocket.receive":
                await self._take((message.get("text") or "").partition("\n"))
        finally:
            for task in self._asked.values():
                task.cancel()
            for ticket in self._waited.values():
                self._pool.stop(ticket)

    async def _take(self, parts: tuple[str, str, str]) -> None:
        head, _, body = parts
        try:
            asked = json.loads(head[:2000])
            number = int(asked["id"])
            cancel, method, path = bool(asked.get("cancel")), str(asked.get("method")), str(asked.get("path"))
        except (ValueError, KeyError, TypeError, RecursionError):
            return
        if cancel:
            self._give_up(number)
        elif number in self._asked or not ALLOWED.match(path) or method not in ("GET", "POST", "DELETE"):
            await self._refuse(number, 422, "request", "This cannot be asked over the line of a page.")
        elif len(self._asked) >= MOST_AT_ONCE:
            await self._refuse(number, 429, "busy", f"{MOST_AT_ONCE} questions are open already; wait for one.")
        else:
            task = asyncio.create_task(self._ask(number, method, path, body.encode("utf-8", "replace")))
            self._asked[number] = task
            task.add_done_callback(lambda _: self._asked.pop(number, None))

    def _give_up(self, number: int) -> None:
        if number in self._waited:
            self._pool.stop(self._waited.pop(number))
        if number in self._asked:
            self._asked[number].cancel()

    async def _ask(self, number: int, method: str, path: str, body: bytes) -> None:
        status, pieces = 500, []

        async def gather(message: dict[str, Any]) -> None:
            nonlocal status
            status = message.get("status", status)
            pieces.append(message.get("body", b""))

        async def tell(ticket: Ticket) -> None:
            self._waited[number] = ticket
            done, total, node = ticket.progress
            told = {"done": done, "total": total, "node": node, "ticket": ticket.id, "state": ticket.state}
            await self._say({"id": number, "progress": told}, b"")

        try:
            await self._answer(self._request(method, path, body), io.BytesIO(body), gather, tell)
            found = b"".join(pieces)
            await self._send_arrays(found)
            await self._say({"id": number, "status": status}, found)
        except asyncio.CancelledError:
            raise
        except Exception:
            log.exception("a question of a page failed")
            await self._refuse(number, 500, "internal", "This should not happen. Nothing that was saved is lost.")
        finally:
            self._waited.pop(number, None)

    def _request(self, method: str, path: str, body: bytes) -> dict[str, Any]:
        """Return the scope of the HTTP request that a question stands for."""
        plain, _, query = path.partition("?")
        headers = [(name, value) for name, value in self._scope["headers"] if name.lower() in KEPT_HEADERS]
        if body:
            headers += [(b"content-type", b"application/json"), (b"content-length", str(len(body)).encode())]
        return {
            "type": "http",
            "http_version": "1.1",
            "method": method,
            "scheme": "https" if self._scope.get("scheme") == "wss" else "http",
            "path": unquote(plain),
            "raw_path": plain.encode("utf-8", "replace"),
            "query_string": query.encode("ascii", "ignore"),
            "root_path": "",
            "headers": headers,
            "client": self._scope.get("client"),
            "server": self._scope.get("server"),
            "reticula.line": self._name,
        }

    async def _send_arrays(self, answer: bytes) -> None:
        """Send the arrays that an answer refers to, as far as they were not sent before."""
        for digest in dict.fromkeys(found.decode() for found in DIGEST.findall(answer)):
            if digest in self._sent:
                self._sent[digest] = self._sent.pop(digest)
                continue
            try:
                data = await asyncio.to_thread(self._pool.buffers.path(digest).read_bytes)
            except (OSError, ValueError):
                continue  # the page fetches it, and is told
            self._sent[digest] = None
            while len(self._sent) > MOST_SENT:
                del self._sent[next(iter(self._sent))]
            async with self._one_at_a_time:
                await self._send({"type": "websocket.send", "bytes": digest.encode() + data})

    async def _refuse(self, number: int, status: int, code: str, message: str) -> None:
        await self._say({"id": number, "status": status}, json.dumps({"code": code, "message": message}).encode())

    async def _say(self, head: dict[str, Any], body: bytes) -> None:
        text = json.dumps(head) + "\n" + body.decode("utf-8", "replace")
        async with self._one_at_a_time:
            await self._send({"type": "websocket.send", "text": text})
