"""Group: elements for which a formula holds."""

from __future__ import annotations

from reticula.core.arrays import Flags
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Selection, Space
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming

__all__ = ["group"]


@operator(
    "group",
    family="groups",
    inputs=(
        Input(),
        Input("source", "geometry that the formula may ask, e.g. source.closest(position).distance", optional=True),
    ),
    keywords=("mark", "select", "choose", "tag", "filter", "formula"),
    carries=MADE,
    example="""
        ball = geodesic_sphere(frequency=14)
        marked = group(ball, name="steep", where="abs(normal.y) < 0.4")
        set_attribute(marked, kind="face", name="color", where="steep", value=CORAL)
    """,
    related=("group_picked", "group_by_direction", "combine_groups", "grow_group"),
    parameters=(
        *naming("marked"),
        Selection("where", "", "which elements: a formula or a group; empty means all", on="kind"),
        COMBINE,
        Space.choice(),
    ),
)
def group(geo: Geo, source: Geo | None, *, name: str, kind: str, where: Flags, combine: str, space: str) -> Geo:
    """Name the elements for which a formula holds."""
    return marked(geo, kind, name, where, combine)
