"""The cache of results."""

from reticula.core import ops
from reticula.core.graph import Cache
from reticula.core.graph.evaluation.cache import Entry


def test_the_cache_keeps_to_its_budget_and_gives_up_what_is_cheap() -> None:
    cache = Cache(budget=150_000)
    dear, cheap = ops.grid(cells=(30, 30)), ops.grid(cells=(31, 31))
    cache.put("dear", Entry((dear,), (), 10.0))
    size = cache.bytes
    cache.put("moved", Entry((dear.with_positions(dear.positions + 1),), (), 10.0))
    assert cache.bytes - size == dear.positions.nbytes, "shared arrays count once"
    cache.put("cheap", Entry((cheap,), (), 0.001))
    cache.put("last", Entry((ops.grid(cells=(29, 29)),), (), 5.0))
    assert "cheap" not in cache
    assert cache.bytes <= 150_000
