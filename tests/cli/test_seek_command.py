"""``reticula seek``: what it finds, writes and says."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from reticula.cli import main
from reticula.core.geometry import Geo
from tests.core.graph.building import graph, node


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    dials = {name: {"type": "number", "value": 1.0} for name in ("wide", "high")}
    nodes = {"box": node("box", size={"formula": "(wide, high, wide)"})}
    (tmp_path / "crate.json").write_text(json.dumps(graph(nodes, dials=dials, looking_at="box")))
    monkeypatch.chdir(tmp_path)
    return tmp_path


def run(capsys: pytest.CaptureFixture[str], *words: Any) -> tuple[int, str, str]:
    status = main(["seek", "crate.json", *map(str, words)])
    said = capsys.readouterr()
    return status, said.out, said.err


VARY = ("--vary", "wide=uniform(0.5,2)", "--vary", "high=0.5:2:16", "--workers", 1)


def test_the_best_are_said_and_written_and_all_tries_listed(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    words = (*VARY, "--smallest", "area", "--largest", "geo.high.y", "--where", "volume >= 1", "--tries", 24)
    status, out, _ = run(capsys, *words, "--out", "best-{row}.ply", "--json")
    told = json.loads(out)
    assert (status, len(told["entries"]), told["again"]) == (0, 24, 0)
    assert all(one["numbers"]["volume"] >= 1 for one in told["best"])
    written = sorted(folder.glob("best-*.ply"))
    assert len(written) == len(told["best"]) > 1
    assert Geo.read(str(written[0])).topology.face_count == 6
    status, out, _ = run(capsys, *words)
    assert status == 0
    assert f"try {told['best'][0]['row']}: wide " in out
    assert out.endswith("24 tries, 0 failed; see seek.csv\n")
    assert json.loads(run(capsys, *words, "--json")[1])["again"] == 24, "none is made twice"


def test_a_value_is_met(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = run(capsys, *VARY, "--at", "volume=2", "--tries", 120, "--json")[1]
    (best,) = json.loads(out)["best"]
    assert best["numbers"]["volume"] == pytest.approx(2, abs=0.05)


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (("--vary", "wide=1,2"), "these are 0 aims; seek 1 to 3"),
        (("--vary", "wide=1,2", "--smallest", "weight"), "aim 'weight': "),
        (("--vary", "wide=1,2", "--at", "volume"), "--at 'volume': say it as FORMULA=NUMBER"),
        (("--vary", "deep=1,2", "--smallest", "area"), "nothing is called 'deep'"),
        (("--vary", "wide=normal(1,2)", "--smallest", "area"), "'wide': seeking needs ends"),
    ],
)
def test_what_cannot_be_sought_is_said(
    folder: Path, capsys: pytest.CaptureFixture[str], words: tuple[str, ...], message: str
) -> None:
    status, _, error = run(capsys, *words)
    assert status == 1
    assert message in error
    assert not list(folder.glob("seek*"))
