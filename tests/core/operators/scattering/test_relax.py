"""Relax: even out points: each is pushed away by those around it, and comes back to the surface after every pass."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.core.operators.scattering.support import gaps


def test_relax_evens_out_and_stays_on_the_surface(ball: Geo, notes: list[Note]) -> None:
    rough = ops.scatter(ball, total=200)
    made = ops.relax(rough, ball)
    assert gaps(made).min() > 5 * gaps(rough).min()
    assert gaps(made).std() / gaps(made).mean() < 0.15
    radius = np.linalg.norm(made.positions, axis=1)
    assert radius.min() > 0.97
    np.testing.assert_allclose(np.linalg.norm(made.attribute("point", "normal"), axis=1), 1.0)
    held = ops.relax(rough, ball, where="index > 10")
    assert (held.positions[:11] == rough.positions[:11]).all()
    assert (ops.relax(rough, ball, passes=0).positions == rough.positions).all()


def test_relax_holds_the_border_of_a_mesh(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(6, 6))
    shaken = ops.set_attribute(
        sheet,
        name="position",
        value="position + 0.06 * vec3(noise3(position * 9).x, 0, noise3(position * 7).y)",
        where="not border",
    )
    made = ops.relax(shaken)
    on = sheet.topology.border_points
    assert (made.positions[on] == sheet.positions[on]).all()
    assert gaps(made).std() < gaps(shaken).std()
