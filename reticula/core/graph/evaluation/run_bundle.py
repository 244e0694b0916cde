"""Parts of a loop that another process asked for, run here."""

from __future__ import annotations

from collections.abc import Callable

from reticula.core.context import Resources, using
from reticula.core.errors import ReticulaError, Stopped
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared
from reticula.core.graph.evaluation.held_graph import HeldGraph
from reticula.core.graph.evaluation.level import Run
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.structure.library import MemoryLibrary

__all__ = ["run_bundle"]


def run_bundle(
    store: EvaluationStore,
    shared: Shared,
    bundle: Bundle,
    shapes: Resources,
    should_stop: Callable[[], bool] | None = None,
) -> Made:
    """Run the graph on each part of a bundle, up to the first that fails; raise Stopped if that is not wanted."""
    run = Run(store, should_stop=should_stop, depth=1)
    library = MemoryLibrary(shared.library)
    with using(resources=shapes, library=library, moment=shared.moment, should_stop=should_stop, spread=None):
        here = HeldGraph(run, store.plan(shared.graph), shared.given, shared.dials, shared.node, shared.path)
        outputs: list[dict[str, Geo]] = []
        error = None
        for part, names in bundle.parts:
            try:
                made = here.run({**shared.given, shared.first: part}, names)
            except Stopped:
                raise
            except ReticulaError as failed:
                error = failed.details()
                break
            outputs.append({name: one.geo for name, one in made.items()})
        store.cache.settle()
    return Made(outputs, here.told, run.count, error)
