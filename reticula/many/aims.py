"""What variants are sought for: formulas that are to be smallest, largest or at a value, under conditions.

Formulas read what was turned and noted of a variant by name; one that reads ``geo`` is a formula on the whole, which is
noted of each variant under its own text.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Collection, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph.nesting.contracts import BROKEN_PROMISE
from reticula.core.language.parse import names_read, parse
from reticula.many.matching import called, held, measured
from reticula.workers.making import COUNTED

__all__ = ["GOALS", "MOST_AIMS", "Aim", "Seek", "best_of"]

Goal = Literal["smallest", "largest", "at"]
GOALS: tuple[Goal, ...] = ("smallest", "largest", "at")
MOST_AIMS, MOST_CONDITIONS = 3, 12
COMPARED: Mapping[type[ast.cmpop], tuple[Callable[[Floats, Floats], Flags], float]] = {
    ast.Lt: (np.less, 1.0),
    ast.LtE: (np.less_equal, 1.0),
    ast.Gt: (np.greater, -1.0),
    ast.GtE: (np.greater_equal, -1.0),
    ast.Eq: (np.equal, 0.0),
}
"""Comparisons whose sides are numbers, and which side is too large where one does not hold."""


@dataclass(frozen=True)
class Aim:
    """A formula, and what it is to be: smallest, largest, or ``at`` a ``value``."""

    formula: str
    goal: Goal = "smallest"
    value: float = 0.0

    def loss(self, found: Floats) -> Floats:
        """Return how far values are from it ``(N,)``, less is better; NaN where there is none."""
        if self.goal == "at":
            return np.abs(found - self.value)
        return found if self.goal == "smallest" else -found


@dataclass(frozen=True)
class Seek:
    """Aims and conditions. A variant that breaks what an operator in it promises does not meet them either."""

    aims: Sequence[Aim]
    conditions: Sequence[str] = ()

    @classmethod
    def of(cls, plain: Mapping[str, Any]) -> Seek:
        """Return what :func:`dataclasses.asdict` made plain."""
        return cls(tuple(Aim(**one) for one in plain["aims"]), tuple(plain["conditions"]))

    @property
    def formulas(self) -> list[str]:
        """All formulas, without their aims."""
        return [*(aim.formula for aim in self.aims), *self.conditions]

    def numbers_beside(self, known: Collection[str]) -> dict[str, str]:
        """Return what is to be noted of each variant beside the ``known`` columns, by name: words for numbers, and
        formulas on the whole. A dial or number of such a name is what is meant.
        """
        return {name: one for name, one in self._numbers.items() if name not in known}

    @property
    def _numbers(self) -> dict[str, str]:
        words = {word: word for word in COUNTED if any(word in names_read(text) for text in self.formulas)}
        whole = {aim.formula: aim.formula for aim in self.aims if _is_on_the_whole(aim.formula)}
        for text in self.conditions:
            with suppress(FormulaError):  # said by check
                whole |= _noted(parse(text).value, text)
        return words | whole

    def check(self, row: Mapping[str, Any]) -> None:
        """Raise GraphError for a formula that cannot be read, or not of variants like ``row``: values that may come, by
        the names of columns.
        """
        if not 1 <= len(self.aims) <= MOST_AIMS:
            raise GraphError(f"these are {len(self.aims)} aims; seek 1 to {MOST_AIMS}")
        if len(self.conditions) > MOST_CONDITIONS:
            raise GraphError(f"these are {len(self.conditions)} conditions; {MOST_CONDITIONS} is the most")
        for kind, texts in (("aim", [aim.formula for aim in self.aims]), ("condition", self.conditions)):
            for text in texts:
                try:
                    if kind == "condition" and parse(text).statements:
                        raise GraphError(f"condition '{text}': say it in one line")
                    if kind == "condition":
                        _lack([row], text)
                    elif not _is_on_the_whole(text):
                        measured([row], text)
                except FormulaError as error:
                    named = ", ".join(map(called, row))
                    raise GraphError(f"{kind} '{text}': {error} It reads {named}, and formulas on geo.") from None

    def values(self, rows: Sequence[Mapping[str, Any]]) -> Floats:
        """Return what the formula of each aim says of rows ``(N, aims)``; NaN where it cannot be had."""
        found = [
            _column(rows, aim.formula) if _is_on_the_whole(aim.formula) else measured(rows, aim.formula)
            for aim in self.aims
        ]
        return np.stack(found, axis=1)

    def losses(self, values: Floats) -> Floats:
        """Return how far values are from their aims ``(N, aims)``, less is better."""
        return np.stack([aim.loss(values[:, at]) for at, aim in enumerate(self.aims)], axis=1)

    def excess(self, rows: Sequence[Mapping[str, Any]], warnings: Sequence[Sequence[str]]) -> Floats:
        """Return by how much conditions are not met ``(N,)``: 0 where all are; without a unit, comparisons relative to
        the size of their sides (Deb, Comput. Methods Appl. Mech. Engrg. 186, 2000, sums what constraints lack).
        """
        broken = [float(any(BROKEN_PROMISE in text for text in said)) for said in warnings]
        return sum((_lack(rows, text) for text in self.conditions), np.array(broken, np.float64))


def best_of(losses: Floats, excess: Floats) -> Flags:
    """Return which of N tries are best ``(N,)``.

    Those that meet all conditions and of which no other is as good in every aim and better in one: the front; of equal
    ones the first. None meets them: the one that lacks least.
    """
    there = ~np.isnan(losses).any(axis=1)
    best = np.zeros(len(losses), bool)
    if not there.any():
        return best
    meets = there & (excess <= 0)
    if not meets.any():
        best[np.argmin(np.where(there, excess, np.inf))] = True
        return best
    rows = np.flatnonzero(meets)
    _, first = np.unique(losses[rows], axis=0, return_index=True)
    rows = rows[np.sort(first)]
    mine = losses[rows]
    beaten = [bool(((mine <= one).all(axis=1) & (mine < one).any(axis=1)).any()) for one in mine]
    best[rows[~np.array(beaten)]] = True
    return best


def _is_on_the_whole(text: str) -> bool:
    return "geo" in names_read(text)


def _column(rows: Sequence[Mapping[str, Any]], name: str) -> Floats:
    return np.array([np.nan if one.get(name) is None else one[name] for one in rows], np.float64)


def _noted(tree: ast.expr | None, text: str) -> dict[str, str]:
    """Return what a condition reads of the whole, by name: sides of its comparisons, or whether it holds."""
    if isinstance(tree, ast.BoolOp) and isinstance(tree.op, ast.And):
        return {name: one for part in tree.values for name, one in _noted(part, ast.unparse(part)).items()}
    if (sides := _sides(tree)) is not None:
        return {one: one for one in map(ast.unparse, sides[:2]) if _is_on_the_whole(one)}
    return {text: f"1 if {text} else 0"} if _is_on_the_whole(text) else {}


def _lack(rows: Sequence[Mapping[str, Any]], text: str) -> Floats:
    """Return by how much a condition does not hold ``(N,)``, from 0 to 1 for each comparison."""
    return _lacking(rows, parse(text).value, text)


def _lacking(rows: Sequence[Mapping[str, Any]], tree: ast.expr | None, text: str) -> Floats:
    if isinstance(tree, ast.BoolOp) and isinstance(tree.op, ast.And):
        return sum((_lacking(rows, one, ast.unparse(one)) for one in tree.values), np.zeros(len(rows)))
    if (sides := _sides(tree)) is None:
        holds = _column(rows, text) > 0 if _is_on_the_whole(text) else held(rows, text)
        return np.where(holds, 0.0, 1.0)
    try:
        left, right = (_side(rows, ast.unparse(one)) for one in sides[:2])
    except FormulaError:  # texts and flags have no size
        return np.where(held(rows, text), 0.0, 1.0)
    compared, sign = COMPARED[type(sides[2])]
    with np.errstate(invalid="ignore", divide="ignore"):
        lack = sign * (left - right) if sign else np.abs(left - right)
        share = lack / (np.abs(left) + np.abs(right))
        # What cannot be had lacks all; two sides that are equal lack next to nothing.
        return np.where(compared(left, right), 0.0, np.nan_to_num(np.clip(share, 1e-9, 1.0), nan=1.0))


def _sides(tree: ast.expr | None) -> tuple[ast.expr, ast.expr, ast.cmpop] | None:
    """Return what is compared, and how; None for what is not one comparison of sizes."""
    if isinstance(tree, ast.Compare) and len(tree.ops) == 1 and type(tree.ops[0]) in COMPARED:
        return tree.left, tree.comparators[0], tree.ops[0]
    return None


def _side(rows: Sequence[Mapping[str, Any]], text: str) -> Floats:
    return _column(rows, text) if _is_on_the_whole(text) else measured(rows, text)
