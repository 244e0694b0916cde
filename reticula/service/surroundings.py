"""What a document needs besides itself: the shapes of its project, and the published operators that it uses."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from reticula.core.graph.structure.library import references
from reticula.store import assets, library
from reticula.store.assets import AssetFiles

__all__ = ["Surroundings", "operators", "shapes", "surroundings"]


@dataclass(frozen=True)
class Surroundings:
    """What a document needs: shapes by name (path, digest), and the definitions of published operators."""

    shapes: dict[str, tuple[str, str]]
    library: Mapping[str, Mapping[str, Any]]


def shapes(files: AssetFiles, session: Session, project_id: str) -> dict[str, tuple[str, str]]:
    """Return the shapes of a project as evaluators take them: name to (path, digest)."""
    found = assets.by_name(session, project_id)
    return {name: (str(files.path(a.digest, a.file_name)), a.digest) for name, a in found.items()}


def operators(
    files: AssetFiles, session: Session, names: Iterable[str]
) -> tuple[dict[str, Any], dict[str, tuple[str, str]]]:
    """Return the definitions of published operators with all that they need, and the shapes that come with them."""
    definitions = library.closure(session, names)
    wanted = {shape for entry in definitions.values() for shape in entry.get("shapes", {})}
    found = library.shapes_of(session, wanted)
    return definitions, {name: (str(files.path(s.digest, s.file_name)), s.digest) for name, s in found.items()}


def surroundings(files: AssetFiles, session: Session, project_id: str, document: dict[str, Any]) -> Surroundings:
    """Return all that evaluating a document takes besides it."""
    definitions, own = operators(files, session, references(document))
    return Surroundings(shapes(files, session, project_id) | own, definitions)
