"""Examples: small graphs that use an operator, with what must come out."""

from __future__ import annotations

from copy import deepcopy
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.errors import ReticulaError
from reticula.core.geometry import KINDS, Geo
from reticula.core.graph.evaluation.evaluator import Evaluator
from reticula.core.graph.nesting.contracts import BROKEN_PROMISE
from reticula.core.graph.structure.library import LayeredLibrary, MemoryLibrary
from reticula.core.operators.shared.resources import Resources
from reticula.core.packages.definition import Definition, definition_key

__all__ = ["Trial", "measure_result", "run_examples"]

CLOSE = 1e-9
"""By how much numbers may differ, relative to their size: the last bits differ between machines."""


@dataclass(frozen=True)
class Trial:
    """What became of one example. ``trouble`` is empty if what came out is what was expected."""

    title: str
    trouble: str
    found: dict[str, Any]


def run_examples(definition: Definition, examples: list[Any], shapes: Resources | None = None) -> list[Trial]:
    """Run examples with the operator of ``definition``, whatever release they were made with."""
    evaluator, found = Evaluator(), []
    known = LayeredLibrary(MemoryLibrary({definition_key(definition): definition}))
    for example in examples:
        graph = deepcopy(example["graph"])
        node = example["node"]
        graph["nodes"][node]["operator"] = definition_key(definition)
        try:
            done = evaluator.evaluate(graph, targets=[node], shapes=shapes, operators=known)
            done.geo(node)
            result = done.nodes[node]
            made = {name: measure_result(geo) for name, geo in result.outputs.items()}
            broken = [n.text for n in result.notes if n.text.startswith(BROKEN_PROMISE)]
            trouble = broken[0] if broken else _differs(example.get("expected"), made)
        except ReticulaError as error:
            made, trouble = {}, str(error)
        found.append(Trial(example["title"], trouble, made))
    return found


def measure_result(geo: Geo) -> dict[str, Any]:
    """Return what is compared of a geometry: counts, bounds, and the mean of every attribute of numbers."""
    means: dict[str, Any] = {}
    for kind in KINDS:
        for name, attribute in sorted(geo.attributes[kind].items()):
            values = attribute.values
            numeric = values.dtype.kind in "fib" and len(values)
            means[f"{kind}.{name}"] = (
                np.mean(values, axis=0, dtype=np.float64).tolist() if numeric else str(attribute.type)
            )
    counts = {kind: count for kind, count in geo.counts.items() if count}
    return {"digest": geo.digest, "counts": counts, "bounds": geo.bounds.tolist(), "means": means}


def _differs(expected: dict[str, Any] | None, made: dict[str, Any]) -> str:
    for output, wanted in (expected or {}).items():
        if output not in made:
            return f"there is no output '{output}' any more"
        got = made[output]
        if wanted.get("digest") == got["digest"]:
            continue
        if wanted.get("counts") != got["counts"]:
            return f"'{output}' has {_told(got['counts'])} instead of {_told(wanted.get('counts') or {})}"
        if not _close(wanted.get("bounds"), got["bounds"]):
            return f"'{output}' has another size or place"
        for name, mean in (wanted.get("means") or {}).items():
            if name not in got["means"]:
                return f"'{output}' has no attribute {name} any more"
            if not _close(mean, got["means"][name]):
                return f"'{output}' has other values of {name}: {mean} before, {got['means'][name]} now, on average"
    return ""


def _told(counts: dict[str, int]) -> str:
    return ", ".join(f"{count:,} {kind}" for kind, count in counts.items()) or "nothing"


def _close(a: Any, b: Any) -> bool:
    if isinstance(a, str) or isinstance(b, str):
        return bool(a == b)
    if np.shape(a) != np.shape(b):
        return False
    return bool(np.allclose(a, b, rtol=CLOSE, atol=CLOSE))
