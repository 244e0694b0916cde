"""Push: along normals, as far as another surface lets it."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    Choice,
    GroupName,
    Handle,
    Number,
    PerElement,
    Selection,
    Space,
)
from reticula.core.operators.shared.group_marking import marked
from reticula.core.rows import unit
from reticula.core.spatial.sampling import sample_ray
from reticula.core.spatial.true_size import true_size

__all__ = ["push"]


@operator(
    "push",
    family="nearness",
    inputs=(Input(), Input("stop", "mesh that stops the points", optional=True)),
    keywords=("inflate", "offset", "fatten", "thicken", "normal", "collide", "grow", "peak"),
    sections={
        "what stops it": ("gap", "stopped"),
        "space": ("space",),
    },
    carries="Carries all; with a mesh that stops, adds the group of points that were stopped. Stored normals "
    "are left as they are.",
    example="""
        rock = displace(geodesic_sphere(frequency=24), amount=0.1)
        wall = transform(box(size=[0.1, 1.4, 1.4]), move=[0.62, 0, 0])
        stopped = push(rock, wall, amount=0.25, gap=0.01)
        join(stopped, wall)
    """,
    related=("displace", "extrude", "proximity_deform"),
    parameters=(
        Selection.each("point", "points that are pushed; empty means all"),
        PerElement(
            "amount",
            {"formula": "0.03 * extent"},
            "how far; below 0 goes inwards",
            on="point",
            unit="m",
            soft=(-0.5, 0.5),
        ),
        Choice(
            "along",
            "normals",
            "which way",
            options={"normals": "the points' normals", "direction": "the direction below"},
        ),
        PerElement(
            "direction",
            [0.0, 1.0, 0.0],
            "which way; the length does not matter",
            on="point",
            type="vec3",
            soft=(-1, 1),
            shown_when=("along", "direction"),
            handle=Handle("direction"),
        ),
        Number(
            "gap",
            {"formula": "0.0005 * extent"},
            "how far from the stopping mesh points come to rest",
            unit="m",
            soft=(0, 0.1),
            low=0.0,
            step=0.001,
        ),
        GroupName("stopped", "stopped", "group of the points that were stopped", kind="point"),
        Space.choice(),
    ),
)
def push(
    geo: Geo,
    stop: Geo | None,
    *,
    where: Flags,
    amount: Floats,
    along: str,
    direction: Floats,
    gap: float,
    stopped: str,
    space: str,
) -> Geo:
    """Push points along their normals; with a mesh connected to 'stop', only as far as it lets them."""
    way = Scope(geo, "point").values("point", "normal") if along == "normals" else direction
    way = unit(way) * np.sign(amount)[:, None]
    far = np.where(where, np.abs(amount), 0.0)
    if stop is None:
        return geo.with_positions(geo.positions + way * far[:, None])
    wall = sample_ray(stop, geo.positions, way)
    room = np.where(wall.found, np.maximum(wall.distance - gap, 0.0) / true_size(stop).stretch(way), np.inf)
    held = where & (room < far)
    note(f"{int(held.sum()):,} points were stopped.")
    made = geo.with_positions(geo.positions + way * np.minimum(far, room)[:, None])
    return marked(made, "point", stopped, held)
