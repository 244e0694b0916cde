"""What is sought: formulas over variants, how far they are from it, and which are best."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.nesting.contracts import BROKEN_PROMISE
from reticula.many.aims import Aim, Seek, best_of
from reticula.many.sheet import Plan

ROWS: list[dict[str, Any]] = [
    {"lift": 0.5, "kind": "round", "volume": 2.0, "geo.top": 1.0},
    {"lift": 1.5, "kind": "flat", "volume": 4.0, "geo.top": None},
]


def test_aims_read_values_and_numbers_and_what_is_noted_on_the_whole() -> None:
    seek = Seek((Aim("volume / lift", "largest"), Aim("geo.top", "at", 3.0)))
    values = seek.values(ROWS)
    np.testing.assert_allclose(values, [[4.0, 1.0], [4 / 1.5, np.nan]])
    np.testing.assert_allclose(seek.losses(values), [[-4.0, 2.0], [-4 / 1.5, np.nan]])
    assert seek.numbers_beside(()) == {"volume": "volume", "geo.top": "geo.top"}


@pytest.mark.parametrize(
    ("condition", "lack"),
    [
        ("volume < 3", [0, 1 / 7]),
        ("3 <= volume", [1 / 5, 0]),
        ("volume >= 3 and lift > 1", [1 / 5 + 0.5 / 1.5, 0]),
        ("volume == 4", [2 / 6, 0]),
        ("volume < 2", [1e-9, 2 / 6]),
        ("kind == 'round'", [0, 1]),
        ("not (lift > 1)", [0, 1]),
        ("geo.top > 2", [1 / 3, 1]),
        ("1 < 2 < 3 and geo.top < 5 and lift < 1", [0, 1 + 0.5 / 2.5]),
        ("not (geo.top < 0)", [0, 1]),
    ],
)
def test_conditions_say_by_how_much_they_are_not_met(condition: str, lack: list[float]) -> None:
    rows = [{**one, "not (geo.top < 0)": holds} for one, holds in zip(ROWS, (1.0, None), strict=True)]
    np.testing.assert_allclose(Seek((Aim("volume"),), (condition,)).excess(rows, [(), ()]), lack)


def test_what_conditions_read_of_the_whole_is_noted() -> None:
    seek = Seek((Aim("lift"),), ("geo.top + 1 < area and lift > 0", "geo.top in (1, 2)"))
    assert seek.numbers_beside(()) == {
        "area": "area",
        "geo.top + 1": "geo.top + 1",
        "geo.top in (1, 2)": "1 if geo.top in (1, 2) else 0",
    }


def test_what_cannot_be_had_does_not_meet_a_condition() -> None:
    rows = [{"volume": None, "lift": 1.0}, {"volume": 1.0, "lift": 1.0}]
    np.testing.assert_array_equal(
        Seek((Aim("1 / (volume - lift)"),)).values([*rows, {"volume": 2.0, "lift": 1.0}]).T, [[np.nan, np.nan, 1.0]]
    )
    np.testing.assert_array_equal(Seek((Aim("lift"),), ("volume < 2",)).excess(rows, [(), ()]), [1, 0])


def test_a_broken_promise_is_a_condition_that_is_not_met() -> None:
    told = [[f"tile: {BROKEN_PROMISE}: it has no open border."], ["tile: something else"]]
    np.testing.assert_array_equal(Seek((Aim("lift"),)).excess(ROWS, told), [1, 0])


def test_choices_and_flags_are_compared() -> None:
    seek = Seek((Aim("volume"),), ("kind == 'round'", "closed", "geo.high.y < lift"))
    seek.check({"lift": 1.0, "kind": "round", "closed": True, "volume": 1.0})


@pytest.mark.parametrize(
    ("aims", "conditions", "words"),
    [
        ((), (), "these are 0 aims"),
        ((Aim("weight"),), (), r"aim 'weight': .* It reads lift, kind, volume, and formulas on geo"),
        ((Aim("lift +"),), (), r"aim 'lift \+'"),
        ((Aim("lift"),), ("lift",), "condition 'lift'"),
        ((Aim("lift"),), ("lift <",), "condition 'lift <'"),
        ((Aim("volume"),), ("depth < 2",), "It reads lift, kind, volume, and formulas on geo"),
        ((Aim("lift"),), ("a = 1\na < lift",), "say it in one line"),
        ((Aim("lift"),) * 4, (), "these are 4 aims; seek 1 to 3"),
    ],
)
def test_what_cannot_be_sought_is_said(aims: tuple[Aim, ...], conditions: tuple[str, ...], words: str) -> None:
    with pytest.raises(GraphError, match=words):
        Seek(aims, conditions).check({"lift": 1.0, "kind": "round", "volume": 1.0})


def test_the_best_of_several_aims_are_those_that_none_beats() -> None:
    losses = np.array([[1, 4], [2, 2], [4, 1], [3, 3], [2, 2], [0, 0], [np.nan, 0]], float)
    excess = np.array([0, 0, 0, 0, 0, 0.1, 0])
    np.testing.assert_array_equal(np.flatnonzero(best_of(losses, excess)), [0, 1, 2])
    np.testing.assert_array_equal(np.flatnonzero(best_of(losses, excess + 1)), [0])
    assert not best_of(np.full((3, 1), np.nan), np.zeros(3)).any()
    assert best_of(np.zeros((0, 1)), np.zeros(0)).shape == (0,)


def test_the_front_is_what_comparing_all_pairs_says() -> None:
    random = np.random.default_rng(3)
    losses = random.integers(0, 12, (300, 3)).astype(float)
    best = best_of(losses, np.zeros(300))
    seen = set()
    for at, one in enumerate(losses):
        beaten = any((other <= one).all() and (other < one).any() for other in losses)
        assert best[at] == (not beaten and tuple(one) not in seen)
        seen.add(tuple(one))


def test_a_plan_comes_back_from_plain_data() -> None:
    plan = Plan({"lift": "uniform(0, 1)"}, seek=Seek((Aim("volume"), Aim("lift", "at", 2.0)), ("area > 1",)))
    assert Plan.of(plan.plain()).plain() == plan.plain()
    assert plan.noted == {"area": "area", "volume": "volume"}
    mine = Plan({"area": "1,2"}, numbers={"volume": "geo.size"}, seek=plan.seek)
    assert mine.noted == {"volume": "geo.size"}, "a dial or number of that name is meant"
    assert Plan.of(Plan({"lift": "1"}).plain()).seek is None
