"""Those who wait are woken once, whether they came before the end or after it."""

from __future__ import annotations

from reticula.workers.ending import Ending


def test_each_is_woken_once_and_who_comes_late_at_once() -> None:
    ending, woken = Ending(), []
    ending.when_ended(lambda: woken.append("first"))
    ending.when_ended(lambda: woken.append("second"))
    assert (woken, ending.finished.is_set()) == ([], False)
    ending.wake_all()
    ending.wake_all()
    ending.when_ended(lambda: woken.append("late"))
    assert woken == ["first", "second", "late"]
    assert ending.finished.is_set()


def test_one_who_waits_for_it_may_ask_again_while_it_is_woken() -> None:
    ending, woken = Ending(), []
    ending.when_ended(lambda: ending.when_ended(lambda: woken.append("inside")))
    ending.wake_all()
    assert woken == ["inside"]
