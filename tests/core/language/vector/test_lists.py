"""Lists of the vector back end: both forms of them, growing, changing, joining, and who owns what."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import LimitError
from reticula.core.language.vector import lists as module
from reticula.core.language.vector.lists import Lists

ROWS = st.lists(st.lists(st.integers(-9, 9), max_size=5), min_size=1, max_size=6)


def ragged(rows: list[list[int]]) -> Lists:
    start = np.concatenate([[0], np.cumsum([len(row) for row in rows])])
    return Lists.ragged(start, np.array([value for row in rows for value in row], np.int64))


def plain(lists: Lists) -> list[list[int]]:
    start, values = lists.content
    return [values[a:b].tolist() for a, b in zip(start[:-1], start[1:], strict=True)]


def table(rows: list[list[int]]) -> Lists:
    """The same as a table with room to spare."""
    made = ragged(rows)
    return Lists(made.length, cells=np.pad(made.cells, ((0, 0), (0, 3))))


@given(ROWS)
def test_both_forms_hold_the_same(rows: list[list[int]]) -> None:
    for lists in (ragged(rows), table(rows)):
        assert plain(lists) == rows
        assert lists.reduced("len").tolist() == [len(row) for row in rows]
        assert lists.reduced("sum").tolist() == [sum(row) for row in rows]
        assert lists.cells.shape[0] == len(rows)


@given(ROWS, st.data())
def test_taking_and_reading_items(rows: list[list[int]], data: st.DataObject) -> None:
    chosen = data.draw(st.lists(st.integers(0, len(rows) - 1), max_size=5))
    for lists in (ragged(rows), table(rows)):
        if len(rows) > 1:
            assert plain(lists.take(np.array(chosen, np.int64))) == [rows[k] for k in chosen]
        filled = [k for k, row in enumerate(rows) if row]
        last = [len(rows[k]) - 1 for k in filled]
        if filled:
            assert [int(lists.nth(np.array([k]), n)[0]) for k, n in zip(filled, last, strict=True)] == [
                rows[k][-1] for k in filled
            ]


@given(ROWS, ROWS)
def test_joining(first: list[list[int]], second: list[list[int]]) -> None:
    count = min(len(first), len(second))
    made = ragged(first[:count]).followed_by(table(second[:count]))
    assert plain(made) == [a + b for a, b in zip(first[:count], second[:count], strict=True)]


@given(ROWS, st.data())
def test_growing_where_it_is_asked(rows: list[list[int]], data: st.DataObject) -> None:
    chosen = sorted(data.draw(st.sets(st.integers(0, len(rows) - 1), min_size=1)))
    where = None if len(chosen) == len(rows) else np.array(chosen)
    made = ragged(rows).appended(where, len(rows), np.arange(len(chosen)))
    wanted = [list(row) for row in rows]
    for number, k in enumerate(chosen):
        wanted[k].append(number)
    assert plain(made) == wanted
    changed = made.replaced(where, len(rows), np.zeros(len(chosen), np.int64), np.full(len(chosen), 77))
    for k in chosen:
        wanted[k][0] = 77
    assert plain(changed) == wanted


def test_only_what_is_owned_changes_in_place() -> None:
    grown = ragged([[1]]).appended(None, 1, np.array([2]))
    assert grown.owned
    shared = Lists(grown.length, cells=grown.cells)
    other = shared.appended(None, 1, np.array([3]))
    again = grown.appended(None, 1, np.array([4]))
    assert (plain(other), plain(again)) == ([[1, 2, 3]], [[1, 2, 4]])
    changed = shared.replaced(None, 1, np.array([0]), np.array([9]))
    assert (plain(shared), plain(changed)) == ([[1, 2]], [[9, 2]])


def test_one_list_stands_for_all_until_some_differ() -> None:
    one = ragged([[5, 6]])
    assert plain(one.put(np.array([1]), 3, ragged([[7]]))) == [[5, 6], [7], [5, 6]]
    assert plain(one.appended(np.array([0, 2]), 3, np.array([8, 9]))) == [[5, 6, 8], [5, 6], [5, 6, 9]]
    assert plain(one.appended(None, 2, np.array([1, 2]))) == [[5, 6, 1], [5, 6, 2]]


def test_types_widen_with_what_is_put_in() -> None:
    made = ragged([[1], [2]]).appended(None, 2, np.array([0.5, 1.5]))
    assert made.cells.dtype == np.float64
    assert Lists.columns(np.array([["a"], ["b"]])).appended(None, 2, np.array(["longer", "x"])).at(
        np.array([1, 1])
    ).tolist() == ["longer", "x"]


def test_limits(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_ITEMS", 3)
    monkeypatch.setattr(module, "MOST_LISTED", 10)
    with pytest.raises(LimitError, match="beyond 3 items"):
        ragged([[1, 2, 3]]).appended(None, 1, np.array([4]))
    with pytest.raises(LimitError, match="beyond 3 items"):
        ragged([[1, 2]]).followed_by(ragged([[1, 2]]))
    with pytest.raises(LimitError, match="lists of 12 items would be made, 10 is the most"):
        ragged([[1, 2, 3]] * 4)
