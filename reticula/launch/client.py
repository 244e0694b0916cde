"""A small HTTP client for our own service, with nothing but the standard library."""

from __future__ import annotations

import json
import urllib.request
import uuid
from typing import Any

__all__ = ["Client"]


class Client:
    """Talks to the service at ``address``, with the API token of an account if there is one.

    Raises OSError if it does not answer or refuses.
    """

    def __init__(self, address: str, token: str = "") -> None:
        self.address = address
        self._headers = {"Authorization": f"Bearer {token}"} if token else {}

    def get(self, path: str) -> Any:
        return json.loads(self.fetch(path))

    def fetch(self, path: str) -> bytes:
        """Return what lies at a path, as it is."""
        request = urllib.request.Request(self.address + path, headers=self._headers)
        with urllib.request.urlopen(request, timeout=60) as answer:
            data: bytes = answer.read()
        return data

    def post(self, path: str, body: Any) -> Any:
        return self._send(path, json.dumps(body).encode(), "application/json")

    def upload(self, path: str, file_name: str, data: bytes) -> Any:
        """Send one file as a multipart form."""
        mark = uuid.uuid4().hex
        head = f'--{mark}\r\nContent-Disposition: form-data; name="file"; filename="{file_name}"\r\n\r\n'
        body = head.encode() + data + f"\r\n--{mark}--\r\n".encode()
        return self._send(path, body, f"multipart/form-data; boundary={mark}")

    def put(self, path: str, data: bytes) -> Any:
        """Send bytes to be kept at a path."""
        return self._send(path, data, "application/zip", "PUT")

    def _send(self, path: str, body: bytes, kind: str, method: str = "POST") -> Any:
        request = urllib.request.Request(
            self.address + path, body, {"Content-Type": kind, **self._headers}, method=method
        )
        with urllib.request.urlopen(request, timeout=120) as answer:
            return json.load(answer)
