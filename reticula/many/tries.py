"""A search from its first try to its last: what is asked for is made, and what became of it is told."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Any

import numpy as np

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
    empty = dict.fromkeys(columns)
    # What is not best now never is: whatever beats it stays, or is beaten itself by what does.
    best: list[Values] = []
    best_losses, best_excess = np.empty((0, len(seek.aims))), np.empty(0)
    while asked := search.ask():
        made = make(asked)
        there = [(values, one) for values, one in zip(asked, made, strict=True) if one is not None]
        if there:
            rows = [{**empty, **values, **one.get("numbers", {})} for values, one in there]
            losses = seek.losses(seek.values(rows))
            losses[[one["state"] != "done" for _, one in there]] = np.nan
            excess = seek.excess(rows, [one.get("warnings", ()) for _, one in there])
            best += [values for values, _ in there]
            best_losses, best_excess = np.concatenate([best_losses, losses]), np.concatenate([best_excess, excess])
            kept = np.flatnonzero(best_of(best_losses, best_excess))
            best, best_losses, best_excess = [best[at] for at in kept], best_losses[kept], best_excess[kept]
            yield list(best)
        if len(there) < len(asked):
            return
        search.tell(losses, excess)
