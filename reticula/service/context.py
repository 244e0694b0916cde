"""What every request handler needs: configuration, database, files and evaluators."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, cast

from flask import current_app
from sqlalchemy.orm import Session

from reticula.many.for_evaluators import Overflow
from reticula.many.shared_cluster import SharedCluster
from reticula.service import surroundings
from reticula.service.company.rooms import Rooms
from reticula.service.config import Config
from reticula.service.pulse import Pulse
from reticula.service.sheets.maker import SheetMaker
from reticula.service.surroundings import Surroundings
from reticula.store.assets import AssetFiles
from reticula.store.database import Database
from reticula.store.sheets import DrawnFiles
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
    drawn: DrawnFiles
    sheets: SheetMaker
    cluster: SharedCluster
    overflow: Overflow | None = None

    def shapes(self, session: Session, project_id: str) -> dict[str, tuple[str, str]]:
        """Return the shapes of a project as evaluators take them: name to (path, digest)."""
        return surroundings.shapes(self.files, session, project_id)

    def operators(self, session: Session, names: Iterable[str]) -> tuple[dict[str, Any], dict[str, tuple[str, str]]]:
        """Return the definitions of published operators with all that they need, and the shapes that come with them."""
        return surroundings.operators(self.files, session, names)

    def surroundings(self, session: Session, project_id: str, document: dict[str, Any]) -> Surroundings:
        """Return all that evaluating a document takes besides it."""
        return surroundings.surroundings(self.files, session, project_id, document)

    def close(self) -> None:
        """End the evaluators, the cluster's workers, and all that makes proof sheets."""
        if self.overflow is not None:
            self.overflow.close()
        self.sheets.close()
        self.cluster.close()
        self.pool.close()


def context() -> Context:
    """Return the parts of the service that handles the current request."""
    return cast(Context, current_app.extensions["reticula"])
