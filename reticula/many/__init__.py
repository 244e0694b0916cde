"""Many results at once: one graph over many inputs, on this machine or a cluster.

Dask distributed spreads the work; one job is what an evaluator does (:class:`reticula.workers.tasks.Job`).
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from reticula.many.batch import run_batch

__all__ = ["run_batch"]


def __getattr__(name: str) -> Any:
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module("reticula.many.batch"), name)
