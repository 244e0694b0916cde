"""The list of formats."""

from pathlib import Path

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, WRITTEN, read_bytes, write_bytes
from reticula.core.formats.format import EVERYTHING
from reticula.core.formats.shared.beside import FilesBeside


def test_those_that_keep_everything_come_first() -> None:
    kept = [known.keeps == EVERYTHING for known in FORMATS.values()]
    assert kept == sorted(kept, reverse=True)
    assert all(known.ending == ending for ending, known in FORMATS.items())


@pytest.mark.parametrize("ending", WRITTEN)
def test_every_format_writes_and_reads_a_box(ending: str) -> None:
    with collecting():
        back = read_bytes(f"a.{ending}", write_bytes(ops.box(), f"a.{ending}"))
    flat = [True, False, True] if ending == "svg" else [True] * 3
    assert np.ptp(back.positions, axis=0)[flat] == pytest.approx(1.0, abs=1e-6)
    if ending != "svg":
        assert back.bounds == pytest.approx(ops.box().bounds, abs=1e-9)


@pytest.mark.parametrize("ending", WRITTEN)
def test_every_format_writes_nothing_or_says_that_it_cannot(ending: str) -> None:
    with collecting():
        try:
            write_bytes(Geo.empty(), f"a.{ending}")
        except FormatError as error:
            assert "there are none" in str(error)


@pytest.mark.parametrize("ending", FORMATS)
def test_every_format_refuses_what_it_cannot_read(ending: str) -> None:
    for data in (b"x", b"\0" * 300, b"\xff\xfe" * 40, b"PK\x03\x04" + b"\0" * 60, b"<svg/>", b"{}"):
        with collecting():
            try:
                assert np.isfinite(FORMATS[ending].read(data).positions).all()
            except FormatError as error:
                assert str(error)


def test_what_lies_beside_a_file_is_found_and_nothing_elsewhere(tmp_path: Path) -> None:
    (tmp_path / "scene" / "parts").mkdir(parents=True)
    (tmp_path / "secret.bin").write_bytes(b"secret")
    (tmp_path / "scene" / "parts" / "a.bin").write_bytes(b"mesh")
    (tmp_path / "scene" / "link.bin").symlink_to(tmp_path / "secret.bin")
    beside = FilesBeside(tmp_path / "scene")
    assert beside["parts/a.bin"] == b"mesh"
    assert list(beside) == ["link.bin", "parts/a.bin"] or sorted(beside) == ["link.bin", "parts/a.bin"]
    for outside in ("../secret.bin", str(tmp_path / "secret.bin"), "link.bin", "missing", "a\0b", "parts"):
        assert outside not in beside
