"""Assets: uploaded meshes. Their content lies in a folder, named by its digest; equal files are kept once."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.store import projects
from reticula.store.errors import NameTaken, NotFound
from reticula.store.models import Asset, OperatorShape

__all__ = ["AssetFiles", "add", "by_name", "delete", "free_name", "get", "list_of"]


class AssetFiles:
    """The folder of contents."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)

    def path(self, digest: str, file_name: str) -> Path:
        """Return where a content lies; the ending says its format."""
        return self.folder / f"{digest}{Path(file_name).suffix.lower()}"

    def keep(self, data: bytes, file_name: str) -> tuple[str, Path]:
        """Keep a content, whole or not at all; returns its digest and path."""
        digest = hashlib.blake2b(data, digest_size=20).hexdigest()
        path = self.path(digest, file_name)
        if not path.exists():
            part = path.with_suffix(path.suffix + ".part")
            part.write_bytes(data)
            part.replace(path)
        return digest, path

    def drop_unused(self, session: Session, digest: str, file_name: str) -> None:
        """Delete a content that no asset and no published operator uses any more."""
        asset = select(Asset.id).where(Asset.digest == digest).limit(1)
        shape = select(OperatorShape.name).where(OperatorShape.digest == digest).limit(1)
        if session.scalars(asset).first() is None and session.scalars(shape).first() is None:
            self.path(digest, file_name).unlink(missing_ok=True)


def list_of(session: Session, project_id: str) -> list[Asset]:
    """Return the assets of a project by name."""
    projects.get(session, project_id)
    return list(session.scalars(select(Asset).where(Asset.project_id == project_id).order_by(Asset.name)))


def get(session: Session, asset_id: str) -> Asset:
    """Return an asset; raise NotFound."""
    found = session.get(Asset, asset_id)
    if found is None:
        raise NotFound(f"There is no shape '{asset_id}'.")
    return found


def by_name(session: Session, project_id: str) -> dict[str, Asset]:
    """Return a project's assets by name, and by file name where that is not a name."""
    found = list_of(session, project_id)
    return {asset.file_name: asset for asset in found} | {asset.name: asset for asset in found}


def free_name(session: Session, project_id: str, file_name: str) -> str:
    """Return a name made from a file name that no asset of the project has yet."""
    base = re.sub(r"\W+", "_", Path(file_name).stem).strip("_")[:80] or "shape"
    taken = {asset.name for asset in list_of(session, project_id)}
    number, name = 2, base
    while name in taken:
        name = f"{base}_{number}"
        number += 1
    return name


def add(
    session: Session, project_id: str, name: str, file_name: str, digest: str, size: int, summary: dict[str, Any]
) -> Asset:
    """Add an asset; raise NameTaken."""
    if name in {asset.name for asset in list_of(session, project_id)}:
        raise NameTaken(f"There is a shape '{name}' in this project already.")
    made = Asset(project_id=project_id, name=name, file_name=file_name[:200], digest=digest, size=size, summary=summary)
    session.add(made)
    session.flush()
    return made


def delete(session: Session, asset_id: str) -> Asset:
    """Delete an asset; its content stays until nothing uses it."""
    found = get(session, asset_id)
    session.delete(found)
    session.flush()
    return found
