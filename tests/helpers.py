"""Measures that several tests look at."""

from __future__ import annotations

import io
import socket
import threading
import time
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, HTTPServer
from typing import Any

import numpy as np
from hypothesis import settings

from reticula.core import Geo, ops
from reticula.core.geometry import measure

__all__ = [
    "PATIENCE",
    "QuietHandler",
    "any_port",
    "bumpy",
    "examples",
    "is_closed",
    "outward",
    "rezipped",
    "serving",
    "volume",
    "wait_until",
]


def volume(geo: Geo) -> float:
    """Volume inside a closed mesh in m³, by the divergence theorem."""
    return float(np.einsum("ij,ij->", measure.area_vectors(geo), measure.face_centers(geo)) / 3)


def outward(geo: Geo) -> np.ndarray:
    """How far each face looks away from the origin."""
    return np.einsum("ij,ij->i", measure.face_normals(geo), measure.face_centers(geo))


def is_closed(geo: Geo) -> bool:
    """Whether every edge has two faces that wind alike."""
    return bool((geo.topology.edge_face_count == 2).all() and (geo.topology.corner_across >= 0).all())


def bumpy(seed: int, frequency: int = 3) -> Geo:
    """A closed, uneven ball of triangles that contains the origin."""
    ball = ops.geodesic_sphere(frequency=frequency)
    away = 1.0 + 0.3 * np.random.default_rng(seed).random((ball.topology.point_count, 1))
    return ball.with_positions(ball.positions * away)


def examples(count: int) -> int:
    """How many examples to try where a quick run tries ``count``: as many times more as the profile asks for."""
    return count * settings.default.max_examples // settings.get_profile("quick").max_examples  # type: ignore[union-attr]


def rezipped(data: bytes, change: Callable[[dict[str, bytes]], object]) -> bytes:
    """Return a zip file with its parts changed by ``change(parts)``."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    change(parts)
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        for name, part in parts.items():
            archive.writestr(name, part)
    return made.getvalue()


def any_port() -> int:
    """Return a port of this machine that is free now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


PATIENCE = 300.0
"""Seconds after which what has not happened never will, on the slowest and busiest machine; no speed is told by it."""


def wait_until(holds: Callable[[], object], seconds: float = PATIENCE) -> None:
    """Return as soon as ``holds()`` is true; an OSError means not yet. Raises AssertionError after ``seconds``."""
    limit = time.monotonic() + seconds
    while time.monotonic() < limit:
        try:
            if holds():
                return
        except OSError:
            pass
        time.sleep(0.05)
    raise AssertionError(f"it did not happen within {seconds:g} s")


class QuietHandler(BaseHTTPRequestHandler):
    """Answers requests without a line in the log for each."""

    def log_message(self, *_: Any) -> None:
        pass


@contextmanager
def serving(handler: type[BaseHTTPRequestHandler]) -> Iterator[str]:
    """A small server on a free port of this machine; gives its address."""
    server = HTTPServer(("127.0.0.1", 0), handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    server.server_close()
