"""Inside or not, and how often a surface goes round, the same in both back ends."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.questions.asking import value
from tests.core.language.studio import reef, same
from tests.core.language.studio import sheet as studio_sheet


def test_what_is_inside(sheet: Geo, ball: Geo) -> None:
    assert value("ball.inside(vec3(0, 0.5, 0))", sheet, ball).all()
    assert not value("ball.inside(position)", sheet, ball).any()
    np.testing.assert_allclose(value("ball.winding(vec3(0, 0.5, 0))", sheet, ball), 1.0, atol=0.03)


@pytest.mark.parametrize("what", ["inside", "winding"])
def test_inside(what: str) -> None:
    text = f"reef: geometry\nhere.a = reef.{what}(position)"
    inputs = {"reef": reef()}
    same(
        run_script(studio_sheet(), text, inputs=inputs, backend="vector"),
        run_interpreted(studio_sheet(), text, inputs=inputs),
    )
