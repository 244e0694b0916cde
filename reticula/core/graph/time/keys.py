"""Values with keys: what they are at a frame, between the keys, before the first and after the last one.

Stored as ``{"keys": [{"frame": 0, "value": 0.2}, {"frame": 24, "value": 1.0, "way": "straight"}], "after": "swing"}``.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from itertools import groupby
from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import ParameterError
from reticula.core.graph.time.timeline import FARTHEST
from reticula.core.language.profiles import powers_between
from reticula.core.operators.declaration.parameters import Blend

__all__ = [
    "MOST_KEYS",
    "OUTSIDE",
    "WAYS",
    "Keys",
    "as_blended",
    "first_value",
    "folded_back",
    "has_keyed",
    "is_keyed",
    "keys_of",
    "without_keys",
]

WAYS = {
    "smooth": "round, and nowhere beyond the values of the keys",
    "straight": "in a straight line",
    "hold": "stays, and jumps at the next key",
    "free": "round, by slopes of its own",
}
"""How a value goes from a key to the next one. Each run of smooth ways is a monotone cubic by itself, as in
profiles.
"""
STEP_OF = {"hold": "constant"}
"""What profiles call it."""
OUTSIDE = {
    "hold": "the value of the key",
    "repeat": "all keys again from the beginning",
    "swing": "all keys backwards, then forwards again",
    "go on": "straight on as it goes at the key",
}
"""What a value is before the first key and after the last one."""
MOST_KEYS = 10_000


def is_keyed(value: Any) -> bool:
    """Whether a stored value has keys."""
    if not isinstance(value, Mapping) or not set(value) <= {"keys", "before", "after"}:
        return False
    entries = value.get("keys")
    return isinstance(entries, list) and all(isinstance(entry, Mapping) for entry in entries)


def has_keyed(value: Any) -> bool:
    """Whether a stored value has keys, or one of several that it holds by name: those of a script's controls."""
    return is_keyed(value) or (isinstance(value, Mapping) and any(map(is_keyed, value.values())))


def without_keys(name: str, stored: Any, plain: Callable[[str, Keys], Any]) -> Any:
    """Return a stored value in which ``plain`` says what stands in place of keys, by the name of what has them.

    Raises ParameterError for keys that cannot be.
    """
    if is_keyed(stored):
        return plain(name, keys_of(name, stored))
    if has_keyed(stored):
        return {key: plain(key, keys_of(key, value)) if is_keyed(value) else value for key, value in stored.items()}
    return stored


def first_value(value: Any) -> Any:
    """Return the value of the first key, or a value without keys as it is."""
    return value["keys"][0].get("value") if is_keyed(value) and value["keys"] else value


def folded_back(at: float, first: float, last: float, outside: str) -> float:
    """Return the place from ``first`` to ``last`` that is meant by one beyond them.

    They *repeat* in turns as long as the span; of turns that *swing*, every other one runs backwards.
    """
    turns, rest = divmod(at - first, last - first)
    return last - rest if outside == "swing" and turns % 2 else first + rest


def as_blended(numbers: Floats, blend: Blend) -> Any:
    """Return numbers as plain values: whole ones are rounded, halves up."""
    return (np.floor(numbers + 0.5).astype(np.int64) if blend == "whole" else numbers).tolist()


@dataclass(frozen=True)
class Keys:
    """Checked keys: frames ``(N,)`` that grow, plain values, ways, and slopes per frame, ``in`` and ``out``, where
    free.
    """

    frames: Floats
    values: tuple[Any, ...]
    ways: tuple[str, ...]
    slopes: Mapping[tuple[int, str], Any] = field(default_factory=dict)
    before: str = "hold"
    after: str = "hold"

    def at(self, frame: float, blend: Blend) -> Any:
        """Return the value at a frame, of the same form as the values of the keys.

        ``blend`` says what goes from key to key: real numbers, whole ones (rounded, halves up), or nothing: values
        that hold. Lists of numbers go component by component if all are as long; else they hold.
        """
        frame, beyond = self._inside(frame)
        at = int(np.clip(np.searchsorted(self.frames, frame, side="right") - 1, 0, len(self.frames) - 1))
        numbers = self._numbers
        if blend == "hold" or numbers is None:
            return self.values[at]
        made = np.asarray(numbers[at] if at == len(self.frames) - 1 else self._between(at, frame - self.frames[at]))
        if beyond:
            made = made + beyond * self._slope_at_end(beyond)
        return as_blended(made, blend)

    def _inside(self, frame: float) -> tuple[float, float]:
        """Return the frame within the keys that is meant, and how far beyond them the value goes on."""
        first, last = float(self.frames[0]), float(self.frames[-1])
        if first <= frame <= last:
            return frame, 0.0
        how, end = (self.before, first) if frame < first else (self.after, last)
        span = last - first
        if how == "hold" or span == 0.0:
            return end, 0.0
        if how == "go on":
            return end, frame - end
        return folded_back(frame, first, last, how), 0.0

    @cached_property
    def _numbers(self) -> Floats | None:
        """The values as numbers ``(N, ...)``; None if they hold from key to key."""
        if any(isinstance(value, (bool, str)) or value is None for value in self.values):
            return None
        try:
            return np.asarray(self.values, dtype=np.float64)
        except (TypeError, ValueError):
            return None

    @cached_property
    def _powers(self) -> Floats:
        """Coefficients of powers of the frames since each key, highest first ``(4, N - 1, channels)``."""
        assert self._numbers is not None
        y = self._numbers.reshape(len(self.frames), -1)
        runs = []
        for way, run in groupby(range(len(self.frames) - 1), key=lambda at: self.ways[at]):
            first, *_ = listed = list(run)
            x, part = self.frames[first : listed[-1] + 2], y[first : listed[-1] + 2]
            runs.append(self._free(first, x, part) if way == "free" else powers_between(x, part, STEP_OF.get(way, way)))
        return np.concatenate(runs, axis=1)

    def _free(self, first: int, x: Floats, y: Floats) -> Floats:
        """Hermite's cubics with the slopes that the keys have; those of the smooth way where they have none."""
        width = np.diff(x)[:, None]
        smooth = powers_between(x, y, "smooth")
        leaving = smooth[2].copy()
        arriving = (3 * smooth[0] * width + 2 * smooth[1]) * width + smooth[2]
        for at in range(len(width)):
            leaving[at] = np.reshape(self.slopes.get((first + at, "out"), leaving[at]), -1)
            arriving[at] = np.reshape(self.slopes.get((first + at + 1, "in"), arriving[at]), -1)
        secant = np.diff(y, axis=0) / width
        square = (3 * secant - 2 * leaving - arriving) / width
        return np.stack([(leaving + arriving - 2 * secant) / width**2, square, leaving, y[:-1]])

    def _between(self, at: int, since: float) -> Floats:
        a, b, c, d = self._powers[:, at]
        assert self._numbers is not None
        return np.asarray(((a * since + b) * since + c) * since + d).reshape(self._numbers.shape[1:])

    def _slope_at_end(self, beyond: float) -> Floats:
        """The slope with which the keys begin or end, per frame."""
        at, since = (0, 0.0) if beyond < 0 else (-1, float(self.frames[-1] - self.frames[-2]))
        a, b, c, _ = self._powers[:, at]
        assert self._numbers is not None
        return np.asarray((3 * a * since + 2 * b) * since + c).reshape(self._numbers.shape[1:])


def keys_of(name: str, stored: Mapping[str, Any]) -> Keys:
    """Return the keys of a stored value; raise ParameterError that says which key of ``name`` is wrong, and why."""
    entries = stored["keys"]
    if not entries:
        raise ParameterError(name, "there are no keys; set one, or give a plain value")
    if len(entries) > MOST_KEYS:
        raise ParameterError(name, f"{len(entries):,} keys are too many; keep at most {MOST_KEYS:,}, or follow a table")
    return _checked(name, json.dumps(stored))


@lru_cache(maxsize=64)
def _checked(name: str, text: str) -> Keys:
    """The keys of a stored value as text: at each frame the same ones are asked."""
    stored = json.loads(text)
    entries = stored["keys"]
    for where in ("before", "after"):
        if stored.get(where, "hold") not in OUTSIDE:
            raise ParameterError(name, f"'{where}' the keys is one of {', '.join(OUTSIDE)}, not {stored[where]!r}")
    slopes: dict[tuple[int, str], Any] = {}
    for number, entry in enumerate(entries):
        _check_key(name, number, entry)
        slopes |= {(number, side): entry[side] for side in ("in", "out") if entry.get(side) is not None}
    frames = np.array([entry["frame"] for entry in entries], dtype=np.float64)
    wrong = np.flatnonzero(np.diff(frames) <= 0.0)
    if wrong.size:
        at = int(wrong[0])
        raise ParameterError(
            name, f"key {at + 2}, at frame {frames[at + 1]:g}, does not come after key {at + 1}, at {frames[at]:g}"
        )
    ways = tuple(entry.get("way", "smooth") for entry in entries)
    values = tuple(entry["value"] for entry in entries)
    return Keys(frames, values, ways, slopes, stored.get("before", "hold"), stored.get("after", "hold"))


def _check_key(name: str, number: int, entry: Any) -> None:
    if not isinstance(entry, Mapping) or "frame" not in entry or "value" not in entry:
        raise ParameterError(name, f"key {number + 1} needs a frame and a value")
    frame = entry["frame"]
    if isinstance(frame, bool) or not isinstance(frame, (int, float)) or not abs(frame) <= FARTHEST:
        raise ParameterError(name, f"the frame of key {number + 1} is a number up to {FARTHEST:,.0f}, not {frame!r}")
    if entry.get("way", "smooth") not in WAYS:
        raise ParameterError(
            name, f"the way from key {number + 1} on is one of {', '.join(WAYS)}, not {entry['way']!r}"
        )
    for side in ("in", "out"):
        slope = entry.get(side)
        if slope is not None and not _is_finite(slope):
            raise ParameterError(name, f"the slope '{side}' of key {number + 1} is not a number")


def _is_finite(value: Any) -> bool:
    try:
        return bool(np.isfinite(np.asarray(value, dtype=np.float64)).all())
    except (TypeError, ValueError):
        return False
