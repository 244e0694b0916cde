"""Asking the depot. It may be down, slow or answer nonsense: all of that is said in words."""

from __future__ import annotations

import json
import urllib.error
import urllib.request
from typing import Any
from urllib.parse import quote

__all__ = ["Depot", "DepotDown"]

SECONDS = 10.0
MOST_BYTES = 512 * 1024**2


class DepotDown(Exception):
    """The depot cannot be used now; the message is for the person at the screen."""


class Depot:
    """The depot at ``address``, which takes packages in from who knows its token."""

    def __init__(self, address: str, token: str = "") -> None:
        self.address = address
        self._headers = {"Content-Type": "application/zip"} | ({"Authorization": f"Bearer {token}"} if token else {})

    def list(self) -> list[dict[str, Any]]:
        """Return what there is: operator, title, summary, size in bytes, who signed it; raise DepotDown."""
        try:
            found = json.loads(self._ask("GET", "/packages"))["packages"]
            return [
                {key: entry[key] for key in ("operator", "title", "summary", "size")}
                | {key: str(entry.get(key, "")) for key in ("publisher", "fingerprint")}
                for entry in found
            ]
        except (ValueError, KeyError, TypeError, AttributeError):
            raise DepotDown("The depot answered something that cannot be read. Try again later.") from None

    def fetch(self, operator: str) -> bytes:
        """Return a package; raise DepotDown."""
        return self._ask("GET", f"/packages/{quote(operator)}")

    def publish(self, operator: str, data: bytes) -> str:
        """Put a package there; returns why it was refused, or nothing. Raises DepotDown."""
        try:
            self._ask("PUT", f"/packages/{quote(operator)}", data)
        except _Refused as error:
            return str(error)
        return ""

    def _ask(self, method: str, path: str, body: bytes | None = None) -> bytes:
        if not self.address:
            raise DepotDown("No depot is set up. The operators here go on working.")
        asked = urllib.request.Request(self.address + path, body, self._headers, method=method)
        try:
            with urllib.request.urlopen(asked, timeout=SECONDS) as answer:
                data: bytes = answer.read(MOST_BYTES + 1)
        except urllib.error.HTTPError as error:
            message = _message(error)
            if error.code in (409, 422):
                raise _Refused(message) from None
            raise DepotDown(f"The depot said no: {message}") from None
        except (OSError, ValueError) as error:
            reason = getattr(error, "reason", error)
            raise DepotDown(
                f"The depot does not answer ({reason}). The operators here go on working; try again later."
            ) from None
        if len(data) > MOST_BYTES:
            raise DepotDown("The depot sent a package that is too large.")
        return data


class _Refused(DepotDown):
    """The depot understood, and does not want it."""


def _message(error: urllib.error.HTTPError) -> str:
    try:
        return str(json.loads(error.read(10_000))["message"])
    except (ValueError, KeyError, TypeError, OSError):
        return f"error {error.code}"
