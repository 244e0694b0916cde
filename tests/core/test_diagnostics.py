"""Notes reach the collector; without one a warning becomes a Python warning."""

import pytest

from reticula.core.diagnostics import ReticulaWarning, collecting, note, warn


def test_collected() -> None:
    with collecting() as outer:
        note("a")
        with collecting() as inner:
            warn("b")
    assert [(n.level, n.text) for n in outer] == [("note", "a")]
    assert [(n.level, n.text) for n in inner] == [("warning", "b")]


def test_not_lost_without_a_collector() -> None:
    note("quiet")
    with pytest.warns(ReticulaWarning, match="loud"):
        warn("loud")
