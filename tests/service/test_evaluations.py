"""Evaluations, looks, shapes, exports; limits, stopping and crashes of evaluators."""

import io
import os
import signal
import threading
import time
from typing import Any

import numpy as np
import pytest
from flask.testing import FlaskClient

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.formats import read_bytes, write_bytes
from reticula.workers.pool import Pool
from reticula.workers.tasks import Job
from tests.helpers import wait_until

Graph = dict[str, Any]


def evaluate(client: FlaskClient, graph: Graph, **body: Any) -> Any:
    """Evaluate; returns the end of it, or what there is after ``wait`` seconds where that is given."""
    made = client.post(f"/api/graphs/{graph['id']}/evaluations", json={"wait": 20, **body}).json
    return made if "wait" in body else followed(client, made)


def followed(client: FlaskClient, made: Any) -> Any:
    """Ask for an evaluation until it has ended: an evaluator that was replaced gets ready first."""
    limit = time.monotonic() + 120
    while made.get("state") in ("waiting", "running") and time.monotonic() < limit:
        made = client.get(f"/api/evaluations/{made['ticket']}?wait=20").json
    return made


def fetch(client: FlaskClient, ref: dict[str, Any]) -> np.ndarray:
    data = client.get(f"/api/buffers/{ref['digest']}").data
    return np.frombuffer(data, "<" + ref["dtype"]).reshape(ref["shape"])


def upload(client: FlaskClient, project: str, name: str, data: bytes) -> Any:
    form = {"file": (io.BytesIO(data), name)}
    return client.post(f"/api/projects/{project}/assets", data=form, content_type="multipart/form-data")


def heavy(cells: int = 1000, count: int = 24) -> Graph:
    """A document of many slow nodes, none of which is in any cache."""
    nodes: Graph = {"n0": {"operator": "grid", "parameters": {"cells": [cells, cells]}}}
    for i in range(1, count):
        nodes[f"n{i}"] = {
            "operator": "set_attribute",
            "inputs": {"geo": [f"n{i - 1}"]},
            "parameters": {"name": "a", "value": {"formula": f"noise(position * {time.time()}, 12)"}},
        }
    return {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": f"n{count - 1}"}


def test_a_draft_goes_on_top_of_the_revision_it_was_made_against(client: FlaskClient, graph: Graph) -> None:
    """An edit that is saved while an evaluation with the same edit in its draft is on its way is not applied twice."""
    url = f"/api/graphs/{graph['id']}"
    node = {"operator": "box"}
    add = [{"op": "add", "path": "/nodes/extra", "value": node}]
    drop = [{"op": "remove", "path": "/nodes/extra"}]
    first = client.post(f"{url}/edits", json={"revision": graph["revision"], "patch": add, "label": "add"}).json
    client.post(f"{url}/edits", json={"revision": first["revision"], "patch": drop, "label": "drop"})
    again = evaluate(client, graph, draft=drop, revision=first["revision"])
    assert again["state"] == "done"
    assert "extra" not in again["nodes"]
    before = evaluate(
        client, graph, draft=[{"op": "replace", "path": "/title", "value": "x"}], revision=first["revision"]
    )
    assert "extra" in before["nodes"], "the document as it was at that revision"
    assert client.post(f"{url}/evaluations", json={"draft": drop}).status_code == 422, "the newest has no such node"
    refused = client.post(f"{url}/looks", json={"node": "extra", "draft": drop, "revision": 99})
    assert refused.status_code == 422
    assert "no revision 99" in refused.json["message"]
    undone = client.post(f"{url}/undo", json={"revision": first["revision"] + 1}).json
    assert "extra" not in evaluate(client, graph, draft=drop, revision=undone["revision"])["nodes"]


def test_reports_counts_changes_and_looks(client: FlaskClient, graph: Graph) -> None:
    done = evaluate(
        client,
        graph,
        queries=[{"what": "mesh"}, {"what": "attribute", "kind": "face", "name": "top"}, {"what": "summary"}],
    )
    assert done["state"] == "done"
    tall = done["nodes"]["tall"]
    assert tall["counts"] == {"points": 41, "corners": 128, "faces": 32, "curves": 0, "instances": 0}
    assert tall["change"]["faces"] == 16
    assert tall["notes"][0]["text"] == "Raised 16 faces, made 16 walls."
    mesh, top, summary = done["looks"]
    assert fetch(client, mesh["position"]).shape == (41, 3)
    assert fetch(client, mesh["triangle_corner"]).shape == (64, 3)
    assert fetch(client, top["values"]).sum() == top["members"] == 16
    assert summary["counts"]["edges"] == 72


def test_a_draft_is_evaluated_but_not_kept_and_topology_is_not_sent_again(client: FlaskClient, graph: Graph) -> None:
    first = evaluate(client, graph, queries=[{"what": "mesh"}])["looks"][0]
    draft = [{"op": "replace", "path": "/nodes/tall/parameters/distance", "value": 2.5}]
    second = evaluate(client, graph, queries=[{"what": "mesh"}], draft=draft, only_node=True)["looks"][0]
    assert fetch(client, second["position"])[:, 1].max() == 2.5
    assert second["position"]["digest"] != first["position"]["digest"]
    for name in ("triangle_corner", "corner_point", "edge"):
        assert second[name]["digest"] == first[name]["digest"]
    assert client.get(f"/api/graphs/{graph['id']}").json["revision"] == 0


def test_a_failed_node_is_reported_with_its_place(client: FlaskClient, graph: Graph) -> None:
    draft = [{"op": "add", "path": "/nodes/tall/parameters/where", "value": "hieght > 2"}]
    done = evaluate(client, graph, draft=draft, queries=[{"what": "mesh"}])
    error = done["nodes"]["tall"]["error"]
    assert (error["code"], error["parameter"], error["line"], error["column"]) == ("parameter", "where", 1, 1)
    assert done["nodes"]["sheet"]["state"] == "done"
    assert done["looks"] == [{"what": "missing", "missing": True}]


def test_rows_are_paged_sorted_and_filtered(client: FlaskClient, graph: Graph) -> None:
    def rows(**query: Any) -> Any:
        body = {"node": "tall", "queries": [{"what": "rows", "kind": "face", **query}]}
        return client.post(f"/api/graphs/{graph['id']}/looks", json=body).json["looks"][0]

    page = rows(offset=5, limit=3)
    assert (page["index"], page["total"]) == ([5, 6, 7], 32)
    assert [column["name"] for column in page["columns"]] == ["top", "side", "area"]
    largest = rows(sort="area", descending=True, limit=16)
    assert min(row[2] for row in largest["rows"]) == pytest.approx(0.125)
    assert rows(where="side and index % 2 == 0")["index"] == list(range(16, 32, 2))
    assert "no 'sidee'" in rows(where="sidee")["error"]["message"]
    points = client.post(
        f"/api/graphs/{graph['id']}/looks",
        json={
            "node": "tall",
            "queries": [{"what": "rows", "kind": "point", "sort": "position.1", "descending": True, "limit": 1}],
        },
    )
    assert points.json["looks"][0]["rows"][0][0][1] == 0.5


def test_upload_use_export_and_delete_a_shape(client: FlaskClient, project: str) -> None:
    ball = ops.set_attribute(ops.geodesic_sphere(frequency=2), name="heat", value="position.y")
    made = upload(client, project, "My scan.ply", write_bytes(ball, "a.ply"))
    assert made.status_code == 201
    assert made.json["name"] == "My_scan"
    assert made.json["summary"]["counts"]["faces"] == 80
    assert upload(client, project, "My scan.ply", write_bytes(ball, "a.ply")).json["name"] == "My_scan_2"
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": {"a": {"operator": "project_shape", "parameters": {"shape": "My_scan"}}},
    }
    graph = client.post(f"/api/projects/{project}/graphs", json={"title": "Scan", "document": document}).json
    answer = client.get(f"/api/graphs/{graph['id']}/export?node=a&format=ply&encoding=ascii")
    assert answer.headers["Content-Disposition"] == "attachment; filename=scan-a.ply"
    assert read_bytes("a.ply", answer.data).digest == ball.digest
    assert client.get(f"/api/assets/{made.json['id']}/content").data == write_bytes(ball, "a.ply")
    for shape in client.get(f"/api/projects/{project}/assets").json["assets"]:
        assert client.delete(f"/api/assets/{shape['id']}").status_code == 204
    failed = evaluate(client, graph)["nodes"]["a"]["error"]["message"]
    assert "the project has no shape 'My_scan'; it has none yet" in failed


def test_the_same_graph_gives_the_same_bytes_as_python(client: FlaskClient, graph: Graph) -> None:
    answer = client.get(f"/api/graphs/{graph['id']}/export?node=tall&format=ply")
    with collecting():
        assert answer.data == write_bytes(ops.extrude(ops.grid(cells=(4, 4)), distance=0.5), "a.ply")


@pytest.mark.parametrize(
    ("name", "data", "status", "message"),
    [
        ("a.obj", b"v 1 2\n", 422, "line 1: a vertex has 2 numbers"),
        ("a.exe", b"MZ", 422, "does not end in a known format"),
        ("a.ply", b"", 422, "the file is empty"),
        ("../../a.ply", b"ply\n", 422, "end_header"),
        ("a.stl", b"0" * 3_000_000, 413, "larger than 2 MB"),
    ],
)
def test_bad_uploads_are_refused_and_leave_nothing(
    client: FlaskClient, project: str, app: Any, name: str, data: bytes, status: int, message: str
) -> None:
    answer = upload(client, project, name, data)
    assert answer.status_code == status
    assert message in answer.json["message"]
    assert client.get(f"/api/projects/{project}/assets").json["assets"] == []
    kept = app.extensions["reticula"].files.folder
    assert not any(path.read_bytes() == data for path in kept.iterdir() if data)


def test_a_format_is_told_what_the_request_says(client: FlaskClient, graph: Graph) -> None:
    whole, plain = (
        client.get(f"/api/graphs/{graph['id']}/export?node=tall&format=glb&options={options}").data
        for options in ("", "values:plain,instances:arrays")
    )
    assert read_bytes("a.glb", whole).digest != read_bytes("a.glb", plain).digest
    assert len(plain) < len(whole)


def test_exports_that_cannot_be_made(client: FlaskClient, graph: Graph) -> None:
    for query, message in (
        ("node=tall&format=docx", "no format 'docx'"),
        ("node=tall&format=glb&options=values:some", "GLB has no option values=some; there are values: all, plain"),
        ("node=tall&format=glb&options=size:large,values:all", "GLB has no option size=large"),
        ("node=none", "no node 'none'"),
        ("node=tall&format=ply&encoding=hex", "no option"),
    ):
        answer = client.get(f"/api/graphs/{graph['id']}/export?{query}")
        assert answer.status_code == 422
        assert message in answer.json["message"]
    assert client.get("/api/buffers/zzz").status_code == 404
    assert client.get(f"/api/buffers/{'0' * 32}").status_code == 404


def test_long_work_tells_its_progress_and_can_be_stopped(client: FlaskClient, project: str) -> None:
    graph = client.post(f"/api/projects/{project}/graphs", json={"title": "Long", "document": heavy()}).json
    begun = evaluate(client, graph, wait=0.3)
    address = f"/api/evaluations/{begun['ticket']}"
    wait_until(lambda: client.get(address).json["progress"]["total"] == 24)
    assert client.get(address).json["state"] == "running"
    assert client.delete(f"/api/evaluations/{begun['ticket']}").status_code == 204
    ended = client.get(f"/api/evaluations/{begun['ticket']}?wait=10").json
    assert ended["state"] == "stopped"
    assert client.get("/api/evaluations/gone").status_code == 404


def test_a_newer_request_supersedes_an_older_one(client: FlaskClient, project: str, graph: Graph) -> None:
    slow = client.post(f"/api/projects/{project}/graphs", json={"title": "Long", "document": heavy()}).json
    old = evaluate(client, slow, wait=0.1, channel="one")
    new = evaluate(client, graph, channel="one")
    assert new["state"] == "done"
    assert client.get(f"/api/evaluations/{old['ticket']}?wait=5").json["state"] == "stopped"


def test_work_over_its_time_is_ended_and_said(client: FlaskClient, project: str, graph: Graph) -> None:
    slow = client.post(f"/api/projects/{project}/graphs", json={"title": "Long", "document": heavy(1500, 80)}).json
    ended = evaluate(client, slow)
    assert ended["state"] == "failed"
    assert "took longer than 10 s at 'n" in ended["error"]["message"]
    assert evaluate(client, graph)["state"] == "done"


def test_work_over_its_memory_fails_in_words(client: FlaskClient, project: str, graph: Graph) -> None:
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": {"a": {"operator": "grid", "parameters": {"cells": [40000, 40000]}}},
    }
    huge = client.post(f"/api/projects/{project}/graphs", json={"title": "Huge", "document": document}).json
    assert "not enough memory" in evaluate(client, huge)["nodes"]["a"]["error"]["message"]
    assert evaluate(client, graph)["state"] == "done"


def test_an_evaluator_that_is_killed_twice_at_one_job_is_replaced_and_the_user_told(
    client: FlaskClient, project: str, graph: Graph, app: Any
) -> None:
    pool: Pool = app.extensions["reticula"].pool
    slow = client.post(f"/api/projects/{project}/graphs", json={"title": "Long", "document": heavy()}).json
    begun = evaluate(client, slow, wait=0.4)
    before = pool.process_ids()
    os.kill(before[0], signal.SIGKILL)
    wait_until(lambda: pool.process_ids() != before)
    again = pool.process_ids()
    running = lambda: client.get(f"/api/evaluations/{begun['ticket']}").json["state"] == "running"  # noqa: E731
    wait_until(running)
    os.kill(again[0], signal.SIGKILL)
    ended = followed(client, begun)
    assert ended["state"] == "failed"
    assert "stopped unexpectedly" in ended["error"]["message"]
    assert evaluate(client, graph)["state"] == "done"
    assert pool.process_ids() != before


def test_an_idle_evaluator_that_is_killed_is_replaced_too(client: FlaskClient, graph: Graph, app: Any) -> None:
    pool: Pool = app.extensions["reticula"].pool
    victim = pool.process_ids()[0]
    os.kill(victim, signal.SIGKILL)
    wait_until(lambda: victim not in pool.process_ids())
    assert evaluate(client, graph)["state"] == "done"


def test_many_clients_at_once(client: FlaskClient, graph: Graph, app: Any) -> None:
    results: list[str] = []

    def ask() -> None:
        results.append(evaluate(app.test_client(), graph, queries=[{"what": "mesh"}])["state"])

    threads = [threading.Thread(target=ask) for _ in range(12)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert results == ["done"] * 12


def test_examining_a_file_happens_in_the_evaluator(app: Any, tmp_path: Any) -> None:
    path = tmp_path / "a.ply"
    ops.box().write(path)
    done = app.extensions["reticula"].pool.run(Job("examine", shapes={"a.ply": (str(path), "x")}, file_name="a.ply"))
    assert done["counts"]["faces"] == 6


def test_a_frozen_result_is_a_shape_with_all_its_attributes(
    client: FlaskClient, project: str, graph: dict[str, Any]
) -> None:
    mark = {"operator": "group", "inputs": {"geo": ["tall"]}, "parameters": {"name": "rim", "where": "index < 3"}}
    patch = [{"op": "add", "path": "/nodes/mark", "value": mark}]
    made = client.post(
        f"/api/graphs/{graph['id']}/freezes", json={"node": "mark", "name": "Hand work", "draft": patch, "revision": 0}
    )
    assert made.status_code == 201, made.json
    assert made.json["name"] == "hand_work"
    assert {"name": "rim", "type": "flag", "members": 3} in made.json["summary"]["attributes"]["face"]
    again = client.post(f"/api/graphs/{graph['id']}/freezes", json={"node": "tall", "name": "Hand work"}).json
    assert again["name"] == "hand_work_2"
    refused = client.post(f"/api/graphs/{graph['id']}/freezes", json={"node": "gone", "name": "x"})
    assert "there is no node 'gone'" in refused.json["message"]


def test_looks_trace_compare_and_check(client: FlaskClient, graph: dict[str, Any]) -> None:
    queries = [
        {"what": "trace", "kind": "face", "element": 0},
        {"what": "difference", "to": "sheet"},
        {"what": "checks"},
    ]
    trace, difference, checks = client.post(
        f"/api/graphs/{graph['id']}/looks", json={"node": "tall", "queries": queries}
    ).json["looks"]
    assert [step["feed"] for step in trace["steps"]] == ["tall", "sheet"]
    assert difference["counts"]["faces"][1] > 0
    assert checks["checks"][0]["name"] == "open borders"
    wrong = client.post(
        f"/api/graphs/{graph['id']}/looks", json={"node": "tall", "queries": [{"what": "difference", "to": "x"}]}
    )
    assert wrong.status_code == 422
