"""What a value must be: small conditions that parameters are put together from.

A condition takes a value and returns it as it is kept (plain JSON data), or raises :class:`Unfit` with what is wanted.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Collection, Sequence
from typing import Any

import numpy as np

from reticula.core.language.reserved import what_it_means

__all__ = [
    "NAME",
    "Condition",
    "Unfit",
    "between",
    "each_of",
    "fitted",
    "is_any_value",
    "is_flag",
    "is_free",
    "is_name",
    "is_number",
    "is_whole",
    "listed",
    "one_of",
    "up_to_letters",
]

NAME = re.compile(r"[^\W\d]\w*\Z")
LONGEST_NAME = 64


class Unfit(Exception):
    """A value is not what is wanted; its text says what is."""


Condition = Callable[[Any], Any]


def is_number(value: Any) -> float:
    """A finite number."""
    if isinstance(value, bool) or not isinstance(value, (int, float, np.integer, np.floating)):
        raise Unfit(f"takes a number, not {value!r}")
    try:
        number = float(value)
    except OverflowError:
        number = math.inf
    if not math.isfinite(number):
        raise Unfit("takes a finite number")
    return number


def between(low: float, high: float = math.inf) -> Condition:
    """A number within limits, both included."""

    def check(number: float) -> float:
        if not low <= number <= high:
            raise Unfit(f"{number:g} is outside of {low:g} to {high:g}")
        return number

    return check


def is_whole(number: float) -> int:
    """A number without a fraction."""
    if number != int(number):
        raise Unfit(f"takes a whole number, not {number:g}")
    return int(number)


def is_flag(value: Any) -> bool:
    """Yes or no."""
    if not isinstance(value, (bool, np.bool_)):
        raise Unfit(f"takes yes or no (true or false), not {value!r}")
    return bool(value)


def is_any_value(value: Any) -> Any:
    """A number, yes or no, or two to four numbers."""
    plain = value.tolist() if isinstance(value, (np.ndarray, np.generic)) else value
    if isinstance(plain, (bool, int, float)):
        return plain
    if isinstance(plain, (list, tuple)) and len(plain) in (2, 3, 4):
        parts = [part.item() if isinstance(part, np.generic) else part for part in plain]
        if all(type(part) in (int, float) for part in parts):
            return parts
    raise Unfit(f"takes a number, yes or no, 2 to 4 numbers or a formula, not {value!r}")


def one_of(words: Collection[str]) -> Condition:
    """One of some words."""

    def check(value: Any) -> str:
        if value not in words:
            raise Unfit(f"takes one of {', '.join(words)}, not {value!r}")
        return str(value)

    return check


def up_to_letters(most: int) -> Condition:
    """A text of limited length."""

    def check(value: Any) -> str:
        if not isinstance(value, str) or len(value) > most:
            raise Unfit(f"takes up to {most} letters")
        return str(value)

    return check


def is_name(*, optional: bool) -> Condition:
    """A name by the rules of the language; nothing, if it is optional."""

    def check(value: Any) -> str:
        if not isinstance(value, str):
            raise Unfit(f"takes a name, not {value!r}")
        text = value.strip()
        if (text or not optional) and (not NAME.match(text) or len(text) > LONGEST_NAME):
            raise Unfit(f"'{text}' is not a name: use letters, digits and _, not starting with a digit")
        return text

    return check


def is_free(what: str) -> Condition:
    """A name that means nothing else in formulas; ``what`` it will name: a group or an attribute."""

    def check(name: str) -> str:
        meaning = what_it_means(name, group=what == "group")
        if meaning:
            article = "an" if what[0] in "aeiou" else "a"
            raise Unfit(
                f"'{name}' is {meaning} in formulas and cannot be the name of {article} {what}; choose another name"
            )
        return name

    return check


def each_of(size: int, conditions: Sequence[Condition]) -> Condition:
    """So many values, each under the same conditions."""

    def check(value: Any) -> list[Any]:
        if isinstance(value, (str, bytes)) or not hasattr(value, "__len__") or len(value) != size:
            raise Unfit(f"takes {size} numbers, not {value!r}")
        return [fitted(part, conditions) for part in value]

    return check


def listed(what: str, least: int, most: int, condition: Condition) -> Condition:
    """Any number of values within limits, each under a condition."""

    def check(value: Any) -> list[Any]:
        if isinstance(value, (str, bytes)) or not hasattr(value, "__len__") or len(value) > most:
            raise Unfit(f"takes a list of up to {most:,} {what}")
        if len(value) < least:
            raise Unfit(f"takes at least {least} {what}, not {len(value)}")
        return [condition(one) for one in value]

    return check


def fitted(value: Any, conditions: Sequence[Condition]) -> Any:
    """Return a value after all conditions, each of which gets what the one before it made of it."""
    for condition in conditions:
        value = condition(value)
    return value
