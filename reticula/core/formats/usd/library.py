"""The modules of usd-core, and files of theirs that live only while they are read or written."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from reticula.core.formats.shared.needed import library

__all__ = ["module", "temporary"]


def module(name: str) -> Any:
    """Return a module of usd-core, such as ``UsdGeom``."""
    return library(f"pxr.{name}", "usd-core")


@contextmanager
def temporary(ending: str, data: bytes | None = None) -> Iterator[Path]:
    """Give the path of a file in a folder of its own, which is removed afterwards."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"scene.{ending}"
        if data is not None:
            path.write_bytes(data)
        yield path
