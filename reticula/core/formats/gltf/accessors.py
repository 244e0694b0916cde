"""The arrays of a glTF: typed views into its buffers, read and gathered for writing."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import FormatError
from reticula.core.formats.gltf.container import Document

__all__ = ["Arrays", "numbers_of", "view_bytes"]

COMPONENTS: dict[int, Any] = {
    5120: np.int8,
    5121: np.uint8,
    5122: np.int16,
    5123: np.uint16,
    5125: np.uint32,
    5126: np.float32,
}
PARTS = {"SCALAR": (), "VEC2": (2,), "VEC3": (3,), "VEC4": (4,), "MAT2": (2, 2), "MAT3": (3, 3), "MAT4": (4, 4)}
CODES = {np.dtype(type).str.lstrip("<|"): code for code, type in COMPONENTS.items()}
MOST = 400_000_000
"""Values of one array."""
VERTICES, INDICES = 34962, 34963
"""What a part of a buffer is for (ARRAY_BUFFER, ELEMENT_ARRAY_BUFFER)."""


def view_bytes(document: Document, index: Any) -> tuple[bytes, int]:
    """Return the bytes of a part of a buffer, and the step between its rows (0 if they stand close)."""
    told = document.entry("bufferViews", index)
    document.entry("buffers", told.get("buffer"))
    buffer = document.buffers[told["buffer"]]
    begin, length = told.get("byteOffset", 0), told.get("byteLength")
    step = told.get("byteStride", 0)
    if not all(isinstance(one, int) and one >= 0 for one in (begin, length, step)) or begin + length > len(buffer):
        raise FormatError(f"part {index} of the buffers reaches beyond its buffer of {len(buffer):,} bytes")
    return buffer[begin : begin + length], step


def numbers_of(document: Document, index: Any) -> AnyArray:
    """Return the values of an accessor ``(N, *shape)``, as they are stored; normalised ones as float64.

    Matrices come with their rows first. Raises FormatError for what does not fit its buffer.
    """
    told = document.entry("accessors", index)
    dtype, shape, count = (
        _known(COMPONENTS, told.get("componentType")),
        _known(PARTS, told.get("type")),
        told.get("count"),
    )
    if dtype is None or shape is None or type(count) is not int or count < 0:
        raise FormatError(f"accessor {index} is of no type that glTF knows")
    wide = int(np.prod(shape, dtype=np.int64))
    if count * wide > MOST:
        raise FormatError(f"accessor {index} promises {count * wide:,} numbers; {MOST:,} is the most")
    if len(shape) == 2 and np.dtype(dtype).itemsize * shape[0] % 4:
        raise FormatError(f"accessor {index} holds small matrices of bytes, which are not read")
    if "bufferView" in told:
        values = _rows(document, told["bufferView"], told.get("byteOffset", 0), dtype, wide, count, index)
    else:
        if "sparse" not in told and count * wide > 10_000_000:
            raise FormatError(f"accessor {index} promises {count:,} values and names no place for them")
        values = np.zeros((count, wide), dtype)
    if "sparse" in told:
        values = _with_sparse(document, told["sparse"], values, dtype, wide, index)
    values = values.reshape(count, *shape)
    if len(shape) == 2:
        values = values.transpose(0, 2, 1)
    if told.get("normalized"):
        values = np.maximum(values / np.iinfo(dtype).max, -1.0) if np.dtype(dtype).kind in "iu" else values
    return values


def _known(table: dict[Any, Any], word: Any) -> Any:
    """Return what a word of the file stands for; None if it is none."""
    return table.get(word) if isinstance(word, int | str) else None


def _rows(document: Document, view: Any, begin: Any, dtype: Any, wide: int, count: int, index: Any) -> AnyArray:
    data, step = view_bytes(document, view)
    size = np.dtype(dtype).itemsize * wide
    step = step or size
    if type(begin) is not int or begin < 0 or step < size or (count and begin + step * (count - 1) + size > len(data)):
        raise FormatError(f"accessor {index} promises {count:,} values; its part of the buffer is too small for them")
    if not count:
        return np.zeros((0, wide), dtype)
    if step == size:
        return np.frombuffer(data, np.dtype(dtype).newbyteorder("<"), count * wide, begin).reshape(count, wide)
    raw = np.frombuffer(data, np.uint8, step * (count - 1) + size, begin)
    rows = np.lib.stride_tricks.as_strided(raw, (count, size), (step, 1))
    return np.ascontiguousarray(rows).view(np.dtype(dtype).newbyteorder("<"))


def _with_sparse(document: Document, told: Any, values: AnyArray, dtype: Any, wide: int, index: Any) -> AnyArray:
    try:
        count, where, what = told["count"], told["indices"], told["values"]
        kind = COMPONENTS[where["componentType"]]
        if not isinstance(count, int) or not 0 <= count <= len(values) or np.dtype(kind).kind != "u":
            raise KeyError
        places = _rows(document, where["bufferView"], where.get("byteOffset", 0), kind, 1, count, index)[:, 0]
        given = _rows(document, what["bufferView"], what.get("byteOffset", 0), dtype, wide, count, index)
    except (KeyError, TypeError):
        raise FormatError(f"the sparse values of accessor {index} cannot be read") from None
    if count and places.max() >= len(values):
        raise FormatError(f"accessor {index} sets value {places.max()}; there are {len(values)}")
    values = values.copy()
    values[places] = given
    return values


class Arrays:
    """Arrays of a document that is written: one buffer, whose parts and accessors are listed as they come."""

    def __init__(self) -> None:
        self.views: list[dict[str, Any]] = []
        self.accessors: list[dict[str, Any]] = []
        self._parts: list[bytes] = []
        self._length = 0

    def view(self, data: bytes, target: int | None = None) -> int:
        """Add bytes as a part of the buffer and return its number."""
        self.views.append({"buffer": 0, "byteOffset": self._length, "byteLength": len(data)})
        if target is not None:
            self.views[-1]["target"] = target
        padded = data + b"\0" * (-len(data) % 4)
        self._parts.append(padded)
        self._length += len(padded)
        return len(self.views) - 1

    def add(self, values: AnyArray, target: int | None = VERTICES, *, bounds: bool = False) -> int:
        """Add values ``(N, *shape)`` of a stored type and return the number of their accessor.

        Matrices are given with their rows first; ``bounds`` writes the least and most of each component.
        """
        shape = values.shape[1:]
        name = next(name for name, known in PARTS.items() if known == shape)
        stored = np.ascontiguousarray(values.transpose(0, 2, 1) if len(shape) == 2 else values)
        told: dict[str, Any] = {
            "bufferView": self.view(stored.tobytes(), target),
            "componentType": CODES[stored.dtype.str.lstrip("<|")],
            "count": len(stored),
            "type": name,
        }
        if bounds:
            flat = stored.reshape(len(stored), -1)
            told |= {"min": flat.min(axis=0).tolist(), "max": flat.max(axis=0).tolist()}
        self.accessors.append(told)
        return len(self.accessors) - 1

    @property
    def data(self) -> bytes:
        """The buffer."""
        return b"".join(self._parts)

    def listed(self) -> Mapping[str, Any]:
        """Return what the document says about them."""
        if not self.views:
            return {}
        found: dict[str, Any] = {"buffers": [{"byteLength": self._length}], "bufferViews": self.views}
        return {**found, "accessors": self.accessors} if self.accessors else found
