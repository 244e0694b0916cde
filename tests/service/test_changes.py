"""Changes that the core works out come as patches: nothing is saved, and the order of cards is kept."""

from typing import Any

import jsonpatch
import pytest
from flask.testing import FlaskClient

from reticula.service.changes import _patch

Graph = dict[str, Any]


def ask(client: FlaskClient, graph: Graph, what: str, **arguments: Any) -> Any:
    body = {"change": {"what": what, **arguments}, "level": "", "revision": graph["revision"]}
    return client.post(f"/api/graphs/{graph['id']}/changes", json=body)


def test_a_change_is_a_patch_and_nothing_is_saved(client: FlaskClient, graph: Graph) -> None:
    made = ask(client, graph, "rename node", node="sheet", title="Sea floor").json
    assert (made["cards"], made["name"]) == (["sea_floor"], "sea_floor")
    after = jsonpatch.apply_patch(graph["document"], made["patch"])
    assert list(after["nodes"]) == ["sea_floor", "tall"]
    assert after["nodes"]["tall"]["inputs"] == {"geo": ["sea_floor"]}
    assert client.get(f"/api/graphs/{graph['id']}").json["document"] == graph["document"]


@pytest.mark.parametrize(
    ("what", "arguments", "message"),
    [
        ("fold", {}, "change.fold.nodes: Field required"),
        ("unfold", {"node": "sheet"}, "holds no graph to unfold"),
        (
            "rename port",
            {"side": "middle", "port": "a", "name": "b"},
            "port.side: Input should be 'inputs' or 'outputs'",
        ),
        ("make dial", {"node": "nobody", "parameter": "cells"}, "nobody"),
        ("update", {"node": "sheet", "release": "1.0.0"}, ""),
    ],
)
def test_what_cannot_be_done_is_said(
    client: FlaskClient, graph: Graph, what: str, arguments: Any, message: str
) -> None:
    answer = ask(client, graph, what, **arguments)
    assert answer.status_code == 422
    assert message in answer.json["message"]


def test_linked_copies_are_kept_once_and_separated(client: FlaskClient, graph: Graph) -> None:
    url, state = f"/api/graphs/{graph['id']}", graph

    def change(what: dict[str, Any]) -> dict[str, Any]:
        nonlocal state
        found = client.post(f"{url}/changes", json={"change": what, "draft": []}).json
        edit = {"revision": state["revision"], "patch": found["patch"], "label": what["what"]}
        state = client.post(f"{url}/edits", json=edit).json
        return found

    folded = change({"what": "fold", "nodes": ["tall"], "title": "Held"})["cards"][0]
    (copy,) = change({"what": "link", "node": folded})["cards"]
    nodes = state["document"]["nodes"]
    assert [nodes[name]["linked"] for name in (folded, copy)] == ["held", "held"]
    assert "graph" not in nodes[folded]
    assert list(state["document"]["linked"]) == ["held"]
    reports = client.post(f"{url}/evaluations", json={"wait": 20}).json["nodes"]
    assert reports[copy]["key"] == reports[folded]["key"], "the same graph on the same geometry is evaluated once"
    change({"what": "separate", "node": copy})
    change({"what": "separate", "node": folded})
    assert "linked" not in state["document"]
    refused = client.post(f"{url}/changes", json={"change": {"what": "separate", "node": copy}, "draft": []})
    assert (refused.status_code, refused.json["node"]) == (422, copy)


def test_a_change_that_is_not_known_is_refused(client: FlaskClient, graph: Graph) -> None:
    assert ask(client, graph, "explode").status_code == 422


def test_a_new_order_is_part_of_the_patch() -> None:
    before = {"nodes": {"a": 1, "b": 2}, "gone": 1}
    after = {"nodes": {"b": 2, "a": 1}}
    made = jsonpatch.apply_patch(before, _patch(before, after))
    assert list(made["nodes"]) == ["b", "a"]
    assert made == after
