"""A thousand random edits of two people at one graph: away for a while, answers lost, and yet the same in the end."""

from __future__ import annotations

import json
import random
from copy import deepcopy
from typing import Any

import jsonpatch
import pytest
from flask.testing import FlaskClient
from sqlalchemy import select

from reticula.store.models import Edit
from tests.helpers import examples

NODES = 8


class Page:
    """What a page knows and has not sent yet. It sends edits in order, again if an answer was lost, and hears of
    others.
    """

    def __init__(self, client: FlaskClient, graph: str, name: str, dice: random.Random) -> None:
        self.client, self.path, self.name, self.dice = client, f"/api/graphs/{graph}", name, dice
        self.state = client.get(self.path).json
        self.pending: list[dict[str, Any]] = []
        self.count = 0
        self.dropped: list[str] = []
        self.away = False

    @property
    def document(self) -> dict[str, Any]:
        """What is drawn: the saved document with pending edits on top."""
        made = deepcopy(self.state["document"])
        for edit in self.pending:
            try:
                made = jsonpatch.apply_patch(made, edit["patch"])
            except (jsonpatch.JsonPatchException, jsonpatch.JsonPointerException):
                continue
        return made

    def edit(self, patch: list[dict[str, Any]]) -> None:
        self.count += 1
        name = f"{self.name} {self.count}"
        self.pending.append({"patch": patch, "label": name, "key": name})

    def send(self) -> None:
        """Send the first edit; now and then its answer is lost after it was kept, as when the service is killed."""
        if self.away or not self.pending:
            return
        edit = self.pending[0]
        answer = self.client.post(f"{self.path}/edits", json={"revision": self.state["revision"], **edit})
        if self.dice.random() < 0.05:
            return
        if answer.status_code == 200:
            self.pending.pop(0)
            if answer.json["revision"] >= self.state["revision"]:
                self.state = answer.json
            return
        assert answer.status_code == 409, answer.json
        self.state = answer.json["graph"]
        if any(one["op"] in ("replace", "remove") and not self._is_there(one["path"]) for one in edit["patch"]):
            self.dropped.append(edit["label"])
            self.pending.pop(0)

    def _is_there(self, path: str) -> bool:
        return bool(jsonpatch.JsonPointer(path).resolve(self.state["document"], None) is not None)

    def hear(self) -> None:
        if self.away:
            return
        body = {"page": self.name, "revision": self.state["revision"], "wait": 0}
        news = self.client.post(f"{self.path}/company", json=body).json
        if news["graph"] and news["graph"]["revision"] > self.state["revision"]:
            self.state = news["graph"]
            keys = {edit["key"] for edit in news["edits"]}
            self.pending = [edit for edit in self.pending if edit["key"] not in keys]

    def settle(self) -> None:
        self.away = False
        while self.pending:
            self.send()
        self.hear()


def random_edit(page: Page, mine: list[str], shared: list[str]) -> list[dict[str, Any]]:
    dice = page.dice
    name = dice.choice(mine if dice.random() < 0.7 else shared)
    value = page.count
    if dice.random() < 0.5:
        return [{"op": "add", "path": f"/nodes/{name}/title", "value": f"{page.name} {value}"}]
    return [{"op": "add", "path": f"/nodes/{name}/parameters/size", "value": [value, 1, 1]}]


@pytest.mark.parametrize("seed", range(2))
def test_both_show_the_same_document_and_it_is_the_log_replayed(
    client: FlaskClient, graph: dict[str, Any], seed: int
) -> None:
    path, dice = f"/api/graphs/{graph['id']}", random.Random(seed)
    names = {who: [f"{who}_{number}" for number in range(NODES)] for who in ("mara", "ines", "both")}
    box = {"operator": "box", "parameters": {"size": [1, 1, 1]}}
    patch = [{"op": "add", "path": f"/nodes/{name}", "value": box} for own in names.values() for name in own]
    client.post(f"{path}/edits", json={"revision": 0, "patch": patch})
    pages = [Page(client, graph["id"], who, random.Random(f"{seed} {who}")) for who in ("mara", "ines")]
    for _ in range(examples(500)):
        page = dice.choice(pages)
        page.edit(random_edit(page, names[page.name], names["both"]))
        if dice.random() < 0.03:
            page.away = True
        elif dice.random() < 0.2:
            page.away = False
        for one in pages:
            if dice.random() < 0.8:
                one.send()
            if dice.random() < 0.3:
                one.hear()
    for page in (*pages, *pages):
        page.settle()
    newest = client.get(path).json
    assert [page.document for page in pages] == [newest["document"]] * 2
    assert [page.dropped for page in pages] == [[], []], "none was refused: values of one node, the later wins"

    edits = client.get(f"{path}/edits").json["edits"]
    assert len({one["label"] for one in edits[1:]}) == len(edits) - 1 == sum(page.count for page in pages)
    replayed = graph["document"]
    for patch in patches_of(client, graph["id"]):
        replayed = jsonpatch.apply_patch(replayed, patch)
    assert replayed == newest["document"]


def patches_of(client: FlaskClient, graph: str) -> list[Any]:
    """What the log holds, in order."""
    database = client.application.extensions["reticula"].database
    with database.session() as session:
        texts = session.scalars(select(Edit.patch).where(Edit.graph_id == graph).order_by(Edit.revision))
        return [json.loads(text) for text in texts]
