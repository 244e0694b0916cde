"""What every request handler needs: configuration, database, files and evaluators."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, cast

from flask import current_app
from sqlalchemy.orm import Session

from reticula.core.graph.structure.library import references
from reticula.service.company.rooms import Rooms
from reticula.service.config import Config
from reticula.service.pulse import Pulse
from reticula.store import assets, library
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
    pulse: Pulse
    rooms: Rooms

    def shapes(self, session: Session, project_id: str) -> dict[str, tuple[str, str]]:
        """Return the shapes of a project as evaluators take them: name to (path, digest)."""
        found = assets.by_name(session, project_id)
        return {name: (str(self.files.path(a.digest, a.file_name)), a.digest) for name, a in found.items()}

    def operators(self, session: Session, names: Iterable[str]) -> tuple[dict[str, Any], dict[str, tuple[str, str]]]:
        """Return the definitions of published operators with all that they need, and the shapes that come with them."""
        definitions = library.closure(session, names)
        wanted = {shape for entry in definitions.values() for shape in entry.get("shapes", {})}
        found = library.shapes_of(session, wanted)
        return definitions, {name: (str(self.files.path(s.digest, s.file_name)), s.digest) for name, s in found.items()}

    def surroundings(self, session: Session, project_id: str, document: dict[str, Any]) -> Surroundings:
        """Return all that evaluating a document takes besides it."""
        definitions, own = self.operators(session, references(document))
        return Surroundings(self.shapes(session, project_id) | own, definitions)


@dataclass(frozen=True)
class Surroundings:
    """What a document needs: shapes by name (path, digest), and the definitions of published operators."""

    shapes: dict[str, tuple[str, str]]
    library: Mapping[str, Mapping[str, Any]]


def context() -> Context:
    """Return the parts of the service that handles the current request."""
    return cast(Context, current_app.extensions["reticula"])
