"""Jobs of an evaluator, without its process: evaluate and look, examine, export, inspect, stored shapes."""

import os
from pathlib import Path
from typing import Any

import pytest

from reticula.contract.queries import LookQuery
from reticula.core import Geo, ops
from reticula.core.errors import GeometryError, Stopped
from reticula.workers.buffers import BufferFiles
from reticula.workers.tasks import Job, StoredShapes, Worker, spill_folder
from tests.core.graph.building import graph, node
from tests.workers.asking import as_query

DOCUMENT = graph({"a": node("grid", cells=[3, 3]), "b": node("extrude", "a", distance=0.5), "c": node("remove", "b")})


def asked(*queries: dict[str, Any]) -> list[LookQuery]:
    return [as_query(query) for query in queries]


def do(buffers: BufferFiles, **job: Any) -> dict[str, Any]:
    return Worker(buffers, 10**8).do(Job(**job), lambda *_: None, lambda: False)


def test_every_node_is_reported_with_counts_and_what_it_changed(buffers: BufferFiles) -> None:
    made = do(
        buffers,
        what="evaluate",
        document=DOCUMENT,
        node="b",
        queries=asked({"what": "mesh"}, {"what": "attribute", "kind": "face", "name": "nothing"}),
    )
    nodes = made["nodes"]
    assert nodes["a"]["counts"]["faces"] == 9
    assert nodes["b"]["change"]["faces"] == 12
    assert nodes["c"]["state"] == "done"
    assert nodes["c"]["outputs"] == {"geo": nodes["c"]["counts"]}
    assert "position" in made["looks"][0]
    assert made["looks"][1]["error"]["message"]


def test_a_node_that_is_not_there_is_missing_in_the_look(buffers: BufferFiles) -> None:
    failing = graph({"a": node("grid", cells=[0, 3])})
    made = do(buffers, what="evaluate", document=failing, node="a", queries=asked({"what": "mesh"}))
    assert made["nodes"]["a"]["state"] == "failed"
    assert made["looks"] == [{"what": "missing", "missing": True}]


def test_an_element_is_traced_and_a_result_compared(buffers: BufferFiles) -> None:
    queries = asked({"what": "trace", "kind": "face", "element": 0}, {"what": "difference", "to": "a"})
    made = do(buffers, what="evaluate", document=DOCUMENT, node="b", queries=queries)
    assert [step["feed"] for step in made["looks"][0]["steps"]] == ["b", "a"]
    assert made["looks"][1]["counts"]["faces"] == (21, 12)


def test_a_result_is_written_to_a_file(buffers: BufferFiles) -> None:
    made = do(buffers, what="export", document=DOCUMENT, node="a", file_name="tile.ply")
    assert Path(made["path"]).read_bytes().startswith(b"ply\n")


def test_a_file_is_examined(buffers: BufferFiles, tmp_path: Path) -> None:
    ops.box().write(tmp_path / "scan.obj")
    made = do(buffers, what="examine", file_name="scan", shapes={"scan": (str(tmp_path / "scan.obj"), "d")})
    assert made["counts"]["faces"] == 6


def test_a_text_is_told_about(buffers: BufferFiles) -> None:
    text = {"parameter": "distance", "source": "0.1 * area", "elements": [0]}
    made = do(buffers, what="inspect", document=DOCUMENT, node="b", text=text)
    assert made["result"] == "number: 0.01111 to 0.01111"


def test_stopping_is_passed_on(buffers: BufferFiles) -> None:
    worker = Worker(buffers, 10**8)
    with pytest.raises(Stopped):
        worker.do(Job("evaluate", DOCUMENT), lambda *_: None, lambda: True)


def test_stored_shapes_are_read_once_and_the_oldest_make_room(tmp_path: Path) -> None:
    kept: dict[str, Geo] = {}
    names = {}
    for number in range(9):
        ops.grid(cells=(number + 1, 1)).write(tmp_path / f"{number}.ply")
        names[f"s{number}"] = (str(tmp_path / f"{number}.ply"), f"d{number}")
    shapes = StoredShapes(names, kept)
    assert shapes.load("s0") is shapes.load("s0")
    for name in names:
        shapes.load(name)
    assert len(kept) == 8
    assert "d0" not in kept
    assert shapes.key("s3") == "d3"
    with pytest.raises(GeometryError, match="the project has no shape 'reef'; it has s0, s1"):
        shapes.load("reef")


def test_results_on_disk_go_with_the_process_that_kept_them(tmp_path: Path) -> None:
    gone, alive = tmp_path / "kept" / "4194305", tmp_path / "kept" / str(os.getppid())
    for folder in (gone, alive):
        folder.mkdir(parents=True)
        (folder / "result").write_bytes(b"x")
    assert spill_folder(tmp_path / "buffers") == tmp_path / "kept" / str(os.getpid())
    assert not gone.exists()
    assert (alive / "result").exists()
