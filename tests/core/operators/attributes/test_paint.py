"""Paint: strokes, modes, pressure, mirroring; and that strokes stay in their place when the mesh changes."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, ReticulaWarning
from reticula.core.errors import ParameterError
from reticula.core.operators.shared.strokes.anchors import anchors_of

SHEET = ops.grid(size=(2, 2), cells=(20, 20))


def stroke(*places: tuple[float, float], radius: float = 0.3, pressure: float = 1.0, **more: Any) -> dict[str, Any]:
    return {"dabs": [[x, 0.0, z, pressure] for x, z in places], "radius": radius, **more}


def painted(*strokes: dict[str, Any], geo: Geo = SHEET, **parameters: Any) -> np.ndarray:  # type: ignore[type-arg]
    made = ops.paint(geo, strokes=list(strokes), **parameters)
    return made.attribute(parameters.get("kind", "point"), "painted")


def at(geo: Geo, x: float, z: float) -> int:
    return int(np.linalg.norm(geo.positions - [x, 0, z], axis=1).argmin())


def test_a_stroke_is_full_in_the_middle_and_fades_to_its_rim(notes: list[Note]) -> None:
    values = painted(stroke((0, 0), value=2.0))
    far = np.linalg.norm(SHEET.positions, axis=1)
    assert values[at(SHEET, 0, 0)] == 2.0
    assert (values[far > 0.3] == 0).all()
    order = np.argsort(far)
    assert (np.diff(values[order]) <= 1e-12).all()
    near = 1 - 0.1 / 0.3
    assert values[at(SHEET, 0.1, 0)] == pytest.approx(2.0 * near * near * (3 - 2 * near))
    assert set(np.unique(painted(stroke((0, 0), hard=True)))) == {0.0, 1.0}


def test_modes(notes: list[Note]) -> None:
    middle = at(SHEET, 0, 0)
    twice = [stroke((0, 0), value=0.5, mode="add")] * 2
    assert painted(*twice)[middle] == pytest.approx(1.0)
    assert painted(stroke((0, 0)), stroke((0, 0), mode="erase"), start=0.25)[middle] == pytest.approx(0.25)
    rough = painted(stroke((0, 0), radius=0.05, hard=True))
    smooth = painted(stroke((0, 0), radius=0.05, hard=True), stroke((0, 0), radius=0.5, mode="smooth"))
    assert smooth.max() < rough.max()
    assert (smooth > 0).sum() > (rough > 0).sum()
    assert painted(stroke((0, 0), pressure=0.25, strength=0.5))[middle] == pytest.approx(0.125)
    mirrored = painted(stroke((0.6, 0.2), mirror=True))
    assert mirrored[at(SHEET, -0.6, 0.2)] == mirrored[at(SHEET, 0.6, 0.2)] == 1.0


def test_groups_and_colours(notes: list[Note]) -> None:
    members = painted(stroke((0, 0)), stroke((0.2, 0), radius=0.15, mode="erase"), holds="flag", kind="face")
    assert members.dtype == bool
    assert 0 < members.sum() < 400
    colors = painted(stroke((0, 0), color=[1, 0, 0, 0.5]), holds="color")
    assert colors[at(SHEET, 0, 0)].tolist() == [1, 0, 0, 0.5]
    assert colors[at(SHEET, 1, 1)].tolist() == [1, 1, 1, 1]


def test_what_was_there_is_painted_over_and_comes_back(notes: list[Note]) -> None:
    warm = ops.set_attribute(SHEET, name="painted", value="position.x")
    middle = at(SHEET, 0.5, 0)
    assert painted(stroke((0.5, 0)), geo=warm)[middle] == 1.0
    assert painted(stroke((0.5, 0)), stroke((0.5, 0), mode="erase"), geo=warm)[middle] == pytest.approx(0.5)
    words = ops.set_attribute(SHEET, name="painted", value="'sand'")
    painted(stroke((0, 0)), geo=words)
    assert any("was a text, so the paint begins anew" in note.text for note in notes)


def test_strokes_stay_in_their_place_when_the_mesh_changes(notes: list[Note]) -> None:
    finer = ops.grid(size=(2, 2), cells=(40, 40))
    line = stroke((-0.5, 0.3), (0.0, 0.3), (0.5, 0.3))
    coarse, fine = painted(line), painted(line, geo=finer)
    for x, z in ((-0.5, 0.3), (0.5, 0.3), (0.9, -0.9)):
        assert coarse[at(SHEET, x, z)] == pytest.approx(fine[at(finer, x, z)])
    painted(line, geo=ops.transform(SHEET, move=(0, 5, 0)))
    assert any("No stroke meets this shape" in note.text for note in notes)


@pytest.mark.parametrize(
    ("strokes", "message"),
    [
        ("x", "takes up to 2,000 strokes"),
        ([{}], "stroke 1 has no dabs"),
        ([{"dabs": [[0, 0, 0]]}], "a dab has four numbers"),
        ([{"dabs": [[0, 0, 0, float("nan")]]}], "takes finite numbers"),
        ([{"dabs": [[0, 0, 0, 1]], "mode": "splash"}], "the mode is one of replace"),
        ([{"dabs": [[0, 0, 0, 1]], "radius": 0}], "radius must be above 0"),
    ],
)
def test_broken_strokes_are_refused(strokes: Any, message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        ops.paint(SHEET, strokes=strokes)


def test_a_touch_up_survives_a_new_transfer(notes: list[Note]) -> None:
    """Values are carried from a source, painted over in one place, and carried again from a source that changed."""
    touch_up = stroke((0.5, 0.5), radius=0.3, value=9.0)

    def worked(source: Geo) -> np.ndarray:  # type: ignore[type-arg]
        carried = ops.transfer_attribute(SHEET, source, attributes="heat")
        made = ops.paint(carried, name="heat", strokes=[touch_up])
        return np.asarray(made.attribute("point", "heat"))

    low = ops.set_attribute(ops.grid(size=(3, 3)), name="heat", value="position.x")
    high = ops.set_attribute(ops.grid(size=(3, 3), cells=(14, 9)), name="heat", value="position.x + 5")
    far = np.linalg.norm(SHEET.positions - [0.5, 0, 0.5], axis=1) > 0.3
    before, after = worked(low), worked(high)
    assert np.allclose(before[far], SHEET.positions[far, 0], atol=1e-9)
    assert np.allclose(after[far], SHEET.positions[far, 0] + 5, atol=1e-9)
    middle = at(SHEET, 0.5, 0.5)
    assert before[middle] == after[middle] == 9.0
    assert (before[~far] > SHEET.positions[~far, 0]).all()


def test_a_held_stroke_follows_what_moves_bends_and_grows() -> None:
    ball = ops.geodesic_sphere(frequency=8)
    place = ball.positions[7] * 0.999
    anchors, own = anchors_of(ball, place[None])
    held = {"dabs": [[*own[0], 1.0]], "anchors": anchors, "radius": 0.4}
    before = painted(held, geo=ball)
    assert before[7] > 0.9
    for moved in (
        ops.transform(ball, scale=(5, 5, 5), move=(9, 0, 0), turn=(10, 50, 0)),
        ops.set_place(ball, scale=(3, 3, 3), move=(1, 2, 3)),
    ):
        np.testing.assert_allclose(painted(held, geo=moved), before, atol=0.01)
    bent = ball.with_positions(ball.positions + 0.4 * np.sin(3 * ball.positions[:, [1]]) * [1.0, 0, 0])
    assert np.abs(painted(held, geo=bent) - before).max() < 0.25
    loose = {**held, "anchors": []}
    with pytest.warns(ReticulaWarning, match="No stroke meets"):
        assert not painted(loose, geo=ops.transform(ball, move=(9, 0, 0))).any()


def test_a_stroke_in_the_world_meets_a_shape_that_stands_elsewhere() -> None:
    placed = ops.set_place(SHEET, move=(5, 0, 0), scale=(2, 2, 2))
    drawn = painted({"dabs": [[5.0, 0.0, 0.0, 1.0]], "world": True, "radius": 0.6}, geo=placed)
    np.testing.assert_allclose(drawn, painted(stroke((0, 0))))


@pytest.mark.parametrize("anchors", [["a"], [["1", 0, 1, 2, 0.2, 0.2, 1.0]] * 2])
def test_a_broken_anchor_is_refused(anchors: list[Any]) -> None:
    with pytest.raises(ParameterError, match="anchor"):
        painted({**stroke((0, 0)), "anchors": anchors})
