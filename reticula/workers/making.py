"""One result out of many: a geometry made, the numbers noted of it, and the file it is written to."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from reticula.core.diagnostics import collecting
from reticula.core.errors import GraphError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.measure import face_areas
from reticula.core.geometry.measure.volume import volume
from reticula.core.geometry.validation.checks import find_defects
from reticula.core.graph import Evaluation
from reticula.core.language import evaluate
from reticula.core.reports.summary import element_counts

__all__ = ["COUNTED", "made", "number_of"]

COUNTED: Mapping[str, Callable[[Geo], float]] = {
    "points": lambda geo: geo.topology.point_count,
    "edges": lambda geo: len(geo.topology.edges),
    "faces": lambda geo: geo.topology.face_count,
    "curves": lambda geo: geo.topology.curve_count,
    "instances": lambda geo: geo.topology.instance_count,
    "area": lambda geo: face_areas(geo).sum(),
    "volume": volume,
    "defects": lambda geo: sum(len(one.elements) for one in find_defects(geo)),
}
"""Numbers that are known by a word: counts, the area in m², the volume in m³, and what the checks find."""


def number_of(geo: Geo, wanted: str) -> float:
    """Return a number of a geometry: one of :data:`COUNTED`, or a formula on the whole, such as
    ``max(geo.points.cover)``.

    Areas and volumes are those where it stands. Raises FormulaError for a formula that cannot be read or gives no
    finite number, GeometryError for the volume of a surface that is not closed.
    """
    geo = to_world(geo)
    if wanted.strip() in COUNTED:
        return float(COUNTED[wanted.strip()](geo))
    return float(evaluate(wanted, geo, "whole", "number").array[0])


def made(
    done: Evaluation, feed: str, numbers: Mapping[str, str], writes: Mapping[str, Callable[[Geo], Path]] | None = None
) -> dict[str, Any]:
    """Return all that is to be told of a result, as plain data.

    ``digest`` names its content, ``numbers`` are those asked for by name; those that could not be had are ``None``, and
    a warning says why. ``paths`` are the files that were written, by the names of what ``writes`` them. Raises
    GraphError if there is no result.
    """
    remarks = [(name, remark) for name, result in done.nodes.items() for remark in result.notes]
    said: dict[str, list[str]] = {"note": [], "warning": []}
    for name, remark in remarks:
        said[remark.level].append(f"{name}: {remark.text}")
    for name, result in done.nodes.items():
        if result.state == "failed" and result.error and name != feed.partition(":")[0]:
            said["warning"].append(f"{name}: {result.error['message']}")
    at = done.failing(feed)
    if at.geo is None and at.error:
        raise GraphError(f"node '{at.node}': {at.error['message']}", node=at.node, parameter=at.error.get("parameter"))
    geo = done.geo(feed)
    noted: dict[str, float | None] = {}
    for name, wanted in numbers.items():
        try:
            noted[name] = number_of(geo, wanted)
        except ReticulaError as error:
            noted[name] = None
            said["warning"].append(f"number '{name}': {error}")
    with collecting() as notes:
        paths = {name: str(write(geo)) for name, write in (writes or {}).items()}
    for note in notes:
        said[note.level].append(note.text)
    return {
        "digest": geo.digest,
        "counts": element_counts(geo),
        "numbers": noted,
        "seconds": sum(result.seconds for result in done.nodes.values()),
        "notes": said["note"],
        "warnings": said["warning"],
        "paths": paths,
    }
