"""Who gets what: homes, urgency, turns of people, patience."""

import threading

import pytest

from reticula.workers import waiting as module
from reticula.workers.tasks import Job
from reticula.workers.tickets import FIRST, LAST, SOON, Ticket
from reticula.workers.waiting import Waiting


def ticket(affinity: str = "a", person: str = "", priority: int = FIRST, name: str = "") -> Ticket:
    return Ticket(Job(name or "evaluate"), affinity=affinity, person=person or affinity, priority=priority)


def at_home(waiting: Waiting, taker: int) -> str:
    return next(name for name in map(str, range(99)) if waiting.home_of(ticket(name)) == taker)


def names(waiting: Waiting, taker: int) -> list[str]:
    found = []
    while (one := waiting.take(taker, 0.0)) is not None:
        found.append(one.job.what)
    return found


def test_what_is_looked_at_goes_first() -> None:
    waiting = Waiting(1)
    for priority, name in ((LAST, "checks"), (SOON, "trace"), (FIRST, "drag"), (LAST, "picture")):
        waiting.put(ticket(priority=priority, name=name))
    assert names(waiting, 0) == ["drag", "trace", "checks", "picture"]


def test_people_take_turns() -> None:
    waiting = Waiting(1)
    for number in range(3):
        waiting.put(ticket(person="busy", name=f"busy {number}"))
    waiting.put(ticket(person="other", name="other"))
    assert names(waiting, 0) == ["busy 0", "other", "busy 1", "busy 2"]


def test_others_help_after_a_while_but_not_in_the_background(monkeypatch: pytest.MonkeyPatch) -> None:
    waiting = Waiting(2)
    mine = at_home(waiting, 0)
    waiting.put(ticket(mine, name="look"))
    waiting.put(ticket(mine, priority=LAST, name="checks"))
    assert waiting.take(1, 0.0) is None
    monkeypatch.setattr(module, "PATIENCE", 0.0)
    assert names(waiting, 1) == ["look"]
    assert names(waiting, 0) == ["checks"]


def test_takers_wake_up_for_a_ticket_and_for_the_end() -> None:
    waiting, got = Waiting(1), []
    taker = threading.Thread(target=lambda: got.append(waiting.take(0, 20.0)))
    taker.start()
    waiting.put(ticket(name="look"))
    taker.join(10)
    assert [one.job.what for one in got] == ["look"]
    last = threading.Thread(target=lambda: got.append(waiting.take(0, 20.0)))
    last.start()
    waiting.close()
    last.join(10)
    assert got[1:] == [None]


def test_what_is_dropped_is_not_taken() -> None:
    waiting = Waiting(1)
    one = ticket()
    waiting.put(one)
    assert waiting.drop(one)
    assert not waiting.drop(one)
    assert waiting.take(0, 0.0) is None
