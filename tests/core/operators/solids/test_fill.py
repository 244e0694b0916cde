"""Fill: close open borders, or fill closed curves, with faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


class TestFill:
    @pytest.mark.parametrize(("using", "faces"), [("polygon", 1), ("triangles", 10)])
    def test_a_border_is_closed(self, using: str, faces: int) -> None:
        bowl = ops.remove(ops.box(cells=(3, 3, 3)), where="normal.y > 0.5")
        made = ops.fill(bowl, using=using)
        assert is_closed(made)
        assert volume(made) == pytest.approx(1)
        assert made.group("face", "fill").sum() == faces
        assert made.positions[: bowl.counts["points"]].tobytes() == bowl.positions.tobytes()

    @pytest.mark.parametrize("size", [0.01, 1.0, 100.0])
    def test_an_even_mesh_follows_the_size(self, size: float) -> None:
        made = ops.fill(ops.circle(radius=size, segments=48), what="curve", using="even")
        lengths = measure.edge_lengths(made)
        assert 300 < made.counts["faces"] < 420
        assert lengths.max() / lengths.min() < 5
        assert made.topology.border_edges.sum() == 48

    def test_letters_have_holes(self) -> None:
        made = ops.fill(ops.lettering(text="B"), what="curve", using="triangles")
        assert made.topology.euler_characteristic == 1 - 2
        assert (measure.face_normals(made)[:, 1] > 0.999).all()

    def test_three_rings_in_each_other(self) -> None:
        rings = ops.join(*(ops.circle(radius=r, segments=32) for r in (1.0, 0.6, 0.3)))
        made = ops.fill(rings, what="curve", using="triangles")
        circle = 0.5 * 32 * np.sin(2 * np.pi / 32)
        assert measure.face_areas(made).sum() == pytest.approx(circle * (1 - 0.36 + 0.09))

    def test_an_uneven_border_is_spanned_by_a_membrane(self) -> None:
        ring = ops.circle(radius=1, segments=40)
        lifted = ops.set_attribute(ring, name="position", value="position + vec3(0, 0.3 * position.x, 0)")
        made = ops.fill(ops.extrude(ops.fill(lifted, what="curve"), distance=0.1), where="border", using="even")
        inner = made.positions[40 + 40 :]
        assert inner[:, 1] == pytest.approx(0.3 * inner[:, 0], abs=1e-9)

    def test_values_reach_the_inside(self) -> None:
        sheet = ops.remove(ops.grid(cells=(8, 8)), where="length(position) < 0.3")
        sheet = ops.set_attribute(sheet, name="across", value="position.x")
        made = ops.fill(sheet, using="even", where="length(position) < 0.45")
        inside = made.attribute("point", "across")[sheet.counts["points"] :]
        assert np.abs(inside - made.positions[sheet.counts["points"] :, 0]).max() < 0.03

    def test_crossing_outlines_and_open_curves_are_told(self, notes: list[Note]) -> None:
        eight = Geo.of([[0, 0, 0], [1, 0, 1], [1, 0, 0], [0, 0, 1]], ops.rectangle().topology)
        with pytest.raises(GeometryError, match="does not cross itself"):
            ops.fill(eight, what="curve", using="triangles")
        ops.fill(ops.arc(), what="curve")
        assert "open" in notes[0].text
