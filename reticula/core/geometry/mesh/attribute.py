"""One attribute: a value of one type for every element of one kind."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Indices, as_readonly, as_rows, ragged_index, starts_from_sizes
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.attribute_types import AttributeType, attribute_type, guess_type
from reticula.core.geometry.mesh.finite_range import range_of_rows
from reticula.core.rows import rows_at
from reticula.core.words import with_article

__all__ = ["Attribute"]


@dataclass(frozen=True, eq=False)
class Attribute:
    """Values of one type, read-only.

    ``values`` is ``(N, *shape)``; for list types it is the flat ``(M,)`` content and ``start (N+1,)`` says where each
    element's list begins. ``default`` is the value that new elements without a source receive.
    """

    type: str
    values: AnyArray
    start: Indices | None = None
    default: Any = None

    @classmethod
    def of(cls, values: Any, type: str | None = None, *, default: Any = None) -> Attribute:
        """Make an attribute from an array ``(N, ...)``, or for list types from a sequence of sequences.

        The type is guessed from the array when it is not given. Raises GeometryError if the values do not fit it.
        """
        if type is not None and attribute_type(type).is_list:
            return cls._of_lists(values, attribute_type(type), default)
        array = np.asarray(values)
        type = type or guess_type(array)
        info = attribute_type(type)
        if array.shape[1:] != info.shape or array.ndim == 0:
            wanted = " x ".join(map(str, info.shape)) or "one value"
            raise GeometryError(
                f"{with_article(type)} takes {wanted} per element, but the values have shape {array.shape}"
            )
        try:
            array = array.astype(info.dtype, copy=not array.flags.writeable)
        except ValueError:
            raise GeometryError(f"the values cannot be read as {type}") from None
        return cls(type, as_readonly(array), None, default)

    @classmethod
    def _of_lists(cls, rows: Sequence[Sequence[Any]], info: AttributeType, default: Any) -> Attribute:
        start = starts_from_sizes(np.array([len(row) for row in rows], np.int64))
        flat = np.array([value for row in rows for value in row], info.dtype)
        return cls(info.name, as_readonly(flat), as_readonly(start), default)

    @classmethod
    def filled(cls, type: str, count: int, value: Any = None, *, default: Any = None) -> Attribute:
        """Make an attribute of ``count`` elements that all hold ``value`` (or the type's zero)."""
        info = attribute_type(type)
        if info.is_list:
            row = [] if value is None else list(value)
            return cls._of_lists([row] * count, info, default)
        fill = info.zero if value is None else value
        array = np.empty((count, *info.shape), _dtype_for(info, fill))
        array[...] = fill
        return cls(type, as_readonly(array), None, default)

    @property
    def info(self) -> AttributeType:
        return attribute_type(self.type)

    def __len__(self) -> int:
        return len(self.values) if self.start is None else len(self.start) - 1

    @property
    def fill(self) -> Any:
        """The value for elements without a source: the declared default, or the type's zero."""
        return self.info.zero if self.default is None else self.default

    @cached_property
    def finite_range(self) -> tuple[AnyArray, AnyArray] | None:
        """The lowest and the highest finite number of each component ``(k,)``, found once; None where there is none: of
        nothing, of lists, of texts and flags.
        """
        if self.start is not None or self.values.dtype.kind not in "fi":
            return None
        return range_of_rows(as_rows(self.values))

    def row(self, index: int) -> Any:
        """Return the value of one element as plain Python data."""
        if self.start is not None:
            return self.values[self.start[index] : self.start[index + 1]].tolist()
        return self.values[index].tolist()

    def take(self, index: AnyArray) -> Attribute:
        """Return the values at ``index (M,)``; -1 gives the default."""
        index = np.asarray(index)
        if self.start is not None:
            if self.default and (index < 0).any():
                rows = [self.row(i) if i >= 0 else list(self.default) for i in index.tolist()]
                return self._of_lists(rows, self.info, self.default)
            flat, start = ragged_index(self.start, index)
            return Attribute(self.type, as_readonly(self.values[flat]), as_readonly(start), self.default)
        if not len(index) or index.min() >= 0:
            return Attribute(self.type, as_readonly(rows_at(self.values, index)), None, self.default)
        missing = index < 0
        fill = np.asarray(self.fill, _dtype_for(self.info, self.fill))
        values = np.empty((len(index), *self.info.shape), np.result_type(self.values.dtype, fill.dtype))
        values[...] = fill
        values[~missing] = self.values[index[~missing]]
        return Attribute(self.type, as_readonly(values), None, self.default)

    @classmethod
    def concatenate(cls, parts: Sequence[Attribute]) -> Attribute:
        """Return the parts one after the other. All must be of one type."""
        first = parts[0]
        if first.start is None:
            values = np.concatenate([part.values for part in parts])
            return cls(first.type, as_readonly(values), None, first.default)
        sizes = np.concatenate([np.diff(part.start) for part in parts if part.start is not None])
        values = np.concatenate([part.values for part in parts])
        return cls(first.type, as_readonly(values), as_readonly(starts_from_sizes(sizes)), first.default)


def _dtype_for(info: AttributeType, value: Any) -> Any:
    """NumPy's type for a value: texts are as wide as the widest."""
    return np.asarray(value).dtype if info.dtype is np.str_ else info.dtype
