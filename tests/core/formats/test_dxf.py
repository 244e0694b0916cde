"""DXF: entities of every sort as curves, faces and points, in metres."""

import io

import ezdxf
import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes


def text_of(document: ezdxf.document.Drawing) -> bytes:
    out = io.StringIO()
    document.write(out)
    return document.encode(out.getvalue())


@pytest.fixture
def drawn() -> ezdxf.document.Drawing:
    document = ezdxf.new("R2010")
    document.units = ezdxf.units.MM
    document.layers.add("Cut", color=1)
    return document


def test_lengths_are_in_metres_and_up_is_y(drawn: ezdxf.document.Drawing) -> None:
    drawn.modelspace().add_line((0, 0, 0), (1000, 2000, 3000))
    geo = read_bytes("a.dxf", text_of(drawn))
    assert geo.positions.tolist() == [[0, 0, 0], [1, 3, -2]]


@pytest.mark.parametrize("error", [0.01, 0.001, 0.0001])
def test_bows_keep_within_the_error_that_is_asked_for(drawn: ezdxf.document.Drawing, error: float) -> None:
    drawn.modelspace().add_circle((0, 0), 1000)
    geo = read_bytes("a.dxf", text_of(drawn), error=error)
    middles = (geo.positions + np.roll(geo.positions, -1, axis=0)) / 2
    assert geo.topology.curve_closed.all()
    assert (1 - np.linalg.norm(middles, axis=1)).max() <= error * 1.01


def test_layers_colours_and_every_sort_of_line(drawn: ezdxf.document.Drawing, notes: list[Note]) -> None:
    space = drawn.modelspace()
    space.add_line((0, 0), (1, 0), dxfattribs={"layer": "Cut"})
    space.add_lwpolyline([(0, 0, 0, 0, 1), (1000, 0)], close=True)
    space.add_arc((0, 0), 500, 0, 90, dxfattribs={"color": 5})
    space.add_ellipse((0, 0), (900, 0), 0.5)
    space.add_spline([(0, 0), (100, 300), (500, 200), (800, 0)])
    space.add_text("left out")
    block = drawn.blocks.new("part")
    block.add_line((0, 0), (10, 0))
    space.add_blockref("part", (5000, 0), dxfattribs={"xscale": 100})
    geo = read_bytes("a.dxf", text_of(drawn))
    assert geo.counts["curves"] == 6
    assert geo.attribute("curve", "layer")[0] == "Cut"
    assert geo.attribute("curve", "color")[0].tolist() == [1, 0, 0, 1]
    assert geo.attribute("curve", "color")[2].tolist() == [0, 0, 1, 1]
    assert geo.positions[:, 0].max() == pytest.approx(6)
    assert "1 TEXT" in notes[-1].text


def test_faces_and_points_come_too(drawn: ezdxf.document.Drawing) -> None:
    space = drawn.modelspace()
    space.add_3dface([(0, 0, 0), (1000, 0, 0), (1000, 1000, 0), (0, 1000, 0)])
    space.add_point((0, 0, 7000))
    geo = read_bytes("a.dxf", text_of(drawn))
    assert (geo.counts["faces"], geo.counts["points"]) == (1, 5)
    assert geo.positions[:, 1].max() == 7


def test_what_is_written_is_read_as_the_same(notes: list[Note]) -> None:
    geo = ops.join(ops.box(), ops.circle(segments=7), Geo.of([(9, 8, 7)]))
    back = read_bytes("a.dxf", write_bytes(geo, "a.dxf"))
    assert {kind: back.counts[kind] for kind in ("faces", "curves")} == {"faces": 6, "curves": 1}
    assert back.counts["points"] == geo.counts["points"]
    assert back.bounds == pytest.approx(geo.bounds)


@pytest.mark.parametrize("data", [b"nonsense", b"0\nSECTION\n2\nENTITIES\n", b"\x00" * 50])
def test_what_is_no_drawing_is_refused(data: bytes) -> None:
    with pytest.raises(FormatError):
        read_bytes("a.dxf", data)
