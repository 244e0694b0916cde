"""``reticula batch``: what it writes, what it says, and that it goes on where it stopped."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from reticula.cli import main
from reticula.core import ops
from tests.core.graph.building import graph, node


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    nodes = {"scan": node("project_shape", shape="scan"), "up": node("extrude", "scan", distance={"formula": "lift"})}
    dials = {"lift": {"type": "number", "value": 0.1, "unit": "m"}}
    (tmp_path / "tile.json").write_text(json.dumps(graph(nodes, dials=dials, looking_at="up")))
    for side in (2, 3):
        ops.grid(cells=(side, side)).write(tmp_path / f"scan_{side}.ply")
    monkeypatch.chdir(tmp_path)
    return tmp_path


def run(capsys: pytest.CaptureFixture[str], *words: Any) -> tuple[int, str, str]:
    status = main(["batch", "tile.json", *map(str, words)])
    said = capsys.readouterr()
    return status, said.out, said.err


def test_results_failures_and_going_on(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (folder / "season.csv").write_text("name,scan,lift\nspring,scan_2.ply,0.2\nautumn,scan_3.ply,\nwinter,gone.ply,1\n")
    words = ("--table", "season.csv", "--out", "out/{name}.ply", "--note", "faces", "--workers", 1)
    status, _, error = run(capsys, *words)
    assert (status, "gone.ply" in error) == (1, True), "a file that is not there is said at once"
    ops.grid(cells=(1, 1)).write(folder / "gone.ply")
    status, out, error = run(capsys, *words, "--note", "top=max(geo.points.depth)")
    assert status == 0
    assert out == "3 made; see out/manifest.csv\n"
    assert "row 1, spring: number 'top'" in error, "a number that cannot be had is a warning"
    assert sorted(one.name for one in (folder / "out").glob("*.ply")) == ["autumn.ply", "spring.ply", "winter.ply"]
    status, out, _ = run(capsys, *words, "--note", "top=max(geo.points.depth)", "--json")
    told = json.loads(out)
    assert (status, told["again"]) == (0, 3)
    again = run(
        capsys, "--in", "scan=gone.ply", "--vary", "lift=0.1,0.2", "--vary", "up.distance=uniform(0,1)", "--count", 2
    )
    assert again[:2] == (0, "4 made; see manifest.csv\n")
    assert [one["numbers"]["faces"] for one in told["entries"]] == [one["counts"]["faces"] for one in told["entries"]]


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (("--in", "scan=*.obj"), r"'*.obj' for 'scan' finds no file"),
        (("--in", "scan=scan_*.ply", "--out", "one.ply"), "would be written over each other"),
        (("--in", "scan=scan_*.ply", "--set", "lifts=1"), "no dial 'lifts'; the graph has lift"),
        (("--in", "scan=scan_*.ply", "--out", "{scan}.what"), "what"),
        ((), "needs the shape 'scan': give it with --in scan=FILE"),
    ],
)
def test_what_cannot_be_begun_is_said(
    folder: Path, capsys: pytest.CaptureFixture[str], words: tuple[str, ...], message: str
) -> None:
    status, _, error = run(capsys, *words)
    assert status == 1
    assert message in " ".join(error.split())


def test_ctrl_c_keeps_what_is_done_and_says_so(folder: Path) -> None:
    rows = "".join(f"{number},{number / 1000}\n" for number in range(1, 2001))
    (folder / "many.csv").write_text(f"name,lift\n{rows}")
    words = [
        "batch",
        "tile.json",
        "--in",
        "scan=scan_2.ply",
        "--table",
        "many.csv",
        "--note",
        "top=max(geo.points.depth)",
    ]
    command = [sys.executable, "-m", "reticula.cli", *words, "--workers", "1"]
    with subprocess.Popen(command, stdout=-1, stderr=-1, text=True, start_new_session=True) as program:
        assert program.stderr
        while "row" not in program.stderr.readline():  # the first result, by its warning
            assert program.poll() is None
        os.killpg(program.pid, signal.SIGINT)  # as a terminal does: to all processes
        said, errors = program.communicate(timeout=60)
    assert program.returncode == 130
    assert "Traceback" not in errors
    assert errors.count("row ") < 20, "the first ones; the manifest has all"
    kept = len((folder / "manifest.jsonl").read_text().splitlines())
    assert 1 <= kept < 2000
    assert said == f"{kept:,} made; see manifest.csv\n"
