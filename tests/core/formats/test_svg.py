"""SVG: where lines lie, how large they are, what they look like."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats import read_bytes, write_bytes

SPACES = 'xmlns="http://www.w3.org/2000/svg" xmlns:inkscape="http://www.inkscape.org/namespaces/inkscape"'


def read(inside: str, head: str = 'width="100mm" height="100mm" viewBox="0 0 100 100"', **told: float) -> Geo:
    return read_bytes("a.svg", f"<svg {SPACES} {head}>{inside}</svg>".encode(), **told)


def test_a_drawing_lies_on_the_ground_in_its_own_size() -> None:
    geo = read('<path d="M10 20 L30 20 L30 50 Z"/>')
    assert geo.positions == pytest.approx(np.array([[0.01, 0, 0.02], [0.03, 0, 0.02], [0.03, 0, 0.05]]), rel=1e-6)
    assert geo.topology.curve_closed.tolist() == [True]


def test_without_a_size_a_unit_is_a_pixel() -> None:
    geo = read('<line x1="0" y1="0" x2="96" y2="0"/>', head="")
    assert np.ptp(geo.positions[:, 0]) == pytest.approx(0.0254)


@pytest.mark.parametrize("error", [0.001, 0.0001, 0.00001])
def test_bows_keep_within_the_error_that_is_asked_for(error: float) -> None:
    geo = read('<circle cx="50" cy="50" r="40"/>', error=error)
    middles = (geo.positions + np.roll(geo.positions, -1, axis=0)) / 2
    depth = 0.04 - np.linalg.norm(middles - [0.05, 0, 0.05], axis=1)
    assert 0 < depth.max() <= error * 1.0001
    assert depth.max() > error / 20


def test_layers_names_colours_and_widths_are_kept(notes: list[Note]) -> None:
    geo = read(
        '<g inkscape:groupmode="layer" inkscape:label="Cut" transform="translate(10 0)">'
        '<path id="rim" d="M0 0 L10 0" stroke="#ff0000" stroke-width="2" fill="none"/></g><text>no</text>'
    )
    assert geo.attribute("curve", "layer").tolist() == ["Cut"]
    assert geo.attribute("curve", "name").tolist() == ["rim"]
    assert geo.attribute("curve", "color").tolist() == [[1, 0, 0, 1]]
    assert geo.attribute("curve", "width") == pytest.approx([0.002], rel=1e-6)
    assert geo.positions[0, 0] == pytest.approx(0.01)
    assert "1 texts" in notes[-1].text


def test_what_is_written_is_read_as_the_same_curves(notes: list[Note]) -> None:
    rings = ops.join(ops.circle(radius=0.4, segments=12), ops.line(end=(0.3, 0, 0.2)))
    rings = rings.with_attribute("curve", "width", [0.001, 0.002]).with_attribute(
        "curve", "layer", np.array(["a & b", ""])
    )
    rings = rings.with_attribute("curve", "color", [[1.0, 0, 0, 0.5], [0, 0, 1, 1]])
    back = read_bytes("a.svg", write_bytes(rings, "a.svg"))
    assert back.counts["curves"] == 2
    assert np.ptp(back.positions, axis=0) == pytest.approx(np.ptp(rings.positions, axis=0), rel=1e-5)
    for name in ("width", "color"):
        assert back.attribute("curve", name) == pytest.approx(rings.attribute("curve", name), rel=1e-4, abs=0.003)
    assert back.attribute("curve", "layer").tolist() == ["a & b", ""]


def test_faces_are_outlines_with_their_colours(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 1)).with_attribute("face", "color", [[1.0, 0, 0, 1], [0, 1, 0, 0.5]])
    text = write_bytes(sheet, "a.svg").decode()
    assert text.count("<path") == 2
    assert 'fill="#ff0000"' in text
    assert 'fill="#00ff00" fill-opacity="0.5"' in text


@pytest.mark.parametrize(
    "data", [b"<svg", b"no picture", b"<html></html>", b"<svg xmlns='http://www.w3.org/2000/svg'/>"]
)
def test_what_is_no_drawing_is_refused(data: bytes) -> None:
    with pytest.raises(FormatError):
        read_bytes("a.svg", data)
