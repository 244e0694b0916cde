"""When a run must end."""

import pytest

from reticula.core.errors import LimitError, Stopped
from reticula.core.language.vector.clock import Clock


def test_within_its_time_nothing_happens() -> None:
    Clock(60).look()
    Clock(60, lambda: False).look()


def test_after_its_time_it_ends_with_advice() -> None:
    with pytest.raises(LimitError, match="the script ran for 0 s, which is the most; a loop may never end"):
        Clock(0).look()


def test_stopped_from_outside() -> None:
    with pytest.raises(Stopped, match="the script was stopped"):
        Clock(60, lambda: True).look()
