"""Effects of a script, put in the order of the elements that did them."""

import numpy as np
import pytest

from reticula.core.errors import LimitError
from reticula.core.language import effects
from reticula.core.language.effects import Log
from reticula.core.language.types import NUMBER


def ints(*numbers: int) -> np.ndarray:
    return np.array(numbers, np.int64)


def test_points_come_in_the_order_of_their_makers_and_chains_follow_them() -> None:
    log = Log({})
    first = log.number("point", 2)
    log.note("point", ints(5, 3), np.array([[5.0, 0, 0], [3.0, 0, 0]]), ints(-1, -1))
    second = log.number("point", 1)
    log.note("point", ints(1), np.array([[1.0, 0, 0]]), ints(-1))
    assert (first.tolist(), second.tolist()) == ([-1, -2], [-3])
    log.number("curve", 1)
    log.note("curve", ints(1), ints(3), ints(1))
    log.note("curve points", ints(-1, -2, -3))
    done = log.finished()
    assert done.position[:, 0].tolist() == [1, 3, 5]
    curve = done.chains["curve"]
    assert curve.points.tolist() == [-3, -2, -1], "5 stands last now, 1 first"
    assert curve.closed.tolist() == [True]
    assert done.changes_topology


def test_what_one_element_does_stays_in_its_order() -> None:
    log = Log({("point", "heat", False): NUMBER})
    for value in (1.0, 2.0):
        log.note("point.heat =", ints(4, 2), ints(7, 7), np.array([[value], [10 * value]]))
    given = log.finished().given["point", "heat", False]
    assert given.by.tolist() == [2, 2, 4, 4]
    assert given.value[:, 0].tolist() == [10, 20, 1, 2]


def test_nothing_done_changes_nothing() -> None:
    assert not Log({}).finished().changes_topology


def test_positions_of_made_points_can_be_read_on_the_way() -> None:
    log = Log({})
    for n in range(5):
        log.note("point", ints(0), np.full((1, 3), float(n)), ints(-1))
        assert log.positions()[:, 0].tolist() == list(range(n + 1))


def test_too_much_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(effects, "MOST_MADE", 3)
    log = Log({})
    with pytest.raises(LimitError, match="let it do less"):
        log.note("point", np.zeros(4, np.int64), np.zeros((4, 3)), np.zeros(4, np.int64))
