"""What new points take along, and what is said of the rest."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.operators.shared.new_points import beside_whole, tell_left_behind


def test_a_place_in_the_world_goes_along() -> None:
    """Rays of a mesh that stands elsewhere hit where it stands."""
    sheet = ops.set_place(ops.grid(cells=(1, 1)), move=(0, 5, 0))
    hits = ops.ray_hits(sheet, ops.set_place(ops.grid(size=(4, 4)), move=(0, 4, 0)), direction=(0, -1, 0))
    np.testing.assert_allclose(ops.apply_place(hits).positions[:, 1], 4.0)


def test_names_are_said_once(notes: list[Note]) -> None:
    geo = ops.grid(cells=(1, 1)).with_attribute("point", "a", np.zeros(4)).with_attribute("face", "a", np.zeros(1))
    tell_left_behind(geo, "so it is")
    assert notes[-1].text.startswith("Left behind, since so it is: ")
    assert notes[-1].text.count("a,") + notes[-1].text.endswith(" a.") <= 2
    assert beside_whole(Geo.empty(), geo.with_attribute("whole", "w", [1.0])).has("whole", "w")
