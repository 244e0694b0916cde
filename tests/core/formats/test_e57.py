"""E57: points of scans with colour and strength."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


def test_points_come_back_far_from_the_origin_too(rng: np.random.Generator, notes: list[Note]) -> None:
    near = rng.normal(size=(30, 3))
    geo = Geo.of(near + [1000, 0, 2000]).with_attribute("point", "intensity", rng.random(30).astype(np.float32))
    geo = geo.with_attribute("point", "color", np.c_[rng.integers(0, 2, (30, 3)), np.ones(30)].astype(float))
    back = read_bytes("a.e57", write_bytes(geo, "a.e57"))
    assert back.positions == pytest.approx(geo.positions, abs=1e-5)
    assert np.array_equal(back.attribute("point", "intensity"), geo.attribute("point", "intensity"))
    assert np.array_equal(back.attribute("point", "color"), geo.attribute("point", "color"))


def test_what_it_cannot_hold_is_said(notes: list[Note]) -> None:
    write_bytes(ops.box(), "a.e57")
    assert "left out: corner uv, faces" in notes[-1].text


def test_what_is_broken_is_refused() -> None:
    data = write_bytes(Geo.of([(0, 0, 0), (1, 1, 1)]), "a.e57")
    for broken in (b"ASTM-E57", data[:300], data[:-20], b"ASTM-E57" + bytes(range(256)) * 4):
        with pytest.raises(FormatError):
            read_bytes("a.e57", broken)
