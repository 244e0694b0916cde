"""Channels: the values with keys of one graph, sampled over its frames, for whoever draws them as curves."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.dial_types import parameter_of_dial
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.time.keys import is_keyed, keys_of
from reticula.core.operators.declaration.parameters import Parameter
from reticula.core.operators.scripting.controls import Controls, declared_or_none, parameter_of

__all__ = ["MOST_SAMPLES", "Channel", "channels_of"]

MOST_SAMPLES = 2_000


@dataclass(frozen=True)
class Channel:
    """One value with keys: of a dial (``node`` is empty), of a node's parameter, or of a script's ``control``.

    ``unit`` is that of its numbers.
    """

    node: str
    parameter: str
    control: str
    stored: Mapping[str, Any]
    declared: Parameter

    @property
    def unit(self) -> str:
        return self.declared.unit

    def sampled(self, frames: Floats) -> Floats | None:
        """Return the value at each of ``frames``, one row per frame ``(N, components)``; None if it is not numbers.

        Raises ParameterError for keys that cannot be.
        """
        keys = keys_of(self.control or self.parameter, self.stored)
        try:
            made = np.array([keys.at(float(frame), self.declared.blend) for frame in frames], dtype=np.float64)
        except (TypeError, ValueError):
            return None
        return made.reshape(len(frames), -1)


def channels_of(level: Document) -> Iterator[Channel]:
    """Yield the values with keys of a graph, dials first, then nodes in their order; what is broken is left out."""
    for name, dial in level.get("dials", {}).items():
        with suppress(ParameterError, GraphError):
            if is_keyed(dial.get("value")):
                yield Channel("", name, "", dial["value"], parameter_of_dial(name, dial))
    for name, node in level["nodes"].items():
        with suppress(ParameterError, GraphError):
            yield from _of_node(name, node)


def _of_node(name: str, node: Mapping[str, Any]) -> Iterator[Channel]:
    parameters = node.get("parameters", {})
    declared = {entry.name: entry for entry in operator_of(node).parameters}
    for key, value in parameters.items():
        parameter = declared.get(key)
        if parameter is None or not isinstance(value, Mapping):
            continue
        if is_keyed(value):
            yield Channel(name, key, "", value, parameter)
        elif isinstance(parameter, Controls):
            found = declared_or_none(parameters.get(parameter.of))
            controls = {one.name: parameter_of(one) for one in found.controls} if found else {}
            for control, held in value.items():
                if is_keyed(held) and control in controls:
                    yield Channel(name, key, control, held, controls[control])
