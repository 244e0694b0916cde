"""Pull apart: parts move away from each other."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, as_readonly
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    Handle,
    PerElement,
    Selection,
    Toggle,
    Vector,
)

__all__ = ["pull_apart"]


@operator(
    "pull_apart",
    family="shape",
    keywords=("explode", "spread", "exploded view", "separate", "scatter pieces"),
    carries="Carries all; only positions change. Adds the point attribute rest with the places before.",
    example="""
        ball = geodesic_sphere(frequency=6)
        seeds = scatter_in_volume(ball, total=14, arrangement="even")
        cells = break_into_cells(ball, seeds)
        pull_apart(cells, part="cell", amount=0.35)
    """,
    related=("break_into_cells", "transform", "unshare"),
    parameters=(
        Selection.each(
            "point", "points whose parts move; empty means all. A part moves if any of its points is marked"
        ),
        AttributeName(
            "part",
            "",
            "point or face attribute that tells parts apart, e.g. cell; empty takes connected pieces",
            optional=True,
        ),
        Choice("around", "middle", "the centre", options={"middle": "middle of everything", "place": "a given place"}),
        Vector(
            "center",
            [0.0, 0.0, 0.0],
            "the place",
            unit="m",
            soft=(-2, 2),
            shown_when=("around", "place"),
            handle=Handle("place"),
        ),
        PerElement(
            "amount",
            0.5,
            "how far, as a share of the part's distance from the centre; the mean over a part's points counts",
            on="point",
            soft=(0.0, 2.0),
        ),
        Vector(
            "along", [1.0, 1.0, 1.0], "factors along x, y and z; 0 keeps parts in place along that axis", soft=(0, 1)
        ),
        Toggle("keep_rest", True, "remember where points were in the attribute rest"),
    ),
)
def pull_apart(
    geo: Geo,
    *,
    where: Flags,
    part: str,
    around: str,
    center: list[float],
    amount: Floats,
    along: list[float],
    keep_rest: bool,
) -> Geo:
    """Move each part away from a centre, along the line from the centre to the middle of the part, without turning it.

    A formula for the amount may differ from part to part, e.g. by ``cell`` or ``piece``. Where parts share points,
    pull their faces apart first (unshare, or break into cells).
    """
    label = _labels(geo, part)
    count = int(label.max(initial=-1)) + 1
    if count < 2:
        warn("There is only one part, so nothing can be pulled apart.")
    size = np.maximum(np.bincount(label, minlength=count), 1)
    middles = np.stack([np.bincount(label, geo.positions[:, i], count) for i in range(3)], axis=1) / size[:, None]
    origin = np.array(center) if around == "place" else geo.bounds.mean(axis=0)
    share = np.bincount(label, amount, count) / size
    moves = (middles - origin) * np.array(along) * share[:, None]
    moves[np.bincount(label, where, count) == 0] = 0.0
    made = geo.with_attribute("point", "rest", Attribute("vec3", as_readonly(geo.positions))) if keep_rest else geo
    note(f"{count:,} parts.")
    return made.with_positions(geo.positions + moves[label])


def _labels(geo: Geo, part: str) -> AnyArray:
    """The number of each point's part, from 0."""
    shape = geo.topology
    if not part:
        return shape.point_piece
    kind: Kind
    for kind in ("point", "face"):
        found = geo.attributes[kind].get(part)
        if found is not None and found.start is None and found.values.ndim == 1:
            _, code = np.unique(found.values, return_inverse=True)
            code = code.reshape(-1)
            if kind == "point":
                return code
            label = np.full(shape.point_count, -1)
            label[shape.corner_point] = code[shape.corner_face]
            if (label[shape.corner_point] != code[shape.corner_face]).any():
                warn("Some points belong to several parts; they move with the last one. Part them first with unshare.")
            label[label < 0] = code.max(initial=-1) + 1
            return np.unique(label, return_inverse=True)[1].reshape(-1)
    there = [*geo.attributes["point"], *geo.attributes["face"]]
    raise ParameterError("part", f"takes an attribute with one value per point or face; there are {', '.join(there)}")
