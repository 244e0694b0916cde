"""``reticula convert`` and ``reticula info``."""

import json
from pathlib import Path

import numpy as np
import pytest

from reticula.core import Geo, ops
from tests.cli.test_run_command import run


@pytest.fixture
def reef(tmp_path: Path) -> Path:
    ops.box().with_attribute("face", "heat", np.arange(6.0)).write(tmp_path / "reef.ply")
    return tmp_path


def test_a_file_is_written_in_another_format(reef: Path, capsys: pytest.CaptureFixture[str]) -> None:
    status, out, _ = run(capsys, "convert", reef / "reef.ply", reef / "reef.glb")
    assert status == 0
    assert "8 points, 6 faces" in out
    assert Geo.read(reef / "reef.glb").digest == Geo.read(reef / "reef.ply").digest


def test_options_of_the_format_are_taken_and_what_is_lost_is_said(
    reef: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    status, _, said = run(capsys, "convert", reef / "reef.ply", reef / "reef.stl", "--option", "encoding=ascii")
    assert status == 0
    assert "left out: uv, heat" in said
    assert (reef / "reef.stl").read_text().startswith("solid")
    status, _, said = run(capsys, "convert", reef / "reef.ply", reef / "reef.stl", "--option", "encoding=utf-7")
    assert (status, "has no option encoding=utf-7" in said) == (1, True)


def test_an_unknown_format_is_said_before_anything_is_read(reef: Path, capsys: pytest.CaptureFixture[str]) -> None:
    status, _, said = run(capsys, "convert", reef / "missing.ply", reef / "reef.docx")
    assert (status, "does not end in a known format" in said) == (1, True)


def test_bows_of_a_drawing_keep_within_the_error(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "a.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><circle r="96" cx="0" cy="0"/></svg>')
    counts = []
    for error in (0.001, 0.00001):
        assert run(capsys, "convert", tmp_path / "a.svg", tmp_path / "a.ply", "--error", error)[0] == 0
        counts.append(Geo.read(tmp_path / "a.ply").counts["points"])
    assert counts[1] > 5 * counts[0]


def test_info_tells_counts_size_values_and_what_is_wrong(reef: Path, capsys: pytest.CaptureFixture[str]) -> None:
    ops.grid(cells=(2, 2)).with_attribute("face", "heat", np.arange(4.0)).write(reef / "sheet.ply")
    _, out, _ = run(capsys, "info", reef / "sheet.ply")
    assert "9 points" in out
    assert "face heat: number, 0 to 3" in out
    assert "8 open borders" in out
    _, out, _ = run(capsys, "info", reef / "sheet.ply", "--json")
    told = json.loads(out)
    assert told["counts"]["faces"] == 4
    found = {one["name"]: one for one in told["checks"]}
    assert (found["open borders"]["kind"], found["open borders"]["count"]) == ("edge", 8)


def test_frames_go_into_one_file_that_can_hold_them(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from pxr import Usd, UsdGeom

    from tests.core.graph.building import graph, node

    nodes = {"ring": node("circle", segments={"formula": "integer(frame) + 2"})}
    (tmp_path / "g.json").write_text(json.dumps(graph(nodes, looking_at="ring")))
    status, out, said = run(capsys, "run", tmp_path / "g.json", "--frames", "1:3", "--out", tmp_path / "a.usdc")
    assert (status, said) == (0, "")
    assert "wrote 3 frames" in out
    stage = Usd.Stage.Open(str(tmp_path / "a.usdc"))
    ring = UsdGeom.BasisCurves(stage.GetPrimAtPath("/shape/closed_curves"))
    assert [list(ring.GetCurveVertexCountsAttr().Get(time)) for time in (1, 2, 3)] == [[3], [4], [5]]
