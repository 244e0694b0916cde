"""Flatten instances: placed shapes as mesh."""

from __future__ import annotations

from typing import cast

from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.edit.instances import flatten
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import KindChoice

__all__ = ["flatten_instances"]


@operator(
    "flatten_instances",
    family="instances",
    keywords=("realize", "bake", "mesh", "expand", "apply", "unfold"),
    carries=(
        "Carries all of the geometry and of the shapes; normals turn with their shape. Instance "
        "attributes other than shape and "
        "transform pass to the new points or faces."
    ),
    example="""
        spots = scatter(disc(), total=40)
        polyp = cone(radius=0.03, top_radius=0.015, height=0.1)
        placed = place_instances(spots, polyp)
        flatten_instances(placed)
    """,
    related=("place_instances", "join", "for_each"),
    parameters=(KindChoice.of(("point", "face"), "point", "what receives the instances' attributes", name="onto"),),
)
def flatten_instances(geo: Geo, *, onto: str) -> Geo:
    """Turn instances into points, faces and curves, shape by shape. Mirrored ones have their faces turned over."""
    if not geo.topology.instance_count:
        warn("There are no instances.")
        return geo
    made = flatten(geo, cast(Kind, onto))
    note(f"{geo.topology.instance_count:,} instances became {made.topology.face_count:,} faces.")
    return made
