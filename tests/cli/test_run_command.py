"""``reticula run``, ``list`` and ``describe``: results, remarks, and what is said when something does not fit."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from reticula.cli import main
from reticula.core import Geo, ops
from tests.core.graph.building import graph, node


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    nodes = {
        "block": node("box", size=[1, 1, 1]),
        "moved": node("transform", "block", move={"formula": "vec3(0, height, 0)"}),
        "scan": node("project_shape", shape="scan"),
        "marked": node("group", "block", where="area > 5"),
    }
    dials = {"height": {"type": "number", "value": 2.0, "unit": "m"}}
    (tmp_path / "tile.json").write_text(json.dumps(graph(nodes, dials=dials, looking_at="moved")))
    (tmp_path / "broken.json").write_text("{")
    ops.grid(cells=(3, 1)).write(str(tmp_path / "scan.ply"))
    return tmp_path


def run(capsys: pytest.CaptureFixture[str], *words: Any) -> tuple[int, str, str]:
    status = main([str(word) for word in words])
    said = capsys.readouterr()
    return status, said.out, said.err


def test_a_graph_is_run_and_written(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = run(capsys, "run", folder / "tile.json", "--out", folder / "out.obj")
    assert status == 0
    assert out.startswith("moved: 8 points, 24 corners, 6 faces")
    assert Geo.read(str(folder / "out.obj")).bounds[:, 1].tolist() == [1.5, 2.5]


def test_dials_and_parameters_are_set(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    run(
        capsys,
        "run",
        folder / "tile.json",
        "--set",
        "height=-1",
        "--set",
        "block.size=[4,1,1]",
        "--out",
        folder / "out.ply",
    )
    made = Geo.read(str(folder / "out.ply"))
    assert made.bounds[:, 1].tolist() == [-1.5, -0.5]
    assert made.bounds[1, 0] == 2.0


def test_another_node_and_a_shape_from_a_file(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = run(capsys, "run", folder / "tile.json", "--node", "scan", "--in", f"scan={folder / 'scan.ply'}")
    assert status == 0
    assert "3 faces" in out


def test_warnings_go_to_the_error_output(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    _, out, err = run(capsys, "run", folder / "tile.json", "--node", "marked")
    assert out.startswith("marked: ")
    assert "marked: " in err


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (["tile.json", "--node", "nowhere"], "there is no node 'nowhere'; there are block, moved, scan, marked"),
        (["tile.json", "--set", "height"], "--set takes NAME=VALUE, not 'height'"),
        (["tile.json", "--set", "nowhere.size=1"], "there is no node 'nowhere'"),
        (["tile.json", "--set", "block.size=big"], "size: "),
        (["tile.json", "--set", "depth=1"], "depth"),
        (["tile.json", "--out", "out.abc"], "abc"),
        (["broken.json"], "is not JSON"),
        (["missing.json"], "missing.json"),
    ],
)
def test_what_does_not_fit_is_said_without_a_traceback(
    folder: Path, capsys: pytest.CaptureFixture[str], words: list[str], message: str
) -> None:
    status, _, err = run(capsys, "run", folder / words[0], *words[1:])
    assert status != 0
    assert message in err
    assert "Traceback" not in err


def test_all_operators_are_listed_and_told(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "list")
    assert "curve_through" in out
    assert "smooth subdivide" in out or "smooth_subdivide" in out
    status, out, _ = run(capsys, "describe", "curve_through")
    assert status == 0
    assert "Catmull-Rom" in out
    assert "between" in out
    status, _, err = run(capsys, "describe", "curve_trough")
    assert status != 0
    assert "curve" in err


def test_a_run_says_where_the_time_went(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = run(capsys, "run", folder / "tile.json", "--profile", "--trace", folder / "trace.json")
    assert status == 0
    lines = out.splitlines()[1:]
    assert {line.split()[2] for line in lines} == {"block", "moved"}
    assert all("resolve" in line and "body" in line for line in lines)
    took = [float(line.split()[0]) for line in lines]
    assert took == sorted(took, reverse=True)
    names = [event["name"] for event in json.loads((folder / "trace.json").read_text())["traceEvents"]]
    assert {"node block", "node moved", "body"} <= set(names)


def test_heavy_parts_of_a_loop_are_spread(
    folder: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    inner = graph(
        {
            "scan": node("project_shape", shape="scan.ply"),
            "both": node("join", inputs={"geometries": ["geo", "scan"]}),
            "up": node("extrude", "both", distance={"formula": "0.1 + part"}),
        },
        inputs=("geo",),
        outputs={"geo": "up"},
    )
    each = node("for_each", "tiles", graph=inner, over="element", spread=True)
    document = graph({"tiles": node("grid", cells=[4, 2]), "each": each}, looking_at="each")
    (folder / "each.json").write_text(json.dumps(document))
    run(capsys, "run", folder / "each.json", "--out", folder / "here.ply")
    for name in ("LOOK", "HEAVY"):
        monkeypatch.setattr(f"reticula.core.graph.evaluation.held_graph.{name}", 0.0)
    by: list[str] = []

    def noted(self: Any, *given: Any) -> Any:
        for part, outcome in outcomes(self, *given):
            by.append(outcome["worker"])
            yield part, outcome

    from reticula.many.cluster import Cluster

    outcomes = Cluster.outcomes
    monkeypatch.setattr(Cluster, "outcomes", noted)
    status, _, said = run(capsys, "run", folder / "each.json", "--workers", 1, "--out", folder / "there.ply")
    assert (status, by != []) == (0, True), said
    assert (folder / "there.ply").read_bytes() == (folder / "here.ply").read_bytes()
    told = run(capsys, "run", folder / "each.json", "--cluster", "tcp://127.0.0.1:1", "--out", folder / "again.ply")
    assert told[0] == 0
    assert "The cluster cannot help (say where meshes travel" in told[2]
    assert (folder / "again.ply").read_bytes() == (folder / "here.ply").read_bytes()
