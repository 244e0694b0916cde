"""Lists and texts in PLY files, laid flat, so that programs which only know the lists of faces can pass over them.

A list property of any element but ``face``'s first becomes the scalar ``NAME_count`` and an element ``ELEMENT_NAME``
with one scalar ``item`` per item.
"""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import starts_from_sizes
from reticula.core.errors import FormatError
from reticula.core.formats.ply_table import Column, Element

__all__ = ["with_flat_lists", "with_whole_lists"]

COUNT = "_count"
CORNERS = ("face", "vertex_indices")


def with_flat_lists(elements: list[Element]) -> list[Element]:
    """Return elements without lists but those of the corners of faces; the items follow after all others."""
    made: list[Element] = []
    items: list[Element] = []
    for element in elements:
        flat = Element(element.name, element.count, [])
        for column in element.columns:
            if column.start is None or (element.name, column.name) == CORNERS:
                flat.columns.append(column)
                continue
            flat.columns.append(Column(f"{column.name}{COUNT}", "u4", None, np.diff(column.start).astype(np.uint32)))
            own = Column("item", column.type, None, column.values)
            items.append(Element(f"{element.name}_{column.name}", len(column.values), [own]))
        made.append(flat)
    return made + items


def with_whole_lists(elements: list[Element]) -> list[Element]:
    """Return elements with the lists that were laid flat; raise FormatError where items are missing."""
    tables = {element.name: element for element in elements}
    used = set()
    for element in elements:
        for number, column in enumerate(element.columns):
            name = column.name.removesuffix(COUNT)
            items = tables.get(f"{element.name}_{name}")
            if name == column.name or items is None or [one.name for one in items.columns] != ["item"]:
                continue
            start = starts_from_sizes(column.values.astype(np.int64))
            if start[-1] != items.count:
                raise FormatError(f"the lists '{name}' hold {start[-1]:,} items, but there are {items.count:,}")
            own = items.columns[0]
            element.columns[number] = Column(name, own.type, "u4", own.values, start)
            used.add(items.name)
    return [element for element in elements if element.name not in used]
