"""Large files are mapped, not loaded: with the same result, and nothing of it lies in the file."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core import Geo, formats, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, read_bytes, write_bytes
from tests.core.formats.shared.samples import full

CASES = [(ending, encoding) for ending in ("ply", "stl") for encoding in ("binary", "ascii")]


@pytest.fixture(autouse=True)
def everything_is_large(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(formats, "LOADED", 10)


def test_those_are_mapped_that_can_be() -> None:
    assert {ending for ending, known in FORMATS.items() if known.mapped} == {"ply", "stl"}


@pytest.mark.parametrize(("ending", "encoding"), CASES)
def test_the_result_is_the_same_and_stays_when_the_file_changes(tmp_path: Path, ending: str, encoding: str) -> None:
    path = tmp_path / f"a.{ending}"
    geo = full(2) if ending == "ply" else ops.sphere()
    with collecting():
        data = write_bytes(geo, path.name, encoding=encoding)
        path.write_bytes(data)
        expected = read_bytes(path.name, data)
        made = Geo.read(path)
    with path.open("r+b") as file:
        file.write(b"\0" * len(data))
    assert made.digest == expected.digest


@pytest.mark.parametrize("ending", ["ply", "stl"])
def test_a_damaged_one_is_refused(tmp_path: Path, ending: str) -> None:
    path = tmp_path / f"a.{ending}"
    path.write_bytes(write_bytes(ops.box(), path.name)[:200])
    with pytest.raises(FormatError):
        Geo.read(path)


def test_one_beyond_the_limit_is_refused_before_it_is_opened(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(formats, "MOST_MAPPED", 100)
    ops.sphere().write(tmp_path / "a.ply")
    with pytest.raises(FormatError, match="100 is the most"):
        Geo.read(tmp_path / "a.ply")
