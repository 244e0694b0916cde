"""Changes of a graph that the core works out: fold, unfold, link, rename, make a dial, tie, take another release."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any, assert_never

import jsonpatch
from flask_openapi3 import APIBlueprint, Tag

from reticula.contract.changes import (
    Change,
    Fold,
    Link,
    MakeDial,
    RenameDial,
    RenameNode,
    RenamePort,
    Separate,
    SetFree,
    Tie,
    Unfold,
    Update,
)
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph import check_structure
from reticula.core.graph.editing import (
    fold,
    link_copy,
    link_parameter,
    make_dial,
    rename_dial,
    rename_node,
    rename_port,
    separate,
    unbind_parameter,
    unfold,
)
from reticula.core.graph.editing.levels import level_of, parent_of
from reticula.core.graph.structure.linked import attached, detached
from reticula.core.packages import update_release
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.schemas import ChangeRequest, ChangeState, ErrorState, GraphPath
from reticula.store import graphs, library

__all__ = ["blueprint"]

blueprint = APIBlueprint("changes", __name__, url_prefix="/api", abp_tags=[Tag(name="graphs")])
Made = tuple[dict[str, Any], list[str], str]


def _at(
    document: dict[str, Any], path: str, change: Callable[[dict[str, Any]], tuple[dict[str, Any], Any]]
) -> tuple[dict[str, Any], Any]:
    """Return the document with the level at ``path`` replaced by what ``change`` makes of it, and what else that
    gives.
    """
    made, more = change(level_of(document, path))
    around = parent_of(document, path)
    if around is None:
        return made, more
    around[0]["nodes"][around[1]]["graph"] = made
    return document, more


def _made(document: dict[str, Any], path: str, change: Change) -> Made:
    """Return the changed document, the cards that it is about then, and the name that was given."""
    match change:
        case Fold():
            around = parent_of(document, path)
            holder = around[0]["nodes"][around[1]]["operator"] if around else ""
            made, name = _at(document, path, lambda level: fold(level, change.nodes, change.title, holder=holder))
            return made, [name], name
        case Unfold():
            made, names = _at(document, path, lambda level: unfold(level, change.node))
            return made, names, ""
        case Link():
            made, name = link_copy(document, path, change.node)
            return made, [name], name
        case Separate():
            return separate(document, path, change.node), [change.node], ""
        case RenameNode():
            made, name = rename_node(document, path, change.node, change.title)
            return made, [name], name
        case RenameDial():
            return rename_dial(document, path, change.dial, change.name), [], change.name
        case RenamePort():
            return rename_port(document, path, change.side, change.port, change.name), [], change.name
        case MakeDial():
            made, name = make_dial(document, path, change.node, change.parameter, change.name, change.up)
            return made, [change.node], name
        case SetFree():
            return unbind_parameter(document, path, change.node, change.parameter), [change.node], ""
        case Tie():
            made = link_parameter(document, path, change.node, change.parameter, change.follows, change.of)
            return made, [change.node], ""
        case Update():
            made, name = update_release(document, path, change.node, change.release, beside=change.beside)
            return made, [name], name
        case _:
            assert_never(change)


@blueprint.post("/graphs/<graph_id>/changes", responses={200: ChangeState, 422: ErrorState})
def work_out(path: GraphPath, body: ChangeRequest) -> Answer:
    """Work out a change as a JSON Patch; nothing is saved until that is sent as an edit."""
    here = context()
    with here.database.session() as session:
        graph = graphs.get(session, path.graph_id)
        document = graphs.drafted(session, graph, body.draft, body.revision)
        known = library.library_of(session)
    before = json.loads(json.dumps(document))
    with using(library=known):
        try:
            made, cards, name = _made(attached(document), body.level, body.change)
            made = detached(made)
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as error:
            raise GraphError(f"'{body.change.what}' cannot be done like this: {error}") from None
        check_structure(made)
    return {"patch": _patch(before, made), "cards": cards, "name": name}


def _patch(before: dict[str, Any], after: dict[str, Any]) -> list[dict[str, Any]]:
    """Return the patch that also brings the nodes into their new order: a patch knows no order of names."""
    patch: list[dict[str, Any]] = jsonpatch.make_patch(before, after).patch
    if json.dumps(jsonpatch.apply_patch(before, patch)) == json.dumps(after):
        return patch
    keys = [key for key in after if json.dumps(before.get(key)) != json.dumps(after[key])]
    return [{"op": "add", "path": f"/{key}", "value": after[key]} for key in keys] + [
        {"op": "remove", "path": f"/{key}"} for key in before if key not in after
    ]
