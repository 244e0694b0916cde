"""What every request handler needs: configuration, database, files and evaluators."""

from __future__ import annotations

from dataclasses import dataclass
from typing import cast

from flask import current_app
from sqlalchemy.orm import Session

from reticula.service.config import Config
from reticula.store import assets
from reticula.store.assets import AssetFiles
from reticula.store.database import Database
from reticula.workers.pool import Pool

__all__ = ["Context", "context"]


@dataclass(frozen=True)
class Context:
    """The parts of the running service."""

    config: Config
    database: Database
    files: AssetFiles
    pool: Pool

    def shapes(self, session: Session, project_id: str) -> dict[str, tuple[str, str]]:
        """Return the shapes of a project as evaluators take them: name to (path, digest)."""
        found = assets.by_name(session, project_id)
        return {name: (str(self.files.path(a.digest, a.file_name)), a.digest) for name, a in found.items()}


def context() -> Context:
    """Return the parts of the service that handles the current request."""
    return cast(Context, current_app.extensions["reticula"])
