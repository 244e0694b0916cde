"""Displace: move points by any value: a number along normals or a direction, or a vector."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


def test_displace_by_number_and_vector(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    made = ops.displace(sheet, value="position.x", amount=2.0, middle=0.5)
    np.testing.assert_allclose(made.positions[:, 1], 2 * (sheet.positions[:, 0] - 0.5))
    aside = ops.displace(sheet, value="vec3(1, 0, 0)", amount=0.5, where="position.x > 0.1")
    np.testing.assert_allclose(aside.bounds[1, 0], 1.0)
    up = ops.displace(sheet, value=1, amount=0.05, along="direction", direction=(0, 0, 3))
    np.testing.assert_allclose(up.positions[:, 2] - sheet.positions[:, 2], 0.05)
    with pytest.raises(ParameterError, match="a number or a vec3 can move points"):
        ops.displace(sheet, value="position.x > 0")
    felt = ops.displace(
        sheet, ops.transform(ops.grid(), move=(0, 2, 0)), value="source.closest(position).distance", amount=0.05
    )
    np.testing.assert_allclose(felt.positions[:, 1], 0.1)
