"""The tree of boxes over triangles."""

import numpy as np
import pytest

from reticula.core.spatial.tree import build_tree


@pytest.mark.parametrize("count", [1, 2, 5, 300])
def test_every_triangle_is_in_one_leaf_and_in_its_box(count: int) -> None:
    corner = np.random.default_rng(count).random((count, 3, 3))
    tree = build_tree(corner)
    assert np.array_equal(np.sort(tree.order), np.arange(count))
    assert np.array_equal(tree.corner, corner[tree.order])
    leaves = np.flatnonzero(tree.size > 0)
    assert tree.size[leaves].sum() == count
    for leaf in leaves:
        held = tree.corner[tree.first[leaf] : tree.first[leaf] + tree.size[leaf]].reshape(-1, 3)
        assert (held >= tree.box[leaf, :3]).all()
        assert (held <= tree.box[leaf, 3:]).all()
    for parent in np.flatnonzero(tree.size == 0):
        for child in (tree.first[parent], tree.first[parent] + 1):
            assert (tree.box[child, :3] >= tree.box[parent, :3]).all()
            assert (tree.box[child, 3:] <= tree.box[parent, 3:]).all()


def test_equal_triangles_do_not_split_without_end() -> None:
    tree = build_tree(np.zeros((500, 3, 3)))
    assert np.array_equal(np.sort(tree.order), np.arange(500))
