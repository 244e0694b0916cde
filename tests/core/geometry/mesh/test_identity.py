"""Stable names: no two alike however often elements are split, and children that are found again."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.geometry.mesh.identity import (
    child_names,
    child_of,
    descendants,
    distinct_names,
    fresh_names,
    hash_in_order,
    hash_pairs,
    twin_of,
)


@given(st.lists(st.lists(st.integers(-1, 5), min_size=1, max_size=40), min_size=1, max_size=5))
def test_names_stay_unique_over_many_splittings(rounds: list[list[int]]) -> None:
    names = fresh_names(6, 3)
    for index in rounds:
        names = child_names(names, np.array(index, np.int32) % (len(names) + 1) - 1, 3)
        assert len(np.unique(names)) == len(names)


@given(st.lists(st.lists(st.integers(0, 30), min_size=1, max_size=30), min_size=1, max_size=4))
def test_every_descendant_is_found_and_nothing_else(rounds: list[list[int]]) -> None:
    first = fresh_names(8, 3)
    names, owner = first, np.arange(8)
    for index in rounds:
        every = np.concatenate([np.arange(len(names)), np.array(index) % len(names)]).astype(np.int32)
        names, owner = child_names(names, every, 3), owner[every]
    assert (descendants(names, first) == owner).all()
    some = first[[5, 2]]
    assert (descendants(names, some) == np.where(owner == 5, 0, np.where(owner == 2, 1, -1))).all()


def test_a_first_child_keeps_its_name_and_others_lead_back() -> None:
    parents = fresh_names(4, 1)
    made = child_names(parents, np.array([2, 2, 0, 2, 2], np.int32), 1)
    assert made[0] == parents[2]
    assert made[2] == parents[0]
    assert [child_of(parents, name, 16) for name in made[[1, 3, 4]]] == [2, 2, 2]
    again = child_names(made, np.array([0, 0, 1, 1], np.int32), 1)
    assert [child_of(made, name, 16) for name in again[[1, 3]]] == [0, 1]


@pytest.mark.parametrize("kind", ["point", "edge", "corner", "face"])
def test_faces_split_three_times_have_names_of_their_own(kind: str) -> None:
    geo = ops.box()
    for _ in range(3):
        geo = ops.split_faces(geo)
    names = geo.identity(kind)  # type: ignore[arg-type]
    assert len(np.unique(names)) == len(names)


def test_random_values_of_split_faces_do_not_repeat() -> None:
    geo = ops.split_faces(ops.split_faces(ops.grid(cells=(4, 4))))
    made = ops.random_values(geo, name="chance", kind="face")
    assert len(np.unique(made.attribute("face", "chance"))) == made.topology.face_count


def test_equal_names_are_told_apart_and_lead_back() -> None:
    names = fresh_names(4, 1)[[0, 1, 0, 2, 0, 1]]
    made = distinct_names(names)
    assert (made[[0, 1, 3]] == names[[0, 1, 3]]).all()
    assert len(np.unique(made)) == 6
    assert [twin_of(names[:4], name, 16) for name in made[[2, 4, 5]]] == [0, 0, 1]
    assert twin_of(names, fresh_names(1, 9)[0], 16) == child_of(names, made[2], 16) == -1
    again = distinct_names(np.concatenate([made, made]))
    assert len(np.unique(again)) == 12


def test_pairs_of_related_names_do_not_meet() -> None:
    """Of a name and another one's child, and the other way round: sums of hashes once cancelled out."""
    a = fresh_names(2, 1)
    children = child_names(a, np.array([0, 0, 1, 1], np.int32), 1)[[1, 3]]
    for hashed in (hash_pairs, hash_in_order):
        assert len(np.unique(hashed(np.append(children[::-1], children), np.append(a, a)))) == 4
    assert hash_pairs(a[:1], a[1:]) == hash_pairs(a[1:], a[:1])
    assert hash_in_order(a[:1], a[1:]) != hash_in_order(a[1:], a[:1])
