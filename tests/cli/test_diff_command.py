"""``reticula diff``: meshes and graphs held against each other, in words and for programs."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from reticula.core import ops
from tests.cli.test_run_command import run
from tests.core.graph.building import graph, node
from tests.core.packages.studio import lift_document


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.chdir(tmp_path)
    ops.box().write("old.ply")
    ops.transform(ops.group(ops.box(), name="crest", where="index < 2"), move=(0, 0.5, 0)).write("new.ply")
    return tmp_path


def test_meshes(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(capsys, "diff", "old.ply", "old.ply")[:2] == (0, "the same\n")
    status, out, _ = run(capsys, "diff", "old.ply", "new.ply")
    assert status == 3
    assert "face crest: new" in out
    assert "point position: 8 of 8 changed" in out
    assert "at most 0.5 m" in out
    told = json.loads(run(capsys, "diff", "old.ply", "new.ply", "--json")[1])
    assert (told["differ"], told["farthest"]) == (True, 0.5)


def test_meshes_that_are_wired_in_another_way_only(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    square = "ply\nformat ascii 1.0\nelement vertex 4\nproperty double x\nproperty double y\nproperty double z\n"
    square += "element face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n"
    Path("plain.ply").write_text(square + "4 0 1 2 3\n")
    Path("turned.ply").write_text(square + "4 3 2 1 0\n")
    status, out, _ = run(capsys, "diff", "plain.ply", "turned.ply")
    assert (status, out) == (3, "faces go over other points\n")


def test_graphs(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    Path("old.json").write_text(json.dumps(graph({"a": node("box"), "b": node("weld", "a")})))
    Path("new.json").write_text(json.dumps(graph({"a": node("box", size=[2, 1, 1]), "c": node("weld", "a")})))
    status, out, _ = run(capsys, "diff", "old.json", "new.json")
    assert status == 3
    assert out.splitlines() == ["c: was called b", "a: size default → [2, 1, 1]"]
    assert json.loads(run(capsys, "diff", "old.json", "old.json", "--json")[1])["changes"] == []


def test_packages_and_what_cannot_be_compared(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    document = lift_document()
    for name in ("old", "new"):
        Path(f"{name}.json").write_text(json.dumps(document))
        assert run(capsys, "pack", f"{name}.json", "b", "--name", "lift", "--out", f"{name}.zip")[0] == 0
        document["nodes"]["b"]["graph"]["dials"]["height"]["value"] = 7.5
    status, out, _ = run(capsys, "diff", "old.zip", "new.zip")
    assert status == 3
    assert "7.5" in out
    status, _, err = run(capsys, "diff", "old.zip", "old.ply")
    assert (status, "cannot be compared" in err) == (1, True)
