"""Generated code: its lines, and names for what is worked out in them."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

from reticula.core.language.types import Type, item_of, kernel_dtype, width_of

__all__ = ["CodeWriter", "Items", "Parts", "Unsupported", "Writer"]

Parts = list[str]
"""The components of a value, each the name of a number in the generated code or a short literal."""


class Unsupported(Exception):
    """Something that the compiled back end leaves to the vector back end."""


@dataclass
class Items:
    """A list in generated code: how long it is, and how one item is read.

    ``stored`` is its array, if it has one of its own.
    """

    length: str
    item: Callable[[str], Parts]
    stored: str | None = None


@dataclass
class Writer:
    """Lines of generated code, indented."""

    lines: list[str] = field(default_factory=list)
    depth: int = 1

    def add(self, line: str) -> None:
        self.lines.append("    " * self.depth + line)

    @contextmanager
    def block(self, head: str) -> Iterator[None]:
        """Lines inside of an ``if``, ``for`` or ``while``."""
        self.add(head)
        self.depth += 1
        before = len(self.lines)
        yield
        if len(self.lines) == before:
            self.add("pass")
        self.depth -= 1


class CodeWriter:
    """Writes lines that give names to numbers, and moves numbers into and out of arrays."""

    def __init__(self) -> None:
        self.out = Writer()
        self.counter = 0

    def let(self, code: str) -> str:
        name = self.fresh("t")
        self.out.add(f"{name} = {code}")
        return name

    def fresh(self, stem: str) -> str:
        self.counter += 1
        return f"{stem}{self.counter}"

    def store(self, names: Parts, values: Parts) -> None:
        self.out.add(f"{', '.join(names)} = {', '.join(values)}")

    def loaded(self, array: str, index: str, width: int) -> Parts:
        if width == 1:
            return [self.let(f"{array}[{index}]")]
        return [self.let(f"{array}[{index}, {k}]") for k in range(width)]

    def stored(self, array: str, length: str, type: Type) -> Items:
        width = width_of(item_of(type))
        return Items(length, lambda k: self.loaded(array, k, width), array)

    def keep_list(self, name: str, items: Items, type: Type) -> None:
        """Put a list into an array of its own, ``name_b`` with ``name_n`` items."""
        array, length = f"{name}_b", f"{name}_n"
        width = width_of(item_of(type))
        fresh_length = self.let(items.length)
        room = self.let(self.new_array(item_of(type), fresh_length))
        k = self.fresh("k")
        with self.out.block(f"for {k} in range({fresh_length}):"):
            self.put_item(room, k, items.item(k), width)
        self.out.add(f"{array}, {length} = {room}, {fresh_length}")

    def new_array(self, item: Type, length: str) -> str:
        width = width_of(item)
        dtype = f"np.{kernel_dtype(item)}".replace("bool", "bool_")
        return f"np.empty({length}, {dtype})" if width == 1 else f"np.empty(({length}, {width}), {dtype})"

    def put_item(self, array: str, index: str, parts: Parts, width: int) -> None:
        if width == 1:
            self.out.add(f"{array}[{index}] = {parts[0]}")
            return
        for k, part in enumerate(parts):
            self.out.add(f"{array}[{index}, {k}] = {part}")
