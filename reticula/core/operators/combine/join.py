"""Join: several geometries as one."""

from __future__ import annotations

from collections.abc import Sequence

from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.reports.concatenation import concatenate_and_tell

__all__ = ["join"]


@operator(
    "join",
    family="combine",
    inputs=(Input("geometries", "geometries to put together, in order", many=True),),
    keywords=("merge", "append", "combine", "add"),
    carries="Carries all. Where only some inputs have an attribute, the elements of the others get its "
    "default, and that is said.",
    example="""
        left = transform(box(size=[0.5, 0.5, 0.5]), move=[-0.4, 0, 0])
        right = transform(geodesic_sphere(radius=0.3), move=[0.4, 0, 0])
        join(left, right)
    """,
    related=("boolean", "place_instances", "split_by_group"),
    parameters=(),
)
def join(geometries: Sequence[Geo]) -> Geo:
    """Put geometries together without welding anything; elements follow each other in input order."""
    if not geometries:
        warn("Nothing is connected, so the result is empty.")
    return concatenate_and_tell(geometries)
