"""Frames and seconds of a graph."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.time.timeline import Timeline, timeline_of


def test_time_is_counted_from_the_first_frame() -> None:
    made = timeline_of({"time": {"first": 101, "last": 148, "rate": 24}})
    assert made.count == 48
    assert made.names(113) == {"frame": 113.0, "time": 0.5, "seconds_per_frame": pytest.approx(1 / 24)}


def test_a_graph_that_says_nothing_begins_at_nought() -> None:
    assert timeline_of({}) == Timeline()
    assert Timeline().names(Timeline().first)["time"] == 0.0


@pytest.mark.parametrize(
    ("time", "said"),
    [
        ({"first": 10, "last": 9, "rate": 24}, "the last frame, 9, comes before the first one, 10"),
        ({"first": 0, "last": 10**6, "rate": 24}, "1,000,001 frames are too many"),
    ],
)
def test_frames_that_cannot_be_are_said(time: dict[str, Any], said: str) -> None:
    with pytest.raises(GraphError, match=said):
        timeline_of({"time": time})
