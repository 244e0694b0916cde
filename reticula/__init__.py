"""Reticula: node graphs and formulas that edit mesh topology and attributes.

``reticula.show`` and ``reticula.controls`` are for notebooks, and loaded when they are first asked for.
"""

from importlib import import_module
from typing import Any

__version__ = "0.1.0"

_IN_NOTEBOOKS = ("controls", "show")


def __getattr__(name: str) -> Any:
    if name not in _IN_NOTEBOOKS:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.notebook"), name)


def __dir__() -> list[str]:
    return sorted({*globals(), *_IN_NOTEBOOKS})
