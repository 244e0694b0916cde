"""Many results at once: one graph over many inputs, on this machine or a cluster.

Dask distributed spreads the work; one job is what an evaluator does (:class:`reticula.workers.tasks.Job`).
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from reticula.many.aims import Aim
    from reticula.many.batch import run_batch
    from reticula.many.seeking import run_seek

__all__ = ["Aim", "run_batch", "run_seek"]
AT = {"Aim": "aims", "run_batch": "batch", "run_seek": "seeking"}


def __getattr__(name: str) -> Any:
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"reticula.many.{AT[name]}"), name)
