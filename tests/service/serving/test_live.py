"""The line of a page: questions go out, progress, arrays and answers come in."""

from __future__ import annotations

import itertools
import json
import threading
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient
from websockets.exceptions import InvalidStatus
from websockets.sync.client import ClientConnection, connect

from tests.helpers import wait_until

SLOW = "n = {}\nfor i in range({}):\n    n = n + sin(i * 0.1)\nhere.a = n"
STARTS = itertools.count()


class Line:
    """A page's end of a line."""

    def __init__(self, socket: ClientConnection) -> None:
        self.socket = socket
        self.arrays: dict[str, bytes] = {}
        self.progress: list[dict[str, Any]] = []

    def send(self, number: int, path: str, body: Any = None, method: str = "POST") -> None:
        head = json.dumps({"id": number, "method": method, "path": path})
        self.socket.send(f"{head}\n{'' if body is None else json.dumps(body)}")

    def next(self, seconds: float = 120.0) -> tuple[int, int, Any]:
        """Return the number, status and body of the next answer."""
        while True:
            message = self.socket.recv(seconds)
            if isinstance(message, bytes):
                self.arrays[message[:32].decode()] = message[32:]
                continue
            head, _, body = message.partition("\n")
            told = json.loads(head)
            if "progress" in told:
                self.progress.append(told["progress"])
            else:
                return told["id"], told["status"], json.loads(body) if body else None

    def ask(self, number: int, path: str, body: Any = None, method: str = "POST") -> tuple[int, Any]:
        self.send(number, path, body, method)
        found, status, answer = self.next()
        assert found == number
        return status, answer

    def evaluated(self, path: str, body: Any) -> tuple[int, Any]:
        """Ask for an evaluation, and again until it has ended: an evaluator that was replaced gets ready first."""
        status, answer = self.ask(1, path, body)
        while status == 200 and answer["state"] in ("waiting", "running"):
            status, answer = self.ask(2, f"/api/evaluations/{answer['ticket']}?wait=20", method="GET")
        return status, answer


@contextmanager
def opened(address: str, **more: Any) -> Iterator[Line]:
    with connect(f"ws://{address}/api/live", origin=f"http://{address}", max_size=None, proxy=None, **more) as socket:  # type: ignore[arg-type]
        yield Line(socket)


def slow(client: FlaskClient, graph: dict[str, Any], rounds: int = 1_000_000) -> dict[str, Any]:
    """What keeps an evaluator busy for seconds, as an unsaved draft; none has the answer from an earlier test."""
    node = {
        "operator": "script",
        "inputs": {"geo": ["sheet"]},
        "parameters": {"source": SLOW.format(next(STARTS), rounds)},
    }
    return {"draft": [{"op": "add", "path": "/nodes/slow", "value": node}], "node": "slow", "wait": 30}


def test_an_answer_comes_with_its_arrays_once(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    path, body = f"/api/graphs/{graph['id']}/evaluations", {"wait": 20, "queries": [{"what": "mesh"}]}
    with opened(address) as line:
        status, answer = line.evaluated(path, body)
        assert (status, answer["state"]) == (200, "done")
        told = answer["looks"][0]["position"]
        assert told["digest"] in line.arrays
        values = np.frombuffer(line.arrays[told["digest"]], "<f4").reshape(told["shape"])
        assert values[:, 2].max() == pytest.approx(0.5) or values[:, 1].max() == pytest.approx(0.5)
        by_http = client.get(f"/api/buffers/{told['digest']}").data
        assert line.arrays[told["digest"]] == by_http
        line.arrays.clear()
        assert line.evaluated(path, body)[1]["looks"] == answer["looks"]
        assert line.arrays == {}, "what was sent is not sent again"


def test_answers_come_in_any_order_and_waiting_holds_nobody_up(
    client: FlaskClient, graph: dict[str, Any], address: str
) -> None:
    path = f"/api/graphs/{graph['id']}"
    with opened(address) as line:
        line.send(1, f"{path}/evaluations", slow(client, graph))
        for number in range(2, 8):
            line.send(number, f"{path}/edits", method="GET")
        first = [line.next() for _ in range(6)]
        assert {number for number, _, _ in first} == set(range(2, 8))
        assert {status for _, status, _ in first} == {200}
        assert line.next()[:2] == (1, 200)
        assert any(told["state"] == "running" and told["ticket"] for told in line.progress)


def test_what_is_given_up_is_stopped(client: FlaskClient, graph: dict[str, Any], address: str, app: Any) -> None:
    pool = app.extensions["reticula"].pool
    with opened(address) as line:
        line.send(1, f"/api/graphs/{graph['id']}/evaluations", slow(client, graph))
        line.send(2, f"/api/graphs/{graph['id']}/edits", method="GET")
        line.next()
        wait_until(lambda: any(seat["busy_seconds"] for seat in pool.health()["evaluators"]))
        line.socket.send('{"id": 1, "cancel": true}\n')
        wait_until(lambda: not any(seat["busy_seconds"] for seat in pool.health()["evaluators"]))
        line.send(3, f"/api/graphs/{graph['id']}/evaluations", slow(client, graph))
        line.ask(4, f"/api/graphs/{graph['id']}/edits", method="GET")
        wait_until(lambda: any(seat["busy_seconds"] for seat in pool.health()["evaluators"]))
    wait_until(lambda: not any(seat["busy_seconds"] for seat in pool.health()["evaluators"]))


LOOKS = '{"id": 1, "method": "POST", "path": "/api/graphs/x/looks"}\n'
NONSENSE = [
    "", "{", "[]\n", '{"id": 1}\n', '{"id": "x"}\n', "[" * 5000, b"\x00\xff", LOOKS + "[" * 500,
    LOOKS + '{"queries": [NaN]}', LOOKS.replace("x/", "%ff%00/") + "{}", LOOKS.replace("x/", "../") + "{}",
    LOOKS.replace("POST", "PUT"), LOOKS.replace("graphs/x/looks", "projects"),
]  # fmt: skip


@pytest.mark.parametrize("text", NONSENSE)
def test_nonsense_ends_nothing(graph: dict[str, Any], address: str, text: str | bytes) -> None:
    with opened(address) as line:
        line.socket.send(text)
        line.send(9, f"/api/graphs/{graph['id']}/edits", method="GET")
        found = [line.next()]
        if found[-1][0] != 9:
            assert found[-1][1] in (404, 405, 422)
            found.append(line.next())
        assert found[-1][:2] == (9, 200)


def test_too_many_questions_are_told_to_wait(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    with opened(address) as line:
        for number in range(60):
            line.send(number, f"/api/graphs/{graph['id']}/evaluations", slow(client, graph))
        statuses = [line.next()[1] for _ in range(20)]
        assert statuses == [429] * 20


@pytest.mark.parametrize("origin", ["http://evil.example", "null"])
def test_other_sites_open_no_line(address: str, origin: str) -> None:
    with pytest.raises(InvalidStatus), connect(f"ws://{address}/api/live", origin=origin, proxy=None):  # type: ignore[arg-type]
        pass


def test_two_hundred_pages_are_served_on_one_machine(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    path, body = f"/api/graphs/{graph['id']}/evaluations", {"wait": 30, "queries": [{"what": "mesh"}]}
    done: list[tuple[int, Any]] = []
    opened_all, go = threading.Barrier(201), threading.Event()

    def page() -> None:
        with opened(address, open_timeout=60) as line:
            opened_all.wait(120)
            go.wait(120)
            done.append(line.evaluated(path, body))

    threads = [threading.Thread(target=page, daemon=True) for _ in range(200)]
    for thread in threads:
        thread.start()
    opened_all.wait(120)
    go.set()
    while any(thread.is_alive() for thread in threads):
        with urllib.request.urlopen(f"http://{address}/api/health", timeout=30) as answer:
            assert json.load(answer)["status"] in ("ok", "degraded"), "health waits behind nobody"
    assert [(status, answer["state"]) for status, answer in done] == [(200, "done")] * 200


def test_edits_reach_the_page_of_another_without_its_asking_again(
    client: FlaskClient, graph: dict[str, Any], address: str, app: Any
) -> None:
    path, rooms = f"/api/graphs/{graph['id']}/company", app.extensions["reticula"].rooms
    with opened(address) as ines:
        with opened(address) as mara:
            _, first = mara.ask(1, path, {"page": "mara", "revision": 0, "wait": 0})
            mara.send(2, path, {"page": "mara", "revision": 0, "version": first["version"], "wait": 30})
            room = rooms._rooms[graph["id"]]
            wait_until(lambda: room._waiting)
            _, second = ines.ask(1, path, {"page": "ines", "revision": 0, "wait": 0})
            assert [one["page"] for one in second["people"]] == ["mara"]
            number, _, news = mara.next()
            assert (number, [one["page"] for one in news["people"]]) == (2, ["ines"])
            mara.send(3, path, {"page": "mara", "revision": 0, "version": news["version"], "wait": 30})
            wait_until(lambda: room._waiting)
            patch = [{"op": "replace", "path": "/nodes/tall/parameters/distance", "value": 3.0}]
            client.post(f"/api/graphs/{graph['id']}/edits", json={"revision": 0, "patch": patch})
            number, status, told = mara.next()
            assert (number, status, told["graph"]["revision"]) == (3, 200, 1), "without news the wait ends with none"
            mara.send(4, path, {"page": "mara", "revision": 1, "version": told["version"], "wait": 30})
            wait_until(lambda: room._waiting)
        wait_until(lambda: list(room.people) == ["ines"])
