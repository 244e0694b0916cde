"""Sheets from pictures: form, values, and pictures asked by formulas and scripts."""

from __future__ import annotations

from pathlib import Path

import imageio.v3 as imageio
import numpy as np
import pytest

from reticula.core import Geo, ops, run_script
from reticula.core.context import using
from reticula.core.diagnostics import collecting
from reticula.core.errors import ParameterError
from reticula.core.operators.shared.resources import DiskResources

RAMP = (np.arange(12, dtype=np.uint16).reshape(3, 4) * 5000).astype(np.uint16)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    imageio.imwrite(tmp_path / "ramp.png", RAMP)
    imageio.imwrite(tmp_path / "photo.png", np.full((64, 32, 3), 128, np.uint8))
    ops.box().write(tmp_path / "box.ply")
    return tmp_path


def sheet(folder: Path, **given: object) -> Geo:
    with using(resources=DiskResources({}, folder)), collecting():
        made: Geo = ops.read_picture(**{"picture": "ramp.png", **given})
    return made


def test_points_lie_in_the_middles_of_pixels(folder: Path) -> None:
    geo = sheet(folder, size=4.0)
    assert (geo.topology.point_count, geo.topology.face_count) == (12, 6)
    rows = geo.attribute("point", "value").reshape(3, 4)[::-1]  # from the foot up
    np.testing.assert_allclose(rows, RAMP / 65535, atol=1e-7)
    assert geo.positions[0].tolist() == [-1.5, 0, 1.0]
    assert geo.attribute("point", "color")[0].tolist() == pytest.approx([8 * 5000 / 65535] * 3 + [1])


def test_fewer_points_and_all_of_them(folder: Path) -> None:
    assert sheet(folder, picture="photo.png", points=16).topology.point_count == 16 * 8
    assert sheet(folder, picture="photo.png", points=0).topology.point_count == 64 * 32


def test_colours_are_light_unless_told_otherwise(folder: Path) -> None:
    assert sheet(folder, picture="photo.png").attribute("point", "value")[0] == pytest.approx(0.2158605, abs=1e-6)
    data = sheet(folder, picture="photo.png", holds="data")
    assert data.attribute("point", "value")[0] == pytest.approx(128 / 255)


@pytest.mark.parametrize("backend", ["vector", "compiled"])
def test_scripts_ask_it(folder: Path, backend: str) -> None:
    grid = ops.grid(size=(1, 1), cells=(9, 9))
    picture = sheet(folder, beyond="repeat")
    text = "sand: geometry\nhere.position = position + vec3(0, sand.at(position.xz + 0.5).x, 0)"
    lifted = run_script(grid, text, inputs={"sand": picture}, backend=backend)
    expected = run_script(grid, text, inputs={"sand": picture}, backend="vector")
    assert np.array_equal(lifted.positions, expected.positions)
    assert np.ptp(lifted.positions[:, 1]) > 0.5


def test_formulas_ask_it_through_an_input(folder: Path) -> None:
    grid = ops.grid(size=(1, 1), cells=(9, 9))
    made = ops.group(grid, sheet(folder), name="high", kind="face", where="source.at(position.xz + 0.5).x > 0.4")
    assert 0 < made.attribute("face", "high").sum() < 81


def test_what_is_no_picture_is_said(folder: Path) -> None:
    with pytest.raises(ParameterError, match="choose a picture"):
        sheet(folder, picture=" ")
    with pytest.raises(ParameterError, match=r"'box.ply' is no picture; it holds 8 points"):
        sheet(folder, picture="box.ply")
    with pytest.raises(ParameterError, match="'source' carries no picture; bring one in by 'read picture'"):
        ops.set_attribute(ops.box(), ops.box(), value="source.at(uv).x")
