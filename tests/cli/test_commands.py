"""The command line gives what Python and the evaluator give, and complains in words."""

import json
from pathlib import Path
from typing import Any

import pytest

from demo.settlement_tile import settlement_tile, survey_scan
from reticula.cli import main
from reticula.core.diagnostics import collecting
from reticula.core.graph import run_graph
from reticula.core.operators.shared.resources import DiskResources


def test_command_line_python_and_evaluator_give_the_same_bytes(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    document = settlement_tile()
    (tmp_path / "tile.json").write_text(json.dumps(document))
    scan = survey_scan()
    scan.write(tmp_path / "scan.ply")
    code = main(
        [
            "run",
            str(tmp_path / "tile.json"),
            "--in",
            f"survey_scan={tmp_path / 'scan.ply'}",
            "--set",
            "ridge_height=0.01",
            "--out",
            str(tmp_path / "out.ply"),
        ]
    )
    assert code == 0
    assert "wrote" in capsys.readouterr().out
    with collecting():
        by_python = run_graph(document, dials={"ridge_height": 0.01}, shapes=DiskResources({"survey_scan": scan}))
    by_python.write(tmp_path / "again.ply")
    assert (tmp_path / "out.ply").read_bytes() == (tmp_path / "again.ply").read_bytes()


def test_command_line_lists_describes_and_complains(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], chain: dict[str, Any]
) -> None:
    assert main(["list"]) == 0
    assert "smooth_subdivide" in capsys.readouterr().out
    assert main(["describe", "extrude"]) == 0
    assert "distance = 0.06 * extent" in capsys.readouterr().out
    assert main(["describe", "graph"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Reticula graph"
    path = tmp_path / "a.json"
    path.write_text(json.dumps(chain))
    assert main(["run", str(path), "--set", "sheet.cells=[4,4]", "--node", "sheet"]) == 0
    assert "16 faces" in capsys.readouterr().out
    for arguments, message in (
        (["describe", "extrud"], "near it are extrude"),
        (["run", str(tmp_path / "none.json")], "No such file"),
        (["run", str(path), "--set", "depth=1"], "no dial 'depth'; the graph has height, width"),
        (["run", str(path), "--node", "x"], "no node 'x'; there are sheet"),
    ):
        assert main(arguments) == 1
        assert message in capsys.readouterr().err
