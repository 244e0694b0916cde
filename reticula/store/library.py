"""Published operators: added once, never changed, found with all that they need."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reticula.core.graph.structure.library import MemoryLibrary, published_name, references
from reticula.core.packages import Signature, definition_key
from reticula.store.errors import NameTaken, NotFound
from reticula.store.models import Operator, OperatorShape

__all__ = ["add", "add_shape", "closure", "get", "keys", "library_of", "list_all", "shapes_of", "signers"]


def list_all(session: Session) -> list[Operator]:
    """Return all releases of all operators, in the order in which they came."""
    return list(session.scalars(select(Operator).order_by(Operator.id)))


def keys(session: Session) -> list[str]:
    """Return ``name@release`` of all."""
    rows = session.execute(select(Operator.name, Operator.release_number).order_by(Operator.id))
    return [f"{name}@{release}" for name, release in rows]


def get(session: Session, operator: str) -> Operator:
    """Return one release; raise NotFound."""
    found = _find(session, operator)
    if found is None:
        raise NotFound(f"The catalogue has no operator '{operator}'.")
    return found


def signers(session: Session, name: str = "") -> list[Signature]:
    """Return who signed the releases of an operator that came from elsewhere, newest first; of all without a name."""
    asked = select(Operator.publisher, Operator.signer).where(Operator.signer != "").order_by(Operator.id.desc())
    rows = session.execute(asked.where(Operator.name == name) if name else asked)
    return [Signature(publisher, signer) for publisher, signer in rows]


def _find(session: Session, operator: str) -> Operator | None:
    name, release = published_name(operator)
    return session.scalars(select(Operator).where(Operator.name == name, Operator.release_number == release)).first()


def add(
    session: Session,
    definition: Mapping[str, Any],
    picture: str,
    origin: str,
    signature: Signature | None = None,
) -> Operator:
    """Add a release; raise NameTaken if there is one of that name and number."""
    if _find(session, definition_key(definition)) is not None:
        raise NameTaken(f"'{definition_key(definition)}' is published already, and a release never changes.")
    text = json.dumps(definition, ensure_ascii=False, separators=(",", ":"), allow_nan=False)
    made = Operator(
        name=definition["name"],
        release_number=definition["release"],
        definition=text,
        picture=picture,
        origin=origin[:200],
        signer=signature.fingerprint if signature else "",
        publisher=signature.publisher if signature else "",
    )
    session.add(made)
    session.flush()
    return made


def add_shape(session: Session, name: str, file_name: str, digest: str) -> None:
    """Remember a mesh that comes with an operator. Its name says its content, so it is kept once."""
    if session.get(OperatorShape, name) is None:
        session.add(OperatorShape(name=name, file_name=file_name, digest=digest))
        session.flush()


def shapes_of(session: Session, names: Iterable[str]) -> dict[str, OperatorShape]:
    """Return the meshes of these names that there are."""
    wanted = sorted(set(names))
    return {shape.name: shape for shape in session.scalars(select(OperatorShape).where(OperatorShape.name.in_(wanted)))}


def closure(session: Session, operators: Iterable[str]) -> dict[str, dict[str, Any]]:
    """Return the definitions of these operators and of all that they need, as far as they are there."""
    found: dict[str, dict[str, Any]] = {}
    open_ = sorted(set(operators))
    while open_:
        operator = open_.pop()
        row = None if operator in found else _find(session, operator)
        if row is None:
            continue
        found[operator] = json.loads(row.definition)
        graphs = [found[operator]["graph"], *(example["graph"] for example in found[operator].get("examples", []))]
        open_ += sorted({name for graph in graphs for name in references(graph)} - set(found))
    return found


def library_of(session: Session) -> MemoryLibrary:
    """Return the whole catalogue as a library."""
    return MemoryLibrary(closure(session, keys(session)))
