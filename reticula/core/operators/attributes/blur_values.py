"""Blur values: along edges, so that neighbours become alike."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, flat_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.jit import parallel_kernel, prange
from reticula.core.language.scope import adjacent
from reticula.core.operators.declaration.diagnostics import tell_of_unshared
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, KindChoice, Names, Number, Selection
from reticula.core.operators.shared.name_patterns import matching
from reticula.core.rows import unit
from reticula.core.words import with_article

__all__ = ["blur_values"]


@operator(
    "blur_values",
    family="attributes",
    keywords=("smooth", "average", "diffuse", "spread", "soften", "relax", "laplacian"),
    carries="Carries all; changes the attribute.",
    example="""
        tile = grid(cells=[40, 40])
        wet = set_attribute(tile, name="wet", value="hypot(position.x, position.z) < 0.3")
        soft = blur_values(wet, attributes="wet", iterations=60)
        remap(soft, value="wet", name="color", through="gradient")
    """,
    related=("smooth", "move_attribute", "noise_values"),
    parameters=(
        Names(
            "attributes",
            "*",
            "names, with spaces between; * for all numbers, vectors and colours; a group becomes a number",
            of="geo",
        ),
        KindChoice.of(("point", "face"), "point", "what has the attribute"),
        Integer("iterations", 10, "how often", soft=(0, 100), low=0, high=100_000),
        Number("step", 0.5, "how far each goes towards the mean of its neighbours", soft=(0, 1), low=0.0, high=1.0),
        Choice(
            "pinned",
            "nothing",
            "what keeps its value, and passes it on",
            options={
                "nothing": "all change",
                "borders": "elements on open borders, and ends of open curves",
            },
        ),
        Selection("where", "", "which elements change; the others keep their value and pass it on", on="kind"),
    ),
)
def blur_values(
    geo: Geo, *, attributes: str, kind: str, iterations: int, step: float, pinned: str, where: Flags
) -> Geo:
    """Blur attributes along the edges of the mesh and along curves: each element goes towards the mean of its
    neighbours.
    """
    on = cast(Kind, kind)
    there = [name for name in geo.attributes[on] if name != "position"]
    if attributes == "*":
        there = [name for name in there if _is_smooth(geo.find(on, name))]
    elif "position" in attributes.split():
        there.append("position")
    names = matching("attributes", attributes, there, PLURAL[kind])
    tell_of_unshared(geo, "blurring")
    start, index = adjacent(geo, on, "neighbours")
    moving = where & (np.diff(start) > 0)
    if len(where) and not moving.any():
        warn(f"No {PLURAL[kind][:-1]} that is marked has a neighbour, so nothing was blurred.")
    if pinned == "borders":
        moving &= ~(geo.topology.border_points | geo.topology.curve_ends if on == "point" else _border_faces(geo))
    for name in names if iterations else ():
        found = geo.find(on, name)
        if not (_is_smooth(found) or (found.info.is_single and found.info.dtype is not np.str_)):
            raise ParameterError(
                "attributes", f"'{name}' is {with_article(found.type)}; numbers, vectors and groups can be blurred"
            )
        flat = flat_rows(found.values)
        for _ in range(iterations):
            flat = _pass(start, index, flat, moving, step)
        rows = flat.reshape(found.values.shape)
        if name in ("normal", "rotation") and rows.ndim == 2:
            rows = np.where(moving[:, None], unit(rows), rows)
        if not found.info.blends:
            note(f"'{name}' was {with_article(found.type)} and is a number now.")
        default = found.default if found.info.blends else None
        geo = geo.with_attribute(on, name, Attribute.of(rows, default=default))
    return geo


@parallel_kernel
def _pass(start: Indices, index: Indices, rows: Floats, moving: Flags, step: float) -> Floats:
    out = np.empty_like(rows)
    for i in prange(len(rows)):
        for w in range(rows.shape[1]):
            out[i, w] = rows[i, w]
            if moving[i]:
                total = 0.0
                for k in range(start[i], start[i + 1]):
                    total += rows[index[k], w]
                out[i, w] += step * (total / (start[i + 1] - start[i]) - rows[i, w])
    return out


def _border_faces(geo: Geo) -> Flags:
    shape = geo.topology
    out = np.zeros(shape.face_count, bool)
    out[shape.corner_face[shape.border_edges[shape.corner_edge]]] = True
    return out


def _is_smooth(found: Attribute) -> bool:
    return found.info.blends and found.info.is_numeric
