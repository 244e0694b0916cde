"""What a dial is turned to, one variant after the other: lists and even ranges in every combination, draws from
distributions, or sets that fill the space between several dials evenly.
"""

from __future__ import annotations

import math
import re
import warnings
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any, Protocol

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import GraphError
from reticula.core.graph.editing.values import value_of_text

__all__ = [
    "MOST_VARIANTS",
    "SPREADS",
    "Choice",
    "Each",
    "Even",
    "Normal",
    "OneOf",
    "Uniform",
    "choice_of_text",
    "value_like",
    "variants_of",
]

MOST_VARIANTS = 10_000
SPREADS = ("random", "latin", "sobol")
"""How draws of several dials lie: each by itself, a Latin hypercube (McKay, Beckman and Conover, Technometrics 21,
1979), or a scrambled Sobol set (Owen, J. of Complexity 14, 1998), which is even for powers of two.
"""
DRAWN = re.compile(r"\s*(uniform|normal|oneof)\((.*)\)\s*\Z", re.DOTALL)


@dataclass(frozen=True)
class Each:
    """Every value of a list."""

    values: Sequence[Any]

    def listed(self) -> list[Any]:
        return list(self.values)


@dataclass(frozen=True)
class Even:
    """``count`` values from ``low`` to ``high``, both among them, with equal steps."""

    low: float
    high: float
    count: int

    def listed(self) -> list[Any]:
        return [float(value) for value in np.linspace(self.low, self.high, self.count)]


class Drawn(Protocol):
    """A distribution: ``at`` maps parts of it, 0 to 1 ``(N,)``, to values."""

    def at(self, part: Floats, whole: bool) -> list[Any]: ...


@dataclass(frozen=True)
class Uniform:
    """Any value from ``low`` to ``high`` alike; of whole numbers both ends among them."""

    low: float
    high: float

    def at(self, part: Floats, whole: bool) -> list[Any]:
        if not whole:
            return [float(value) for value in self.low + part * (self.high - self.low)]
        low, high = math.ceil(self.low), math.floor(self.high)
        return [int(value) for value in np.minimum(np.floor(low + part * (high - low + 1)), high)]


@dataclass(frozen=True)
class Normal:
    """Values around ``mean``; two thirds of them within ``deviation`` of it."""

    mean: float
    deviation: float

    def at(self, part: Floats, whole: bool) -> list[Any]:
        from scipy.stats import norm

        values = self.mean + self.deviation * norm.ppf(np.clip(part, 1e-12, 1 - 1e-12))
        return [round(value) if whole else float(value) for value in values]


@dataclass(frozen=True)
class OneOf:
    """One of some values, any alike."""

    values: Sequence[Any]

    def at(self, part: Floats, whole: bool) -> list[Any]:
        return [self.values[min(int(one * len(self.values)), len(self.values) - 1)] for one in part]


Choice = Each | Even | Uniform | Normal | OneOf


def choice_of_text(text: str) -> Choice:
    """Return what a text says: ``0.1,0.2,0.5``, ``0.1:0.5:9`` (from, to, how many), ``uniform(0.1, 0.5)``,
    ``normal(0.3, 0.05)`` or ``oneof(round, square)``.

    Raises GraphError for any other text.
    """
    if drawn := DRAWN.match(text):
        values = [value_of_text(part.strip()) for part in drawn[2].split(",")]
        if drawn[1] == "oneof":
            return _checked(OneOf(values), text)
        if len(values) != 2 or not all(_is_number(value) for value in values):
            raise GraphError(f"'{text}': {drawn[1]} takes two numbers")
        return _checked((Uniform if drawn[1] == "uniform" else Normal)(*values), text)
    if text.count(":") == 2:
        low, high, count = map(value_of_text, text.split(":"))
        if not (_is_number(low) and _is_number(high) and isinstance(count, int) and not isinstance(count, bool)):
            raise GraphError(f"'{text}': an even range is FROM:TO:HOW_MANY")
        return _checked(Even(low, high, count), text)
    return _checked(Each([value_of_text(part.strip()) for part in text.split(",")]), text)


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool) and math.isfinite(value)


def _checked(choice: Choice, text: str) -> Choice:
    match choice:
        case Each(values) | OneOf(values):
            trouble = "say at least one value" if "" in values else ""
        case Even(count=count):
            trouble = "" if count >= 1 else "an even range has at least one value"
        case Uniform(low, high):
            trouble = "" if low <= high else "the lower end comes first"
        case Normal(deviation=deviation):
            trouble = "" if deviation >= 0 else "the deviation is not below 0"
    if trouble:
        raise GraphError(f"'{text}': {trouble}")
    return choice


def value_like(choice: Choice) -> Any:
    """Return a value that a choice may give."""
    return choice.listed()[0] if isinstance(choice, (Each, Even)) else choice.at(np.array([0.5]), False)[0]


def variants_of(
    choices: Mapping[str, Choice],
    *,
    count: int = 1,
    spread: str = "random",
    seed: int = 0,
    whole: frozenset[str] = frozenset(),
) -> list[dict[str, Any]]:
    """Return the values of each variant, by name.

    Lists and even ranges make every combination. Distributions are drawn ``count`` times for each of them, spread as
    ``spread`` says, the same for the same ``seed``. Names in ``whole`` take whole numbers. Raises GraphError for more
    than :data:`MOST_VARIANTS`, and for an unknown spread.
    """
    if spread not in SPREADS:
        raise GraphError(f"'{spread}' is no spread; there are {', '.join(SPREADS)}")
    crossed = {name: one.listed() for name, one in choices.items() if isinstance(one, (Each, Even))}
    drawn = {name: one for name, one in choices.items() if not isinstance(one, (Each, Even))}
    for name in whole & set(crossed):
        crossed[name] = list(dict.fromkeys(round(one) if isinstance(one, float) else one for one in crossed[name]))
    times = count if drawn else 1
    total = times * math.prod(len(values) for values in crossed.values())
    if not 1 <= total <= MOST_VARIANTS:
        raise GraphError(f"these are {total:,} variants; make 1 to {MOST_VARIANTS:,}")
    rounds = total // times
    parts = _parts(len(drawn), times * rounds, spread, seed)
    values = {name: one.at(parts[:, at], name in whole) for at, (name, one) in enumerate(drawn.items())}
    made = []
    for number, combination in enumerate(product(*crossed.values())):
        for turn in range(times):
            row = number * times + turn
            found = {**dict(zip(crossed, combination, strict=True)), **{name: values[name][row] for name in drawn}}
            made.append({name: found[name] for name in choices})
    return made


def _parts(dimensions: int, count: int, spread: str, seed: int) -> Floats:
    """Return ``(count, dimensions)`` parts of distributions, from 0 to 1."""
    from scipy.stats import qmc

    random = np.random.default_rng(seed)
    if spread == "random" or not dimensions:
        return random.random((count, dimensions))
    made = qmc.LatinHypercube(dimensions, rng=random) if spread == "latin" else qmc.Sobol(dimensions, rng=random)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", UserWarning)  # that it is even for powers of two stands in the documentation
        found: Floats = made.random(count)
    return found
