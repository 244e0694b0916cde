"""``reticula watch``: the graph is run again when a file that it reads has changed."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

from reticula.core import Geo, ops
from tests.core.graph.building import graph, node


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    ops.grid(cells=(3, 1)).write(tmp_path / "scan.ply")
    write_graph(tmp_path, 1.0)
    return tmp_path


def write_graph(folder: Path, height: float) -> None:
    nodes = {
        "scan": node("project_shape", shape="scan.ply"),
        "lifted": node("transform", "scan", move=[0, height, 0]),
    }
    (folder / "tile.json").write_text(json.dumps(graph(nodes, looking_at="lifted")))


def watched(folder: Path, times: int) -> subprocess.Popen[str]:
    words = ["watch", "tile.json", "--out", "out.ply", "--times", str(times)]
    return subprocess.Popen(
        [sys.executable, "-u", "-m", "reticula.cli", *words],
        cwd=folder,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
    )


def next_with(lines: Iterator[str], words: str) -> str:
    for line in lines:
        if words in line:
            return line
    raise AssertionError(f"nothing said '{words}'")


def test_a_changed_graph_and_a_changed_file_are_run_again(folder: Path) -> None:
    with watched(folder, 4) as program:
        assert program.stdout is not None
        lines = iter(program.stdout)
        assert "3 faces" in next_with(lines, "lifted: ")
        assert "scan.ply, tile.json" in next_with(lines, "waiting")
        write_graph(folder, 2.0)
        next_with(lines, "wrote out.ply")
        assert Geo.read(folder / "out.ply").bounds[0, 1] == 2.0
        next_with(lines, "waiting")
        ops.grid(cells=(5, 1)).write(folder / "scan.ply")
        assert "5 faces" in next_with(lines, "lifted: ")
        next_with(lines, "waiting")
        (folder / "tile.json").write_text("{")
        assert "is not JSON" in next_with(lines, "reticula: ")
        assert program.wait(60) == 0
