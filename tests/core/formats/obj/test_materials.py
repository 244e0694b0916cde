"""Materials of an OBJ: their files beside it or inside, and what is missing."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core import Geo
from reticula.core.diagnostics import Note, collecting
from reticula.core.formats import read_bytes
from reticula.core.formats.obj.materials import read_materials

TILE = b"""mtllib reef colours.mtl
v 0 0 0
v 1 0 0
v 0 1 0
f 1 2 3
usemtl clay
f 1 3 2
usemtl glass
f 2 1 3
"""
COLOURS = b"# made elsewhere\nnewmtl clay\nNs 10\nKd 0.5 0.25 0.125\n\nnewmtl glass\n  Kd 1 1 1\n  Tr 0.75\n"
EXPECTED = [[1, 1, 1, 1], [0.5, 0.25, 0.125, 1], [1, 1, 1, 0.25]]


def test_colours_come_from_the_file_beside_it(tmp_path: Path, notes: list[Note]) -> None:
    (tmp_path / "tile.obj").write_bytes(TILE)
    (tmp_path / "reef colours.mtl").write_bytes(COLOURS)
    geo = Geo.read(tmp_path / "tile.obj")
    assert geo.attribute("face", "material").tolist() == ["", "clay", "glass"]
    assert geo.attribute("face", "color").tolist() == EXPECTED
    assert notes == []


def test_colours_come_from_lines_inside() -> None:
    inside = b"".join(b"#mtl " + line + b"\n" for line in COLOURS.splitlines())
    assert read_bytes("tile.obj", inside + TILE).attribute("face", "color").tolist() == EXPECTED


def test_what_did_not_come_along_is_said() -> None:
    with collecting() as notes:
        geo = read_bytes("tile.obj", TILE)
    assert not geo.has("face", "color")
    assert "reef colours.mtl did not come with the file" in notes[0].text


def test_colours_of_points_go_before_those_of_materials() -> None:
    geo = read_bytes("tile.obj", TILE.replace(b"v 0 0 0", b"v 0 0 0 1 0 0"), {"reef colours.mtl": COLOURS})
    assert geo.has("point", "color")
    assert not geo.has("face", "color")


@pytest.mark.parametrize(
    ("line", "color"),
    [
        (b"Kd 0.5", [0.5, 0.5, 0.5, 1]),
        (b"Kd spectral file.rfl", [1, 1, 1, 1]),
        (b"Kd 2 -1 nan", [1, 1, 1, 1]),
        (b"Kd 2 -1 0.5", [1, 0, 0.5, 1]),
        (b"d -halo 0.5", [1, 1, 1, 0.5]),
        (b"Kd", [1, 1, 1, 1]),
        (b"\xff\xfe", [1, 1, 1, 1]),
    ],
)
def test_odd_lines(line: bytes, color: list[float]) -> None:
    assert read_materials(b"Kd 0 0 0\nnewmtl a\n" + line) == {"a": color}
