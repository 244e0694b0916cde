"""The front: requests are taken in whole, and those that wait hold no thread."""

from __future__ import annotations

import json
import socket
import threading
import urllib.error
import urllib.request
from typing import Any

from flask.testing import FlaskClient

from reticula.service.serving.front import THREADS
from tests.helpers import wait_until
from tests.service.serving.test_live import slow


def post(address: str, path: str, body: Any) -> tuple[int, Any]:
    data = json.dumps(body).encode()
    request = urllib.request.Request(f"http://{address}{path}", data, {"Content-Type": "application/json"})
    try:
        with urllib.request.urlopen(request, timeout=60) as answer:
            return answer.status, json.load(answer)
    except urllib.error.HTTPError as error:
        return error.code, json.load(error)


def test_more_requests_wait_than_there_are_threads(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    path, body = f"/api/graphs/{graph['id']}/evaluations", slow(client, graph, 100_000_000)
    found: list[tuple[int, Any]] = []
    many = THREADS * 3
    threads = [threading.Thread(target=lambda: found.append(post(address, path, body))) for _ in range(many)]
    for thread in threads:
        thread.start()
    with urllib.request.urlopen(f"http://{address}/api/graphs/{graph['id']}", timeout=30) as answer:
        assert json.load(answer)["id"] == graph["id"]
    pool = client.application.extensions["reticula"].pool
    wait_until(lambda: pool.health()["waiting"] >= many - 2)
    for ticket in list(pool._tickets.values()):
        pool.stop(ticket)
    for thread in threads:
        thread.join(60)
    assert len(found) == many


def test_a_slow_sender_holds_no_thread(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    host, port = address.split(":")
    slow_ones = []
    for _ in range(THREADS * 2):
        made = socket.create_connection((host, int(port)))
        made.sendall(
            f"POST /api/graphs/{graph['id']}/edits HTTP/1.1\r\nHost: {address}\r\nContent-Type: application/json\r\n"
            "Content-Length: 5000\r\n\r\n{".encode()
        )
        slow_ones.append(made)
    status, _ = post(address, f"/api/graphs/{graph['id']}/looks", {"node": "tall", "queries": [{"what": "summary"}]})
    assert status == 200
    for one in slow_ones:
        one.close()


def test_a_body_in_pieces_is_looked_at_like_any_other(graph: dict[str, Any], address: str) -> None:
    host, port = address.split(":")
    deep = b'{"revision": 0, "label": "l", "patch": ' + b"[" * 500 + b"]" * 500 + b"}"
    with socket.create_connection((host, int(port))) as made:
        made.sendall(
            f"POST /api/graphs/{graph['id']}/edits HTTP/1.1\r\nHost: {address}\r\nContent-Type: application/json\r\n"
            "Transfer-Encoding: chunked\r\nConnection: close\r\n\r\n".encode()
            + b"%x\r\n%s\r\n0\r\n\r\n" % (len(deep), deep)
        )
        answer = b"".join(iter(lambda: made.recv(65536), b""))
    assert answer.startswith(b"HTTP/1.1 422")
    assert b"nested" in answer


def test_files_come_whole(client: FlaskClient, graph: dict[str, Any], address: str) -> None:
    path = f"/api/graphs/{graph['id']}/export?node=tall&format=ply"
    with urllib.request.urlopen(f"http://{address}{path}", timeout=60) as answer:
        assert answer.read() == client.get(path).data
        assert "attachment" in answer.headers["Content-Disposition"]
