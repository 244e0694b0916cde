"""Lists of values, one per element, of different lengths."""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Ints, ragged_index
from reticula.core.errors import LimitError
from reticula.core.language.limits import MOST_ITEMS, MOST_LISTED
from reticula.core.language.vector.reduction import reduce

__all__ = ["Lists"]


class Lists:
    """A list per row: ``start (N+1,)`` and ``values (M, ...)``, or, for lists that grow, ``cells (N, room, ...)`` and
    ``length (N,)``.

    One row stands for all elements if there is only one. A list is a value: only one that is ``owned`` by the name that
    it grows under is changed in place, any other is copied first.
    """

    def __init__(
        self,
        length: Ints,
        *,
        start: AnyArray | None = None,
        values: AnyArray | None = None,
        cells: AnyArray | None = None,
    ) -> None:
        self.length = length
        self.owned = False
        self._start, self._values, self._cells = start, values, cells

    @classmethod
    def ragged(cls, start: AnyArray, values: AnyArray) -> Lists:
        """Lists from starts and content."""
        check_listed(values.size)
        return cls(np.diff(start).astype(np.int64), start=start, values=values)

    @classmethod
    def columns(cls, cells: AnyArray) -> Lists:
        """Lists that are all equally long: ``cells (N, length, ...)``."""
        check_listed(cells.size)
        return cls(np.full(len(cells), cells.shape[1], np.int64), cells=cells)

    def __len__(self) -> int:
        return len(self.length)

    @property
    def content(self) -> tuple[AnyArray, AnyArray]:
        """Starts and content."""
        if self._start is None or self._values is None:
            assert self._cells is not None
            filled = np.arange(self._cells.shape[1]) < self.length[:, None]
            self._start = np.concatenate([[0], np.cumsum(self.length)])
            self._values = self._cells[filled]
        return self._start, self._values

    @property
    def cells(self) -> AnyArray:
        """The content as a table, one row per list; what is beyond a list's end means nothing."""
        if self._cells is None:
            _, values = self.content
            room = int(self.length.max(initial=0))
            check_listed(room * len(self.length) * math.prod(values.shape[1:]))
            table = np.zeros((len(self.length), room, *values.shape[1:]), values.dtype)
            table[np.arange(room) < self.length[:, None]] = values
            self._cells = table
        return self._cells

    @property
    def sample(self) -> AnyArray:
        """Some array of the content's type."""
        found = self._values if self._values is not None else self._cells
        assert found is not None
        return found if self._values is not None else found[:, 0:0].reshape(0, *found.shape[2:])

    def take(self, rows: AnyArray) -> Lists:
        """Return some of the lists; a single one stands for all."""
        if len(self) == 1:
            return self
        if self._cells is not None:
            return Lists(self.length[rows], cells=self._cells[rows])
        start, values = self.content
        check_listed(int(self.length[rows].sum()) * math.prod(values.shape[1:]))
        flat, begin = ragged_index(start, rows)
        return Lists(self.length[rows], start=begin, values=values[flat])

    def spread(self, count: int) -> Lists:
        """Return as many lists as there are elements."""
        if len(self) != 1 or count == 1:
            return self
        check_listed(self.cells.size * count)
        return Lists(np.broadcast_to(self.length, (count,)).copy(), cells=np.repeat(self.cells, count, axis=0))

    def at(self, index: AnyArray) -> AnyArray:
        """Return one item of each list; ``index`` is within them."""
        if self._cells is not None:
            rows = np.arange(len(self)) if len(self) > 1 else np.zeros(1, np.int64)
            return (
                self._cells[rows, index]
                if self._cells.shape[1]
                else np.zeros((len(index), *self._cells.shape[2:]), self._cells.dtype)
            )
        start, values = self.content
        return values[start[:-1] + index]

    def nth(self, rows: AnyArray, number: int) -> AnyArray:
        """Return item ``number`` of some of the lists, which are long enough."""
        if self._cells is not None:
            return self._cells[rows, number]
        start, values = self.content
        return values[start[:-1][rows] + number]

    def reduced(self, how: str) -> AnyArray:
        if how == "len":
            return self.length
        return reduce(how, *self.content)

    def mapped(self, values: AnyArray) -> Lists:
        """Return lists of the same lengths with other content ``(M, ...)``."""
        start, _ = self.content
        return Lists(self.length, start=start, values=values)

    def kept(self, flags: Flags) -> tuple[AnyArray, AnyArray]:
        """Return the starts of the items whose flag ``(M,)`` is set, and their numbers."""
        start, _ = self.content
        counts = np.concatenate([[0], np.cumsum(flags)])
        return counts[start], np.flatnonzero(flags)

    def followed_by(self, other: Lists) -> Lists:
        count = max(len(self), len(other))
        check_listed(sum(int(one.length.sum()) * (count // max(len(one), 1)) for one in (self, other)))
        a, b = self.spread(count), other.spread(count)
        (start_a, values_a), (start_b, values_b) = a.content, b.content
        start = start_a + start_b
        check_longest(np.diff(start))
        out = np.empty((len(values_a) + len(values_b), *values_a.shape[1:]), np.result_type(values_a, values_b))
        own = np.repeat(np.arange(count), a.length)
        out[np.arange(len(values_a)) + start_b[own]] = values_a
        own = np.repeat(np.arange(count), b.length)
        out[np.arange(len(values_b)) + start_a[own + 1]] = values_b
        return Lists.ragged(start, out)

    def put(self, rows: AnyArray | None, count: int, other: Lists) -> Lists:
        """Return ``count`` lists that are ``other`` at ``rows`` and these elsewhere.

        Those that are owned are used up.
        """
        if rows is None:
            return other
        mine = self.spread(count)
        theirs = other.spread(len(rows))
        room = max(mine.cells.shape[1], theirs.cells.shape[1])
        cells = widened(mine.cells, room, np.result_type(mine.cells, theirs.cells))
        cells[rows, : theirs.cells.shape[1]] = theirs.cells
        length = mine.length.copy()
        length[rows] = theirs.length
        return Lists(length, cells=cells)

    def appended(self, rows: AnyArray | None, count: int, values: AnyArray) -> Lists:
        """Return ``count`` lists with a value more at ``rows``. Those that are owned are used up."""
        grown = len(values) if rows is None else count
        mine = self.spread(max(grown, len(self)))
        where = np.arange(len(mine)) if rows is None else rows
        length = mine.length.copy()
        longest = int(length[where].max(initial=0)) + 1
        if longest > MOST_ITEMS:
            raise LimitError(f"a list would grow beyond {MOST_ITEMS:,} items")
        dtype = np.result_type(mine.cells, values)
        if longest > mine.cells.shape[1]:
            check_listed(longest * len(mine))
            cells = widened(mine.cells, max(longest, mine.cells.shape[1] + mine.cells.shape[1] // 2 + 4), dtype)
        else:
            cells = mine.cells if mine.owned and mine.cells.dtype == dtype else mine.cells.astype(dtype)
        cells[where, length[where]] = values
        length[where] += 1
        return owned(Lists(length, cells=cells))

    def replaced(self, rows: AnyArray | None, count: int, index: AnyArray, values: AnyArray) -> Lists:
        """Return ``count`` lists with one item changed at ``rows``."""
        grown = max(len(values), len(index)) if rows is None else count
        mine = self.spread(max(grown, len(self)))
        where = np.arange(len(mine)) if rows is None else rows
        dtype = np.result_type(mine.cells, values)
        cells = mine.cells if mine.owned and mine.cells.dtype == dtype else mine.cells.astype(dtype)
        cells[where, np.broadcast_to(index, (len(where),))] = values
        return owned(Lists(mine.length, cells=cells))


def owned(lists: Lists) -> Lists:
    """Mark lists as belonging to one name, which may change them."""
    lists.owned = True
    return lists


def widened(cells: AnyArray, room: int, dtype: np.dtype) -> AnyArray:
    """Return a copy of a table with more columns."""
    out = np.zeros((len(cells), room, *cells.shape[2:]), dtype)
    out[:, : cells.shape[1]] = cells
    return out


def check_longest(length: AnyArray) -> None:
    """Raise LimitError if one list is too long."""
    if int(length.max(initial=0)) > MOST_ITEMS:
        raise LimitError(f"a list would grow beyond {MOST_ITEMS:,} items")


def check_listed(count: int) -> None:
    """Raise LimitError if lists hold too much."""
    if count > MOST_LISTED:
        raise LimitError(f"lists of {count:,} items would be made, {MOST_LISTED:,} is the most; ask for fewer")
