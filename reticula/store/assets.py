"""Assets: uploaded meshes. Their content lies in a folder, named by its digest; equal files are kept once."""

from __future__ import annotations

import contextlib
import hashlib
import os
import re
import secrets
import threading
import time
import unicodedata
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from reticula.store import projects
from reticula.store.errors import NameTaken, NotFound
from reticula.store.models import Asset, Operator, OperatorShape

__all__ = ["AssetFiles", "add", "by_name", "delete", "free_name", "get", "list_of", "safe_file_name"]

UNUSED_SECONDS = 3600.0


class AssetFiles:
    """The folder of contents. Nothing is deleted from it but by :meth:`sweep`, long after it was used last."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._lock = threading.Lock()
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)

    def path(self, digest: str, file_name: str) -> Path:
        """Return where a content lies; the ending says its format."""
        return self.folder / f"{digest}{Path(file_name).suffix.lower()}"

    def keep(self, data: bytes, file_name: str) -> tuple[str, Path]:
        """Keep a content, whole and on the disk, or not at all; returns its digest and path.

        The file is written under a name of its own first, so that the same content may come in several times at once.
        """
        digest = hashlib.blake2b(data, digest_size=20).hexdigest()
        path = self.path(digest, file_name)
        part = self.folder / f"{digest}-{secrets.token_hex(8)}.part"
        try:
            with part.open("wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            with self._lock:
                part.replace(path)
            _sync_folder(self.folder)
        finally:
            part.unlink(missing_ok=True)
        return digest, path

    def discard(self, digest: str, file_name: str) -> None:
        """Delete a content that is of no use to anybody, as it cannot be read."""
        with self._lock:
            self.path(digest, file_name).unlink(missing_ok=True)

    def sweep(self, session: Session, seconds: float = UNUSED_SECONDS) -> int:
        """Delete contents that no asset and no published operator uses, and that came in at least some ``seconds`` ago;
        returns how many.
        """
        used = {
            digest
            for column in (Asset.digest, OperatorShape.digest, Operator.picture)
            for digest in session.scalars(select(column).distinct())
        }
        gone = 0
        for path in self.folder.iterdir():
            if path.stem in used:
                continue
            old = max(seconds, UNUSED_SECONDS) if path.suffix == ".part" else seconds
            with self._lock, contextlib.suppress(FileNotFoundError):
                if time.time() - path.stat().st_mtime >= old:
                    path.unlink()
                    gone += 1
        return gone


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def safe_file_name(given: str) -> str:
    """Return a file name without folders and control letters, of at most 120 letters; its ending is kept."""
    plain = unicodedata.normalize("NFC", re.split(r"[/\\]", given)[-1])
    plain = "".join(letter for letter in plain if letter.isprintable() and letter not in '<>:"|?*').strip().rstrip(". ")
    stem, dot, ending = plain.rpartition(".")
    return f"{(stem if dot else plain)[:100] or 'shape'}{dot}{ending[:16] if dot else ''}"


def list_of(session: Session, project_id: str) -> list[Asset]:
    """Return the assets of a project by name."""
    projects.get(session, project_id)
    return list(session.scalars(select(Asset).where(Asset.project_id == project_id).order_by(Asset.name)))


def get(session: Session, asset_id: str, *, lock: bool = False) -> Asset:
    """Return an asset; raise NotFound. ``lock`` keeps others from deleting it until the session ends."""
    found = session.get(Asset, asset_id, with_for_update=lock or None)
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
    """Add an asset; raise NameTaken, also if somebody else takes the name at this moment."""
    taken = NameTaken(f"There is a shape '{name}' in this project already.")
    if name in {asset.name for asset in list_of(session, project_id)}:
        raise taken
    made = Asset(project_id=project_id, name=name, file_name=file_name[:200], digest=digest, size=size, summary=summary)
    session.add(made)
    try:
        session.flush()
    except IntegrityError:
        raise taken from None
    return made


def delete(session: Session, asset_id: str) -> Asset:
    """Delete an asset; its content stays until nothing uses it any more, and is swept away later."""
    found = get(session, asset_id, lock=True)
    session.delete(found)
    session.flush()
    return found
