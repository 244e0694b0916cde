"""Picked points and edges that were split: copies in the same place, parts that lie on the edge, and nothing else."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.operators.shared.followed_picks import copies_of_points, have_copies, parts_of_edges


def ends_of(geo: Geo, *edges: int) -> np.ndarray:  # type: ignore[type-arg]
    return geo.identity("point")[geo.topology.edges[list(edges)]]


def picked_edges(geo: Geo, *edges: int) -> list[str]:
    names = geo.identity("edge")[list(edges)].tolist()
    return [
        f"{name:x}:{low:x}:{high:x}" for name, (low, high) in zip(names, ends_of(geo, *edges).tolist(), strict=True)
    ]


def lies_on(geo: Geo, low: np.ndarray, high: np.ndarray) -> np.ndarray:  # type: ignore[type-arg]
    """Which edges lie on the straight line between two places."""
    way = (high - low) / np.linalg.norm(high - low)
    off = geo.positions - low
    along = off @ way
    near = (np.linalg.norm(off - along[:, None] * way, axis=1) < 1e-9) & (along > -1e-9)
    near &= along < np.linalg.norm(high - low) + 1e-9
    return near[geo.topology.edges].all(axis=1)


MESHES = {
    "quads": ops.box(cells=(2, 2, 2)),
    "triangles": ops.triangulate(ops.grid(cells=(3, 3))),
    "polygons": ops.dual(ops.box(cells=(2, 2, 2))),
}


@pytest.mark.parametrize("levels", [1, 2, 3])
@pytest.mark.parametrize("into", ["quads", "triangles"])
@pytest.mark.parametrize("mesh", MESHES)
def test_the_parts_of_an_edge_are_those_that_lie_on_it(mesh: str, into: str, levels: int) -> None:
    whole = MESHES[mesh]
    chosen = [0, 3, 7]
    split = ops.split_faces(whole, levels=levels, into=into)
    found = parts_of_edges(split, ends_of(whole, *chosen))
    for number, edge in enumerate(chosen):
        low, high = whole.positions[whole.topology.edges[edge]]
        assert np.array_equal(found == number, lies_on(split, low, high))
        assert (found == number).sum() == 2**levels


def test_an_edge_is_followed_through_a_cut_and_a_smooth_surface() -> None:
    box = ops.box()
    upright = int(np.flatnonzero(np.ptp(box.positions[box.topology.edges][:, :, 1], axis=1) > 0.5)[0])
    cut = ops.slice(box, keep="joined", through=(0, 0.1, 0), direction=(0, 1, 0))[0]
    assert (parts_of_edges(cut, ends_of(box, upright)) == 0).sum() == 2
    smooth = ops.smooth_subdivide(box, levels=3)
    assert (parts_of_edges(smooth, ends_of(box, upright)) == 0).sum() == 8


def test_both_sides_of_an_edge_that_was_parted_are_its_parts() -> None:
    box = ops.box()
    found = parts_of_edges(ops.unshare(box), ends_of(box, 0, 5))
    assert np.bincount(found + 1)[1:].tolist() == [2, 2]


def test_an_edge_without_an_end_has_no_parts() -> None:
    box = ops.box()
    gone = ops.remove(box, kind="point", where="index == 0")
    lost = int(np.flatnonzero((box.topology.edges == 0).any(axis=1))[0])
    assert (parts_of_edges(gone, ends_of(box, lost)) == -1).all()
    assert (parts_of_edges(Geo.empty(), ends_of(box, lost)) == -1).all()
    assert (parts_of_edges(box, np.zeros((0, 2), np.uint64)) == -1).all()


def test_copies_of_a_point_lie_where_it_lies() -> None:
    box = ops.box(cells=(2, 2, 2))
    name = box.identity("point")[[0]]
    assert (copies_of_points(ops.unshare(box), name) == 0).sum() == 3
    assert (copies_of_points(ops.split_faces(box, levels=2), name) == 0).sum() == 1
    assert (copies_of_points(ops.extrude(box, where="index == 0", keep_base=True), name) == 0).sum() == 1
    assert (copies_of_points(ops.bevel(box, width=0.05), name) == 0).sum() > 1, (
        "it is gone: what came from it stands for it"
    )
    apart = ops.unshare(box)
    assert have_copies(apart, name, np.flatnonzero(apart.identity("point") == name[0])).tolist() == [True]
    assert have_copies(box, name, np.array([0])).tolist() == [False]
    nothing = np.zeros(0, np.uint64)
    assert (copies_of_points(box, nothing) == -1).all()
    assert have_copies(box, nothing, np.zeros(0, np.int64)).tolist() == []


def test_picked_points_and_edges_are_followed_by_the_operator(notes: list[Note]) -> None:
    box = ops.box(cells=(2, 2, 2))
    edges = picked_edges(box, 0, 3)
    split = ops.split_faces(box, levels=2)
    assert ops.group_picked(split, kind="edge", elements=edges).group("edge", "picked").sum() == 8
    assert ops.group_picked(box, kind="edge", elements=edges).group("edge", "picked").sum() == 2
    alone = ops.group_picked(split, kind="edge", elements=[one.partition(":")[0] for one in edges])
    assert alone.group("edge", "picked").sum() == 0
    said = " ".join(note.text for note in notes)
    assert "2 of 2 picked edges are not there any more" in said
    assert "2 of 2 picked edges were split since; all their 8 parts are taken" in said
    points = [f"{box.identity('point')[0]:x}+"]
    assert ops.group_picked(ops.unshare(box), kind="point", elements=points).group("point", "picked").sum() == 3
    assert ops.group_picked(split, kind="point", elements=points).group("point", "picked").sum() == 1
