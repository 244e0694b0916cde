"""The cache of results."""

from collections.abc import Iterator

import pytest

from reticula.core import ops
from reticula.core.graph import Cache
from reticula.core.graph.evaluation.cache import OBJECTS, Entry


def test_the_cache_keeps_to_its_budget_and_gives_up_what_is_cheap() -> None:
    cache = Cache(budget=170_000)
    dear, cheap = ops.grid(cells=(30, 30)), ops.grid(cells=(31, 31))
    cache.put("dear", Entry((dear,), (), 10.0))
    size = cache.bytes
    cache.put("moved", Entry((dear.with_positions(dear.positions + 1),), (), 10.0))
    assert cache.bytes - size == dear.positions.nbytes + OBJECTS, "shared arrays count once"
    cache.put("cheap", Entry((cheap,), (), 0.001))
    cache.put("last", Entry((ops.grid(cells=(29, 29)),), (), 5.0))
    assert "cheap" not in cache
    assert cache.bytes <= 170_000


def test_many_small_results_cost_as_much_each_as_few(monkeypatch: pytest.MonkeyPatch) -> None:
    weighed = looked = 0
    worth = Cache._worth

    def counted(self: Cache, key: str) -> tuple[float, int]:
        nonlocal weighed
        weighed += 1
        return worth(self, key)

    class Entries(dict[str, Entry]):
        """Counts how often all results are gone through."""

        def __iter__(self) -> Iterator[str]:
            nonlocal looked
            looked += 1
            return super().__iter__()

    monkeypatch.setattr(Cache, "_worth", counted)
    cache = Cache(budget=6_000_000)
    cache._entries = Entries()
    for number in range(3000):
        cache.put(str(number), Entry((ops.line(end=[0, 1 + number, 0]),), (), 1.0))
        assert str(number) in cache
        cache.settle()
        assert cache.bytes <= cache.budget
    assert 256 < len(cache._entries) < 2900
    assert looked < 300
    assert weighed < 30 * 3000


def test_what_is_worth_most_stays_among_many() -> None:
    cache = Cache(budget=6_000_000)
    cache.put("dear", Entry((ops.box(),), (), 1e6))
    for number in range(3000):
        cache.put(str(number), Entry((ops.line(end=[0, 1 + number, 0]),), (), 1.0))
    assert "dear" in cache
    assert "0" not in cache, "of those alike the one used longest ago goes"
