"""Who is at a graph: pages hear of each other and of edits at once, and waiting holds no thread."""

from __future__ import annotations

import threading
from typing import Any

import pytest
from flask.testing import FlaskClient

from reticula.service.company import rooms
from reticula.service.company.rooms import Person, Room, Rooms

MARA, INES = Person("mara", "tall", ""), Person("ines", "sheet", "")


def test_a_page_hears_of_others_when_they_come_go_and_look_elsewhere() -> None:
    room = Room()
    first = room.arrive("a", MARA, -1)
    assert first.finished.is_set(), "what it knows is not what is"
    waits = room.arrive("a", MARA, room.version)
    assert not waits.finished.is_set()
    room.arrive("b", INES, -1)
    assert waits.finished.is_set()
    assert room.others("a") == {"b": INES}
    waits = room.arrive("a", MARA, room.version)
    other = room.arrive("b", Person("ines", "tall", ""), room.version)
    assert waits.finished.is_set()
    waits = room.arrive("a", MARA, room.version)
    other.given_up()
    assert waits.finished.is_set()
    assert room.others("a") == {}


def test_an_edit_wakes_all_and_nobody_else() -> None:
    every = Rooms()
    every.arrive("g", "a", MARA, -1)
    every.arrive("h", "b", INES, -1)
    waits, elsewhere = every.arrive("g", "a", MARA, 1), every.arrive("h", "b", INES, 1)
    woken: list[str] = []
    waits.when_ended(lambda: woken.append("a"))
    every.tell("g")
    every.tell("nobody is here")
    assert woken == ["a"]
    waits_too = every.arrive("g", "a", MARA, 1)
    every.tell("g", "a")
    assert not waits_too.finished.is_set(), "the page that edited it knows"
    assert not elsewhere.finished.is_set()
    waits.when_ended(lambda: woken.append("late"))
    assert woken == ["a", "late"]


def test_who_does_not_ask_any_more_is_gone(monkeypatch: pytest.MonkeyPatch) -> None:
    room = Room()
    room.arrive("a", MARA, -1)
    monkeypatch.setattr(rooms, "GONE_AFTER", -1.0)
    room.arrive("b", INES, -1)
    assert room.others("b") == {}


def test_empty_rooms_are_given_up() -> None:
    every = Rooms()
    room = every.arrive("g", "a", MARA, -1).room
    assert every.arrive("g", "b", INES, -1).room is room
    every.arrive("h", "a", MARA, -1)
    assert room.others("b") == {}, "a page is at one graph at a time"
    room.leave("b")
    every.arrive("h", "a", MARA, -1)
    assert every.arrive("g", "a", MARA, -1).room is not room


def meet(client: FlaskClient, graph: dict[str, Any], page: str, revision: int = 0, **more: Any) -> dict[str, Any]:
    body = {"page": page, "revision": revision, "looking_at": "tall", "wait": 0, **more}
    found: dict[str, Any] = client.post(f"/api/graphs/{graph['id']}/company", json=body).json
    return found


def raised(client: FlaskClient, graph: dict[str, Any], revision: int, value: float, key: str) -> None:
    patch = [{"op": "replace", "path": "/nodes/tall/parameters/distance", "value": value}]
    body = {"revision": revision, "patch": patch, "label": f"raise to {value:g}", "key": key}
    assert client.post(f"/api/graphs/{graph['id']}/edits", json=body).status_code == 200


def test_the_answer_says_who_is_there_and_what_they_did(client: FlaskClient, graph: dict[str, Any]) -> None:
    alone = meet(client, graph, "a")
    assert (alone["people"], alone["graph"], alone["edits"]) == ([], None, [])
    raised(client, graph, 0, 2.0, "k1")
    found = meet(client, graph, "b")
    assert found["people"] == [{"page": "a", "name": "", "looking_at": "tall", "level": ""}]
    assert found["graph"]["revision"] == 1
    assert found["edits"] == [
        {
            "revision": 1,
            "kind": "edit",
            "label": "raise to 2",
            "author": "",
            "key": "k1",
            "paths": ["/nodes/tall/parameters/distance"],
        }
    ]


def test_a_page_is_not_told_of_its_own_edits_alone(client: FlaskClient, graph: dict[str, Any]) -> None:
    raised(client, graph, 0, 2.0, "a-1")
    assert (meet(client, graph, "a")["graph"], meet(client, graph, "a")["edits"]) == (None, [])
    raised(client, graph, 1, 3.0, "b-1")
    found = meet(client, graph, "a")
    assert [edit["key"] for edit in found["edits"]] == ["a-1", "b-1"]
    assert found["graph"]["revision"] == 2
    assert meet(client, graph, "a", 2)["graph"] is None
    client.post(f"/api/graphs/{graph['id']}/undo", json={"revision": 2, "key": "a-2"})
    assert meet(client, graph, "a", 2)["graph"] is None
    assert [edit["kind"] for edit in meet(client, graph, "b", 2)["edits"]] == ["undo"]


def test_a_graph_that_is_not_there_is_said(client: FlaskClient) -> None:
    body = {"page": "a", "revision": 0}
    assert client.post("/api/graphs/none/company", json=body).status_code == 404


def test_fifty_people_edit_one_graph_and_none_is_refused(client: FlaskClient, graph: dict[str, Any]) -> None:
    path = f"/api/graphs/{graph['id']}/edits"
    boxes = [{"op": "add", "path": f"/nodes/box_{number}", "value": {"operator": "box"}} for number in range(50)]
    client.post(path, json={"revision": 0, "patch": boxes})
    statuses: list[int] = []

    def work(number: int) -> None:
        own = client.application.test_client()
        for turn in range(4):
            patch = [{"op": "add", "path": f"/nodes/box_{number}/title", "value": f"{number}, {turn}"}]
            statuses.append(own.post(path, json={"revision": 1, "patch": patch}).status_code)

    threads = [threading.Thread(target=work, args=(number,)) for number in range(50)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(120)
    assert statuses == [200] * 200
    nodes = client.get(f"/api/graphs/{graph['id']}").json["document"]["nodes"]
    assert [nodes[f"box_{number}"]["title"] for number in range(50)] == [f"{number}, 3" for number in range(50)]
