"""Operators. Every module in this package that declares one is found by itself; none needs to be listed.

``OPERATORS`` holds all declarations by name; :mod:`reticula.core.ops` has them as functions.
"""

from __future__ import annotations

import importlib
import pkgutil
from difflib import get_close_matches

from reticula.core.operators.declaration.operator import OPERATORS, Input, Operator, operator

__all__ = ["OPERATORS", "Input", "Operator", "find_operator", "operator"]

for _module in pkgutil.walk_packages(__path__, f"{__name__}."):
    importlib.import_module(_module.name)


def find_operator(name: str) -> Operator:
    """Return an operator by name (``_`` or spaces); raise KeyError with the nearest names."""
    key = name.strip().replace(" ", "_")
    if key in OPERATORS:
        return OPERATORS[key]
    close = get_close_matches(key, list(OPERATORS), 3, 0.4)
    raise KeyError(f"there is no operator '{name}'" + (f"; near it are {', '.join(close)}" if close else ""))
