"""Tries that are asked for: the same for the same seed, within what is given, and better with time."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
import pytest

from reticula.core.errors import GraphError
from reticula.many.aims import Aim, Seek, best_of
from reticula.many.choices import choice_of_text
from reticula.many.search import AT_ONCE, MOST_TRIES, Search
from reticula.many.tries import best_so_far


def search(vary: Mapping[str, str], *, whole: tuple[str, ...] = (), **given: Any) -> Search:
    choices = {name: choice_of_text(text) for name, text in vary.items()}
    return Search(choices, frozenset(whole), **{"aims": 1, "tries": 64, **given})


def gone_through(asks: Search, loss: Callable[..., float]) -> list[dict[str, Any]]:
    """Go through a search of one aim; return all tries with what they lose."""
    made = []
    while asked := asks.ask():
        losses = [loss(**one) for one in asked]
        made += [{**one, "loss": value} for one, value in zip(asked, losses, strict=True)]
        asks.tell(np.array(losses)[:, None], np.zeros(len(asked)))
    return made


def bowl(x: float, y: float = 0.0) -> float:
    return (x - 0.3) ** 2 + (y + 0.2) ** 2


@pytest.mark.parametrize("vary", [{"x": "uniform(-1, 1)"}, {"x": "uniform(-1, 1)", "y": "uniform(-1, 1)"}])
def test_the_same_seed_asks_for_the_same(vary: dict[str, str]) -> None:
    first = gone_through(search(vary), bowl)
    assert gone_through(search(vary), bowl) == first
    assert gone_through(search(vary, seed=1), bowl) != first
    assert len(first) == 64
    assert min(one["loss"] for one in first[32:]) < min(one["loss"] for one in first[:16])


def test_values_are_those_that_were_given() -> None:
    vary = {"x": "uniform(2, 3)", "n": "uniform(1.5, 4.5)", "k": "a,b", "steps": "0:1:5", "one": "7", "o": "oneof(3,1)"}
    made = gone_through(search(vary, whole=("n",)), lambda x, n, k, steps, one, o: x + n + (k == "a") + steps - o)
    assert all(2 <= one["x"] <= 3 for one in made)
    assert {one["n"] for one in made} <= {2, 3, 4}
    assert {one["k"] for one in made} == {"a", "b"}
    assert {one["steps"] for one in made} <= {0.0, 0.25, 0.5, 0.75, 1.0}
    assert {one["one"] for one in made} == {7}
    assert [*made[0]][:-1] == [*vary]
    best = min(made, key=lambda one: one["loss"])
    assert (best["n"], best["k"], best["o"]) == (2, "b", 3)


def test_numbers_that_cannot_be_had_do_not_end_it() -> None:
    vary = {"x": "uniform(-1, 1)", "y": "uniform(-1, 1)"}
    made = gone_through(search(vary), lambda x, y: np.nan if x < 0 else bowl(x, y))
    assert len(made) == 64
    assert np.nanmin([one["loss"] for one in made]) < 0.02
    assert len(gone_through(search(vary), lambda x, y: np.nan)) == 64


@pytest.mark.parametrize(
    ("vary", "given", "words"),
    [
        ({}, {}, "say what is turned"),
        ({"x": "normal(0, 1)"}, {}, "'x': seeking needs ends"),
        ({"x": "uniform(0.2, 0.8)"}, {"whole": ("x",)}, "no whole number from 0.2 to 0.8"),
        ({"x": "1,2"}, {"tries": MOST_TRIES + 1}, "these are 2,001 tries"),
    ],
)
def test_what_cannot_be_sought_is_said(vary: dict[str, str], given: dict[str, Any], words: str) -> None:
    with pytest.raises(GraphError, match=words):
        search(vary, **given)


def test_conditions_come_before_aims() -> None:
    seek = Seek((Aim("x + y"),), ("x >= 0.5",))
    asks = search({"x": "uniform(0, 1)", "y": "uniform(0, 1)"}, tries=120)

    def make(asked: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [{"state": "done", "numbers": {}} for _ in asked]

    *_, (best,) = best_so_far(asks, seek, ["x", "y"], make)
    assert best["x"] == pytest.approx(0.5, abs=0.02)
    assert best["y"] == pytest.approx(0, abs=0.02)


def test_what_was_made_by_the_time_it_is_stopped_counts() -> None:
    asks, left = search({"x": "uniform(-1, 1)", "y": "uniform(-1, 1)"}), 19

    def make(asked: list[dict[str, Any]]) -> list[dict[str, Any] | None]:
        nonlocal left
        made = asked[:left]
        left -= len(made)
        tries.extend(made)
        return [{"state": "done", "numbers": {}} if one in made else None for one in asked]

    tries: list[dict[str, Any]] = []
    rounds = list(best_so_far(asks, Seek((Aim("(x - 0.3) ** 2 + (y + 0.2) ** 2"),)), ["x", "y"], make))
    assert (len(tries), len(rounds)) == (19, 1 + 19 // AT_ONCE)
    assert rounds[-1] == [min(tries, key=lambda one: bowl(**one))]


def test_failed_tries_are_never_best() -> None:
    asks = search({"x": "uniform(0, 1)"}, tries=24)
    failed = {"state": "failed", "warnings": []}

    def make(asked: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [failed if one["x"] < 0.5 else {"state": "done", "numbers": {}} for one in asked]

    *_, (best,) = best_so_far(asks, Seek((Aim("x"),)), ["x"], make)
    assert 0.5 <= best["x"] < 0.7


def test_a_search_whose_tries_all_fail_ends_with_none_best() -> None:
    asks = search({"x": "uniform(0, 1)", "y": "uniform(0, 1)"}, tries=40)
    seek = Seek((Aim("area / x"),), ("volume < y",))
    rounds = list(
        best_so_far(asks, seek, ["x", "y", "area", "volume"], lambda asked: [{"state": "failed"}] * len(asked))
    )
    assert rounds == [[]] * 5


def test_the_best_by_now_are_those_of_all_tries() -> None:
    asks, seek = search({"x": "uniform(0, 1)", "y": "uniform(0, 1)"}, tries=96, aims=2), Seek((Aim("x"), Aim("y")))
    made: list[dict[str, Any]] = []

    def make(asked: list[dict[str, Any]]) -> list[dict[str, Any]]:
        made.extend(asked)
        return [{"state": "done", "numbers": {}} for _ in asked]

    for best in best_so_far(asks, seek, ["x", "y"], make):
        losses = np.array([[one["x"], one["y"]] for one in made])
        assert best == [made[at] for at in np.flatnonzero(best_of(losses, np.zeros(len(made))))]
