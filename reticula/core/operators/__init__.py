"""Operators. Every module in this package that declares one is found by itself; none needs to be listed.

``ops.NAME(geo, ...)`` calls an operator; ``OPERATORS`` holds all declarations by name.
"""

from __future__ import annotations

import importlib
import pkgutil
from difflib import get_close_matches

from reticula.core.operators.declaration.operator import OPERATORS, Input, Operator, operator

__all__ = ["OPERATORS", "Input", "Operator", "find_operator", "operator", "ops"]

for _module in pkgutil.walk_packages(__path__, f"{__name__}."):
    importlib.import_module(_module.name)


def find_operator(name: str) -> Operator:
    """Return an operator by name (``_`` or spaces); raise KeyError with the nearest names."""
    key = name.strip().replace(" ", "_")
    if key in OPERATORS:
        return OPERATORS[key]
    close = get_close_matches(key, list(OPERATORS), 3, 0.4)
    raise KeyError(f"there is no operator '{name}'" + (f"; near it are {', '.join(close)}" if close else ""))


class Operators:
    """All operators as attributes: ``ops.extrude(geo, distance=0.1)``."""

    def __getattr__(self, name: str) -> Operator:
        try:
            return find_operator(name)
        except KeyError as error:
            raise AttributeError(error.args[0]) from None

    def __dir__(self) -> list[str]:
        return sorted(OPERATORS)


ops = Operators()
