"""Frames on the command line."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from reticula.cli import main
from reticula.cli.frames import frames_in, numbered
from reticula.core import Geo
from reticula.core.errors import GraphError
from tests.core.graph.building import graph, node


def test_frames_are_counted_with_both_ends() -> None:
    assert frames_in("1:3") == [1.0, 2.0, 3.0]
    assert frames_in("-2:3:2") == [-2.0, 0.0, 2.0]


@pytest.mark.parametrize("text", ["", "5", "3:1", "1:9:0", "a:b", "1:2:3:4", "0:1000000"])
def test_what_names_no_frames_is_refused(text: str) -> None:
    with pytest.raises(GraphError, match="--frames"):
        frames_in(text)


def test_files_carry_the_number_of_their_frame() -> None:
    assert numbered("out/tile.####.ply", 12.0) == str(Path("out/tile.0012.ply"))
    assert numbered("tile_#.ply", 12345.0) == "tile_12345.ply"
    assert numbered("tile.###.ply", -7.0) == "tile.-007.ply"
    assert numbered("tile.ply", None) == "tile.ply"
    assert numbered("tile.ply", 3.0) == "tile.ply"
    assert numbered("tile.##.ply", 7.5) == "tile.07.5.ply"
    with pytest.raises(GraphError, match=r"tile\.####\.ply"):
        numbered("tile.ply", 3.0, several=True)


def test_a_graph_is_written_frame_by_frame(tmp_path: Path, capsys: Any) -> None:
    made = graph({"sheet": node("grid", cells=[1, 1]), "up": node("transform", "sheet", move="vec3(0, frame, 0)")})
    (tmp_path / "g.json").write_text(json.dumps(made))
    out = str(tmp_path / "up.##.ply")
    assert main(["run", str(tmp_path / "g.json"), "--frames", "1:3", "--out", out]) == 0
    heights = [Geo.read(tmp_path / f"up.{n:02d}.ply").positions[0, 1] for n in (1, 2, 3)]
    assert heights == [1.0, 2.0, 3.0]
    assert main(["run", str(tmp_path / "g.json"), "--frame", "7.5", "--out", str(tmp_path / "one.ply")]) == 0
    assert Geo.read(tmp_path / "one.ply").positions[0, 1] == 7.5
    assert main(["run", str(tmp_path / "g.json"), "--frames", "1:3", "--out", str(tmp_path / "one.ply")]) != 0
    assert "one.####.ply" in capsys.readouterr().err
