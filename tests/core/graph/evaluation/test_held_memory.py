"""What hangs on a geometry counts: also what was worked out of it later."""

from __future__ import annotations

import tracemalloc

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry import SourceMap, Weights, carry
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.source_maps import Later
from reticula.core.graph import Cache
from reticula.core.graph.evaluation.cache import Entry
from reticula.core.graph.evaluation.held_memory import growth, held_arrays


def test_adjacency_and_normals_count_once_they_are_there() -> None:
    grid = ops.grid(cells=(200, 200))
    bare = sum(held_arrays(grid).values())
    assert bare >= grid.positions.nbytes + grid.topology.corner_point.nbytes
    edges = grid.topology.edges
    assert sum(held_arrays(grid).values()) >= bare + edges.nbytes


def test_all_that_python_traces_is_found() -> None:
    """Beside tracemalloc: what is allocated while neighbours, edges and normals are worked out, and kept."""

    def work(grid: Geo) -> None:
        ops.smooth_subdivide(geo=grid)
        ops.extrude(geo=grid, distance=0.1)

    work(ops.grid(cells=(4, 4)))
    grid = ops.grid(cells=(300, 300))
    before = sum(held_arrays(grid).values())
    tracemalloc.start()
    work(grid)
    kept, _ = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    grown = sum(held_arrays(grid).values()) - before
    assert grown > 1_000_000
    assert 0.9 * kept < grown + 2_000_000
    assert grown < 1.1 * kept + 2_000_000


def test_parts_of_an_array_count_as_the_whole_that_they_keep_alive() -> None:
    grid = ops.grid(cells=(10, 10))
    wide = np.zeros((100_000, 3))
    held = held_arrays(grid.with_positions(wide[: grid.topology.point_count]))
    assert max(held.values()) in (wide.nbytes, grid.positions.nbytes)


def test_a_cache_that_settles_keeps_to_its_budget() -> None:
    cache = Cache()
    grids = [ops.grid(cells=(100, 100 + n)) for n in range(4)]
    for number, grid in enumerate(grids):
        cache.put(str(number), Entry((grid,), (), 1.0))
    cache.budget = cache.bytes + 1000
    cache.settle()
    assert len(cache) == 4
    for number, grid in enumerate(grids):
        assert cache.get(str(number)) is not None
        assert len(grid.topology.edges)
    cache.settle()
    assert len(cache) < 4
    assert cache.bytes <= cache.budget
    kept = cache.bytes
    cache.settle()
    assert cache.bytes == kept, "counted again, it is the same"


def test_a_geometry_says_that_more_is_kept_on_it() -> None:
    grid = ops.grid(cells=(20, 20))
    steps = [
        lambda: grid.topology.edges,
        lambda: face_normals(grid),
        lambda: ops.extrude(geo=grid, distance=0.1),
        lambda: grid.identity("face"),
        lambda: grid.digest,
    ]
    for step in steps:
        before, held = growth(grid), held_arrays(grid)
        assert growth(grid) == before
        step()
        assert growth(grid) != before or held_arrays(grid) == held
        again = growth(grid)
        step()
        assert growth(grid) == again, "what is there already is not new"


def test_what_a_blend_is_put_off_with_counts() -> None:
    grid, wide = ops.grid(cells=(10, 10)), np.zeros((100_000, 3))
    index = np.arange(grid.topology.point_count, dtype=np.int32)
    later = Later(lambda: Weights.rows(np.zeros(wide.shape, np.int32), wide))
    made = carry(grid, grid.topology, {"point": SourceMap(index, later)}, positions=grid.positions)
    assert sum(held_arrays(made).values()) > wide.nbytes
