"""Values that follow tables: what is taken from the rows at a time, between, before and after them."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo
from reticula.core.context import using
from reticula.core.errors import ParameterError
from reticula.core.graph.time.tables import TAKEN, Following, Log, following_of, is_following, log_of, stand_in
from reticula.core.graph.time.timeline import Timeline
from reticula.core.operators.shared.resources import DiskResources

CLOCK = Timeline(first=0, last=47, rate=10)


def table(**columns: Any) -> Geo:
    rows = len(next(iter(columns.values())))
    return Geo.of(np.zeros((rows, 3)), **{name: np.asarray(column) for name, column in columns.items()})


def log(stored: dict[str, Any], **columns: Any) -> tuple[Following, Log]:
    with using(resources=DiskResources({"log": table(**columns)})):
        following = following_of("water", {"table": "log", **stored})
        return following, log_of("water", following)


def at(frame: float, stored: dict[str, Any], blend: str = "real", **columns: Any) -> Any:
    following, rows = log(stored, **columns)
    return following.at(rows, CLOCK.names(frame), blend)  # type: ignore[arg-type]


TIDE = {"when": [0.0, 1.0, 3.0], "level": [1.0, 3.0, -1.0]}
LEVEL = {"time": "when", "value": "level"}


@pytest.mark.parametrize(
    ("taken", "at_2_25"),
    [("straight", 0.5), ("hold", 3.0), ("nearest", -1.0), ("mean", 0.5)],
)
def test_between_rows_a_value_is_taken_in_one_of_several_ways(taken: str, at_2_25: float) -> None:
    assert at(22.5, {**LEVEL, "taken": taken}, **TIDE) == pytest.approx(at_2_25, abs=1e-12)


def test_smooth_goes_through_the_rows_and_nowhere_beyond_them() -> None:
    smooth = {**LEVEL, "taken": "smooth"}
    assert [at(frame, smooth, **TIDE) for frame in (0, 10, 30)] == pytest.approx([1.0, 3.0, -1.0])
    assert max(at(frame, smooth, **TIDE) for frame in range(31)) == pytest.approx(3.0)


@pytest.mark.parametrize(
    ("outside", "expected"), [("hold", (-1.0, 1.0)), ("repeat", (2.0, 0.0)), ("swing", (0.0, 2.0))]
)
@pytest.mark.parametrize("taken", ["straight", "mean"])
def test_before_and_after_the_rows(outside: str, expected: tuple[float, float], taken: str) -> None:
    stored = {**LEVEL, "start": 0.0, "before": outside, "after": outside, "taken": taken}
    # Half a second after the last row, and before the first one: repeated, that is at 0.5 s and 2.5 s.
    assert (at(35, stored, **TIDE), at(-5, stored, **TIDE)) == pytest.approx(expected)


def test_the_mean_over_a_frame_is_that_of_the_lines_between_rows() -> None:
    # Over the frame from 0.95 to 1.05 s: a peak of 3, down 0.1 before it and 0.1 after it.
    before, after = 3.0 - 0.05 * 2.0 / 2, 3.0 - 0.05 * 2.0 / 2
    assert at(10, {**LEVEL, "taken": "mean"}, **TIDE) == pytest.approx((before + after) / 2)


@given(st.integers(0, 60), st.sampled_from(["hold", "repeat", "swing"]))
def test_the_mean_agrees_with_fine_sums(frame: int, outside: str) -> None:
    stored = {**LEVEL, "start": 0.0, "before": outside, "after": outside}
    fine = np.linspace(frame - 0.5, frame + 0.5, 4001)
    middle = (fine[1:] + fine[:-1]) / 2
    following, rows = log(stored, **TIDE)
    summed = np.mean([following.at(rows, CLOCK.names(float(one)), "real") for one in middle])
    assert at(frame, {**stored, "taken": "mean"}, **TIDE) == pytest.approx(summed, abs=1e-6)


def test_units_speed_start_factor_and_what_is_added() -> None:
    hours = {"when": [0.0, 1.0, 2.0], "level": [100.0, 300.0, 500.0]}
    stored = {**LEVEL, "unit": "h", "speed": 3600.0, "factor": 0.01, "add": 0.5}
    # One second of the graph, ten frames, is one hour of the table; centimetres become metres.
    assert at(10, stored, **hours) == pytest.approx(3.5)
    assert at(0, {**stored, "start": 1.5}, **hours) == pytest.approx(4.5)
    assert at(90, {**stored, "unit": "min", "speed": 10.0}, **hours) == pytest.approx(1.0 + 2 * 1.5 + 0.5)


def test_tables_in_frames_and_rows_that_are_counted() -> None:
    frames = {"frame_": [10, 20], "level": [0.0, 1.0]}
    assert at(15, {"time": "frame_", "value": "level", "unit": "frame"}, **frames) == 0.5
    assert at(5, {"time": "frame_", "value": "level", "unit": "frame", "start": 10.0}, **frames) == 0.5
    assert at(1, {"value": "level", "unit": "frame"}, level=[4.0, 8.0, 2.0]) == 8.0


def test_whole_numbers_are_rounded_flags_and_texts_hold_vectors_have_several_columns() -> None:
    assert at(2.5, {"value": "level", "unit": "frame"}, "whole", level=[1, 4, 6, 9]) == 8
    made = at(0, {"value": "level", "unit": "frame"}, "whole", level=[1, 2])
    assert isinstance(made, int)
    assert at(0.9, {"value": "open", "unit": "frame"}, "hold", open=[True, False]) is True
    assert at(1, {"value": "state", "unit": "frame"}, "hold", state=["ebb", "flood"]) == "flood"
    stored = {"value": ["east", "north"], "unit": "frame"}
    assert at(0.5, stored, east=[0.0, 2.0], north=[1.0, 1.0]) == [1.0, 1.0]
    drift = {"value": "drift", "unit": "frame"}
    assert at(0.5, drift, drift=[[0.0, 0.0, 2.0], [0.0, 2.0, 4.0]]) == [0.0, 1.0, 3.0]
    assert at(0.5, {"value": "drift.z", "unit": "frame"}, drift=[[0.0, 0.0, 2.0], [0.0, 2.0, 4.0]]) == 3.0


def test_rows_without_a_value_are_bridged_and_said_and_disorder_is_put_right() -> None:
    nan = float("nan")
    _, rows = log(LEVEL, when=[0.0, 1.0, 2.0, nan], level=[0.0, nan, 4.0, 9.0])
    assert rows.said == (
        "left out, without a time: row 4",
        "without a value, taken from the rows around: row 2",
    )
    assert rows.taken(1.0, "straight").tolist() == [2.0]
    _, rows = log(LEVEL, when=[2.0, 0.0, 2.0], level=[5.0, 1.0, 7.0])
    assert rows.times.tolist() == [0.0, 2.0]
    assert rows.numbers is not None
    assert rows.numbers[:, 0].tolist() == [1.0, 7.0]
    assert "put in the order of their times" in rows.said[0]
    assert "a later row has too, and left out: row 1" in rows.said[1]


@pytest.mark.parametrize(
    ("stored", "told"),
    [
        ({"table": "gone", **LEVEL}, "the table 'gone': there is no shape or file 'gone'"),
        ({"table": "log", "time": "when", "value": "hight"}, "no column 'hight'; there are when, level"),
        ({"table": "log", "time": "when"}, "say which column of it holds the values"),
        ({"table": "", **LEVEL}, "say which table"),
        ({"table": "log", **LEVEL, "unit": "week"}, "'unit' of a table is one of s, min, h, d, frame"),
        ({"table": "log", **LEVEL, "taken": "cubic"}, f"one of {', '.join(TAKEN)}"),
        ({"table": "log", **LEVEL, "speed": float("nan")}, "'speed' of a table is a number"),
        ({"table": "log", **LEVEL, "time": 3}, "the column of times is a name"),
        ({"table": "log", "value": ["when", "name"]}, "columns of text are no components"),
    ],
)
def test_what_cannot_be_is_said(stored: dict[str, Any], told: str) -> None:
    there = table(**TIDE).with_attribute("point", "name", ["a", "b", "c"])
    with using(resources=DiskResources({"log": there})), pytest.raises(ParameterError, match=told):
        log_of("water", following_of("water", stored))


def test_a_table_without_one_whole_row_is_refused() -> None:
    with pytest.raises(ParameterError, match="no row has both a time and a value in 'level'"):
        log(LEVEL, when=[0.0, 1.0], level=[float("nan")] * 2)


def test_what_follows_and_what_stands_in() -> None:
    stored = {"table": "log", **LEVEL, "otherwise": 0.25}
    assert is_following(stored)
    assert not is_following({"table": "log", "formula": "1"})
    assert not is_following({"keys": []})
    assert stand_in("water", stored) == 0.25
    assert stand_in("water", {"keys": [{"frame": 0, "value": 7}]}) == 7
    assert stand_in("water", 3) == 3
