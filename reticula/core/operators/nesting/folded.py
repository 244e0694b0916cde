"""Folded: several cards as one."""

from __future__ import annotations

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.shared.nested_graph import nested_graph

__all__: list[str] = []


@operator(
    "folded",
    family="operators of your own",
    inputs=(),
    keywords=("nested graph", "own operator", "fold", "pack", "reuse"),
    carries="As the operators inside say.",
    example="""
        def bud(geo, height=0.2):
            raised = extrude(geo, distance="height", inset=0.05)
            soft = smooth_subdivide(raised, levels=2)
            return soft
        plate = box(size=[0.8, 0.2, 0.8])
        folded(plate, graph=bud)
    """,
    related=("for_each", "repeat", "input"),
    parameters=(),
    holds_graph=True,
)
def folded() -> tuple[Geo, ...]:
    """Several cards as one operator, with inputs, outputs and dials of its own."""
    here = nested_graph()
    made = here.run(here.given, {})
    return tuple(made[name].geo for name in here.outputs)
