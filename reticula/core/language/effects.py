"""What a script makes, removes and writes to other elements, as both back ends hand it over."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.errors import LimitError
from reticula.core.language.limits import MOST_GIVEN, MOST_MADE
from reticula.core.language.types import Type, width_of

__all__ = ["NOBODY", "REMOVABLE", "Chains", "Effects", "Log", "OtherWrites", "exceeds_limit"]

NOBODY = np.iinfo(np.int64).min
"""Stands for no element where a point may have one that it is like."""
REMOVABLE = ("point", "edge", "face", "curve")
"""Kinds that can be removed; records name them by their number here."""


@dataclass
class Chains:
    """Curves or faces that were made: who made them ``(K,)``, how many points ``(K,)``, the points, whether closed
    ``(K,)``.
    """

    by: Ints
    size: Ints
    points: Ints
    closed: AnyArray


@dataclass
class OtherWrites:
    """Values given to other elements: by whom ``(M,)``, to which ``(M,)``, the value ``(M, ...)``, and its type."""

    by: Ints
    target: Ints
    value: AnyArray
    type: Type


@dataclass
class Effects:
    """All of it, in the order of the elements that did it. Made elements are numbered -1, -2, … per kind."""

    point_by: Ints
    position: Floats
    like: Ints
    chains: dict[str, Chains]
    removed: dict[str, Ints]
    given: dict[tuple[str, str, bool], OtherWrites]

    @property
    def changes_topology(self) -> bool:
        return bool(
            len(self.point_by) or any(len(c.by) for c in self.chains.values()) or any(map(len, self.removed.values()))
        )


LIMITED = ("point", "curve", "face", "remove")


def exceeds_limit() -> LimitError:
    """The error of a script that makes or writes too much."""
    return LimitError(
        f"the script makes or removes more than {MOST_MADE:,} elements, or gives more than "
        f"{MOST_GIVEN:,} values to others; "
        "let it do less, or in two steps"
    )


@dataclass
class Log:
    """Gathers effects in batches; :meth:`finished` puts them in order."""

    adds: dict[tuple[str, str, bool], Type]
    batches: dict[str, list[tuple[AnyArray, ...]]] = field(default_factory=dict)
    made: dict[str, int] = field(default_factory=lambda: {"point": 0, "curve": 0, "face": 0})
    total: int = 0
    given: int = 0
    room: Floats = field(default_factory=lambda: np.empty((0, 3)))
    held: int = 0
    gathered: int = 0

    def note(self, what: str, *columns: AnyArray) -> None:
        made = what in LIMITED
        self.total += len(columns[0]) * made
        self.given += len(columns[0]) * (not made)
        if self.total > MOST_MADE or self.given > MOST_GIVEN:
            raise exceeds_limit()
        self.batches.setdefault(what, []).append(columns)

    def number(self, kind: str, count: int) -> Ints:
        """Return numbers for elements that are made now."""
        first = self.made[kind]
        self.made[kind] += count
        return -1 - np.arange(first, first + count)

    def positions(self) -> Floats:
        """Positions of the points made so far, in the order in which they were numbered."""
        batches = self.batches.get("point", [])
        for _, position, _ in batches[self.gathered :]:
            end = self.held + len(position)
            if end > len(self.room):
                larger = np.empty((max(end, 2 * len(self.room)), 3))
                larger[: self.held] = self.room[: self.held]
                self.room = larger
            self.room[self.held : end] = position
            self.held = end
        self.gathered = len(batches)
        return self.room[: self.held]

    def finished(self) -> Effects:
        """Return everything in the order of the elements that did it, and for each of them in the order of its
        doing.
        """
        by, position, like = self._columns("point", ((), (3,), ()))
        order = np.argsort(by, kind="stable")
        renumbered = {"point": _ranks(order)}
        chains: dict[str, tuple[AnyArray, ...]] = {}
        for kind in ("curve", "face"):
            by_chain, size, closed = self._columns(kind, ((), (), ()))
            at = np.argsort(by_chain, kind="stable")
            renumbered[kind] = _ranks(at)
            (points,) = self._columns(f"{kind} points", ((),))
            start = np.concatenate([[0], np.cumsum(size)])
            flat = np.repeat(start[:-1][at] - np.concatenate([[0], np.cumsum(size[at])])[:-1], size[at])
            points = points[flat + np.arange(len(points))] if len(points) else points
            chains[kind] = (by_chain[at], size[at], points, closed[at].astype(bool))
        moved = {kind: Chains(b, s, _renamed(p, renumbered["point"]), c) for kind, (b, s, p, c) in chains.items()}
        kinds, handles = self._columns("remove", ((), (), ()))[1:]
        removed = {}
        for number, kind in enumerate(REMOVABLE):
            chosen = handles[kinds == number]
            removed[kind] = _renamed(chosen, renumbered[kind]) if kind in renumbered else chosen
        given = {key: self._given(key, type, renumbered) for key, type in self.adds.items()}
        return Effects(by[order], position[order], _renamed(like[order], renumbered["point"]), moved, removed, given)

    def _given(self, key: tuple[str, str, bool], type: Type, renumbered: dict[str, Ints]) -> OtherWrites:
        by, target, value = self._columns(add_name(key), ((), (), (width_of(type),)))
        if len(by) > 1 and (by[1:] < by[:-1]).any():
            at = np.argsort(by, kind="stable")
            by, target, value = by[at], target[at], value[at]
        return OtherWrites(by, _renamed(target, renumbered[key[0]]) if key[0] in renumbered else target, value, type)

    def _columns(self, what: str, shapes: tuple[tuple[int, ...], ...]) -> list[AnyArray]:
        parts = self.batches.get(what)
        if not parts:
            return [np.zeros((0, *shape), np.float64 if shape else np.int64) for shape in shapes]
        return [np.concatenate(column) if len(column) > 1 else column[0] for column in zip(*parts, strict=True)]


def add_name(key: tuple[str, str, bool]) -> str:
    """Return under which name values for other elements are gathered."""
    return f"{key[0]}.{key[1]} {'+=' if key[2] else '='}"


def _ranks(order: AnyArray) -> Ints:
    """Return, for each made element by its number when it was made, its number in the end."""
    ranks = np.empty(len(order), np.int64)
    ranks[order] = np.arange(len(order))
    return ranks


def _renamed(handles: AnyArray, ranks: Ints) -> Ints:
    if not len(ranks):
        return handles.astype(np.int64, copy=False)
    made = (handles < 0) & (handles != NOBODY)
    out = handles.astype(np.int64)
    out[made] = -1 - ranks[-1 - handles[made]]
    return out
