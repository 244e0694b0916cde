"""3MF: what a printer is told."""

import zipfile
from io import BytesIO

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


@pytest.mark.parametrize(("kind", "count"), [("point", 8), ("face", 6), ("corner", 24)])
def test_colours_come_back_where_they_were(kind: str, count: int, rng: np.random.Generator, notes: list[Note]) -> None:
    colors = rng.integers(0, 2, (count, 4)).astype(float)
    colors[:, 3] = 1
    geo = ops.triangulate(ops.box()) if kind == "face" else ops.box()
    colors = np.repeat(colors, 2, axis=0) if kind == "face" else colors
    back = read_bytes("a.3mf", write_bytes(geo.with_attribute(kind, "color", colors), "a.3mf"))
    assert back.counts["faces"] == 12
    assert back.bounds == pytest.approx(geo.bounds)
    if kind != "corner":
        assert back.attribute(kind, "color") == pytest.approx(colors)
    else:
        found = back.attribute("corner", "color")
        assert {tuple(row) for row in found} <= {tuple(row) for row in colors}


def test_lengths_are_written_in_millimetres(notes: list[Note]) -> None:
    with zipfile.ZipFile(BytesIO(write_bytes(ops.box(size=(0.25, 1, 1)), "a.3mf"))) as file:
        text = file.read("3D/3dmodel.model").decode()
    assert 'unit="millimeter"' in text
    assert 'x="125.0' in text


def test_curves_with_a_radius_are_struts(notes: list[Note]) -> None:
    rods = ops.join(ops.circle(segments=6), ops.line()).with_attribute("curve", "radius", [0.01, 0.02])
    back = read_bytes("a.3mf", write_bytes(rods, "a.3mf"))
    assert back.counts["curves"] == 2
    assert sorted(back.attribute("curve", "radius")) == pytest.approx([0.01, 0.02])
    assert back.topology.curve_closed[back.attribute("curve", "radius") < 0.015].all()


def test_what_is_not_closed_is_said_before_printing(notes: list[Note]) -> None:
    write_bytes(ops.grid(cells=(2, 2)), "a.3mf")
    assert any("8 open edges: a printer cannot tell its inside" in note.text for note in notes)
    before = len(notes)
    write_bytes(ops.triangulate(Geo.of(ops.box().positions, ops.box().topology)), "a.3mf")
    assert not any("printer" in note.text for note in notes[before:])


def test_units_of_others_and_parts_within_parts() -> None:
    model = (
        '<?xml version="1.0"?><model unit="inch" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">'
        '<resources><object id="1" name="leaf" type="model"><mesh><vertices><vertex x="0" y="0" z="0"/>'
        '<vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/><vertex x="0" y="0" z="1"/></vertices><triangles>'
        '<triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/>'
        '<triangle v1="2" v2="0" v3="3"/></triangles></mesh></object>'
        '<object id="2" type="model"><components><component objectid="1" transform="1 0 0 0 1 0 0 0 1 10 0 0"/>'
        '<component objectid="1"/></components></object></resources><build><item objectid="2"/></build></model>'
    )
    out = BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        file.writestr(
            "[Content_Types].xml",
            '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
            '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
            '<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>',
        )
        file.writestr(
            "_rels/.rels",
            '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
            '<Relationship Target="/3D/3dmodel.model" Id="rel0" '
            'Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>',
        )
        file.writestr("3D/3dmodel.model", model)
    geo = read_bytes("a.3mf", out.getvalue())
    assert geo.counts["faces"] == 8
    assert set(geo.attribute("face", "object")) == {"leaf"}
    assert geo.positions[:, 0].max() == pytest.approx(11 * 0.0254)
    assert geo.positions[:, 1].max() == pytest.approx(0.0254)
    assert geo.positions[:, 2].min() == pytest.approx(-0.0254)


@pytest.mark.parametrize("data", [b"PK\x03\x04broken", b"nothing"])
def test_what_is_broken_is_refused(data: bytes) -> None:
    with pytest.raises(FormatError, match="cannot be read"):
        read_bytes("a.3mf", data)
