"""Rays: what they hit first, the same in both back ends."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.questions.asking import value
from tests.core.language.studio import reef, same
from tests.core.language.studio import sheet as studio_sheet


def test_rays_hit_what_is_above(sheet: Geo, ball: Geo) -> None:
    hit = value("ball.ray(position, vec3(0, 1, 0)).found", sheet, ball)
    inside = np.linalg.norm(sheet.positions[:, [0, 2]], axis=1) < 0.28
    np.testing.assert_array_equal(hit, inside)


@pytest.mark.parametrize("direction", ["(0, 1, 0)", "normal", "(0, 0, 0)"])
def test_rays(direction: str) -> None:
    text = (
        f"reef: geometry\np = reef.ray(position - vec3(0, 2, 0), {direction})\nhere.found = p.found\n"
        "here.far = p.distance\nhere.face = p.face\nhere.tone = p.tone"
    )
    inputs = {"reef": reef()}
    made = run_interpreted(studio_sheet(), text, inputs=inputs)
    same(run_script(studio_sheet(), text, inputs=inputs, backend="vector"), made)
    missed = ~made.attribute("point", "found")
    assert (made.attribute("point", "far")[missed] == -1).all()
    assert (made.attribute("point", "face")[missed] == -1).all()
