"""Pull apart: move each part away from a centre."""

import numpy as np

from reticula.core import ops


class TestPullApart:
    def test_pull_apart_by_pieces_and_labels(self) -> None:
        two = ops.join(ops.transform(ops.box(), move=(-1, 0, 0)), ops.transform(ops.box(), move=(1, 0, 0)))
        made = ops.pull_apart(two, amount=1)
        assert made.bounds[:, 0].tolist() == [-2.5, 2.5]
        assert np.array_equal(made.attribute("point", "rest"), two.positions)
        only = ops.pull_apart(two, amount="piece", keep_rest=False)
        assert only.bounds[:, 0].tolist() == [-1.5, 2.5]
        assert ops.pull_apart(two, where="position.x > 0", amount=1).bounds[:, 0].tolist() == [-1.5, 2.5]
