"""Values that follow a table: a log of times and values, of which a dial takes what it says at each frame.

Stored as ``{"table": "tide_log", "time": "hours", "value": "level", "unit": "h", "speed": 3600}``. The table is a
stored shape, a row a point; ``time`` and ``value`` name attributes of its points.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats, as_rows
from reticula.core.errors import GeometryError, ParameterError, ReticulaError
from reticula.core.formats.shared.arrow_tables import rows_in_words
from reticula.core.geometry import Geo
from reticula.core.graph.time.keys import as_blended, folded_back, is_keyed, without_keys
from reticula.core.language.profiles import powers_between
from reticula.core.operators.declaration.parameters import Blend
from reticula.core.operators.shared.resources import resources

__all__ = [
    "FIELDS",
    "OUTSIDE",
    "TAKEN",
    "TIME_UNITS",
    "Following",
    "Log",
    "following_of",
    "is_following",
    "is_timed",
    "log_of",
    "stand_in",
]

TIME_UNITS = {"s": 1.0, "min": 60.0, "h": 3600.0, "d": 86400.0, "frame": 0.0}
"""Seconds of one of what a table counts time in; frames are as long as the graph says."""
TAKEN = {
    "straight": "in a straight line from row to row",
    "smooth": "round, and nowhere beyond the values of the rows",
    "hold": "of the row before",
    "nearest": "of the nearest row",
    "mean": "the mean over the time of one frame",
}
"""How a value is taken from the rows around a time."""
OUTSIDE = {
    "hold": "the value of the row",
    "repeat": "all rows again from the beginning",
    "swing": "all rows backwards, then forwards again",
}
"""What a value is before the first row and after the last one."""
FIELDS = frozenset(
    ("table", "time", "value", "unit", "speed", "start", "taken", "before", "after", "factor", "add", "otherwise")
)
TROUBLE = "trouble"


def is_following(value: Any) -> bool:
    """Whether a stored value follows a table."""
    return isinstance(value, Mapping) and "table" in value and set(value) <= FIELDS | {TROUBLE}


@dataclass(frozen=True)
class Following:
    """Checked settings.

    Attributes
    ----------
    table : str
        The stored shape that is read.
    time : str
        The attribute that says when; empty: rows are counted, from 0.
    value : tuple of str
        The attributes that say what; several are the components of one value.
    unit : str
        What ``time`` is counted in, one of :data:`TIME_UNITS`.
    speed : float
        How many times as fast as its clock the table passes. Frames know no speed.
    start : float, optional
        The time, in ``unit``, at the first frame of the graph; that of the first row if not given, and of tables in
        frames the frame itself.
    taken, before, after : str
        How values are taken between rows (:data:`TAKEN`), before and after them (:data:`OUTSIDE`).
    factor, add : float
        What numbers are multiplied with, and what is added then.
    otherwise : Any
        A plain value: what it is where no time passes, for checks; and what it was before it followed.
    """

    table: str
    time: str
    value: tuple[str, ...]
    unit: str = "s"
    speed: float = 1.0
    start: float | None = None
    taken: str = "straight"
    before: str = "hold"
    after: str = "hold"
    factor: float = 1.0
    add: float = 0.0
    otherwise: Any = 0.0

    def at(self, log: Log, moment: Mapping[str, float], blend: Blend) -> Any:
        """Return the value at a moment, plain. Values that do not blend, and texts, hold from row to row."""
        when, span = self._when(log, moment)
        if log.numbers is None or blend == "hold":
            found = log.values[log.row_at(self._within(log, when))]
            made = found.tolist() if isinstance(found, (np.ndarray, np.generic)) else found
            return made[0] if isinstance(made, list) and len(made) == 1 else made
        if self.taken == "mean" and span > 0.0:
            low, high = (log.area(when + side * span / 2, self.before, self.after) for side in (-1, 1))
            numbers = (high - low) / span
        else:
            numbers = log.taken(self._within(log, when), self.taken)
        listed = as_blended(numbers * self.factor + self.add, blend)
        return listed[0] if len(listed) == 1 else listed

    def _when(self, log: Log, moment: Mapping[str, float]) -> tuple[float, float]:
        """Return the time of the table at a moment and how much of it passes in a frame, in ``unit``."""
        frame = moment["seconds_per_frame"]
        if self.unit == "frame":
            passed = moment["frame"] if self.start is None else self.start + moment["time"] / frame
            return passed, 1.0
        pace = self.speed / TIME_UNITS[self.unit]
        begin = float(log.times[0]) if self.start is None else self.start
        return begin + moment["time"] * pace, abs(frame * pace)

    def _within(self, log: Log, when: float) -> float:
        return log.within(when, self.before if when < log.times[0] else self.after)


@dataclass(frozen=True, eq=False)
class Log:
    """Rows of a table in order of time: ``times (N,)`` that grow, ``values (N,)`` texts or flags or ``(N, k)``
    numbers. ``said`` is what there is to be said of them.
    """

    times: Floats
    values: AnyArray
    rows: int
    said: tuple[str, ...]

    @cached_property
    def numbers(self) -> Floats | None:
        """The values as numbers ``(N, k)``; None for texts."""
        return None if self.values.dtype.kind == "U" else as_rows(self.values).astype(np.float64)

    def within(self, when: float, outside: str) -> float:
        """Return the time within the rows that is meant by one that may lie outside."""
        first, last = float(self.times[0]), float(self.times[-1])
        if first <= when <= last or outside == "hold" or first == last:
            return min(max(when, first), last)
        return folded_back(when, first, last, outside)

    def row_at(self, when: float) -> int:
        """Return the last row up to a time within the rows."""
        return int(np.clip(np.searchsorted(self.times, when, side="right") - 1, 0, len(self.times) - 1))

    def taken(self, when: float, how: str) -> Floats:
        """Return the numbers ``(k,)`` at a time within the rows."""
        numbers, at = self.numbers, self.row_at(when)
        assert numbers is not None
        if at == len(self.times) - 1 or how == "hold":
            return numbers[at]
        since, width = when - self.times[at], self.times[at + 1] - self.times[at]
        if how == "nearest":
            return numbers[at + 1 if 2 * since >= width else at]
        if how == "smooth":
            a, b, c, d = self._smooth[:, at]
            return np.asarray(((a * since + b) * since + c) * since + d)
        return np.asarray(numbers[at] + (numbers[at + 1] - numbers[at]) * (since / width))

    @cached_property
    def _smooth(self) -> Floats:
        assert self.numbers is not None
        return powers_between(self.times, self.numbers, "smooth")

    def area(self, when: float, before: str, after: str) -> Floats:
        """Return the integral ``(k,)`` of straight lines between the rows, from the first row to a time."""
        assert self.numbers is not None
        first, last = float(self.times[0]), float(self.times[-1])
        outside, span = before if when < first else after, last - first
        if first <= when <= last:
            return self._area_within(when)
        if outside == "hold" or span == 0.0:
            end, row = (first, 0) if when < first else (last, -1)
            return np.asarray(self._areas[row] + (when - end) * self.numbers[row])
        turns, rest = divmod(when - first, span)
        whole = self._areas[-1]
        part = self._area_within(first + rest)
        if outside == "swing" and turns % 2:
            part = whole - self._area_within(last - rest)
        return np.asarray(turns * whole + part)

    def _area_within(self, when: float) -> Floats:
        assert self.numbers is not None
        at = self.row_at(when)
        middle = (self.numbers[at] + self.taken(when, "straight")) / 2
        return np.asarray(self._areas[at] + middle * (when - self.times[at]))

    @cached_property
    def _areas(self) -> Floats:
        """The integral from the first row to each row ``(N, k)``, by trapezoids."""
        assert self.numbers is not None
        parts = np.diff(self.times)[:, None] * (self.numbers[1:] + self.numbers[:-1]) / 2
        return np.concatenate([np.zeros((1, self.numbers.shape[1])), np.cumsum(parts, axis=0)])


def following_of(name: str, stored: Mapping[str, Any]) -> Following:
    """Return the settings of a stored value; raise ParameterError that says which one of ``name`` is wrong, and why."""
    if TROUBLE in stored:
        raise ParameterError(name, stored[TROUBLE])
    given = {key: value for key, value in stored.items() if value is not None}
    listed = given.get("value")
    value = tuple(listed) if isinstance(listed, list) else (listed,)
    for key, text in (("table", given.get("table")), *(("value", one) for one in value)):
        if not isinstance(text, str) or not text.strip():
            raise ParameterError(name, f"say which {'table' if key == 'table' else 'column of it holds the values'}")
    if not isinstance(given.get("time", ""), str):
        raise ParameterError(name, f"the column of times is a name, not {given['time']!r}")
    for key, known in (("unit", TIME_UNITS), ("taken", TAKEN), ("before", OUTSIDE), ("after", OUTSIDE)):
        if given.get(key, next(iter(known))) not in known:
            raise ParameterError(name, f"'{key}' of a table is one of {', '.join(known)}, not {given[key]!r}")
    for key in ("speed", "start", "factor", "add"):
        number = given.get(key, 1.0)
        if isinstance(number, bool) or not isinstance(number, (int, float)) or not math.isfinite(number):
            raise ParameterError(name, f"'{key}' of a table is a number, not {number!r}")
    return Following(**{**given, "value": value, "time": given.get("time", "")})


def is_timed(value: Any) -> bool:
    """Whether a stored value differs from frame to frame: it has keys, or follows a table."""
    return is_keyed(value) or is_following(value)


def stand_in(name: str, stored: Any) -> Any:
    """Return a plain value for checks where no time passes: of the first key, or what a table is put in place of.

    Raises ParameterError for keys and settings that cannot be.
    """
    if is_following(stored):
        return following_of(name, stored).otherwise
    return without_keys(name, stored, lambda _, keys: keys.values[0])


def log_of(name: str, following: Following) -> Log:
    """Return the rows that a value follows; raise ParameterError for a table or column that is not there."""
    try:
        key = resources().key(following.table)
        return _log(key, following.table, following.time, following.value)
    except (ReticulaError, OSError) as error:
        raise ParameterError(name, f"the table '{following.table}': {error}") from None


@lru_cache(maxsize=16)
def _log(key: str, table: str, time: str, value: tuple[str, ...]) -> Log:
    """Return the rows; ``key`` names the content of the table."""
    geo = resources().load(table)
    times = _column(geo, time).astype(np.float64) if time else np.arange(geo.topology.point_count, dtype=np.float64)
    parts = [_column(geo, one) for one in value]
    if any(part.dtype.kind == "U" for part in parts):
        if len(parts) > 1:
            raise GeometryError("columns of text are no components of one value")
        values: AnyArray = parts[0]
        there = values != ""
    else:
        values = np.concatenate([as_rows(part) for part in parts], axis=1) if len(parts) > 1 else parts[0]
        there = np.isfinite(as_rows(values).astype(np.float64)).all(axis=1)
    said = []
    if not (dated := np.isfinite(times)).all():
        said.append(f"left out, without a time: {rows_in_words(np.flatnonzero(~dated))}")
    if (gaps := np.flatnonzero(~there & dated)).size:
        said.append(f"without a value, taken from the rows around: {rows_in_words(gaps)}")
    kept = np.flatnonzero(there & dated)
    if not kept.size:
        raise GeometryError(f"no row has both a time and a value in '{', '.join(value)}'")
    if (np.diff(times[kept]) < 0).any():
        said.append("rows were put in the order of their times")
    kept = kept[np.argsort(times[kept], kind="stable")]
    last = np.append(np.diff(times[kept]) > 0, True)
    if not last.all():
        said.append(f"at a time that a later row has too, and left out: {rows_in_words(np.sort(kept[~last]))}")
    kept = kept[last]
    return Log(times[kept], values[kept], geo.topology.point_count, tuple(said))


def _column(geo: Geo, name: str) -> AnyArray:
    found = geo.attributes["point"].get(name)
    if found is None:
        stem, _, part = name.rpartition(".")
        held = geo.attributes["point"].get(stem)
        if held is not None and part in "xyzw" and held.values.ndim == 2 and "xyzw".index(part) < held.values.shape[1]:
            return np.asarray(held.values[:, "xyzw".index(part)])
        there = ", ".join(one for one in geo.attributes["point"] if one != "position") or "none but its places"
        raise GeometryError(f"there is no column '{name}'; there are {there}")
    return found.values
