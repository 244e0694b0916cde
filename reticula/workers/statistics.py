"""How the values of attributes are spread: range, mean, deviation and a small histogram for each of their numbers."""

from __future__ import annotations

import numpy as np

from reticula.contract.answers import Spread, StatisticsLook, Word
from reticula.contract.queries import StatisticsQuery
from reticula.core.arrays import AnyArray
from reticula.core.geometry import KINDS, Geo, Kind
from reticula.core.language import evaluate
from reticula.core.language.scope import BUILTINS, Scope

__all__ = ["BUILT_IN", "statistics"]

BINS = 24
BUILT_IN: dict[str, tuple[str, ...]] = {"face": ("area",), "edge": ("length",), "curve": ("length", "closed")}
"""What is shown of every element of a kind, besides its attributes."""


def statistics(geo: Geo, query: StatisticsQuery) -> StatisticsLook:
    """Return the spread of each number of each attribute of a ``kind`` (all kinds, if none is named).

    ``where`` is a formula that says which elements count. Lists count by their lengths; texts by their words.
    """
    kinds = [query.kind] if query.kind else list(KINDS)
    return {"what": "statistics", "kinds": {kind: _of_kind(geo, kind, query.where) for kind in kinds}}


def _of_kind(geo: Geo, kind: Kind, where: str) -> list[Spread]:
    counted = evaluate(where, geo, kind, "flag").array if where.strip() else slice(None)
    found: list[Spread] = []
    for name, attribute in geo.attributes[kind].items():
        values = np.diff(attribute.start) if attribute.start is not None else attribute.values
        found += _parts(name, attribute.type, values[counted])
    for name in BUILT_IN.get(kind, ()):
        if not geo.has(kind, name):
            values = np.broadcast_to(Scope(geo, kind).values(kind, name), geo.topology.count(kind))
            found += _parts(name, str(BUILTINS[name].type), values[counted])
    return found


def _parts(name: str, type: str, values: AnyArray) -> list[Spread]:
    if values.dtype.kind == "U":
        words, count = np.unique(values, return_counts=True)
        order = np.argsort(-count, kind="stable")[:5]
        most: list[Word] = [{"word": str(words[i]), "count": int(count[i])} for i in order]
        return [{"name": name, "part": -1, "type": type, "words": len(words), "most": most}]
    if values.dtype == bool:
        return [{"name": name, "part": -1, "type": type, "members": int(values.sum()), "count": len(values)}]
    flat = values.reshape(len(values), int(np.prod(values.shape[1:]))).astype(np.float64)
    single = values.ndim == 1
    return [_spread(name, -1 if single else part, type, flat[:, part]) for part in range(flat.shape[1])]


def _spread(name: str, part: int, type: str, numbers: AnyArray) -> Spread:
    real = numbers[np.isfinite(numbers)]
    about: Spread = {
        "name": name,
        "part": part,
        "type": type,
        "count": len(numbers),
        "bad": len(numbers) - len(real),
    }
    if not len(real):
        return about
    low, high = float(real.min()), float(real.max())
    bins = _histogram(real, low, high) if high > low else []
    return {**about, "low": low, "high": high, "mean": float(real.mean()), "deviation": float(real.std()), "bins": bins}


def _histogram(numbers: AnyArray, low: float, high: float) -> list[int]:
    """Count the numbers in equal parts of the range, however narrow that is."""
    part = np.minimum((numbers - low) / (high - low) * BINS, BINS - 1).astype(np.int64)
    return np.bincount(part, minlength=BINS).tolist()
