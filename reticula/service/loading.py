"""A graph as a question is about it: with edits that are not saved, the level that is meant, and what it needs."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph import split_feed
from reticula.core.graph.editing.levels import inner_level
from reticula.core.graph.structure.document import feeds_of
from reticula.core.graph.structure.linked import resolved
from reticula.service.context import context
from reticula.service.schemas import Basis
from reticula.service.surroundings import Surroundings
from reticula.store import graphs
from reticula.workers.tasks import Job

__all__ = ["Loaded", "load"]


@dataclass(frozen=True)
class Loaded:
    """A graph as it is to be evaluated: the document with its draft, the level in it, and what it needs."""

    document: dict[str, Any]
    level: dict[str, Any]
    path: str
    frame: float | None
    around: Surroundings
    project_id: str
    revision: int

    def job(self, what: str, node: str | None, targets: list[str] | None, **more: Any) -> Job:
        return Job(
            what,
            self.document,
            self.around.shapes,
            node,
            targets,
            level=self.path,
            frame=self.frame,
            library=self.around.library,
            **more,
        )

    def require(self, node: str | None) -> str:
        """Return a node's name; raise GraphError if the level has no such node."""
        if split_feed(node or "")[0] not in self.level["nodes"]:
            raise GraphError(f"there is no node '{node}'", node=node)
        return str(node)

    def feeds(self, node: str) -> list[str]:
        """Return the nodes that feed a node; raise GraphError if the level has no such node."""
        return feeds_of(self.level["nodes"][self.require(node)])


def load(graph_id: str, body: Basis) -> Loaded:
    """Return the newest document with the draft, and what it needs."""
    here = context()
    with here.database.session() as session:
        graph = graphs.get(session, graph_id)
        document = dict(resolved(graphs.drafted(session, graph, body.draft, body.revision)))
        around = here.surroundings(session, graph.project_id, document)
    level = inner_level(document, body.level, around.library)
    return Loaded(document, level, body.level, body.frame, around, graph.project_id, graph.revision)
