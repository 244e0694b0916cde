"""Blur values: along edges, so that neighbours become alike."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind, Weights
from reticula.core.geometry.kinds import PLURAL
from reticula.core.geometry.measure import unit
from reticula.core.language.scope import adjacent
from reticula.core.notes import note
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, Integer, KindChoice, Names, Number, Where
from reticula.core.operators.patterns import matching
from reticula.core.operators.telling import tell_of_unshared

__all__ = ["blur_values"]

SMOOTH = ("number", "vec2", "vec3", "vec4")


@operator(
    "blur_values",
    family="attributes",
    keywords=("smooth", "average", "diffuse", "spread", "soften", "relax", "laplacian"),
    carries="Carries all; changes the attribute.",
    parameters=(
        Names("attributes", "*", "names, with spaces between; * for all numbers, vectors and colours; a group becomes a number", of="geo"),
        KindChoice.of(("point", "face"), "point", "what has the attribute"),
        Integer("iterations", 10, "how often", soft=(0, 100), low=0, high=100_000),
        Number("step", 0.5, "how far each goes towards the mean of its neighbours", soft=(0, 1), low=0.0, high=1.0),
        Choice("pinned", "nothing", "what keeps its value, and passes it on", options={
            "nothing": "all change", "borders": "elements on open borders",
        }),
        Where("where", "", "which elements change; the others keep their value and pass it on", on="kind"),
    ),
)  # fmt: skip
def blur_values(
    geo: Geo, *, attributes: str, kind: str, iterations: int, step: float, pinned: str, where: Flags
) -> Geo:
    """Blur attributes along the edges of the mesh: each element goes towards the mean of its neighbours."""
    on = cast(Kind, kind)
    there = [name for name in geo.attributes[on] if name != "position"]
    if attributes == "*":
        there = [name for name in there if geo.find(on, name).type in SMOOTH]
    elif "position" in attributes.split():
        there.append("position")
    names = matching("attributes", attributes, there, PLURAL[kind])
    tell_of_unshared(geo, "blurring")
    start, index = adjacent(geo, on, "neighbours")
    moving = where & (np.diff(start) > 0)
    if pinned == "borders":
        moving &= ~(geo.topology.border_points if on == "point" else _border_faces(geo))
    mean = Weights.means(start, index)
    for name in names if iterations else ():
        found = geo.find(on, name)
        if found.type not in (*SMOOTH, "integer", "flag"):
            raise ParameterError(
                "attributes", f"'{name}' is a {found.type}; numbers, vectors and groups can be blurred"
            )
        rows = _blurred(found.values.astype(np.float64), mean, moving, iterations, step)
        if name in ("normal", "rotation") and rows.ndim == 2:
            rows = np.where(moving[:, None], unit(rows), rows)
        if found.type in ("flag", "integer"):
            note(f"'{name}' was a {found.type} and is a number now.")
        default = found.default if found.type in SMOOTH else None
        geo = geo.with_attribute(on, name, Attribute.of(rows, default=default))
    return geo


def _blurred(rows: Floats, mean: Weights, moving: Flags, iterations: int, step: float) -> Floats:
    mask = moving.reshape(-1, *([1] * (rows.ndim - 1)))
    for _ in range(iterations):
        rows = np.where(mask, rows + step * (mean.apply(rows) - rows), rows)
    return rows


def _border_faces(geo: Geo) -> Flags:
    shape = geo.topology
    out = np.zeros(shape.face_count, bool)
    out[shape.corner_face[shape.border_edges[shape.corner_edge]]] = True
    return out
