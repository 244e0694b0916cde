"""From rows to parts: what all rows of a graph share is said once, and files are read once, for their hash."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

from reticula.core.packages.opened import Opened
from reticula.many.digests import digest_of_bytes, digest_of_file
from reticula.many.part import Part
from reticula.many.rows import Row

if TYPE_CHECKING:
    from reticula.many.contents import Contents

__all__ = ["Parts"]


class Parts:
    """Makes parts of rows; files are read once, for their hash, and sent once."""

    def __init__(
        self,
        what: Opened,
        values: Mapping[str, Any],
        numbers: Mapping[str, str],
        frame: float | None,
        *,
        drawn: bool = False,
    ) -> None:
        self.what, self.numbers, self.frame, self.drawn = what, numbers, frame, drawn
        self.values = {what.named(name): value for name, value in values.items()}
        self.files: dict[str, str] = {}

    @cached_property
    def graph(self) -> str:
        """The content of the graph."""
        return digest_of_bytes(self.what.content())

    @cached_property
    def shapes(self) -> dict[str, str]:
        """Contents of the shapes that all parts have, by name."""
        return {name: self._content(found) for name, found in self.what.shapes.items() if found is not None}

    def part(self, row: Row) -> Part:
        """Return the part that makes a row."""
        what, shapes = self.what, {**self.shapes, **{name: self._content(Path(f)) for name, f in row.files.items()}}
        return Part(
            graph=self.graph,
            node=what.node,
            values={**self.values, **{what.named(name): value for name, value in row.values.items()}},
            inputs={name: name for name in row.files if name in what.inputs},
            shapes=shapes,
            numbers=self.numbers,
            file_name=Path(row.out).name and f"result{Path(row.out).suffix.lower()}",
            frame=self.frame,
            drawn=self.drawn,
        )

    def send(self, parts: Iterable[Part], contents: Contents) -> None:
        """Put the graph and the files of these parts where workers find them."""
        contents.put(self.what.content())
        wanted = {content for part in parts for content in part.shapes.values()}
        for found in self.what.shapes.values():
            if isinstance(found, tuple) and self._content(found) in wanted:
                contents.put(found[1], Path(found[0]).suffix)
        for path, content in self.files.items():
            if content in wanted:
                contents.put_file(path)

    def _content(self, found: Path | tuple[str, bytes]) -> str:
        if isinstance(found, tuple):
            return digest_of_bytes(found[1]) + Path(found[0]).suffix.lower()
        name = str(found)
        if name not in self.files:
            self.files[name] = digest_of_file(found) + found.suffix.lower()
        return self.files[name]
