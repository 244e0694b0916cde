"""A generated kernel, before it is built."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from reticula.core.language.compiled.bindings import Bound
from reticula.core.language.parse import Place
from reticula.core.language.types import Type, kernel_dtype, width_of

__all__ = ["Emitted", "LogColumn"]


@dataclass(frozen=True)
class LogColumn:
    """One array that a kernel writes what it makes to: its name, type, width (0: one dimension) and counter."""

    name: str
    dtype: str
    width: int
    counter: int


@dataclass(frozen=True)
class Emitted:
    """A generated kernel: its source, what it is handed, what it writes, and the places that errors name."""

    source: str
    arguments: dict[str, Bound]
    owns: dict[str, tuple[str, str, Type]]
    log: tuple[LogColumn, ...]
    counters: int
    places: tuple[Place, ...]
    chains: tuple[str, ...]
    adds: tuple[tuple[str, str, bool], ...]
    list_writes: tuple[str, ...]
    kept: bool
    """Whether it can be kept on disk: functions that call themselves cannot, Numba loads them wrongly."""

    @property
    def signature(self) -> list[str]:
        """The types of the kernel's arguments: a number's type, or what is done with an array, its type and
        dimensions.
        """
        changed = "writes {} {}"
        types = [
            "int64",
            "int64",
            changed.format("int64", 1),
            changed.format("int64", 1),
            changed.format("int64", 1),
            changed.format("int64", 1),
        ]
        types += [changed.format(column.dtype, 2 if column.width else 1) for column in self.log]
        for _, _, type in self.owns.values():
            dtype = kernel_dtype(type)
            types += [changed.format(dtype, 2 if width_of(type) > 1 else 1), changed.format("bool", 1)]
        return types + [bound.type for bound in self.arguments.values()]

    @property
    def key(self) -> str:
        """The name that the kernel is kept under: a hash of its source and types."""
        text = self.source + "\n" + "\n".join(self.signature)
        return hashlib.blake2b(text.encode(), digest_size=16).hexdigest()
