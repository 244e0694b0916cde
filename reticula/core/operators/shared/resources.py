"""Where operators get stored shapes and files from: the project in the service, the disk in Python."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from pathlib import Path

from reticula.core.context import Resources, current
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["DiskResources", "Resources", "resources"]


class DiskResources:
    """Shapes given by name (``reticula run --in NAME=FILE``), else files by path, below ``folder``."""

    def __init__(self, named: Mapping[str, str | Path | Geo] | None = None, folder: str | Path = ".") -> None:
        self.named = dict(named or {})
        self.folder = Path(folder)

    def key(self, name: str) -> str:
        found = self._find(name)
        if isinstance(found, Geo):
            return found.digest
        return hashlib.blake2b(found.read_bytes(), digest_size=16).hexdigest() + found.suffix

    def load(self, name: str, *, error: float = 0.0) -> Geo:
        found = self._find(name)
        return found if isinstance(found, Geo) else Geo.read(found, error=error)

    def _find(self, name: str) -> Geo | Path:
        found = self.named.get(name, self.folder / name)
        if isinstance(found, Geo):
            return found
        if not Path(found).is_file():
            known = ", ".join(self.named) or "none"
            raise GeometryError(
                f"there is no shape or file '{name}' (given by name: {known}); give it with --in {name}=FILE"
            )
        return Path(found)


def resources() -> Resources:
    """Return the resources in use; the disk's working folder if none were set."""
    return current().resources or DiskResources()
