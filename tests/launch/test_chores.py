"""Chores are tried for ever, with growing pauses, and say why; none holds up another."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.launch import chores as module
from reticula.launch.chores import PAUSES, STEADY, Chore
from reticula.store.database import NewerData


class Clock:
    """A clock that stands still until it is turned."""

    now = 1000.0

    def monotonic(self) -> float:
        return self.now


@pytest.fixture
def clock(monkeypatch: pytest.MonkeyPatch) -> Clock:
    made = Clock()
    monkeypatch.setattr(module, "time", made)
    return made


class Part:
    """Something that runs once it was started, and fails to start as often as it is told to."""

    def __init__(self, fails: int = 0, error: Exception | None = None) -> None:
        self.runs, self.fails, self.started = False, fails, 0
        self.error = error or OSError("no such file")
        self.told: list[tuple[str, str, float]] = []
        self.ended: list[str] = []
        self.chore = Chore("the part", lambda: not self.runs, self.start, self.tell, self.ended.append)

    def start(self) -> None:
        self.started += 1
        if self.fails:
            self.fails -= 1
            raise self.error
        self.runs = True

    def tell(self, what: str, error: Exception, seconds: float) -> None:
        self.told.append((what, str(error), seconds))


def test_pauses_grow_up_to_the_longest_and_nothing_is_done_in_them(clock: Clock) -> None:
    part = Part(fails=9)
    while not part.chore.see_to_it():
        tries = part.started
        if part.runs:
            break
        clock.now += part.told[-1][2] - 0.01
        assert not part.chore.see_to_it()
        assert part.started == tries, "it is not tried before its pause is over"
        clock.now += 0.02
    assert [seconds for _, _, seconds in part.told] == [*PAUSES, PAUSES[-1], PAUSES[-1]]
    assert part.told[0][:2] == ("the part", "no such file")
    assert part.ended == []


def test_what_ended_is_started_again_and_said_once(clock: Clock) -> None:
    part = Part()
    assert part.chore.see_to_it()
    part.runs, part.fails = False, 2
    for _ in range(20):
        part.chore.see_to_it()
        clock.now += 1.0
    assert part.runs
    assert part.ended == ["the part"]
    assert [seconds for _, _, seconds in part.told] == [0.5, 1.0]


def test_once_it_was_done_pauses_begin_anew(clock: Clock) -> None:
    part = Part()
    for _ in range(3):
        part.runs, part.fails = False, 2
        while not part.chore.see_to_it():
            clock.now += 0.25
    assert [seconds for _, _, seconds in part.told] == [0.5, 1.0] * 3


def test_after_a_quiet_while_pauses_begin_anew(clock: Clock) -> None:
    part = Part(fails=4)
    for _ in range(4):
        part.chore.see_to_it()
        clock.now += STEADY + 1
    assert [seconds for _, _, seconds in part.told] == [PAUSES[0]] * 4


def test_one_that_fails_holds_up_no_other(clock: Clock) -> None:
    broken, well = Part(fails=100), Part()
    for _ in range(50):
        for part in (broken, well):
            part.chore.see_to_it()
        well.runs = False
        clock.now += 0.25
    assert well.started == 50
    assert broken.started < 10


def test_what_goes_over_never_is_not_tried_again(clock: Clock) -> None:
    part = Part(fails=1, error=NewerData("newer"))
    with pytest.raises(NewerData):
        part.chore.see_to_it()


def test_it_waits_for_what_it_needs(clock: Clock) -> None:
    there: list[Any] = []
    part = Part()
    part.chore.do = lambda: part.start() if there else None
    assert not part.chore.see_to_it()
    there.append("database")
    assert part.chore.see_to_it()
