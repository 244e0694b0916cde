"""Orient faces: closed parts outwards, hollows by turns, open parts by most or by direction."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.geometry import measure
from reticula.core.geometry.edit.flip import flipped
from tests.core.geometry.edit.test_orientation import band
from tests.helpers import bumpy, outward, volume


def shuffled(geo: Geo, seed: int, share: float = 0.5) -> Geo:
    return flipped(geo, np.random.default_rng(seed).random(geo.topology.face_count) < share)


@given(seed=st.integers(0, 10_000), share=st.floats(0, 1), far=st.sampled_from([0.0, 1e5]))
def test_a_closed_mesh_looks_outwards_whatever_was_turned(seed: int, share: float, far: float) -> None:
    ball = ops.transform(bumpy(seed, 2), move=(far, far, -far))
    with collecting():
        made = ops.orient_faces(shuffled(ball, seed, share))
    assert measure.face_normals(made) == pytest.approx(measure.face_normals(ball), abs=1e-6)


@pytest.mark.parametrize(
    ("closed", "whole"), [("outwards", 1.125 + 0.125**3 * 8), ("hollows inwards", 1 - 0.125 + 0.015625)]
)
def test_nested_parts(closed: str, whole: float) -> None:
    nested = ops.join(*(ops.box(size=(size,) * 3) for size in (1, 0.5, 0.25)))
    with collecting():
        made = ops.orient_faces(shuffled(nested, 4), closed=closed)
    assert volume(made) == pytest.approx(whole)


def test_open_parts_look_as_most_of_them_do_or_along_a_direction(notes: list[Note]) -> None:
    sheet = shuffled(ops.grid(cells=(6, 6)), 1, 0.2)
    assert (measure.face_normals(ops.orient_faces(sheet))[:, 1] > 0).all()
    down = ops.orient_faces(sheet, open="direction", direction=(0, -1, 0))
    assert (measure.face_normals(down)[:, 1] < 0).all()


def test_only_marked_faces_are_turned() -> None:
    ball = ops.geodesic_sphere(frequency=2)
    inside_out = ops.reverse(ball)
    with collecting():
        made = ops.orient_faces(inside_out, where="position.y > 0", closed="most", open="direction")
    changed = np.abs(measure.face_normals(made) - measure.face_normals(inside_out)).max(axis=1) > 0.1
    marked = inside_out.positions[inside_out.topology.corner_point].reshape(-1, 3, 3).mean(axis=1)[:, 1] > 0
    assert changed.tolist() == marked.tolist()


def test_values_of_corners_go_with_them(notes: list[Note]) -> None:
    box = ops.box().with_attribute("corner", "place", ops.box().positions[ops.box().topology.corner_point])
    made = ops.orient_faces(shuffled(box, 3))
    assert made.attribute("corner", "place").tolist() == made.positions[made.topology.corner_point].tolist()
    assert outward(made).min() > 0


def test_a_band_with_one_side_is_told(notes: list[Note]) -> None:
    ops.orient_faces(band(1))
    assert "1 edges lie on bands with one side" in notes[0].text
    ops.orient_faces(band(0))
    assert len([entry for entry in notes if entry.level == "warning"]) == 1


def test_walls_along_a_closed_ring_of_inner_edges_look_one_way() -> None:
    disc = ops.disc(segments=16, rings=2)
    with collecting():
        made = ops.extrude(disc, what="edge", where="abs(length(position) - 0.25) < 0.01", distance=0.2)
    sides = ops.remove(made, where="not side")
    assert sides.counts["faces"] == 16
    assert (sides.topology.corner_across >= 0).sum() == 32, "all 16 neighbours wind alike"
