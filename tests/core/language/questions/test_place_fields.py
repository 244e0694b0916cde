"""What is read of places: the same in both back ends, on faces, curves and points, found or not."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.language.script import run_script
from tests.core.language.programs.interpreted import run_interpreted
from tests.core.language.studio import reef, same, sheet

OTHERS = {"reef": reef(), "rope": ops.circle(radius=0.4), "dots": Geo.of(np.eye(3)), "none": Geo.empty()}


@pytest.mark.parametrize("other", ["reef", "rope", "dots"])
@pytest.mark.parametrize("reach", ["", ", 0.2"])
@pytest.mark.parametrize("how", ["closest", "nearest"])
def test_every_field_of_a_place(other: str, reach: str, how: str) -> None:
    text = (
        f"{other}: geometry\np = {other}.{how}(position{reach})\nhere.found = p.found\nhere.far = p.distance\n"
        "here.at = p.position\nhere.n = p.normal"
    )
    inputs = {other: OTHERS[other]}
    same(run_script(sheet(), text, inputs=inputs, backend="vector"), run_interpreted(sheet(), text, inputs=inputs))
