"""Which shapes some work may ask for: only those need travel."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, TypeVar

__all__ = ["named_in"]

Where = TypeVar("Where")


def named_in(shapes: Mapping[str, Where], *plain: Any) -> dict[str, Where]:
    """Return the shapes whose names stand anywhere in plain data: documents, definitions of operators, values of dials.

    A name may come through dials of any depth, so that every text is taken for one.
    """
    texts = {text.strip() for thing in plain for text in _texts(thing)}
    return {name: where for name, where in shapes.items() if name in texts}


def _texts(thing: Any) -> Iterator[str]:
    stack = [thing]
    while stack:
        one = stack.pop()
        if isinstance(one, str):
            yield one
        elif isinstance(one, Mapping):
            stack.extend((*one, *one.values()))
        elif isinstance(one, (list, tuple)):
            stack.extend(one)
