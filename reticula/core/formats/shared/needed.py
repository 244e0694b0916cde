"""Libraries that only some formats need: imported when a file of theirs is first read or written."""

from __future__ import annotations

import importlib
from typing import Any

from reticula.core.errors import FormatError

__all__ = ["library", "said"]


def library(name: str, package: str) -> Any:
    """Import a module of a package; raise FormatError with what to install if it is not here."""
    try:
        return importlib.import_module(name)
    except ImportError:
        raise FormatError(f"this format needs {package}; install it with: pip install 'reticula[formats]'") from None


def said(problem: Exception) -> str:
    """Return what a library said of a file, in one short line; the kind of its trouble if it said nothing."""
    try:
        lines = str(problem).strip().splitlines()
    except UnicodeDecodeError:  # It holds bytes of a broken file.
        lines = []
    return lines[-1][:200] if lines else type(problem).__name__
