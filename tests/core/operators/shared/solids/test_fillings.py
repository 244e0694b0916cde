"""What fill puts over borders and into curves, part by part."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry.measure import face_normals
from reticula.core.operators.shared.solids.fillings import FillHow, border_fillings, curve_fillings

TRIANGLES = FillHow("triangles", 12.0, "even-odd", True)
POLYGON = FillHow("polygon", 12.0, "even-odd", True)


def edges(geo: Geo) -> np.ndarray:
    return np.ones(geo.topology.edge_count, bool)


def curves(geo: Geo) -> np.ndarray:
    return np.ones(geo.topology.curve_count, bool)


def test_each_border_is_a_part_that_copies_a_face_beside_it() -> None:
    tube = ops.remove(ops.box(cells=(2, 2, 2)), where="abs(normal.y) > 0.5")
    made = border_fillings(tube, edges(tube), TRIANGLES)
    assert [len(part.start) - 1 for part in made.parts] == [6, 6]
    ends = tube.positions[[part.point[0] for part in made.parts], 1]
    beside = tube.positions[tube.topology.corner_point[tube.topology.face_start[made.source[[0, 6]]]], 1]
    assert len(made.source) == 12
    assert set(np.sign(ends)) == {-1, 1}
    assert np.abs(beside - ends).max() <= 0.5


def test_an_outer_border_of_a_flat_sheet_is_left_open(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(3, 3))
    assert border_fillings(sheet, edges(sheet), POLYGON).source.tolist() == []
    assert "lie on the sheet itself" in notes[-1].text


def test_curves_give_places_where_they_cross_first() -> None:
    both = ops.join(ops.rectangle(size=(2, 2)), ops.transform(ops.rectangle(size=(2, 2)), move=(1, 0, 1)))
    made = curve_fillings(both, curves(both), POLYGON)
    assert len(made.parts[0].start) == 1
    assert len(made.parts[0].added) == 2
    assert [len(part.start) - 1 for part in made.parts[1:]] == [1, 1]


@pytest.mark.parametrize("turned", [False, True])
def test_parts_run_as_the_faces_beside_them(turned: bool) -> None:
    sheet = ops.remove(ops.grid(cells=(4, 4)), where="length(position) < 0.3")
    sheet = ops.reverse(sheet) if turned else sheet
    ring = ops.edges_to_curves(sheet, where="border and length(position) < 0.5", keep_faces=True)
    (part,) = curve_fillings(ring, curves(ring), POLYGON).parts[1:]
    made = Geo.from_faces(ring.positions, [part.point])
    assert face_normals(made)[0] == pytest.approx(face_normals(sheet)[0])
