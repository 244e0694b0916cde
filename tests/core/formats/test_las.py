"""LAS and LAZ: places to a tenth of a millimetre, all values of points."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


@pytest.fixture
def cloud(rng: np.random.Generator) -> Geo:
    geo = Geo.of(rng.normal(size=(40, 3)) * 30)
    geo = geo.with_attribute("point", "color", np.c_[rng.random((40, 3)), np.ones(40)])
    values = {
        "intensity": rng.integers(0, 65535, 40),
        "classification": rng.integers(0, 20, 40),
        "gps_time": rng.random(40) * 1e6,
        "withheld": rng.random(40) > 0.5,
        "heat": rng.normal(size=40),
        "drift": rng.normal(size=(40, 3)),
        "age": rng.integers(-(2**60), 2**60, 40),
    }
    for name, found in values.items():
        geo = geo.with_attribute("point", name, found)
    return geo


@pytest.mark.parametrize("ending", ["las", "laz"])
def test_points_and_values_come_back(cloud: Geo, ending: str) -> None:
    back = read_bytes(f"a.{ending}", write_bytes(cloud, f"a.{ending}"))
    assert np.abs(back.positions - cloud.positions).max() <= 0.5e-4 * 1.001
    assert np.abs(back.attribute("point", "color") - cloud.attribute("point", "color")).max() < 1e-4
    for name in ("intensity", "classification", "gps_time", "withheld", "heat", "drift", "age"):
        assert np.array_equal(back.attribute("point", name), cloud.attribute("point", name)), name


def test_laz_is_smaller(rng: np.random.Generator) -> None:
    cloud = Geo.of(np.round(rng.random((5000, 3)), 3))
    assert len(write_bytes(cloud, "a.laz")) < len(write_bytes(cloud, "a.las")) / 2


def test_what_does_not_fit_is_said(notes: list[Note]) -> None:
    geo = (
        ops.box().with_attribute("point", "note", np.array(["a"] * 8)).with_attribute("point", "intensity", [-1.0] * 8)
    )
    write_bytes(geo, "a.las")
    said = " ".join(note.text for note in notes)
    assert "left out: point note, corner uv, faces" in said
    assert "'intensity' was brought to whole numbers from 0 to 65535" in said


def test_a_head_that_promises_too_much_is_refused(cloud: Geo) -> None:
    data = write_bytes(cloud, "a.las")
    with pytest.raises(FormatError, match="promises 40 points"):
        read_bytes("a.las", data[:-100])
    for broken in (b"LASF", b"LASF" + b"\xff" * 400, data[:200], b"nothing"):
        with pytest.raises(FormatError):
            read_bytes("a.las", broken)
    packed = write_bytes(cloud, "a.laz")
    with pytest.raises(FormatError):
        read_bytes("a.laz", packed[:-300])
