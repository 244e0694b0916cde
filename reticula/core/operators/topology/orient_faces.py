"""Orient faces: neighbours look the same way, closed parts outwards."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.flip import flipped
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Selection, Vector
from reticula.core.operators.shared.facing import find_orientation

__all__ = ["orient_faces"]


@operator(
    "orient_faces",
    family="topology",
    keywords=("normals", "flip", "consistent", "outside", "unify", "winding", "repair", "inside out"),
    carries="Carries all; corner values go with their corners, and stored normals of what is turned point the other "
    "way.",
    example="""
        mixed = reverse(geodesic_sphere(frequency=6), where="random() > 0.5")
        outwards = orient_faces(mixed)
        extrude(outwards, together=False, distance=0.05, inset=0.01)
    """,
    related=("reverse", "repair", "group_by_direction"),
    parameters=(
        Selection.each("face", "faces that may be turned; empty means all"),
        Choice(
            "closed",
            "outwards",
            "which way closed parts look",
            options={
                "outwards": "outwards, each by itself",
                "outermost outwards": "outwards where nothing lies around it, others as most of their area does now",
                "hollows inwards": "outwards, inwards where one lies inside another, and so on by turns",
                "most": "as most of their area does now",
            },
        ),
        Choice(
            "open",
            "most",
            "which way open parts look",
            options={
                "most": "as most of their area does now",
                "direction": "along a direction, as far as most of their area can",
            },
        ),
        Vector(
            "direction",
            [0.0, 1.0, 0.0],
            "the direction",
            soft=(-1.0, 1.0),
            shown_when=("open", "direction"),
            handle=Handle("direction"),
        ),
    ),
)
def orient_faces(geo: Geo, *, where: Flags, closed: str, open: str, direction: list[float]) -> Geo:
    """Turn faces over so that all that touch along an edge look the same way.

    Regions end at open borders, at edges of more than two faces and at faces that are not marked. A region that closes
    looks outwards (its volume is positive); others look as most of their area does, or along a direction. Where a band
    has one side only, the edges across which its faces cannot agree are told.
    """
    shape = geo.topology
    if not where.any():
        warn("No face is marked, so nothing was turned.")
        return geo
    found = find_orientation(geo, where, closed, np.asarray(direction) if open == "direction" else None)
    turned = found.turned
    if found.torn:
        warn(f"{found.torn:,} edges lie on bands with one side, so the faces beside them cannot agree.")
    note(f"Turned {int(turned.sum()):,} of {shape.face_count:,} faces, in {found.regions:,} regions.")
    return flipped(geo, turned, np.zeros(shape.curve_count, bool)) if turned.any() else geo
