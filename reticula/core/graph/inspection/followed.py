"""What a dial would get from a table that it follows, for whoever sets that up: rows, troubles, values over frames."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from reticula.core.arrays import Floats
from reticula.core.errors import ParameterError
from reticula.core.graph.nesting.dial_types import parameter_of_dial
from reticula.core.graph.structure.document import check_structure
from reticula.core.graph.time.tables import following_of, is_following, log_of
from reticula.core.graph.time.timeline import timeline_of
from reticula.core.operators.declaration.parameters import Parameter

__all__ = ["sample_followed"]


def sample_followed(document: Mapping[str, Any], name: str, dial: Mapping[str, Any], frames: Floats) -> dict[str, Any]:
    """Return what a dial that follows a table gets at ``frames``.

    That is ``rows``, ``first`` and ``last`` time in the unit of the table, what is ``said`` of the rows, ``samples``, a
    list of numbers per frame (None: texts or flags), and the ``trouble`` of the first one that the dial cannot take, or
    nothing. ``document`` is the whole graph, which says how long frames are. Raises GraphError for a dial that is none,
    ParameterError for settings, tables and columns that cannot be.
    """
    check_structure({"format": "reticula graph", "version": 1, "nodes": {}, "dials": {name: dial}})
    if not is_following(dial["value"]):
        raise ParameterError(name, "this dial follows no table")
    parameter = parameter_of_dial(name, dial)
    following = following_of(name, dial["value"])
    log = log_of(name, following)
    timeline = timeline_of(document)
    values = [following.at(log, timeline.names(float(frame)), parameter.blend) for frame in frames]
    listed = [value if isinstance(value, list) else [value] for value in values]
    plain = log.numbers is not None and parameter.blend != "hold"
    return {
        "rows": log.rows,
        "first": float(log.times[0]),
        "last": float(log.times[-1]),
        "said": list(log.said),
        "samples": listed if plain else None,
        "trouble": _misfit(parameter, values),
    }


def _misfit(parameter: Parameter, values: list[Any]) -> str:
    """Return why the first value that the dial cannot take does not fit, or nothing."""
    for value in values:
        try:
            parameter.check(value)
        except ParameterError as error:
            return str(error)
    return ""
