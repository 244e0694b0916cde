"""Packages on the command line: packed, described, run on other meshes, with the same result as in Python."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from reticula.cli import main
from reticula.core import Geo, load_package, ops
from tests.core.graph.building import graph, node
from tests.core.packages.studio import lift_document


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "lift.json").write_text(json.dumps(lift_document()))
    ops.sphere(radius=2.0).write(tmp_path / "rock.ply")
    return tmp_path


def test_pack_describe_and_run(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["pack", "lift.json", "b", "--name", "lift", "--summary", "Moves up", "--out", "lift.zip"]) == 0
    assert main(["describe", "lift.zip"]) == 0
    assert "height = 1.0" in capsys.readouterr().out
    assert main(["run", "lift.zip", "--in", "geo=rock.ply", "--set", "height=3", "--out", "up.ply"]) == 0
    made = Geo.read("up.ply")
    again = load_package("lift.zip")(Geo.read("rock.ply"), height=3.0)
    assert made.bounds.tolist() == again.bounds.tolist()
    assert made.bounds[0, 1] == pytest.approx(1.0)


def test_a_graph_uses_a_package_and_inputs_from_files(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    main(["pack", "lift.json", "b", "--name", "lift", "--out", "lift.zip"])
    user = graph({"l": node("lift@1.0.0", "geo", height=2.0)}, inputs=("geo",)) | {"result": "l"}
    (folder / "user.json").write_text(json.dumps(user))
    assert main(["run", "user.json", "--in", "geo=rock.ply", "--package", "lift.zip", "--out", "up.obj"]) == 0
    assert Geo.read("up.obj").bounds[0, 1] == pytest.approx(0.0, abs=1e-6)
    assert main(["run", "user.json", "--in", "geo=rock.ply"]) == 1
    assert "import the package" in capsys.readouterr().err


def test_a_second_release_must_follow_the_first(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    main(["pack", "lift.json", "b", "--name", "lift", "--out", "lift.zip"])
    assert main(["pack", "lift.json", "b", "--name", "lift", "--package", "lift.zip", "--out", "again.zip"]) == 1
    assert "a new release must be larger" in capsys.readouterr().err
    assert not (folder / "again.zip").exists()
    argv = [
        "pack",
        "lift.json",
        "b",
        "--name",
        "lift",
        "--release",
        "1.0.1",
        "--package",
        "lift.zip",
        "--out",
        "again.zip",
    ]
    assert main(argv) == 0


@pytest.mark.parametrize(
    ("argv", "message"),
    [
        (["run", "lift.zip"], "needs a mesh for 'geo'"),
        (["run", "lift.zip", "--in", "geo=gone.ply"], "there is no mesh file 'gone.ply'"),
        (["run", "lift.zip", "--in", "geo=rock.ply", "--set", "height=99"], "99 is outside of 0 to 9"),
        (["run", "lift.zip", "--in", "geo=rock.ply", "--node", "other"], "has no output 'other'; it has geo"),
        (["describe", "broken.zip"], "not a whole package"),
        (["pack", "lift.json", "a", "--out", "x.zip"], "only a folded card"),
        (["pack", "broken.zip", "a", "--out", "x.zip"], "is not JSON"),
        (["import", "lift.zip", "--to", "http://127.0.0.1:9"], "no service answers"),
        (["export", "lift@1.0.0", "--out", "x.zip", "--from", "http://127.0.0.1:9"], "no service answers"),
    ],
)
def test_what_goes_wrong_is_said(
    folder: Path, capsys: pytest.CaptureFixture[str], argv: list[str], message: str
) -> None:
    main(["pack", "lift.json", "b", "--name", "lift", "--out", "lift.zip"])
    (folder / "broken.zip").write_bytes(b"PK nonsense")
    assert main(argv) == 1
    assert message in capsys.readouterr().err
