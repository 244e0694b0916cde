"""Fill: faces for open borders and closed curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.subset import subset
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, KindChoice, Number, Selection, Toggle
from reticula.core.operators.shared.solids.filled import with_fillings
from reticula.core.operators.shared.solids.fillings import FillHow, border_fillings, curve_fillings

__all__ = ["fill"]


@operator(
    "fill",
    family="topology",
    keywords=("cap", "close", "hole", "patch", "lid", "bridge", "even mesh"),
    sections={
        "curves": ("use_points", "keep_curves"),
        "names of groups": ("fill_group",),
    },
    carries=(
        "Carries all. New faces copy the face beside the first edge of their border, their corners "
        "and any new points blend the "
        "values of the border's points; faces over curves get defaults."
    ),
    example="""
        outline = offset_curve(regular_polygon(sides=5, star=0.5), distance=-0.08)
        plate = fill(outline, what="curve")
        extrude(plate, distance=0.08, keep_base=True)
    """,
    related=("lettering", "repair", "triangulate"),
    parameters=(
        KindChoice.of(
            ("edge", "curve"), "edge", "what to close: open borders, or closed curves with holes", name="what"
        ),
        Selection("where", "", "which: a border loop counts if one of its edges is marked; empty means all", on="what"),
        Choice(
            "using",
            "polygon",
            "what with",
            options={
                "polygon": "one face per loop (curves with holes get triangles)",
                "triangles": "triangles between the border's points",
                "even": "triangles with points inside, about equally spaced",
            },
        ),
        Number(
            "across",
            12.0,
            "about how many edges lie across the shape, whatever its size",
            soft=(2.0, 40.0),
            low=1.0,
            high=2000.0,
            step=1.0,
            shown_when=("using", "even"),
        ),
        Choice(
            "rule",
            "even-odd",
            "what lies inside where curves lie in each other or cross",
            options={
                "even-odd": "what an odd number of curves surrounds: holes by turns",
                "non-zero": "what curves wind around: one that runs backwards makes a hole",
            },
            shown_when=("what", "curve"),
        ),
        Toggle(
            "use_points",
            True,
            "loose points inside become points of the triangles",
            shown_when=("using", ["triangles", "even"]),
        ),
        Toggle("keep_curves", False, "keep the curves that were filled", shown_when=("what", "curve")),
        GroupName("fill_group", "fill", "face group that receives the new faces", kind="face"),
    ),
)
def fill(
    geo: Geo,
    *,
    what: str,
    where: Flags,
    using: str,
    across: float,
    rule: str,
    use_points: bool,
    keep_curves: bool,
    fill_group: str,
) -> Geo:
    """Close open borders, or fill closed curves, with faces.

    Borders are used as they are, so that the mesh is watertight there, and new faces run as those beside them. Even:
    points of a triangular lattice inside, denser where the border's edges are short, and constrained Delaunay
    triangulation; on a border that is not flat their height is that of a membrane (harmonic). Long edges of curves are
    divided then. What closed curves of one plane enclose goes by the rule, also where they touch or cross.
    """
    shape = geo.topology
    how = FillHow(using, across, rule, use_points)
    fillings, face_source = border_fillings(geo, where, how) if what == "edge" else curve_fillings(geo, where, how)
    if not fillings:
        return geo.with_attribute("face", fill_group, np.zeros(shape.face_count, bool))
    made = with_fillings(geo, fillings, face_source, what == "edge")
    note(f"Made {made.topology.face_count - shape.face_count:,} faces.")
    made = made.with_attribute("face", fill_group, np.arange(made.topology.face_count) >= shape.face_count)
    if what == "curve" and not keep_curves:
        return subset(made, curves=~(where & shape.curve_closed))
    return made
