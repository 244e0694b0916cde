"""The operator of a package at a frame: it may hold keys, read time, and states that grow."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Protocol

from reticula.core.context import Library
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.evaluator import Evaluator
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.operators import Operator
from reticula.core.operators.shared.resources import Resources

__all__ = ["called_at_frame"]


class _Packaged(Library, Protocol):
    """What is called: a library with a main operator."""

    @property
    def main(self) -> str: ...

    @property
    def operator(self) -> Operator: ...


def called_at_frame(
    package: _Packaged, shapes: Resources, frame: float, geometries: Sequence[Geo], given: Mapping[str, Any]
) -> Any:
    """Return what the main operator of a package makes at a frame: a Geo, or a tuple with one per output.

    ``given`` has dials and further geometries by name. Raises GraphError if the operator fails.
    """
    chosen = package.operator
    entries = [entry.name for entry in chosen.inputs]
    named = dict(zip(entries, geometries, strict=False)) | {name: given[name] for name in entries if name in given}
    dials = {name: value for name, value in given.items() if name not in named}
    for name in dials:
        chosen.parameter(name)
    node = {"operator": package.main, "parameters": dials, "inputs": {name: [f"in_{name}"] for name in named}}
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": {f"in_{name}": {"operator": "input", "parameters": {"name": name}} for name in named} | {"made": node},
        "inputs": [{"name": name} for name in named],
    }
    done = Evaluator().evaluate(
        document, frame=frame, targets=["made"], inputs=named, shapes=shapes, operators=LayeredLibrary(package)
    )
    made = tuple(done.geo(f"made:{output.name}") for output in chosen.outputs)
    return made[0] if len(made) == 1 else made
