"""Values of one element as they are noted: in words, as plain data, and with a word for their type."""

from __future__ import annotations

import numpy as np

from reticula.core.language.live.record import Seen
from reticula.core.language.types import ElementOf, ListOf, PlaceOf, Type
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.told import told
from reticula.core.language.vector.values import Value
from reticula.core.spatial.sampling import Sample

__all__ = ["seen_of"]


def seen_of(value: Value, row: int, type: Type) -> Seen:
    """Return one row of a value (of its only one, if it has one for all) as it is shown."""
    text, word = told(value, row, type, quoted=True), _word(type)
    if isinstance(value, Sample):
        return Seen(text, None, word)
    if isinstance(value, Lists):
        at = row if len(value) > 1 else 0
        return Seen(text, value.take(np.array([at])).content[1].tolist(), word)
    return Seen(text, value[row if len(value) > 1 else 0].tolist(), word)


def _word(type: Type) -> str:
    match type:
        case ListOf(item):
            return f"list of {_word(item)}"
        case ElementOf(kind):
            return kind
        case PlaceOf():
            return "place"
    return str(type)
