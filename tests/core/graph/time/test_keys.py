"""Values with keys at any frame."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import ParameterError
from reticula.core.graph.time.keys import Keys, folded_back, is_keyed, keys_of


def keys(*entries: tuple[Any, ...], **outside: str) -> Keys:
    """Keys from ``(frame, value, way)``."""
    listed = [dict(zip(("frame", "value", "way"), entry, strict=False)) for entry in entries]
    return keys_of("amount", {"keys": listed, **outside})


def test_a_value_goes_straight_holds_and_rounds_on_the_way_to_the_next_key() -> None:
    made = keys((0, 0.0, "straight"), (10, 1.0, "hold"), (20, 3.0, "smooth"), (30, 4.0))
    assert made.at(5, "real") == 0.5
    assert made.at(19.9, "real") == 1.0
    assert made.at(20, "real") == 3.0
    assert 3.0 < made.at(25, "real") < 4.0


def test_free_slopes_are_per_frame() -> None:
    entries = [{"frame": 0, "value": 0, "way": "free", "out": 1.0}, {"frame": 10, "value": 0, "in": -1.0}]
    made = keys_of("amount", {"keys": entries})
    # Hermite in the middle: width / 8 * (out - in)
    assert made.at(5, "real") == pytest.approx(10 / 8 * 2.0, abs=1e-12)


@pytest.mark.parametrize(
    ("how", "at_26", "at_minus_4"),
    [("hold", 1.0, 0.0), ("repeat", 0.6, 0.6), ("swing", 0.6, 0.4), ("go on", 2.6, -0.4)],
)
def test_before_and_after_the_keys(how: str, at_26: float, at_minus_4: float) -> None:
    made = keys((0, 0.0, "straight"), (10, 1.0), before=how, after=how)
    assert made.at(26, "real") == pytest.approx(at_26)
    assert made.at(-4, "real") == pytest.approx(at_minus_4)


@pytest.mark.parametrize(("at", "repeated", "swung"), [(5, 5, 5), (13, 3, 7), (24, 4, 4), (-4, 6, 4), (-13, 7, 7)])
def test_places_beyond_are_folded_back(at: float, repeated: float, swung: float) -> None:
    assert folded_back(at, 0, 10, "repeat") == repeated
    assert folded_back(at, 0, 10, "swing") == swung


def test_one_key_is_one_value_everywhere() -> None:
    for how in ("hold", "repeat", "swing", "go on"):
        made = keys((7, 2.5), before=how, after=how)
        assert [made.at(frame, "real") for frame in (-100, 7, 1e6)] == [2.5, 2.5, 2.5]


def test_vectors_go_by_component_and_whole_numbers_are_rounded() -> None:
    made = keys((0, [0, 10], "straight"), (10, [1, 20]))
    assert made.at(5, "real") == [0.5, 15.0]
    assert keys((0, 0, "straight"), (10, 5)).at(5, "whole") == 3
    assert isinstance(keys((0, 0, "straight"), (10, 5)).at(5, "whole"), int)


@pytest.mark.parametrize("values", [(True, False), ("up", "side"), ([[0, 0, 0]], [[0, 0, 0], [1, 1, 1]])])
def test_what_cannot_be_blended_holds_until_the_next_key(values: tuple[Any, Any]) -> None:
    made = keys((0, values[0], "smooth"), (10, values[1]))
    assert [made.at(frame, "real") for frame in (0, 9.99, 10)] == [values[0], values[0], values[1]]


def test_values_that_hold_are_not_blended() -> None:
    assert keys((0, 0.0, "straight"), (10, 1.0)).at(9, "hold") == 0.0


@pytest.mark.parametrize(
    ("stored", "said"),
    [
        ({"keys": []}, "there are no keys"),
        (
            {"keys": [{"frame": 5, "value": 1}, {"frame": 3, "value": 2}]},
            "key 2, at frame 3, does not come after",
        ),
        ({"keys": [{"frame": 5, "value": 1}, {"frame": 5, "value": 2}]}, "does not come after"),
        ({"keys": [{"frame": float("nan"), "value": 1}]}, "the frame of key 1"),
        ({"keys": [{"frame": 1e9, "value": 1}]}, "the frame of key 1"),
        ({"keys": [{"frame": True, "value": 1}]}, "the frame of key 1"),
        ({"keys": [{"frame": 1}]}, "key 1 needs a frame and a value"),
        ({"keys": [{"frame": 1, "value": 1, "way": "wild"}]}, "smooth, straight, hold, free"),
        ({"keys": [{"frame": 1, "value": 1, "out": "x"}]}, "the slope 'out' of key 1"),
        ({"keys": [{"frame": 1, "value": 1}], "after": "stop"}, "hold, repeat, swing, go on"),
        ({"keys": [{"frame": n, "value": 1} for n in range(10_001)]}, "10,001 keys are too many"),
    ],
)
def test_bad_keys_are_said(stored: dict[str, Any], said: str) -> None:
    with pytest.raises(ParameterError, match=said):
        keys_of("amount", stored)


def test_keys_are_told_from_other_values() -> None:
    assert is_keyed({"keys": [{"frame": 0, "value": 1}]})
    assert not is_keyed({"keys": [[0, 0, 0]]}), "a control that is called keys"
    assert not is_keyed({"keys": 3, "reach": 1})
    assert not is_keyed({"dial": "keys"})


@given(data=st.data(), steps=st.lists(st.floats(0.01, 50), min_size=1, max_size=12))
def test_nothing_on_a_smooth_way_lies_beyond_its_keys(data: st.DataObject, steps: list[float]) -> None:
    at = np.concatenate([[0.0], np.cumsum(steps)])
    values = data.draw(st.lists(st.floats(-100, 100), min_size=len(at), max_size=len(at)))
    made = keys(*zip(at.tolist(), values, strict=True))
    for begin, end, low, high in zip(at, at[1:], values, values[1:], strict=False):
        between = np.array([made.at(frame, "real") for frame in np.linspace(begin, end, 9)])
        room = 1e-9 * max(abs(low), abs(high), 1.0)
        assert min(low, high) - room <= between.min() <= between.max() <= max(low, high) + room
        assert (np.diff(between) * np.sign(high - low)).min() >= -room


def test_smooth_ways_know_nothing_of_what_lies_beyond_another_way() -> None:
    apart = keys((0, 0.0), (10, 1.0, "hold"), (20, 50.0))
    assert [apart.at(frame, "real") for frame in (5, 15)] == [0.5, 1.0]


def test_free_ways_without_slopes_are_smooth_and_one_slope_may_be_given() -> None:
    places = [(0, [0.0, 1.0]), (10, [1.0, 5.0]), (30, [9.0, 4.0])]
    free, smooth = (keys(*[(*place, way) for place in places]) for way in ("free", "smooth"))
    for frame in np.linspace(0, 30, 13):
        assert np.allclose(free.at(frame, "real"), smooth.at(frame, "real"), rtol=0, atol=1e-12)
    one = Keys(np.array([0.0, 10.0]), (0.0, 1.0), ("free", "free"), {(0, "out"): 0.0})
    assert one.at(1, "real") < 0.1 < 0.9 < one.at(9.5, "real") < 1.0


def test_a_million_frames_away_is_as_quick_as_near() -> None:
    made = keys((0, 0.0), (7, 1.0), (11, 0.5), after="swing")
    assert np.isfinite(made.at(1e7 - 0.5, "real"))
