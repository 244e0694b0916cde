"""Changes of a graph that the core works out: fold, unfold, rename, make a dial, tie, take another release."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import jsonpatch
from flask_openapi3 import APIBlueprint, Tag

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph import check_structure
from reticula.core.graph.editing import (
    fold,
    link_parameter,
    make_dial,
    rename_dial,
    rename_node,
    rename_port,
    unbind_parameter,
    unfold,
)
from reticula.core.graph.editing.levels import level_of, parent_of
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


def _fold(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    made, name = _at(document, path, lambda level: fold(level, given["nodes"], given.get("title", "")))
    return made, [name], name


def _unfold(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    made, names = _at(document, path, lambda level: unfold(level, given["node"]))
    return made, names, ""


def _rename_node(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    made, name = rename_node(document, path, given["node"], given["title"])
    return made, [name], name


def _rename_dial(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    return rename_dial(document, path, given["dial"], given["name"]), [], given["name"]


def _rename_port(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    if given["side"] not in ("inputs", "outputs"):
        raise GraphError("a port is one of the inputs or of the outputs")
    return rename_port(document, path, given["side"], given["port"], given["name"]), [], given["name"]


def _make_dial(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    up = int(given.get("up", 0))
    made, name = make_dial(document, path, given["node"], given["parameter"], given.get("name", ""), up)
    return made, [given["node"]], name


def _set_free(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    return unbind_parameter(document, path, given["node"], given["parameter"]), [given["node"]], ""


def _tie(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    made = link_parameter(document, path, given["node"], given["parameter"], given["follows"], given["of"])
    return made, [given["node"]], ""


def _update(document: dict[str, Any], path: str, given: dict[str, Any]) -> Made:
    made, name = update_release(document, path, given["node"], given["release"], beside=bool(given.get("beside")))
    return made, [name], name


CHANGES: dict[str, Callable[[dict[str, Any], str, dict[str, Any]], Made]] = {
    "fold": _fold,
    "unfold": _unfold,
    "rename node": _rename_node,
    "rename dial": _rename_dial,
    "rename port": _rename_port,
    "make dial": _make_dial,
    "set free": _set_free,
    "tie": _tie,
    "update": _update,
}


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
            made, cards, name = CHANGES[body.what](document, body.level, body.arguments)
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as error:
            raise GraphError(f"'{body.what}' cannot be done with these arguments: {error}") from None
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
