"""Files beside a file that names them: those in its own folder and below, and none elsewhere."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

from reticula.core.errors import FormatError

__all__ = ["FilesBeside"]

MOST_BYTES = 2_000_000_000


class FilesBeside(Mapping[str, bytes]):
    """The files of a folder by their path in it, read when they are asked for."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder.resolve()

    def __getitem__(self, name: str) -> bytes:
        path = self._path(name)
        if path is None:
            raise KeyError(name)
        if path.stat().st_size > MOST_BYTES:
            raise FormatError(f"'{name}' has {path.stat().st_size:,} bytes; {MOST_BYTES:,} is the most")
        return path.read_bytes()

    def __contains__(self, name: object) -> bool:
        return isinstance(name, str) and self._path(name) is not None

    def _path(self, name: str) -> Path | None:
        try:
            path = (self.folder / name).resolve()
            return path if path.is_relative_to(self.folder) and path.is_file() else None
        except (OSError, ValueError):
            return None

    def __iter__(self) -> Iterator[str]:
        return (str(path.relative_to(self.folder)) for path in self.folder.rglob("*") if path.is_file())

    def __len__(self) -> int:
        return sum(1 for _ in self)
