"""A search from its first try to its last: what is asked for is made, and what became of it is told."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.many.aims import Seek, best_of
from reticula.many.search import Search

__all__ = ["best_so_far"]

Values = dict[str, Any]
Told = Mapping[str, Any]
"""What became of a try: ``state``, ``numbers`` and ``warnings``, of its outcome or its entry."""


def best_so_far(
    search: Search, seek: Seek, columns: Sequence[str], make: Callable[[list[Values]], Sequence[Told | None]]
) -> Iterator[list[Values]]:
    """Go through a search, a few tries at a time, and yield the values of those that are best by then, each time.

    ``columns`` are the names that formulas may read, those of failed tries, too. ``make`` returns what became of tries,
    None for those that were not made any more: then it ends.
    """
    tries: list[Values] = []
    losses: list[Floats] = []
    excess: list[Floats] = []
    while asked := search.ask():
        made = make(asked)
        there = [(values, one) for values, one in zip(asked, made, strict=True) if one is not None]
        if there:
            empty = dict.fromkeys(columns)
            rows = [{**empty, **values, **one.get("numbers", {})} for values, one in there]
            found = seek.losses(seek.values(rows))
            found[[one["state"] != "done" for _, one in there]] = np.nan
            lack = seek.excess(rows, [one.get("warnings", ()) for _, one in there])
            tries += [values for values, _ in there]
            losses.append(found)
            excess.append(lack)
            best = best_of(np.concatenate(losses), np.concatenate(excess))
            yield [tries[at] for at in np.flatnonzero(best)]
        if len(there) < len(asked):
            return
        search.tell(found, lack)
