"""Input: where a geometry comes into a graph that is used as an operator."""

from __future__ import annotations

from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import GroupName

__all__: list[str] = []


@operator(
    "input",
    family="operators of your own",
    inputs=(),
    keywords=("in", "argument", "port", "enter"),
    carries="Carries all.",
    example="""
        def lift(geo):
            raised = extrude(geo, distance=0.15, inset=0.1)
            return raised
        folded(grid(cells=[3, 3]), graph=lift)
    """,
    related=("folded", "for_each", "repeat"),
    parameters=(GroupName("name", "geo", "which input of this graph"),),
)
def input_(*, name: str) -> Geo:
    """What comes into this graph from outside, where it is used as an operator."""
    raise GeometryError(
        f"nothing comes in at '{name}' here; it gets its geometry where this graph is used as an operator"
    )
