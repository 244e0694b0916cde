"""The pulse: what answers at this moment, and what does not answer in time."""

import threading
import time

from reticula.service import pulse as module
from reticula.service.pulse import Pulse, Seen, depot_answers
from tests.helpers import any_port


def test_it_is_of_this_moment() -> None:
    up = [True, True]
    pulse = Pulse(lambda: up[0], lambda: up[1])
    assert pulse.seen() == Seen(True, True)
    up[0] = False
    assert pulse.seen() == Seen(False, True)
    up[:] = [True, False]
    assert pulse.seen() == Seen(True, False)
    assert Pulse(lambda: True, None).seen() == Seen(True, None)


def test_what_hangs_or_fails_does_not_answer_and_is_not_waited_for(monkeypatch: object) -> None:
    hanging = threading.Event()
    began = time.monotonic()
    assert Pulse(hanging.wait, lambda: 1 / 0).seen() == Seen(False, False)
    assert time.monotonic() - began < 3 * module.FRESH
    hanging.set()


def test_a_depot_that_is_not_there() -> None:
    assert not depot_answers(f"http://127.0.0.1:{any_port()}")
